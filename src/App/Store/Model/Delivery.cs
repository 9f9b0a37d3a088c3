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

    /// <summary>It was read, and waits for a coordinator to use it or turn it down: it has errors of reading, or far less than the revision
    /// before.</summary>
    Held,

    /// <summary>A coordinator turned it down; it is kept and not used.</summary>
    TurnedDown,

    /// <summary>It was in use, and was withdrawn.</summary>
    Withdrawn,
}

/// <summary>A file that arrived.</summary>
public sealed class Delivery : IWork
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

    /// <summary>Set to cancel it ; workers look at it.</summary>
    public bool CancelRequested { get; set; }

    /// <inheritdoc/>
    public Guid? Worker { get; set; }

    /// <inheritdoc/>
    public DateTime? Beat { get; set; }

    /// <inheritdoc/>
    public int Attempts { get; set; }

    /// <inheritdoc/>
    public int Deaths { get; set; }

    /// <summary>Why it was refused, or what it is the same as.</summary>
    public string Sentence { get; set; } = "";

    /// <summary>Why it was held, a sentence each; none when it never was.</summary>
    public string[] HeldFor { get; set; } = [];

    /// <summary>Who used it, turned it down or withdrew it; null while nobody had to.</summary>
    public Guid? DecidedBy { get; set; }

    /// <summary>When that was.</summary>
    public DateTime? DecidedAt { get; set; }

    /// <summary>What was said to the sender, or the reason of the withdrawal.</summary>
    public string Decision { get; set; } = "";

    /// <summary>What it became once read; null before, and for what was refused.</summary>
    public Revision? Revision { get; set; }

    /// <summary>The source itself.</summary>
    public Source Source { get; set; } = null!;

    /// <summary>Whether it is an upload of which nothing has arrived for a while.</summary>
    public bool IsInterrupted => State == DeliveryState.Receiving && DateTime.UtcNow - (Beat ?? ReceivedAt) > Quiet;

    private static readonly TimeSpan Quiet = TimeSpan.FromMinutes(2);

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
