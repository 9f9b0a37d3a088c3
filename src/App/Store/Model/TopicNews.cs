namespace SteadyLintel.Store;

/// <summary>Something about a topic that waits for the mail of the day.</summary>
public sealed class TopicNews
{
    /// <summary>In order.</summary>
    public long Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>Who gets it.</summary>
    public Guid UserId { get; set; }

    /// <summary>When it happened.</summary>
    public DateTime At { get; set; }

    /// <summary>What happened, and to which topic.</summary>
    public string Line { get; set; } = "";

    /// <summary>The whole text, with the address of the topic.</summary>
    public string Text { get; set; } = "";
}
