namespace SteadyLintel.Topics;

/// <summary>One word in the thread of a topic.</summary>
public sealed record TopicComment
{
    /// <summary>Its GUID.</summary>
    public required string Guid { get; init; }

    /// <summary>When it was written.</summary>
    public string? Date { get; init; }

    /// <summary>Who wrote it.</summary>
    public string? Author { get; init; }

    /// <summary>The text; 3.0 allows none where there is a viewpoint.</summary>
    public string? Text { get; init; }

    /// <summary>The GUID of the viewpoint it is about.</summary>
    public string? Viewpoint { get; init; }

    /// <summary>When it was changed last.</summary>
    public string? ModifiedDate { get; init; }

    /// <summary>Who changed it last.</summary>
    public string? ModifiedAuthor { get; init; }

    /// <summary>What else it has; of 2.0 also its own status.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
