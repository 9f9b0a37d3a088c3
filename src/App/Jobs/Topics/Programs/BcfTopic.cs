using System.Text.Json.Serialization;
using SteadyLintel.Exchange;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>A topic as BCF API has it (3.0, topic services; from memory). A member that is null is not sent.</summary>
public sealed record BcfTopic
{
    /// <summary>Its GUID.</summary>
    public string? Guid { get; init; }

    /// <summary>Our number (3.0).</summary>
    public string? ServerAssignedId { get; init; }

    /// <summary>Type.</summary>
    public string? TopicType { get; init; }

    /// <summary>Status.</summary>
    public string? TopicStatus { get; init; }

    /// <summary>Addresses.</summary>
    public IReadOnlyList<string>? ReferenceLinks { get; init; }

    /// <summary>Title.</summary>
    public string? Title { get; init; }

    /// <summary>Priority.</summary>
    public string? Priority { get; init; }

    /// <summary>Place among the topics.</summary>
    public int? Index { get; init; }

    /// <summary>Labels.</summary>
    public IReadOnlyList<string>? Labels { get; init; }

    /// <summary>When it was asked.</summary>
    public string? CreationDate { get; init; }

    /// <summary>By whom.</summary>
    public string? CreationAuthor { get; init; }

    /// <summary>When it changed last.</summary>
    public string? ModifiedDate { get; init; }

    /// <summary>By whom.</summary>
    public string? ModifiedAuthor { get; init; }

    /// <summary>Who owes the next answer.</summary>
    public string? AssignedTo { get; init; }

    /// <summary>Stage.</summary>
    public string? Stage { get; init; }

    /// <summary>What is asked.</summary>
    public string? Description { get; init; }

    /// <summary>A piece of data that belongs to it.</summary>
    public BcfSnippet? BimSnippet { get; init; }

    /// <summary>When the answer is due.</summary>
    public string? DueDate { get; init; }

    /// <summary>What the asking person may do.</summary>
    public BcfAuthorization? Authorization { get; init; }

    /// <summary>A topic as it is sent.</summary>
    public static BcfTopic Of(TopicPage page, JobPermissions who) => Of(page.Topic, page.Row.Number, page.Board, who);

    /// <inheritdoc cref="Of(TopicPage, JobPermissions)"/>
    public static BcfTopic Of(Topic topic, int number, TopicBoard board, JobPermissions who) =>
        Sent(topic) with
        {
            Guid = topic.Guid,
            ServerAssignedId = $"T-{number}",
            CreationDate = topic.CreationDate,
            CreationAuthor = topic.CreationAuthor,
            ModifiedDate = topic.ModifiedDate ?? topic.CreationDate,
            ModifiedAuthor = topic.ModifiedAuthor ?? topic.CreationAuthor,
            Authorization = BcfAuthorization.Of(board, who),
        };

    /// <summary>A topic as it is sent to another server: what that server says itself is left out.</summary>
    public static BcfTopic Sent(Topic topic) =>
        new()
        {
            TopicType = topic.Type,
            TopicStatus = topic.Status,
            ReferenceLinks = topic.ReferenceLinks,
            Title = topic.Title,
            Priority = topic.Priority,
            Index = int.TryParse(topic.Index, null, out int index) ? index : null,
            Labels = topic.Labels,
            AssignedTo = topic.AssignedTo,
            Stage = topic.Stage,
            Description = topic.Description,
            BimSnippet = topic.Snippet is { } s
                ? new BcfSnippet(s.Type, s.IsExternal ?? false, s.Reference, s.Schema)
                : null,
            DueDate = topic.DueDate,
        };

    /// <summary>The topic with what was sent; members that were not sent are removed, as PUT has it.</summary>
    public Topic Into(Topic topic) =>
        topic with
        {
            Type = TopicType,
            Status = TopicStatus ?? topic.Status,
            ReferenceLinks = [.. (ReferenceLinks ?? []).OfType<string>()],
            Title = Title,
            Priority = Priority,
            Index = Index?.ToString(System.Globalization.CultureInfo.InvariantCulture),
            Labels = [.. (Labels ?? []).OfType<string>()],
            AssignedTo = string.IsNullOrEmpty(AssignedTo) ? null : AssignedTo,
            Stage = Stage,
            Description = Description,
            Snippet = BimSnippet is { } s
                ? new BimSnippet(s.SnippetType, s.IsExternal, s.Reference, s.ReferenceSchema)
                : null,
            DueDate = DueDate,
        };
}

/// <summary>A piece of data that belongs to a topic.</summary>
public sealed record BcfSnippet(string? SnippetType, bool IsExternal, string? Reference, string? ReferenceSchema);

/// <summary>What somebody may do with a topic.</summary>
public sealed record BcfAuthorization(IReadOnlyList<string> TopicActions, IReadOnlyList<string> TopicStatuses)
{
    private static readonly string[] Answers = ["createComment", "createViewpoint"];

    private static readonly string[] All =
    [
        "update",
        "updateBimSnippet",
        "updateRelatedTopics",
        "updateDocumentReferences",
        "updateFiles",
        .. Answers,
    ];

    /// <summary>What a member may do.</summary>
    public static BcfAuthorization Of(TopicBoard board, JobPermissions who) =>
        who.MayWriteTopics ? new BcfAuthorization(All, board.Words.Statuses)
        : who.MayAnswerTopics ? new BcfAuthorization(Answers, [])
        : new BcfAuthorization([], []);
}

/// <summary>A comment.</summary>
public sealed record BcfComment
{
    /// <summary>Its GUID.</summary>
    public string? Guid { get; init; }

    /// <summary>When it was written.</summary>
    public string? Date { get; init; }

    /// <summary>By whom.</summary>
    public string? Author { get; init; }

    /// <summary>The text.</summary>
    public string? Comment { get; init; }

    /// <summary>Its topic.</summary>
    public string? TopicGuid { get; init; }

    /// <summary>The view that it is about.</summary>
    public string? ViewpointGuid { get; init; }

    /// <summary>When it was edited last.</summary>
    public string? ModifiedDate { get; init; }

    /// <summary>By whom.</summary>
    public string? ModifiedAuthor { get; init; }

    /// <summary>What the asking person may do.</summary>
    public BcfCommentAuthorization? Authorization { get; init; }

    /// <summary>A comment as it is sent.</summary>
    public static BcfComment Of(TopicComment c, string topic, bool own) =>
        new()
        {
            Guid = c.Guid,
            Date = c.Date,
            Author = c.Author,
            Comment = c.Text,
            TopicGuid = topic,
            ViewpointGuid = c.Viewpoint,
            ModifiedDate = c.ModifiedDate,
            ModifiedAuthor = c.ModifiedAuthor,
            Authorization = new BcfCommentAuthorization(own ? ["update", "delete"] : []),
        };
}

/// <summary>What somebody may do with a comment.</summary>
public sealed record BcfCommentAuthorization(IReadOnlyList<string> CommentActions);

/// <summary>Something that happened to a topic or a comment.</summary>
public sealed record BcfEvent
{
    /// <summary>The topic.</summary>
    public required string TopicGuid { get; init; }

    /// <summary>The comment; not sent for events of topics.</summary>
    public string? CommentGuid { get; init; }

    /// <summary>When.</summary>
    public required string Date { get; init; }

    /// <summary>By whom.</summary>
    public required string Author { get; init; }

    /// <summary>What.</summary>
    public required IReadOnlyList<BcfAction> Actions { get; init; }
}

/// <summary>What happened, and the new value.</summary>
public sealed record BcfAction(
    string Type,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] string? Value
);
