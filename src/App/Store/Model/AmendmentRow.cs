namespace SteadyLintel.Store;

/// <summary>Where an amendment is. The numbers are stored: new states come last.</summary>
public enum AmendmentStep
{
    /// <summary>Somebody who may not make it asks for it; the owning party answers.</summary>
    Requested,

    /// <summary>It applies to the newest revision, or will once that is read again.</summary>
    Holds,

    /// <summary>The newest revision says something else than the file did before; somebody decides.</summary>
    Contradicts,

    /// <summary>The newest revision has no such element.</summary>
    Gone,

    /// <summary>It cannot be applied to the newest revision.</summary>
    Refused,

    /// <summary>The sender has done the same.</summary>
    Settled,

    /// <summary>It was withdrawn.</summary>
    Withdrawn,

    /// <summary>What the sender's file says was taken instead.</summary>
    TheirsTaken,

    /// <summary>Another one about the same took its place.</summary>
    Replaced,

    /// <summary>The request for it was rejected.</summary>
    Rejected,
}

/// <summary>An amendment of a source: something that is said beside its files. Its document never changes but for the element's GlobalId
/// and what the file said.</summary>
public sealed class AmendmentRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The source.</summary>
    public Guid SourceId { get; set; }

    /// <summary>The GlobalId of the element.</summary>
    public string Element { get; set; } = "";

    /// <summary>What it is about (<c>Amendment.Subject</c>): of a source one amendment about the same is in force.</summary>
    public string Subject { get; set; } = "";

    /// <summary>The amendment as JSON (<c>Amendment</c>).</summary>
    public string Spec { get; set; } = "";

    /// <summary>Where it is.</summary>
    public AmendmentStep Step { get; set; }

    /// <summary>What the newest revision says, as JSON (<c>FileStatement</c>); null until it was looked at.</summary>
    public string? File { get; set; }

    /// <summary>Why it cannot be applied; empty where it can.</summary>
    public string Sentence { get; set; } = "";

    /// <summary>Who made it, or asked for it.</summary>
    public Guid MadeBy { get; set; }

    /// <summary>When.</summary>
    public DateTime MadeAt { get; set; }

    /// <summary>What was said together with it.</summary>
    public Guid Batch { get; set; }

    /// <summary>Who ended it; null while it is in force, and where a revision did.</summary>
    public Guid? EndedBy { get; set; }

    /// <summary>When it ended; null while it is in force.</summary>
    public DateTime? EndedAt { get; set; }

    /// <summary>The source itself.</summary>
    public Source Source { get; set; } = null!;

    /// <summary>Whether it is one that counts.</summary>
    public bool IsInForce => Step is >= AmendmentStep.Holds and <= AmendmentStep.Refused;
}
