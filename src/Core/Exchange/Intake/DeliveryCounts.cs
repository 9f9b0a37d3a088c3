namespace SteadyLintel.Exchange;

/// <summary>How many elements of a model, or entities of a drawing, a revision has.</summary>
/// <param name="Storeys">By the name of the storey; elements in no storey are left out, and a drawing has none.</param>
/// <param name="Kinds">By class, or by kind of entity.</param>
public sealed record DeliveryCounts(IReadOnlyDictionary<string, int> Storeys, IReadOnlyDictionary<string, int> Kinds)
{
    /// <summary>How many in all.</summary>
    public int Total => Kinds.Values.Sum();

    /// <summary>The counts of a drawing.</summary>
    /// <param name="report">Its intake report.</param>
    public static DeliveryCounts Of(DrawingReport report) =>
        new(new Dictionary<string, int>(), Sums(report.Entities.Select(e => (e.Name, e.Count))));

    /// <summary>The sums of counts that have the same name, whatever its case.</summary>
    public static IReadOnlyDictionary<string, int> Sums(IEnumerable<(string Name, int Count)> counts) =>
        counts
            .GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.Sum(c => c.Count), StringComparer.OrdinalIgnoreCase);
}
