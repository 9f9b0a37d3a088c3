using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>A BCF file as it was read, or as it is to be written.</summary>
public sealed record TopicArchive
{
    /// <summary>The version it is in.</summary>
    public TopicVersion Version { get; init; } = TopicVersion.V30;

    /// <summary>The GUID of the project; null where the file has none.</summary>
    public string? ProjectId { get; init; }

    /// <summary>The name of the project.</summary>
    public string? ProjectName { get; init; }

    /// <summary>What else is said of the project.</summary>
    public Extras ProjectExtras { get; init; } = Extras.None;

    /// <summary>The words that are used; null where the file has no list.</summary>
    public TopicExtensions? Extensions { get; init; }

    /// <summary>The documents of the archive (3.0); the content of each is the part <c>documents/GUID</c>.</summary>
    public IReadOnlyList<TopicDocument> Documents { get; init; } = [];

    /// <summary>The topics, in the order of the file.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<Topic> Topics { get; init; } = [];

    /// <summary>Files of the archive that belong to no topic, and folders that cannot be read.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<TopicPart> Parts { get; init; } = [];

    /// <summary>What was found on reading.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<Finding> Findings { get; init; } = [];
}
