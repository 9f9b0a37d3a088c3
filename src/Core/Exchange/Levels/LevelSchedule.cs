namespace SteadyLintel.Exchange;

/// <summary>A storey as a source has it.</summary>
/// <param name="Source">The source's place in the list.</param>
/// <param name="Number">The storey's number in the source.</param>
/// <param name="Name">Its name.</param>
/// <param name="Elevation">What it says, metres.</param>
/// <param name="PlacementZ">Where it is, metres; null when unknown.</param>
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
    /// <summary>Storeys of the same level may differ by a floor's build-up, metres. Common practice. Beyond <see cref="Sure"/> somebody
    /// has to
    /// confirm it.</summary>
    public const double Tolerance = 0.35;

    /// <summary>A storey that differs from a level by no more than this is on it without anybody's word, metres.</summary>
    public const double Sure = 0.05;

    /// <summary>A model with more storeys than this has none that could be levels of a building, and none is matched.</summary>
    public const int MaxStoreys = 1000;

    private readonly Dictionary<(int, int), int> _rungOf = [];

    private LevelSchedule(IReadOnlyList<Rung> rungs, IReadOnlyDictionary<(int Source, int Number), int> known)
    {
        Rungs = rungs;
        Unconfirmed =
        [
            .. rungs.SelectMany(r =>
                r.Storeys.Where(s =>
                        !known.ContainsKey((s.Source, s.Number))
                        && (r.Level is null || Math.Abs(s.Elevation - r.Elevation) > Sure)
                    )
                    .Select(s => (s, r))
            ),
        ];
        for (int r = 0; r < rungs.Count; r++)
            foreach (var s in rungs[r].Storeys)
                _rungOf[(s.Source, s.Number)] = r;
    }

    /// <summary>The rungs, lowest first.</summary>
    public IReadOnlyList<Rung> Rungs { get; }

    /// <summary>Storeys that nobody has matched, each with the rung it is shown on: off a level of the job by more than <see
    /// cref="Sure"/>, or
    /// on a rung that is no level of the job yet.</summary>
    public IReadOnlyList<(SourceStorey Storey, Rung Rung)> Unconfirmed { get; }

    /// <summary>The rung of a source's storey, -1 for storey -1.</summary>
    public int RungOf(int source, int storey) => _rungOf.GetValueOrDefault((source, storey), -1);

    /// <summary>The schedule of some models, each a source.</summary>
    public static LevelSchedule Of(IReadOnlyList<ModelSnapshot> sources) => Match(StoreysOf(sources));

    /// <summary>The schedule of some sources, each where it is set out.</summary>
    public static LevelSchedule Of(IReadOnlyList<HandoverSource> sources) =>
        Match(
            InJob(StoreysOf([.. sources.Select(s => s.Snapshot)]), n =>
                sources[n].SettingOut ?? Geometry.Frame.Identity
            )
        );

    /// <summary>The storeys of sources at their heights in the job.</summary>
    /// <param name="storeys">As the files say.</param>
    /// <param name="frame">From a source's own frame into the job's, by the source's number.</param>
    /// <returns>The storeys in the same order; those of sources with more than <see cref="MaxStoreys"/> are left out.</returns>
    /// <remarks>A storey's Elevation counts from the building's own zero (ISO 16739-1, IfcBuildingStorey), which need not be the file's:
    /// where
    /// most storeys are placed a like distance from what they say, and by more than a floor's build-up, the building's zero lies there.
    /// </remarks>
    public static IReadOnlyList<SourceStorey> InJob(
        IReadOnlyList<SourceStorey> storeys,
        Func<int, Geometry.Frame> frame
    )
    {
        var counts = storeys.CountBy(s => s.Source).ToDictionary();
        var zeros = storeys
            .Where(s => s.PlacementZ is not null)
            .GroupBy(s => s.Source)
            .ToDictionary(
                g => g.Key,
                g => g.Select(s => s.PlacementZ!.Value - s.Elevation).Order().ElementAt((g.Count() - 1) / 2)
            );
        return
        [
            .. storeys
                .Where(s => counts[s.Source] <= MaxStoreys)
                .Select(s =>
                {
                    var f = frame(s.Source);
                    double zero = zeros.GetValueOrDefault(s.Source);
                    return s with
                    {
                        Elevation = Height(s.Elevation + (Math.Abs(zero) > Tolerance ? zero : 0), f),
                        PlacementZ = s.PlacementZ is { } z ? Height(z, f) : null,
                    };
                }),
        ];

        static double Height(double z, Geometry.Frame f) => (z * f.Z.Z) + f.Origin.Z;
    }

    /// <summary>The storeys of some models, each a source.</summary>
    public static IReadOnlyList<SourceStorey> StoreysOf(IReadOnlyList<ModelSnapshot> sources) =>
        [
            .. sources.SelectMany(
                (m, s) =>
                    m.Structure.Storeys.Select(
                        (storey, n) => new SourceStorey(s, n, storey.Name, storey.Level, storey.PlacementZ)
                    )
            ),
        ];

    /// <summary>Matches storeys: by elevation within <see cref="Tolerance"/>, nearest first, else by name. The source with most storeys
    /// gives names and elevations.</summary>
    public static LevelSchedule Match(IReadOnlyList<SourceStorey> storeys) =>
        On([], new Dictionary<(int, int), int>(), storeys);

    /// <summary>Puts storeys on known levels, and matches the others.</summary>
    /// <param name="levels">The levels of the job.</param>
    /// <param name="known">The level of storeys that are matched already, by source and number.</param>
    /// <param name="storeys">The storeys of all sources.</param>
    internal static LevelSchedule On(
        IReadOnlyList<JobLevel> levels,
        IReadOnlyDictionary<(int Source, int Number), int> known,
        IReadOnlyList<SourceStorey> storeys
    )
    {
        var rungs = levels.Select(l => new OpenRung(l.Name, l.Elevation, l.Id, [], [])).ToList();
        var byLevel = rungs.ToDictionary(r => r.Level!.Value);
        foreach (var storey in storeys)
            if (
                known.TryGetValue((storey.Source, storey.Number), out int level)
                && byLevel.TryGetValue(level, out var rung)
            )
                rung.Add(storey);
        foreach (
            var source in storeys
                .Where(s => !known.ContainsKey((s.Source, s.Number)))
                .GroupBy(s => s.Source)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key)
        )
        {
            foreach (var storey in source.OrderBy(s => s.Elevation))
            {
                int at = Find(rungs, storey);
                if (at >= 0)
                    rungs[at].Add(storey);
                else
                    rungs.Add(new OpenRung(storey.Name, storey.Elevation, null, [storey], [storey.Source]));
            }
        }

        return new LevelSchedule(
            [
                .. rungs
                    .OrderBy(r => r.Elevation)
                    .Select(r => new Rung(r.Name, r.Elevation, r.Storeys) { Level = r.Level }),
            ],
            known
        );
    }

    private static int Find(List<OpenRung> rungs, SourceStorey storey)
    {
        int best = -1;
        for (int r = 0; r < rungs.Count; r++)
        {
            double off = Math.Abs(rungs[r].Elevation - storey.Elevation);
            if (
                !rungs[r].Sources.Contains(storey.Source)
                && off <= Tolerance
                && (best < 0 || off < Math.Abs(rungs[best].Elevation - storey.Elevation))
            )
                best = r;
        }

        return best >= 0
            ? best
            : rungs.FindIndex(r =>
                !r.Sources.Contains(storey.Source)
                && r.Name.Length > 0
                && string.Equals(r.Name, storey.Name, StringComparison.OrdinalIgnoreCase)
            );
    }

    private sealed record OpenRung(
        string Name,
        double Elevation,
        int? Level,
        List<SourceStorey> Storeys,
        HashSet<int> Sources
    )
    {
        public void Add(SourceStorey storey)
        {
            Storeys.Add(storey);
            Sources.Add(storey.Source);
        }
    }
}
