namespace SteadyLintel.Store;

/// <summary>A line of the record: who did what, when, to what, from where. Lines are added and never changed.</summary>
public sealed class ActivityLine
{
    /// <summary>Its number.</summary>
    public long Id { get; set; }

    /// <summary>When.</summary>
    public DateTime At { get; set; }

    /// <summary>The job; null for what concerns accounts and the site.</summary>
    public Guid? JobId { get; set; }

    /// <summary>Who did it; empty for the program itself.</summary>
    public Guid UserId { get; set; }

    /// <summary>What was done, a word of <c>RecordWords</c>.</summary>
    public string Did { get; set; } = "";

    /// <summary>To what, in words that can be read when it is gone.</summary>
    public string Subject { get; set; } = "";

    /// <summary>The network address.</summary>
    public string Address { get; set; } = "";
}
