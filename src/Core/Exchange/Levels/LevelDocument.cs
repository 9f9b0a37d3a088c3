namespace SteadyLintel.Exchange;

/// <summary>A level of the job.</summary>
/// <param name="Id">Its number in the schedule; stays when it is renamed or moved.</param>
/// <param name="Name">Its name.</param>
/// <param name="Elevation">Its elevation in the job, metres.</param>
/// <param name="ByHand">Whether somebody made or changed it, so that it stays when no source has it any more.</param>
public sealed record JobLevel(int Id, string Name, double Elevation, bool ByHand = false);

/// <summary>That a source's storey is a level of the job.</summary>
/// <param name="Source">The source's key in the job.</param>
/// <param name="Storey">The storey's name; where a source has a name twice, the second is <c>name (2)</c>.</param>
/// <param name="Level">The level's number.</param>
/// <param name="ByHand">Whether somebody said so, so that it stays when the source is set out again.</param>
public sealed record LevelMatch(string Source, string Storey, int Level, bool ByHand = false);

/// <summary>That a source's levels lie off the job's by a floor's build-up or the like.</summary>
/// <param name="Source">The source's key in the job.</param>
/// <param name="Storey">The storey it holds for, as matches name it; empty for all others of the source.</param>
/// <param name="Offset">How far the source's level lies above the job's, metres; negative for a structural level below the finished floor.
/// </param>
public sealed record LevelOffset(string Source, string Storey, double Offset);

/// <summary>The level schedule of a job as it is kept: an input of everything downstream, not computed from whichever sources are at
/// hand.</summary>
/// <remarks>A new revision's storeys are matched where they are on a level without doubt; others wait for a coordinator. What was matched
/// before
/// stays matched, whatever other sources say later.</remarks>
public sealed record LevelDocument
{
    internal static DocumentFormat<LevelDocument> Format { get; } = new("level schedule");

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = 1;

    /// <summary>The levels.</summary>
    public IReadOnlyList<JobLevel> Levels { get; init; } = [];

    /// <summary>Which storey is which level.</summary>
    public IReadOnlyList<LevelMatch> Matches { get; init; } = [];

    /// <summary>Declared offsets of sources.</summary>
    public IReadOnlyList<LevelOffset> Offsets { get; init; } = [];

    /// <summary>Reads a document; null or empty text gives an empty schedule.</summary>
    /// <exception cref="OrderException">It is none; the message says why.</exception>
    public static LevelDocument Read(string? json) =>
        string.IsNullOrEmpty(json) ? new LevelDocument() : Format.Read(json);

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    /// <summary>The schedule for some sources; storeys that the document does not know are matched by elevation and name, as
    /// <see cref="LevelSchedule.Match"/> does.</summary>
    /// <param name="sources">The keys of the sources, by their number.</param>
    /// <param name="storeys">Their storeys.</param>
    public LevelSchedule Schedule(IReadOnlyList<string> sources, IReadOnlyList<SourceStorey> storeys) =>
        LevelSchedule.On(Levels, Known(sources, storeys), WithoutOffsets(sources, storeys));

    // A storey as it would be said without the offset that is declared for it: what is left is a difference to look at.
    private IReadOnlyList<SourceStorey> WithoutOffsets(
        IReadOnlyList<string> sources,
        IReadOnlyList<SourceStorey> storeys
    )
    {
        if (Offsets.Count == 0)
            return storeys;
        var keys = Keys(storeys);
        return
        [
            .. storeys.Select(s =>
            {
                var own = Offsets.Where(o => o.Source == sources[s.Source]).ToList();
                double offset = (
                    own.Find(o => o.Storey == keys[(s.Source, s.Number)]) ?? own.Find(o => o.Storey.Length == 0)
                )?.Offset
                    ?? 0;
                return s with { Elevation = s.Elevation - offset, PlacementZ = s.PlacementZ - offset };
            }),
        ];
    }

    /// <summary>The document with those storeys matched that are on a level without anybody's word (<see cref="LevelSchedule.Sure"/>).
    /// The others
    /// wait for somebody to match or add them.</summary>
    public LevelDocument WithSure(IReadOnlyList<string> sources, IReadOnlyList<SourceStorey> storeys)
    {
        var schedule = Schedule(sources, storeys);
        var open = schedule.Unconfirmed.Select(u => (u.Storey.Source, u.Storey.Number)).ToHashSet();
        var keys = Keys(storeys);
        var matches = Matches.ToDictionary(m => (m.Source, m.Storey));
        foreach (var rung in schedule.Rungs)
        {
            if (rung.Level is not { } level)
                continue;
            foreach (var storey in rung.Storeys.Where(s => !open.Contains((s.Source, s.Number))))
            {
                var key = (Source: sources[storey.Source], Storey: keys[(storey.Source, storey.Number)]);
                matches.TryAdd(key, new LevelMatch(key.Source, key.Storey, level));
            }
        }

        return this with
        {
            Matches = [.. matches.Values],
        };
    }

