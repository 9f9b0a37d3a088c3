namespace SteadyLintel.Exchange;

/// <summary>What a transmittal gives less of than the one before it: a balance says that nothing was lost on the way from the sources,
/// not that
/// the sources still hold what they held.</summary>
public static class LessThanBefore
{
    private const int MaxSentences = 40;

    /// <summary>The differences in sentences, the largest first; none where nothing is gone.</summary>
    /// <param name="before">What came of the transmittal before.</param>
    /// <param name="now">What came of this one.</param>
    public static IReadOnlyList<string> Of(HandoverResult before, HandoverResult now)
    {
        var was = Counts(before);
        var found = Counts(now);
        var storeys = was.Keys.Select(k => k.Storey).Except(found.Keys.Select(k => k.Storey)).ToHashSet();
        var gone = was.Where(w => !storeys.Contains(w.Key.Storey) && found.GetValueOrDefault(w.Key) < w.Value)
            .Select(w => (w.Key.Storey, w.Key.Class, Was: w.Value, Is: found.GetValueOrDefault(w.Key)))
            .OrderByDescending(g => g.Was - g.Is)
            .ThenBy(g => g.Class, StringComparer.Ordinal)
            .ToList();
        var sentences = storeys
            .Select(s => (s, Was: was.Where(w => w.Key.Storey == s).Sum(w => w.Value)))
            .OrderByDescending(s => s.Was)
            .Select(s => $"{NameOf(s.s)}: none of {s.Was} elements any more")
            .Concat(gone.Select(g => $"{NameOf(g.Storey)}: {g.Class} {g.Was} → {g.Is}, {g.Was - g.Is} fewer"))
            .ToList();
        return sentences.Count <= MaxSentences
            ? sentences
            : [.. sentences.Take(MaxSentences), $"and {sentences.Count - MaxSentences} more differences"];
    }

    private static Dictionary<(string Storey, string Class), int> Counts(HandoverResult result) =>
        result
            .Reconciliation.Rows.Concat(
                result.Drawings.SelectMany(d =>
                    d.Rows.Select(r => new ReconciliationRow(
                        d.Source,
                        r.Type,
                        r.In,
                        r.LeftOut,
                        r.Found,
                        r.Found,
                        0,
                        new Dictionary<string, int>()
                    ))
                )
            )
            .Where(r => r.Found > 0)
            .GroupBy(r => (r.Storey, r.Class))
            .ToDictionary(g => g.Key, g => g.Sum(r => r.Found));

    private static string NameOf(string storey) => storey.Length > 0 ? storey : "In no storey";
}
