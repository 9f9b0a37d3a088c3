using SteadyLintel.Exchange;

namespace SteadyLintel.Store;

/// <summary>What a revision is of.</summary>
public enum RevisionKind
{
    /// <summary>A model: elements, storeys, shapes.</summary>
    Model,

    /// <summary>A drawing: entities on layers.</summary>
    Drawing,

    /// <summary>A file that is kept and forwarded, not read.</summary>
    Other,
}

/// <summary>A state of a source that can be used: what a delivery became once it was read.</summary>
public sealed class Revision
{
    /// <summary>Identity; that of the delivery it came with.</summary>
    public Guid Id { get; set; }

    /// <summary>The source.</summary>
    public Guid SourceId { get; set; }

    /// <summary>Its number in the source, from 1.</summary>
    public int Number { get; set; }

    /// <summary>Whether it can be the newest of its source: its delivery is neither held nor turned down nor withdrawn. Queries pass over
    /// those that are not in use unless they ignore the filter <see cref="LintelDb.InUse"/>.</summary>
    public bool InUse { get; set; } = true;

    /// <summary>What it is of.</summary>
    public RevisionKind Kind { get; set; }

    /// <summary>The intake report as JSON: <c>IntakeReport</c> of a model, <c>DrawingReport</c> of a drawing.</summary>
    public string Report { get; set; } = "";

    /// <summary>What a model declares of its frame and what it looks like, as JSON (<c>FrameFacts</c>); null for drawings.</summary>
    public string? Frame { get; set; }

    /// <summary>The transform that most elements share since the revision before, as JSON (<c>FrameJump</c>); null where they
    /// stayed.</summary>
    public string? Jump { get; set; }

    /// <summary>How many elements, or entities.</summary>
    public int Elements { get; set; }

    /// <summary>How many errors and warnings.</summary>
    public int Findings { get; set; }

    /// <summary>Whether some of its elements are parts of others.</summary>
    public bool HasParts { get; set; }

    /// <summary>Its elements in figures: those that have a body and are no rooms; of a drawing its entities.</summary>
    public int Bodies => Elements - Bodiless - Rooms;

    /// <summary>The version of what was computed of it (<see cref="IntakeStore.Derived"/>); an older one is read again.</summary>
    public int Derived { get; set; }

    /// <summary>The count of its source's amendments (<see cref="Source.Amendments"/>) that its elements were read with; where another one
    /// holds now it is read again.</summary>
    public int Amendments { get; set; }

    /// <summary>How many of its elements have no body: annotations, grids, and what failed.</summary>
    public int Bodiless { get; set; }

    /// <summary>How many of its elements are rooms.</summary>
    public int Rooms { get; set; }

    /// <summary>The delivery it came with.</summary>
    public Delivery Delivery { get; set; } = null!;
}

/// <summary>A storey of a revision.</summary>
public sealed class LevelRow
{
    /// <summary>The revision.</summary>
    public Guid RevisionId { get; set; }

    /// <summary>Its number, lowest first.</summary>
    public int Number { get; set; }

    /// <summary>Its name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Its elevation, metres.</summary>
    public double Elevation { get; set; }

    /// <summary>Where it is placed, metres.</summary>
    public double? PlacementZ { get; set; }

    /// <summary>Its GlobalId; empty where it has none.</summary>
    public string GlobalId { get; set; } = "";
}

/// <summary>How many elements a revision has of a storey, class and layer, with a shape and without.</summary>
public sealed class FacetRow
{
    /// <summary>The revision.</summary>
    public Guid RevisionId { get; set; }

    /// <summary>Its number in the revision.</summary>
    public int Number { get; set; }

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

    /// <summary>Whether they are rooms (ISO 16739-1, 5.4.3.28: IfcSpace), counted beside the elements.</summary>
    public bool IsRoom => KindCounts.IsRoom(Class);

    /// <summary>Whether they are elements in figures: they have a body and are no rooms. What has none is an annotation there.</summary>
    public bool IsElement => Shaped && !IsRoom;
}

/// <summary>An element of a revision.</summary>
public sealed class ElementRow
{
    /// <summary>Whether it has no body but lines for a plan; kept with the facets.</summary>
    [System.ComponentModel.DataAnnotations.Schema.NotMapped]
    public bool Drawn { get; set; }

    /// <summary>The revision.</summary>
    public Guid RevisionId { get; set; }

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

    /// <summary>Its predefined type, empty for none.</summary>
    public string Predefined { get; set; } = "";

    /// <summary>Codes and names of its classifications.</summary>
    public string[] Classifications { get; set; } = [];

    /// <summary>The names of the groups it is in: systems, zones and others.</summary>
    public string[] Groups { get; set; } = [];

    /// <summary>The numbers of the elements it is part of, nearest first.</summary>
    public int[] Wholes { get; set; } = [];

    /// <summary>What it is related to (<c>ElementRelations</c>).</summary>
    public string[] Relations { get; set; } = [];

    /// <summary>The direction it runs in, degrees clockwise from the Y axis of its source; null where it runs in none.</summary>
    public double? Bearing { get; set; }

    /// <summary>The numbers of its property sets in <see cref="PropertySetRow"/>.</summary>
    public int[] Sets { get; set; } = [];

    /// <summary>Whether an amendment leaves it out of orders.</summary>
    public bool LeftOut { get; set; }

    /// <summary>minX, minY, minZ, maxX, maxY, maxZ in metres; null without a shape.</summary>
    public double[]? Box { get; set; }

    /// <summary>The longest side of its box along its own axes, metres; null without a shape.</summary>
    public double? Size { get; set; }

    /// <summary>Where it lies in the source's frame (<c>ElementPlace</c>); null where nothing says.</summary>
    public double[]? Place { get; set; }

    /// <summary>Volume, area, spread and bulk of its shape (<c>ShapeMeasure</c>); null without one.</summary>
    public double[]? Shape { get; set; }

    /// <summary>Where its axis runs and how its body lies about it, as JSON (<c>Member</c>); null where it is no member of a
    /// frame.</summary>
    public string? Member { get; set; }

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
    public Guid RevisionId { get; set; }

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
    public Guid RevisionId { get; set; }

    /// <summary>Its number in the revision.</summary>
    public int Number { get; set; }

    /// <summary>The set's name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Its values as JSON: for each property its value (number, truth or text), measure and unit.</summary>
    public string Values { get; set; } = "";
}
