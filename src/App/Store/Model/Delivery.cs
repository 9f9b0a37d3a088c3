namespace SteadyLintel.Store;

/// <summary>Where a delivery is on its way.</summary>
public enum DeliveryState
{
    /// <summary>Pieces are still arriving.</summary>
    Receiving,

    /// <summary>All bytes are here; waiting for a worker.</summary>
    Received,

    /// <summary>Being indexed.</summary>
    Indexing,

    /// <summary>Facts are being read.</summary>
    Reading,

    /// <summary>Shapes are being built.</summary>
    Shaping,

    /// <summary>Results are being stored.</summary>
    Storing,

    /// <summary>Done: it is a revision of its source.</summary>
    Ready,

    /// <summary>The same bytes were here already; nothing new was kept.</summary>
    Same,

    /// <summary>It cannot be read; the original is kept.</summary>
    Refused,

    /// <summary>Somebody called it off.</summary>
    Cancelled,
}

/// <summary>A file that arrived.</summary>
public sealed class Delivery
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The source.</summary>
    public Guid SourceId { get; set; }

    /// <summary>The file's name as sent; data, not a path.</summary>
    public string FileName { get; set; } = "";

    /// <summary>Bytes announced.</summary>
    public long Length { get; set; }

    /// <summary>SHA-256 of the original, lower-case hex; null until all of it was read.</summary>
    public string? Sha256 { get; set; }

    /// <summary>The original's pieces.</summary>
    public Guid BlobId { get; set; }

    /// <summary>When it began to arrive.</summary>
    public DateTime ReceivedAt { get; set; }

    /// <summary>Who sent it.</summary>
    public Guid ReceivedBy { get; set; }

    /// <summary>Where it is.</summary>
    public DeliveryState State { get; set; }

    /// <summary>The share of the present step that is done, 0 … 1.</summary>
    public double Progress { get; set; }

    /// <summary>Set to call it off; workers look at it.</summary>
    public bool CancelRequested { get; set; }

    /// <summary>Why it was refused, or what it is the same as.</summary>
    public string Sentence { get; set; } = "";

    /// <summary>The revision's number in its source, once ready.</summary>
    public int? Revision { get; set; }

    /// <summary>The intake report as JSON, once ready.</summary>
    public string? Report { get; set; }

    /// <summary>The report of a drawing as JSON, once ready; null for models.</summary>
    public string? Drawing { get; set; }

    /// <summary>How many elements, once ready.</summary>
    public int Elements { get; set; }

    /// <summary>How many errors and warnings, once ready.</summary>
    public int Findings { get; set; }

    /// <summary>The source itself.</summary>
    public Source Source { get; set; } = null!;

    /// <summary>Whether nothing more will happen to it.</summary>
    public bool IsFinal => State >= DeliveryState.Ready;
}

/// <summary>A piece of a blob; pieces are numbered from 0 and all but the last are equally long.</summary>
public sealed class BlobPiece
{
    /// <summary>The blob.</summary>
    public Guid BlobId { get; set; }

    /// <summary>The piece's number.</summary>
    public int Number { get; set; }

    /// <summary>Its bytes.</summary>
    public byte[] Bytes { get; set; } = [];
}

/// <summary>A storey of a revision.</summary>
public sealed class LevelRow
{
    /// <summary>The revision.</summary>
    public Guid DeliveryId { get; set; }

    /// <summary>Its number, lowest first.</summary>
    public int Number { get; set; }

    /// <summary>Its name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Its elevation, metres.</summary>
    public double Elevation { get; set; }

    /// <summary>Where it is placed, metres.</summary>
    public double? PlacementZ { get; set; }
}

/// <summary>How many elements a revision has of a storey, class and layer, with a shape and without.</summary>
public sealed class FacetRow
{
    /// <summary>The revision.</summary>
    public Guid DeliveryId { get; set; }

    /// <summary>The storey's number, -1 for none.</summary>
    public int Storey { get; set; }

    /// <summary>The class.</summary>
    public string Class { get; set; } = "";

    /// <summary>The first layer, empty for none.</summary>
    public string Layer { get; set; } = "";

    /// <summary>Whether they have a body, and so can go into a drawing.</summary>
    public bool Shaped { get; set; }

    /// <summary>Whether they have no body but lines for a plan: grids, annotations, axes.</summary>
    public bool Drawn { get; set; }

    /// <summary>How many.</summary>
    public int Count { get; set; }
}

/// <summary>An element of a revision.</summary>
public sealed class ElementRow
{
    /// <summary>Whether it has no body but lines for a plan; kept with the facets.</summary>
    [System.ComponentModel.DataAnnotations.Schema.NotMapped]
    public bool Drawn { get; set; }

    /// <summary>The revision.</summary>
    public Guid DeliveryId { get; set; }

    /// <summary>Its number.</summary>
    public int Number { get; set; }

    /// <summary>The GlobalId as written.</summary>
    public string GlobalId { get; set; } = "";

    /// <summary>The class.</summary>
    public string Class { get; set; } = "";

    /// <summary>The name.</summary>
    public string Name { get; set; } = "";

    /// <summary>The storey's number, -1 for none.</summary>
    public int Storey { get; set; }

    /// <summary>The first layer, empty for none.</summary>
    public string Layer { get; set; } = "";

    /// <summary>All its layers.</summary>
    public string[] Layers { get; set; } = [];

    /// <summary>The name of its type, empty for none.</summary>
    public string TypeName { get; set; } = "";

    /// <summary>The names of its materials.</summary>
    public string[] Materials { get; set; } = [];

    /// <summary>The numbers of its property sets in <see cref="PropertySetRow"/>.</summary>
    public int[] Sets { get; set; } = [];

    /// <summary>minX, minY, minZ, maxX, maxY, maxZ in metres; null without a shape.</summary>
    public double[]? Box { get; set; }

    /// <summary>Volume, m³.</summary>
    public double Volume { get; set; }

    /// <summary>Surface, m².</summary>
    public double Area { get; set; }

    /// <summary>Everything else, as deflated JSON (<c>ElementFacts</c>).</summary>
    public byte[] Facts { get; set; } = [];
}

/// <summary>A chunk of a revision's geometry: one storey, class and place.</summary>
public sealed class ChunkRow
{
    /// <summary>The revision.</summary>
    public Guid DeliveryId { get; set; }

    /// <summary>Its number.</summary>
    public int Number { get; set; }

    /// <summary>The storey's number, -1 for none.</summary>
    public int Storey { get; set; }

    /// <summary>The class.</summary>
    public string Class { get; set; } = "";

    /// <summary>SHA-256 of the content, lower-case hex.</summary>
    public string Hash { get; set; } = "";

    /// <summary>How many triangles, repeats included.</summary>
    public int Triangles { get; set; }

    /// <summary>The content's length.</summary>
    public int Length { get; set; }
}

/// <summary>A chunk's bytes, kept once however many revisions share them.</summary>
public sealed class ChunkContent
{
    /// <summary>SHA-256, lower-case hex.</summary>
    public string Hash { get; set; } = "";

    /// <summary>The bytes (see <c>GeometryChunk</c>), Brotli-compressed.</summary>
    public byte[] Bytes { get; set; } = [];
}

/// <summary>The content of a property set in a revision, kept once however many elements share it.</summary>
public sealed class PropertySetRow
{
    /// <summary>The revision.</summary>
    public Guid DeliveryId { get; set; }

    /// <summary>Its number in the revision.</summary>
    public int Number { get; set; }

    /// <summary>The set's name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Its values as JSON: for each property its value (number, truth or text), measure and unit.</summary>
    public string Values { get; set; } = "";
}
