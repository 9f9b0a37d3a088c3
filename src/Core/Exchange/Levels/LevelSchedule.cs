namespace SteadyLintel.Exchange;

/// <summary>A storey as a source has it.</summary>
/// <param name="Source">The source's place in the list.</param>
/// <param name="Number">The storey's number in the source.</param>
/// <param name="Name">Its name.</param>
/// <param name="Elevation">What it says, metres.</param>
/// <param name="PlacementZ">Where it stands, metres; null when unknown.</param>
public sealed record SourceStorey(int Source, int Number, string Name, double Elevation, double? PlacementZ);

/// <summary>A storey of the job, with the sources' storeys that match it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Elevation">Its elevation, metres.</param>
/// <param name="Storeys">At most one a source, mostly.</param>
public sealed record Rung(string Name, double Elevation, IReadOnlyList<SourceStorey> Storeys)
{
    /// <summary>The number of the job's level it is; null for one that no schedule knows yet.</summary>
    public int? Level { get; init; }
}

/// <summary>The job's storeys, matched over its sources.</summary>
public sealed class LevelSchedule
{
    /// <summary>Storeys of the same level may differ by a floor's build-up, metres. Common practice.</summary>
    public const double Tolerance = 0.35;

    private readonly Dictionary<(int, int), int> _rungOf = [];

    private LevelSchedule(IReadOnlyList<Rung> rungs)
    {
        Rungs = rungs;
        for (int r = 0; r < rungs.Count; r++)
            foreach (var s in rungs[r].Storeys) _rungOf[(s.Source, s.Number)] = r;
    }

    /// <summary>The rungs, lowest first.</summary>
    public IReadOnlyList<Rung> Rungs { get; }

    /// <summary>The rung of a source's storey, -1 for storey -1.</summary>
    public int RungOf(int source, int storey) => _rungOf.GetValueOrDefault((source, storey), -1);

    /// <summary>The schedule of some models, each a source.</summary>
    public static LevelSchedule Of(IReadOnlyList<ModelSnapshot> sources) => Match(StoreysOf(sources));

    /// <summary>The storeys of some models, each a source.</summary>
    public static IReadOnlyList<SourceStorey> StoreysOf(IReadOnlyList<ModelSnapshot> sources) =>
        [.. sources.SelectMany((m, s) => m.Structure.Storeys.Select(
            (storey, n) => new SourceStorey(s, n, storey.Name, storey.Level, storey.PlacementZ)))];

    /// <summary>Matches storeys: by elevation within <see cref="Tolerance"/>, nearest first, else by name. The source with most storeys
    /// gives names and elevations.</summary>
    public static LevelSchedule Match(IReadOnlyList<SourceStorey> storeys) => On([], new Dictionary<(int, int), int>(), storeys);

    /// <summary>Puts storeys on known levels, and matches the others.</summary>
    /// <param name="levels">The levels of the job.</param>
    /// <param name="known">The level of storeys that are matched already, by source and number.</param>
    /// <param name="storeys">The storeys of all sources.</param>
    internal static LevelSchedule On(IReadOnlyList<JobLevel> levels, IReadOnlyDictionary<(int Source, int Number), int> known,
        IReadOnlyList<SourceStorey> storeys)
    {
        var rungs = levels.Select(l => new OpenRung(l.Name, l.Elevation, l.Id, [])).ToList();
        foreach (var storey in storeys)
            if (known.TryGetValue((storey.Source, storey.Number), out int level)) rungs.Find(r => r.Level == level)?.Storeys.Add(storey);
        foreach (var source in storeys.Where(s => !known.ContainsKey((s.Source, s.Number))).GroupBy(s => s.Source)
            .OrderByDescending(g => g.Count()).ThenBy(g => g.Key))
        {
            foreach (var storey in source.OrderBy(s => s.Elevation))
            {
                int at = Find(rungs, storey);
                if (at >= 0) rungs[at].Storeys.Add(storey);
                else rungs.Add(new OpenRung(storey.Name, storey.Elevation, null, [storey]));
            }
        }

        return new LevelSchedule(
            [.. rungs.OrderBy(r => r.Elevation).Select(r => new Rung(r.Name, r.Elevation, r.Storeys) { Level = r.Level })]);
    }

    private static int Find(List<OpenRung> rungs, SourceStorey storey)
    {
        int best = -1;
        for (int r = 0; r < rungs.Count; r++)
        {
            double off = Math.Abs(rungs[r].Elevation - storey.Elevation);
            bool free = rungs[r].Storeys.All(s => s.Source != storey.Source);
            if (free && off <= Tolerance && (best < 0 || off < Math.Abs(rungs[best].Elevation - storey.Elevation))) best = r;
        }

        return best >= 0 ? best : rungs.FindIndex(r => r.Storeys.All(s => s.Source != storey.Source) && r.Name.Length > 0
            && string.Equals(r.Name, storey.Name, StringComparison.OrdinalIgnoreCase));
    }

    private sealed record OpenRung(string Name, double Elevation, int? Level, List<SourceStorey> Storeys);
}
