using System.Text.Json;

namespace SteadyLintel.Exchange;

/// <summary>Who may amend what of a source.</summary>
public sealed record SourceProtection
{
    /// <summary>What the source's own party may amend, a word of <see cref="AmendmentKinds.Reaches"/>.</summary>
    public string Party { get; init; } = "all";

    /// <summary>What coordinators may amend.</summary>
    public string Coordinator { get; init; } = "all";

    /// <summary>What contributors of other parties may amend.</summary>
    public string Others { get; init; } = "nothing";

    /// <summary>How deep a word lets amendments go; nothing for a word that is none.</summary>
    public static AmendmentReach ReachOf(string word) =>
        AmendmentKinds.Reaches.FirstOrDefault(r => r.Word == word)?.Value ?? AmendmentReach.Nothing;

    /// <summary>Reads it.</summary>
    /// <param name="json">As kept; null for the usual one.</param>
    public static SourceProtection Read(string? json) =>
        json is null
            ? new SourceProtection()
            : JsonSerializer.Deserialize<SourceProtection>(json, JsonSerializerOptions.Web) ?? new SourceProtection();

    /// <summary>As it is kept.</summary>
    public string Write() => JsonSerializer.Serialize(this, JsonSerializerOptions.Web);

    /// <summary>What is wrong with it, a sentence; null when nothing is.</summary>
    public string? Problem() =>
        ((string[])[Party, Coordinator, Others]).FirstOrDefault(w => !AmendmentKinds.Reaches.Any(r => r.Word == w))
            is { } word
            ? $"'{word}' is none of {string.Join(", ", AmendmentKinds.Reaches.Select(r => r.Word))}."
            : null;
}
