using System.Text.Json;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What a job wants of its topics.</summary>
public sealed record TopicSettings
{
    /// <summary>Statuses of topics that need nothing more.</summary>
    public IReadOnlyList<string> Closing { get; init; } = ["Closed"];

    /// <summary>Whether a topic closes when a new revision no longer has its cause.</summary>
    public bool ClosesWhenGone { get; init; }

    /// <summary>Filters that people of the job stored under a name.</summary>
    public IReadOnlyList<SavedTopicFilter> Filters { get; init; } = [];

    /// <summary>The words a job begins with. Common practice.</summary>
    public static TopicExtensions Words { get; } =
        new()
        {
            Types = ["Question", "Finding", "Collision", "Request", "Remark"],
            Statuses = ["Open", "Answered", "Closed"],
            Priorities = ["Low", "Normal", "High"],
            Labels = ["coordinates", "levels", "openings", "properties"],
        };

    /// <summary>Reads them.</summary>
    /// <param name="json">As kept; null or empty for the usual ones.</param>
    public static TopicSettings Read(string? json) =>
        string.IsNullOrEmpty(json)
            ? new TopicSettings()
            : JsonSerializer.Deserialize<TopicSettings>(json, IntakeStore.Json) ?? new TopicSettings();

    /// <summary>As they are kept.</summary>
    public string Write() => JsonSerializer.Serialize(this, IntakeStore.Json);

    /// <summary>Whether a status closes.</summary>
    public bool Closes(string? status) => Closing.Contains(status ?? "", StringComparer.OrdinalIgnoreCase);

    /// <summary>The status that closes a topic.</summary>
    public string ClosingOf(TopicExtensions words) =>
        words.Statuses.FirstOrDefault(Closes) ?? Closing.FirstOrDefault() ?? "Closed";

    /// <summary>The status after an answer: the one between open and closed, where the job has one.</summary>
    public string AnsweredOf(TopicExtensions words, string now) =>
        words.Statuses.Skip(1).FirstOrDefault(s => !Closes(s)) ?? now;
}
