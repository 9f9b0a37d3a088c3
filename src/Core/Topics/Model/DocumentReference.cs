namespace SteadyLintel.Topics;

/// <summary>A document that a topic refers to; exactly one of the three places is set.</summary>
public sealed record DocumentReference
{
    /// <summary>The GUID of the reference.</summary>
    public string? Guid { get; init; }

    /// <summary>The GUID of a document of the archive (3.0).</summary>
    public string? Document { get; init; }

    /// <summary>An address outside.</summary>
    public string? Url { get; init; }

    /// <summary>The path of a file of the archive, from the folder of the topic on (2.0, 2.1).</summary>
    public string? Path { get; init; }

    /// <summary>What it is.</summary>
    public string? Description { get; init; }

    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