    /// <summary>The document with some storeys on the rungs they are shown on; a rung that is no level of the job becomes one.</summary>
    /// <param name="sources">The keys of the sources, by their number.</param>
    /// <param name="storeys">The storeys of all sources.</param>
    /// <param name="chosen">Which of the unconfirmed storeys.</param>
    public LevelDocument Confirm(
        IReadOnlyList<string> sources,
        IReadOnlyList<SourceStorey> storeys,
        Func<SourceStorey, bool> chosen
    )
    {
        var schedule = Schedule(sources, storeys);
        var keys = Keys(storeys);
        var levels = Levels.ToList();
        var matches = Matches.ToList();
        foreach (var group in schedule.Unconfirmed.Where(u => chosen(u.Storey)).GroupBy(u => u.Rung))
        {
            int id = group.Key.Level ?? (levels.Select(l => l.Id).DefaultIfEmpty(0).Max() + 1);
            if (group.Key.Level is null)
                levels.Add(new JobLevel(id, group.Key.Name, group.Key.Elevation));
            matches.AddRange(
                group.Select(u => new LevelMatch(
                    sources[u.Storey.Source],
                    keys[(u.Storey.Source, u.Storey.Number)],
                    id,
                    ByHand: true
                ))
            );
        }

        return this with
        {
            Levels = [.. levels.OrderBy(l => l.Elevation)],
            Matches = matches,
        };
    }

    /// <summary>The document with every storey of some sources in it.</summary>
    public LevelDocument With(IReadOnlyList<string> sources, IReadOnlyList<SourceStorey> storeys)
    {
        var schedule = Schedule(sources, storeys);
        var keys = Keys(storeys);
        int next = Levels.Select(l => l.Id).DefaultIfEmpty(0).Max() + 1;
        var levels = Levels.ToList();
        var matches = Matches.ToDictionary(m => (m.Source, m.Storey));
        foreach (var rung in schedule.Rungs)
        {
            int id = rung.Level ?? next++;
            if (rung.Level is null)
                levels.Add(new JobLevel(id, rung.Name, rung.Elevation));
            foreach (var storey in rung.Storeys)
            {
                var key = (Source: sources[storey.Source], Storey: keys[(storey.Source, storey.Number)]);
                matches.TryAdd(key, new LevelMatch(key.Source, key.Storey, id));
            }
        }

        return this with
        {
            Levels = [.. levels.OrderBy(l => l.Elevation)],
            Matches = [.. matches.Values],
        };
    }

    /// <summary>The document without what was matched of a source automatically, and without levels that only it was on.</summary>
    public LevelDocument Without(string source)
    {
        var kept = Matches.Where(m => m.Source != source || m.ByHand).ToList();
        var lost = Matches.Where(m => m.Source == source && !m.ByHand).Select(m => m.Level).ToHashSet();
        var used = kept.Select(m => m.Level).ToHashSet();
        return this with
        {
            Levels = [.. Levels.Where(l => l.ByHand || used.Contains(l.Id) || !lost.Contains(l.Id))],
            Matches = kept,
        };
    }

    private Dictionary<(int Source, int Number), int> Known(
        IReadOnlyList<string> sources,
        IReadOnlyList<SourceStorey> storeys
    )
    {
        var keys = Keys(storeys);
        var known = Matches.ToDictionary(m => (m.Source, m.Storey), m => m.Level);
        var found = new Dictionary<(int, int), int>();
        foreach (var storey in storeys)
            if (known.TryGetValue((sources[storey.Source], keys[(storey.Source, storey.Number)]), out int level))
                found[(storey.Source, storey.Number)] = level;
        return found;
    }

    /// <summary>What each storey is called in matches, by source and number.</summary>
    public static Dictionary<(int Source, int Number), string> Keys(IReadOnlyList<SourceStorey> storeys)
    {
        var keys = new Dictionary<(int, int), string>();
        var counts = new Dictionary<(int, string), int>();
        foreach (var storey in storeys.OrderBy(s => s.Source).ThenBy(s => s.Number))
        {
            int count = counts[(storey.Source, storey.Name)] =
                counts.GetValueOrDefault((storey.Source, storey.Name)) + 1;
            keys[(storey.Source, storey.Number)] = count == 1 ? storey.Name : $"{storey.Name} ({count})";
        }

        return keys;
    }
}
