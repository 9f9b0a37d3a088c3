using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What differs between two transmittals, by file name.</summary>
/// <param name="Added">Files that only the newer has.</param>
/// <param name="Changed">Files whose bytes differ.</param>
/// <param name="Gone">Files that only the older has.</param>
/// <param name="Same">How many are the same.</param>
public sealed record TransmittalChanges(
    IReadOnlyList<string> Added,
    IReadOnlyList<string> Changed,
    IReadOnlyList<string> Gone,
    int Same
)
{
    /// <summary>Compares the files of two transmittals.</summary>
    public static TransmittalChanges Of(IEnumerable<TransmittalFile> older, IEnumerable<TransmittalFile> newer)
    {
        var before = older.ToDictionary(f => f.Name, f => f.Sha256, StringComparer.Ordinal);
        var now = newer.OrderBy(f => f.Name, StringComparer.Ordinal).ToList();
        return new TransmittalChanges(
            [.. now.Where(f => !before.ContainsKey(f.Name)).Select(f => f.Name)],
            [.. now.Where(f => before.TryGetValue(f.Name, out string? sha) && sha != f.Sha256).Select(f => f.Name)],
            [.. before.Keys.Except(now.Select(f => f.Name)).Order(StringComparer.Ordinal)],
            now.Count(f => before.TryGetValue(f.Name, out string? sha) && sha == f.Sha256)
        );
    }
}

/// <summary>A count that differs between two transmittals.</summary>
/// <param name="Place">The storey of elements, empty for none; the source of what is drawn.</param>
/// <param name="Kind">The class of elements; the kind of what is drawn.</param>
/// <param name="Layer">The layer of what is drawn; empty for elements.</param>
/// <param name="Was">How many the older wrote.</param>
/// <param name="Is">How many the newer wrote.</param>
public sealed record CountChange(string Place, string Kind, string Layer, int Was, int Is);

/// <summary>Two transmittals of an order side by side.</summary>
/// <param name="Older">The older.</param>
/// <param name="Newer">The newer.</param>
/// <param name="Files">What differs in files.</param>
/// <param name="Why">What the order rests on and had changed between them.</param>
/// <param name="Elements">Elements by storey and class, as they were found again in what was written, where their counts differ.</param>
/// <param name="Drawn">What prepared drawings gave by source, kind and layer, where the counts differ.</param>
public sealed record TransmittalComparison(
    Transmittal Older,
    Transmittal Newer,
    TransmittalChanges Files,
    IReadOnlyList<string> Why,
    IReadOnlyList<CountChange> Elements,
    IReadOnlyList<CountChange> Drawn
)
{
    /// <summary>Compares two transmittals that have run.</summary>
    public static TransmittalComparison Of(Transmittal older, Transmittal newer)
    {
        var (was, now) = (TransmittalResult.Of(older), TransmittalResult.Of(newer));
        var why =
            OrderBasis.Read(older.Basis) is { } before && OrderBasis.Read(newer.Basis) is { } after
                ? before.ChangesTo(after)
                : [];
        return new TransmittalComparison(
            older,
            newer,
            TransmittalChanges.Of(older.Files, newer.Files),
            why,
            Differences(ElementsOf(was), ElementsOf(now)),
            Differences(DrawnOf(was), DrawnOf(now))
        );
    }

    private static IEnumerable<(string, string, string, int)> ElementsOf(HandoverResult? result) =>
        result?.Reconciliation.Rows.Select(r => (r.Storey, r.Class, "", r.Found)) ?? [];

    private static IEnumerable<(string, string, string, int)> DrawnOf(HandoverResult? result) =>
        result?.Drawings?.SelectMany(d => d.Rows.Select(r => (d.Source, r.Type, r.Layer, r.Found))) ?? [];

    // In the order of the newer, and what only the older had behind it.
    private static List<CountChange> Differences(
        IEnumerable<(string Place, string Kind, string Layer, int Count)> older,
        IEnumerable<(string Place, string Kind, string Layer, int Count)> newer
    )
    {
        var counts = new OrderedDictionary<(string, string, string), (int Was, int Is)>();
        foreach (var (place, kind, layer, count) in newer)
            Add((place, kind, layer), 0, count);
        foreach (var (place, kind, layer, count) in older)
            Add((place, kind, layer), count, 0);
        return
        [
            .. counts
                .Where(c => c.Value.Was != c.Value.Is)
                .Select(c => new CountChange(c.Key.Item1, c.Key.Item2, c.Key.Item3, c.Value.Was, c.Value.Is)),
        ];

        void Add((string, string, string) key, int was, int now)
        {
            var (w, n) = counts.GetValueOrDefault(key);
            counts[key] = (w + was, n + now);
        }
    }
}
