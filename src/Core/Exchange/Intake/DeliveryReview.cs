namespace SteadyLintel.Exchange;

/// <summary>Whether a delivery can be used as it came, or is held until a coordinator has decided.</summary>
/// <remarks>A model that was cut off on its way is still a model: it has a project, storeys and some elements. Used as the newest
/// revision it
/// would be handed over, balanced, with most of the building missing.</remarks>
public static class DeliveryReview
{
    /// <summary>A file has a loose reference now and then, as exporters leave them; so many mean that a part of the file is
    /// missing.</summary>
    public const int MaxDangling = 10;

    private const int MaxNamed = 5;

    // Parts of the file that could not be read, or are not there.
    private static readonly HashSet<string> ReadingErrors = new(StringComparer.Ordinal)
    {
        "STEP-TRUNCATED",
        "STEP-DAMAGED",
        "STEP-ID-DUPLICATE",
        "STEP-START-MISSING",
        "CAD-TORN",
        "CAD-OBJECT",
        "CAD-PAGE",
        "CAD-MAP",
        "CAD-OWNER",
    };

    /// <summary>Whether a finding says that a part of the file could not be read or is not there.</summary>
    public static bool IsReadingError(Finding finding) =>
        ReadingErrors.Contains(finding.Code)
        || (finding.Code == "IFC-REFERENCE-DANGLING" && finding.Count > MaxDangling);

    /// <summary>The reasons to hold a delivery, a sentence each; none when it can be used.</summary>
    /// <param name="findings">What was found in it.</param>
    /// <param name="before">The revision before it; null for the first.</param>
    /// <param name="now">What it holds.</param>
    /// <param name="what">What is counted: elements or drawing entities.</param>
    /// <param name="limits">The limits of the job.</param>
    public static IReadOnlyList<string> Reasons(
        IReadOnlyList<Finding> findings,
        DeliveryCounts? before,
        DeliveryCounts now,
        string what,
        DeliveryLimits limits
    )
    {
        var reasons = new List<string>();
        if (limits.Errors)
            reasons.AddRange(findings.Where(IsReadingError).Select(f => $"{f.Message} ({f.Code})"));
        if (before is not { Total: > 0 })
            return reasons;
        int lost = before.Total - now.Total;
        if (lost > limits.LostShare * before.Total)
            reasons.Add(
                $"It has {now.Total} {what} where the revision before had {before.Total}: {Percent(lost, before.Total)} fewer."
            );
        if (limits.Storeys)
            AddGone(
                reasons,
                "storey",
                before.Storeys.Where(s => s.Value > 0 && now.Storeys.GetValueOrDefault(s.Key) == 0),
                what
            );
        if (limits.ClassSize > 0)
            AddGone(
                reasons,
                what == "elements" ? "class" : "kind",
                before.Kinds.Where(k => k.Value >= limits.ClassSize && now.Kinds.GetValueOrDefault(k.Key) == 0),
                what
            );
        return reasons;
    }

    private static void AddGone(
        List<string> reasons,
        string of,
        IEnumerable<KeyValuePair<string, int>> gone,
        string what
    )
    {
        var list = gone.OrderByDescending(g => g.Value).ThenBy(g => g.Key, StringComparer.Ordinal).ToList();
        if (list.Count == 0)
            return;
        string named = string.Join(
            ", ",
            list.Take(MaxNamed)
                .Select(g => $"{(g.Key.Length > 0 ? g.Key : "without a name")} ({g.Value} {what} before)")
        );
        string more = list.Count > MaxNamed ? $" and {list.Count - MaxNamed} more" : "";
        string plural = of switch
        {
            "class" => "classes",
            _ => of + "s",
        };
        reasons.Add(
            list.Count == 1
                ? $"The {of} {named} has no {what} any more."
                : $"These {plural} have no {what} any more: {named}{more}."
        );
    }

    private static string Percent(int part, int whole) => FormattableString.Invariant($"{100.0 * part / whole:0} %");
}
