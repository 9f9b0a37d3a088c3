using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What a form says of a topic.</summary>
public sealed record TopicForm
{
    /// <summary>The title.</summary>
    public string? Title { get; init; }

    /// <summary>What is asked.</summary>
    public string? Description { get; init; }

    /// <summary>A type.</summary>
    public string? Type { get; init; }

    /// <summary>A priority.</summary>
    public string? Priority { get; init; }

    /// <summary>A stage.</summary>
    public string? Stage { get; init; }

    /// <summary>Labels, separated by commas.</summary>
    public string? Labels { get; init; }

    /// <summary>Who owes the answer.</summary>
    public string? Assigned { get; init; }

    /// <summary>When it is due.</summary>
    public DateOnly? Due { get; init; }

    /// <summary>The level.</summary>
    public int? Level { get; init; }

    /// <summary>As it is asked.</summary>
    public TopicWish Wish() =>
        new()
        {
            Title = Title,
            Description = Description,
            Type = Type,
            Priority = Priority,
            Stage = Stage,
            Labels = (Labels ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
            Assigned = Assigned,
            Due = Due,
            Level = Level,
        };
}
