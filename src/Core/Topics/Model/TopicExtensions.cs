namespace SteadyLintel.Topics;

/// <summary>Which words a project uses: <c>extensions.xml</c> of 3.0, <c>extensions.xsd</c> of 2.0 and 2.1.</summary>
public sealed record TopicExtensions
{
    /// <summary>Types of topics.</summary>
    public IReadOnlyList<string> Types { get; init; } = [];

    /// <summary>Statuses.</summary>
    public IReadOnlyList<string> Statuses { get; init; } = [];

    /// <summary>Priorities.</summary>
    public IReadOnlyList<string> Priorities { get; init; } = [];

    /// <summary>Labels.</summary>
    public IReadOnlyList<string> Labels { get; init; } = [];

    /// <summary>People, by their mail addresses.</summary>
    public IReadOnlyList<string> Users { get; init; } = [];

    /// <summary>Types of snippets.</summary>
    public IReadOnlyList<string> SnippetTypes { get; init; } = [];

    /// <summary>Stages.</summary>
    public IReadOnlyList<string> Stages { get; init; } = [];

    /// <summary>What else the file has.</summary>
    public Extras Extras { get; init; } = Extras.None;

    /// <summary>The lists, by their names in 3.0, in 2.1 and of an entry of 3.0; in the order of both standards (from
    /// memory).</summary>
    internal static readonly IReadOnlyList<ExtensionList> Lists =
    [
        new("TopicTypes", "TopicType", "TopicType", x => x.Types, (x, v) => x with { Types = v }),
        new("TopicStatuses", "TopicStatus", "TopicStatus", x => x.Statuses, (x, v) => x with { Statuses = v }),
        new("Priorities", "Priority", "Priority", x => x.Priorities, (x, v) => x with { Priorities = v }),
        new("TopicLabels", "TopicLabel", "TopicLabel", x => x.Labels, (x, v) => x with { Labels = v }),
        new("Users", "UserIdType", "User", x => x.Users, (x, v) => x with { Users = v }),
        new("SnippetTypes", "SnippetType", "SnippetType", x => x.SnippetTypes, (x, v) => x with { SnippetTypes = v }),
        new("Stages", "Stage", "Stage", x => x.Stages, (x, v) => x with { Stages = v }),
    ];
}
