namespace SteadyLintel.Topics;

/// <summary>A question to somebody, with its thread and its views: one folder of a BCF file, its <c>markup.bcf</c>.</summary>
/// <remarks>Texts are null where the file does not have the element and empty where it has an empty one. Dates are texts as
/// xs:dateTime spells
/// them: the offset a program wrote is part of what it said.</remarks>
public sealed record Topic
{
    /// <summary>Its GUID; the folder is named like it.</summary>
    public required string Guid { get; init; }

    /// <summary>The number a server gave it (3.0).</summary>
    public string? ServerAssignedId { get; init; }

    /// <summary>Type, a word of the extensions.</summary>
    public string? Type { get; init; }

    /// <summary>Status, a word of the extensions.</summary>
    public string? Status { get; init; }

    /// <summary>Addresses of what it is about.</summary>
    public IReadOnlyList<string> ReferenceLinks { get; init; } = [];

    /// <summary>Title.</summary>
    public string? Title { get; init; }

    /// <summary>Priority, a word of the extensions.</summary>
    public string? Priority { get; init; }

    /// <summary>Place among the topics.</summary>
    public string? Index { get; init; }

    /// <summary>Labels, words of the extensions.</summary>
    public IReadOnlyList<string> Labels { get; init; } = [];

    /// <summary>When it was asked.</summary>
    public string? CreationDate { get; init; }

    /// <summary>Who asked.</summary>
    public string? CreationAuthor { get; init; }

    /// <summary>When it was changed last.</summary>
    public string? ModifiedDate { get; init; }

    /// <summary>Who changed it last.</summary>
    public string? ModifiedAuthor { get; init; }

    /// <summary>When an answer is due.</summary>
    public string? DueDate { get; init; }

    /// <summary>Who owes the next answer.</summary>
    public string? AssignedTo { get; init; }

    /// <summary>Stage, a word of the extensions.</summary>
    public string? Stage { get; init; }

    /// <summary>Description.</summary>
    public string? Description { get; init; }

    /// <summary>A piece of a model or of other data that belongs to it.</summary>
    public BimSnippet? Snippet { get; init; }

    /// <summary>Documents it refers to.</summary>
    public IReadOnlyList<DocumentReference> Documents { get; init; } = [];

    /// <summary>GUIDs of related topics.</summary>
    public IReadOnlyList<string> RelatedTopics { get; init; } = [];

    /// <summary>The models it is about.</summary>
    public IReadOnlyList<HeaderFile> Files { get; init; } = [];

    /// <summary>The thread, in the order of the file.</summary>
    public IReadOnlyList<TopicComment> Comments { get; init; } = [];

    /// <summary>The views, in the order of the file.</summary>
    public IReadOnlyList<Viewpoint> Viewpoints { get; init; } = [];

    /// <summary>The other files of its folder: snapshots, bitmaps, snippets; names from the folder on.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<TopicPart> Parts { get; init; } = [];

    /// <summary>What else the topic has.</summary>
    public Extras Extras { get; init; } = Extras.None;

    /// <summary>What else the markup has.</summary>
    public Extras MarkupExtras { get; init; } = Extras.None;

    /// <summary>What else the header has.</summary>
    public Extras HeaderExtras { get; init; } = Extras.None;
}
