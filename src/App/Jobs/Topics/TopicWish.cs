using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>A topic that somebody asks.</summary>
public sealed record TopicWish
{
    /// <summary>The GUID, where whoever asks has one already; null for a new one.</summary>
    public Guid? Guid { get; init; }

    /// <summary>The title.</summary>
    public string? Title { get; init; }

    /// <summary>What is asked, in sentences.</summary>
    public string? Description { get; init; }

    /// <summary>A type of the job's words.</summary>
    public string? Type { get; init; }

    /// <summary>A priority of the job's words.</summary>
    public string? Priority { get; init; }

    /// <summary>A stage of the job's words.</summary>
    public string? Stage { get; init; }

    /// <summary>Labels.</summary>
    public IReadOnlyList<string> Labels { get; init; } = [];

    /// <summary>Who owes the answer: a party's code or a mail address; empty for the coordinators.</summary>
    public string? Assigned { get; init; }

    /// <summary>When the answer is due.</summary>
    public DateOnly? Due { get; init; }

    /// <summary>The level it is about; null for that of its first element.</summary>
    public int? Level { get; init; }

    /// <summary>The view, in the job's frame; null for none.</summary>
    public ViewInfo? View { get; init; }

    /// <summary>GlobalIds of elements where there is no view.</summary>
    public IReadOnlyList<string> Elements { get; init; } = [];

    /// <summary>The place where there is neither view nor elements, metres in the job's frame; null for none.</summary>
    public Geometry.Vec3? At { get; init; }

    /// <summary>The picture of the view; null for none.</summary>
    public byte[]? Picture { get; init; }

    /// <summary>What is drawn on the picture, and the picture without it; null where nothing is.</summary>
    public (PictureMarks Marks, byte[] Plain)? Drawn { get; init; }

    /// <summary>Says more of the topic than this has; checked like everything else. Null for nothing.</summary>
    public Func<Topic, Topic>? More { get; init; }

    /// <summary>What it is made from (<see cref="TopicCause"/>); null where somebody just asks.</summary>
    public string? Cause { get; init; }
}

/// <summary>An answer: a comment, a view, a status and who owes the next answer, in one step.</summary>
public sealed record TopicAnswer
{
    /// <summary>The text; empty for none.</summary>
    public string? Text { get; init; }

    /// <summary>The new status; null for the same.</summary>
    public string? Status { get; init; }

    /// <summary>Who owes the next answer; null for the same, empty for the coordinators.</summary>
    public string? Assigned { get; init; }

    /// <summary>A view, in the job's frame; null for none.</summary>
    public ViewInfo? View { get; init; }

    /// <summary>The picture of the view; null for none.</summary>
    public byte[]? Picture { get; init; }

    /// <summary>What is drawn on the picture, and the picture without it; null where nothing is.</summary>
    public (PictureMarks Marks, byte[] Plain)? Drawn { get; init; }

    /// <summary>A view of the topic that the comment is about; null for the new one or none.</summary>
    public string? About { get; init; }

    /// <summary>Files that are attached: name and content.</summary>
    public IReadOnlyList<(string Name, byte[] Content)> Files { get; init; } = [];
}
