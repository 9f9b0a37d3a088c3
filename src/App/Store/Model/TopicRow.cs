namespace SteadyLintel.Store;

/// <summary>A topic of a job. The document is the topic; the columns are what lists are chosen and ordered by.</summary>
public sealed class TopicRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>From 1, within the job: T-1.</summary>
    public int Number { get; set; }

    /// <summary>The GUID of BCF, lower case; one within the job.</summary>
    public string Guid { get; set; } = "";

    /// <summary>The topic as JSON (<c>TopicJson</c>), without its parts.</summary>
    public string Document { get; set; } = "";

    /// <summary>The topic as it was when it was last imported; null where it never was.</summary>
    public string? Common { get; set; }

    /// <summary>Title.</summary>
    public string Title { get; set; } = "";

    /// <summary>What is searched: title, description and comments, lower case.</summary>
    public string Words { get; set; } = "";

    /// <summary>Type.</summary>
    public string Type { get; set; } = "";

    /// <summary>Status.</summary>
    public string Status { get; set; } = "";

    /// <summary>Priority.</summary>
    public string Priority { get; set; } = "";

    /// <summary>Labels.</summary>
    public string[] Labels { get; set; } = [];

    /// <summary>Whether the status is one that closes.</summary>
    public bool Closed { get; set; }

    /// <summary>Who owes the next answer, as the topic says it; empty for the coordinators.</summary>
    public string Assigned { get; set; } = "";

    /// <summary>The party that owes the next answer; null for the coordinators and for people who are not in the job.</summary>
    public Guid? OwedBy { get; set; }

    /// <summary>Parties that owe or owed an answer: their recipients see the topic.</summary>
    public Guid[] HandedTo { get; set; } = [];

    /// <summary>The job's level it is about (<c>JobLevel.Id</c>); null for none.</summary>
    public int? Level { get; set; }

    /// <summary>When an answer is due.</summary>
    public DateOnly? Due { get; set; }

    /// <summary>Who asked, as the topic says it.</summary>
    public string Author { get; set; } = "";

    /// <summary>When it was asked.</summary>
    public DateTime CreatedAt { get; set; }

    /// <summary>When it changed last.</summary>
    public DateTime ModifiedAt { get; set; }

    /// <summary>When it was closed; null while it is open.</summary>
    public DateTime? ClosedAt { get; set; }

    /// <summary>How many comments it has.</summary>
    public int Comments { get; set; }

    /// <summary>Who wrote the last comment; empty where there is none.</summary>
    public string LastBy { get; set; } = "";

    /// <summary>GlobalIds of the elements it is about: those that its views pick out.</summary>
    public string[] Elements { get; set; } = [];

    /// <summary>The part that is its picture; empty where it has none.</summary>
    public string Picture { get; set; } = "";

    /// <summary>The point its first view looks at, metres in the job's frame; null where it has no view.</summary>
    public double[]? Place { get; set; }

    /// <summary>The source in whose frame its views are; null for the job's frame.</summary>
    public Guid? FrameOf { get; set; }

    /// <summary>What it was made from (<c>TopicCause</c>); null where somebody just asked. One open topic of a job has it.</summary>
    public string? Cause { get; set; }

    /// <summary>When a revision no longer had the cause; null while it is there.</summary>
    public DateTime? CauseGoneAt { get; set; }

    /// <summary>Counts its changes: of two people who change it at once the second learns of the first.</summary>
    public int Version { get; set; }

    /// <summary>Its other files.</summary>
    public List<TopicPartRow> Parts { get; set; } = [];
}
