namespace SteadyLintel.Exchange;

/// <summary>Counts the property sets of a model and how many of their values are filled.</summary>
public static class PropertyFacts
{
    /// <summary>Reads every property of every element, on all cores.</summary>
    /// <returns>The sets by name.</returns>
    public static IReadOnlyList<PropertySetFacts> Read(ModelSnapshot snapshot, CancellationToken cancel = default)
    {
        if (snapshot.Elements.Count == 0)
            return [];
        var all = new SortedDictionary<string, PropertySetFacts>(StringComparer.Ordinal);
        var options = new ParallelOptions
        {
            CancellationToken = cancel,
            MaxDegreeOfParallelism = Environment.ProcessorCount,
        };
        Parallel.ForEach(System.Collections.Concurrent.Partitioner.Create(0, snapshot.Elements.Count), options, range =>
        {
            var counts = Count(snapshot, range.Item1, range.Item2);
            lock (all)
            {
                foreach (var (name, c) in counts)
                {
                    var sum = all.GetValueOrDefault(name) ?? new PropertySetFacts(name, 0, 0, 0);
                    all[name] = sum with
                    {
                        Elements = sum.Elements + c.Elements,
                        Values = sum.Values + c.Values,
                        Blank = sum.Blank + c.Blank,
                    };
                }
            }
        });
        return [.. all.Values];
    }

    private static Dictionary<string, (int Elements, int Values, int Blank)> Count(
        ModelSnapshot snapshot,
        int from,
        int to
    )
    {
        var counts = new Dictionary<string, (int Elements, int Values, int Blank)>();
        for (int n = from; n < to; n++)
        {
            foreach (var set in snapshot.Properties.Of(snapshot.Elements[n].Index))
            {
                ref var count = ref System.Runtime.InteropServices.CollectionsMarshal.GetValueRefOrAddDefault(
                    counts,
                    set.Name,
                    out _
                );
                int filled = set.Filled;
                count = (count.Elements + 1, count.Values + filled, count.Blank + set.Properties.Count - filled);
            }
        }

        return counts;
    }
}
