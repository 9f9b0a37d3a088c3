namespace SteadyLintel.Store;

/// <summary>Something that happened to a topic; rows are never changed.</summary>
public sealed class TopicEvent
{
    /// <summary>In order.</summary>
    public long Id { get; set; }

    /// <summary>The topic.</summary>
    public Guid TopicId { get; set; }

    /// <summary>When.</summary>
    public DateTime At { get; set; }

    /// <summary>Who; null where a revision did, or somebody who is not in the job.</summary>
    public Guid? By { get; set; }

    /// <summary>Who, as the topic says it.</summary>
    public string Author { get; set; } = "";

    /// <summary>The comment it is about; null for the topic itself.</summary>
    public string? Comment { get; set; }

    /// <summary>What (<c>TopicAction</c>): <c>status_updated</c>.</summary>
    public string Did { get; set; } = "";

    /// <summary>The new value; of a comment that was edited or withdrawn its text before.</summary>
    public string Value { get; set; } = "";
}
