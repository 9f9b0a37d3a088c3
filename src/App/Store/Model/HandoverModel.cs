namespace SteadyLintel.Store;

/// <summary>A saved order.</summary>
public sealed class OrderRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>Its number in the job.</summary>
    public int Number { get; set; }

    /// <summary>What it is called.</summary>
    public string Title { get; set; } = "";

    /// <summary>The order as JSON (<c>OrderSpec</c>).</summary>
    public string Spec { get; set; } = "";

    /// <summary>When it was saved last.</summary>
    public DateTime SavedAt { get; set; }

    /// <summary>Who saved it last.</summary>
    public Guid SavedBy { get; set; }

    /// <summary>Counts how often it was saved, so that of two people who change it the second learns of the first.</summary>
    public int Version { get; set; }

    /// <summary>When it was deleted; null while it is there. Its transmittals stay with their recipients.</summary>
    public DateTime? DeletedAt { get; set; }

    /// <summary>Its runs.</summary>
    public List<Transmittal> Transmittals { get; set; } = [];
}

/// <summary>Where a run is.</summary>
public enum TransmittalState
{
    /// <summary>Waiting for a worker.</summary>
    Waiting,

    /// <summary>Running.</summary>
    Running,

    /// <summary>Done.</summary>
    Done,

    /// <summary>It could not be carried out.</summary>
    Failed,

    /// <summary>Somebody called it off.</summary>
    Cancelled,
}

/// <summary>One run of an order: a record that never changes once done.</summary>
public sealed class Transmittal : IWork
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The order.</summary>
    public Guid OrderId { get; set; }

    /// <summary>Its number in the order.</summary>
    public int Number { get; set; }

    /// <summary>The order as it was, as JSON.</summary>
    public string Spec { get; set; } = "";

    /// <summary>The revisions that took part.</summary>
    public List<Guid> Revisions { get; set; } = [];

    /// <summary>When it was asked for.</summary>
    public DateTime RanAt { get; set; }

    /// <summary>Who asked.</summary>
    public Guid RanBy { get; set; }

    /// <summary>Where it is.</summary>
    public TransmittalState State { get; set; }

    /// <summary>What is going on, or why it failed.</summary>
    public string Sentence { get; set; } = "";

    /// <summary>The share done.</summary>
    public double Progress { get; set; }

    /// <summary>Set to cancel it .</summary>
    public bool CancelRequested { get; set; }

    /// <inheritdoc/>
    public Guid? Worker { get; set; }

    /// <inheritdoc/>
    public DateTime? Beat { get; set; }

    /// <inheritdoc/>
    public int Attempts { get; set; }

    /// <inheritdoc/>
    public int Deaths { get; set; }

    /// <summary>Whether everything is accounted for.</summary>
    public bool Balanced { get; set; }

    /// <summary>Files and reconciliation as JSON (<c>HandoverResult</c>), once done.</summary>
    public string? Result { get; set; }

    /// <summary>What it rested on beside the order and the revisions, as JSON (<c>OrderBasis</c>); null for runs from before this was
    /// kept.</summary>
    public string? Basis { get; set; }

    /// <summary>Who released it though it is not balanced; null for nobody.</summary>
    public Guid? SignedBy { get; set; }

    /// <summary>When it was released so.</summary>
    public DateTime? SignedAt { get; set; }

    /// <summary>Why.</summary>
    public string SignedWhy { get; set; } = "";

    /// <summary>Whether its files may be given to whom they are for: it is balanced, or somebody signed for it.</summary>
    public bool IsReleased => State == TransmittalState.Done && (Balanced || SignedBy is not null);

    /// <summary>What was received of it, by whom.</summary>
    public List<Receipt> Receipts { get; set; } = [];

    /// <summary>The order itself.</summary>
    public OrderRow Order { get; set; } = null!;

    /// <summary>Its files.</summary>
    public List<TransmittalFile> Files { get; set; } = [];
}

/// <summary>A file of a run.</summary>
public sealed class TransmittalFile
{
    /// <summary>The run.</summary>
    public Guid TransmittalId { get; set; }

    /// <summary>The file's name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Its bytes' pieces.</summary>
    public Guid BlobId { get; set; }

    /// <summary>Its length.</summary>
    public long Length { get; set; }

    /// <summary>SHA-256, lower-case hex.</summary>
    public string Sha256 { get; set; } = "";

    /// <summary>The number of the earlier transmittal of the order that has the same bytes under the same name; null where they are
    /// new.</summary>
    public int? SameAs { get; set; }
}

/// <summary>A small picture of a handed-over file, made from the file itself; beside it, since lists of files need none.</summary>
public sealed class FilePicture
{
    /// <summary>The run.</summary>
    public Guid TransmittalId { get; set; }

    /// <summary>The file's name.</summary>
    public string Name { get; set; } = "";

    /// <summary>The picture: PNG, or SVG of a drawing.</summary>
    public byte[] Bytes { get; set; } = [];
}

/// <summary>The word of a recipient that a file arrived.</summary>
public sealed class Receipt
{
    /// <summary>The run.</summary>
    public Guid TransmittalId { get; set; }

    /// <summary>The file's name.</summary>
    public string Name { get; set; } = "";

    /// <summary>Who confirmed it.</summary>
    public Guid UserId { get; set; }

    /// <summary>When.</summary>
    public DateTime At { get; set; }
}
