namespace SteadyLintel.Topics;

/// <summary>A view of a topic: its picture and where to stand.</summary>
public sealed record Viewpoint
{
    /// <summary>Its GUID.</summary>
    public required string Guid { get; init; }

    /// <summary>The name of its <c>.bcfv</c> in the folder of the topic.</summary>
    public string? File { get; init; }

    /// <summary>The name of its picture in the folder of the topic.</summary>
    public string? Snapshot { get; init; }

    /// <summary>Place among the viewpoints.</summary>
    public string? Index { get; init; }

    /// <summary>Where to stand and what is visible; null where the file has none, or a damaged one, which is then among the
    /// parts.</summary>
    public ViewInfo? Info { get; init; }

    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
