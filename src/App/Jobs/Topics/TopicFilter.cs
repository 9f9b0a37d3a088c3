namespace SteadyLintel.Jobs;

/// <summary>Which topics a list shows, and in what order.</summary>
public sealed record TopicFilter
{
    /// <summary><c>open</c>, <c>closed</c> or <c>all</c>.</summary>
    public string State { get; init; } = "open";

    /// <summary>Words in the title, the description, the comments or the number.</summary>
    public string? Text { get; init; }

    /// <summary>Only those that the reader, or the reader's party, owes an answer.</summary>
    public bool Mine { get; init; }

    /// <summary><c>late</c>: due before today; <c>week</c>: due within seven days or late.</summary>
    public string? Due { get; init; }

    /// <summary>A type.</summary>
    public string? Type { get; init; }

    /// <summary>A status.</summary>
    public string? Status { get; init; }

    /// <summary>A priority.</summary>
    public string? Priority { get; init; }

    /// <summary>A label.</summary>
    public string? Label { get; init; }

    /// <summary>A party that owes the answer, by code; <c>coordinators</c> for none.</summary>
    public string? Owes { get; init; }

    /// <summary>A GlobalId that the topics are about.</summary>
    public string? Element { get; init; }

    /// <summary>A level (<c>JobLevel.Id</c>); −1 for topics of no storey, null for all.</summary>
    public int? Storey { get; init; }

    /// <summary><c>number</c>, <c>due</c>, <c>changed</c>, <c>title</c>, <c>owes</c>, <c>storey</c>.</summary>
    public string Sort { get; init; } = "number";

    /// <summary>Whether the last comes first.</summary>
    public bool Down { get; init; }

    /// <summary>The word for topics that the coordinators owe an answer.</summary>
    public const string Coordinators = "coordinators";
}
