using System.Text.Json;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What somebody decided of a value that both sides changed; it holds as long as both still say the same.</summary>
/// <param name="What">What it is: <c>status</c>.</param>
/// <param name="Ours">As the job has it.</param>
/// <param name="Theirs">As the server has it.</param>
/// <param name="TakesTheirs">Whether the server's is taken.</param>
public sealed record TopicDecision(string What, string? Ours, string? Theirs, bool TakesTheirs)
{
    /// <summary>Reads what <see cref="Write"/> wrote; null for none.</summary>
    public static IReadOnlyList<TopicDecision> Read(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<List<TopicDecision>>(json)!;

    /// <summary>As they are kept.</summary>
    public static string Write(IEnumerable<TopicDecision> decisions) => JsonSerializer.Serialize(decisions);

    /// <summary>Whether it is about a conflict.</summary>
    public bool IsAbout(TopicConflict c) => c.What == What && c.Ours == Ours && c.Theirs == Theirs;
}
