using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A topic as lists show it.</summary>
public sealed record ShownTopic
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>T-1 has 1.</summary>
    public required int Number { get; init; }

    /// <summary>Title.</summary>
    public required string Title { get; init; }

    /// <summary>Type.</summary>
    public string Type { get; init; } = "";

    /// <summary>Status.</summary>
    public string Status { get; init; } = "";

    /// <summary>Priority.</summary>
    public string Priority { get; init; } = "";

    /// <summary>Labels.</summary>
    public IReadOnlyList<string> Labels { get; init; } = [];

    /// <summary>Whether it is closed.</summary>
    public bool Closed { get; init; }

    /// <summary>Who owes the next answer, as the topic says it; empty for the coordinators.</summary>
    public string Assigned { get; init; } = "";

    /// <summary>The party that does; null for the coordinators and people outside.</summary>
    public Guid? OwedBy { get; init; }

    /// <summary>The level it is about; null for none.</summary>
    public int? Level { get; init; }

    /// <summary>When an answer is due.</summary>
    public DateOnly? Due { get; init; }

    /// <summary>Who asked.</summary>
    public string Author { get; init; } = "";

    /// <summary>When.</summary>
    public DateTime CreatedAt { get; init; }

    /// <summary>When it changed last.</summary>
    public DateTime ModifiedAt { get; init; }

    /// <summary>Comments.</summary>
    public int Comments { get; init; }

    /// <summary>Who wrote the last one.</summary>
    public string LastBy { get; init; } = "";

    /// <summary>How many elements it is about.</summary>
    public int Elements { get; init; }

    /// <summary>Whether it has a picture.</summary>
    public bool HasPicture { get; init; }

    /// <summary>The point its view looks at, metres in the job's frame.</summary>
    public IReadOnlyList<double>? Place { get; init; }

    /// <summary>When a revision no longer had what it was made from.</summary>
    public DateTime? CauseGoneAt { get; init; }

    /// <summary>Reads it from the database; the document is not.</summary>
    internal static readonly System.Linq.Expressions.Expression<Func<TopicRow, ShownTopic>> Of = t => new ShownTopic
    {
        Id = t.Id,
        Number = t.Number,
        Title = t.Title,
        Type = t.Type,
        Status = t.Status,
        Priority = t.Priority,
        Labels = t.Labels,
        Closed = t.Closed,
        Assigned = t.Assigned,
        OwedBy = t.OwedBy,
        Level = t.Level,
        Due = t.Due,
        Author = t.Author,
        CreatedAt = t.CreatedAt,
        ModifiedAt = t.ModifiedAt,
        Comments = t.Comments,
        LastBy = t.LastBy,
        Elements = t.Elements.Length,
        HasPicture = t.Picture != "",
        Place = t.Place,
        CauseGoneAt = t.CauseGoneAt,
    };
}
