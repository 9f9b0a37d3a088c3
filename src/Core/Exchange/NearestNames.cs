using F23.StringSimilarity;

namespace SteadyLintel.Exchange;

/// <summary>What somebody may have meant by a name that is not there.</summary>
internal static class NearestNames
{
    private const int MaxSuggestions = 3;

    /// <summary>The nearest of some names, best first, for a sentence; empty when none is near.</summary>
    public static string Of(string name, IEnumerable<string> known)
    {
        var metric = new JaroWinkler();
        var near = known
            .Where(k => k.Length > 0)
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Select(k => (Name: k, Score: metric.Similarity(k.ToLowerInvariant(), name.ToLowerInvariant())))
            .Where(k => k.Score > 0.6)
            .OrderByDescending(k => k.Score)
            .ThenBy(k => k.Name, StringComparer.Ordinal)
            .Take(MaxSuggestions)
            .Select(k => $"'{k.Name}'")
            .ToList();
        return near.Count == 0 ? "" : $" Nearest: {string.Join(", ", near)}.";
    }
}
