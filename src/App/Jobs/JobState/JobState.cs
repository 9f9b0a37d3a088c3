using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A source as it is: its newest revision and what is under way.</summary>
public sealed record SourceState(Source Source, Revision? Latest, int Underway)
{
    /// <summary>How many of its deliveries are held until a coordinator decides.</summary>
    public int Held { get; init; }

    /// <summary>Where it lies, with the evidence; null while it is not set out.</summary>
    public SettingOutDocument? SetOut { get; init; }

    /// <summary>The acceptance that it rests on; null while it is not set out.</summary>
    public Guid? SetOutId { get; init; }

    /// <summary>From its own frame into the job's; while it is not set out it lies as it came.</summary>
    public Geometry.Frame Frame => SetOut?.Frame ?? Geometry.Frame.Identity;

    /// <summary>Its place among the sources of its party, from 1; 0 when it is the only one.</summary>
    public int Among { get; init; }

    /// <summary>What to call it where there is little room: the party's code, with a number where the party has several, <c>ARC
    /// 2</c>.</summary>
    public string Mark => Among == 0 ? Source.Party.Code : $"{Source.Party.Code} {Among}";

    /// <summary>What to call it: the party's code, with the source's name where the party has several, <c>ARC Terminal</c>.</summary>
    public string Title => Among == 0 ? Source.Party.Code : $"{Source.Party.Code} {Source.Name}";

    /// <summary>The same with the revision, <c>ARC r3</c>.</summary>
    public string Label => Latest is null ? Title : $"{Title} r{Latest.Number}";

    /// <summary>The same sources, distinguished where a party has several.</summary>
    internal static List<SourceState> ToldApart(IEnumerable<SourceState> sources) =>
        [
            .. sources
                .GroupBy(s => s.Source.PartyId)
                .SelectMany(g => g.Count() == 1 ? g : g.Select((s, n) => s with { Among = n + 1 })),
        ];
}

/// <summary>What a job holds now: newest revisions, their storeys and counts, matched into one schedule. Four queries, whatever the
/// size.</summary>
public sealed class JobState
{
    private JobState(
        Guid job,
        IReadOnlyList<SourceState> sources,
        IReadOnlyList<SourceState> drawings,
        IReadOnlyList<SourceStorey> storeys,
        LevelSchedule schedule,
        ILookup<int, FacetRow> facets
    ) => (Job, Sources, Drawings, Storeys, Schedule, Facets) = (job, sources, drawings, storeys, schedule, facets);

    /// <summary>The job.</summary>
    public Guid Job { get; }

    /// <summary>The sources of models, and those nothing has come from yet, by party.</summary>
    public IReadOnlyList<SourceState> Sources { get; }

    /// <summary>The sources of drawings with their newest, by party.</summary>
    public IReadOnlyList<SourceState> Drawings { get; }

    /// <summary>The storeys of the newest revisions; the source numbers are those of <see cref="Sources"/>.</summary>
    public IReadOnlyList<SourceStorey> Storeys { get; }

    /// <summary>What a source calls its storey; empty for none.</summary>
    public string StoreyName(int source, int storey) =>
        Storeys.FirstOrDefault(s => s.Source == source && s.Number == storey)?.Name ?? "";

    /// <summary>The job's storeys over all sources; the source numbers are those of <see cref="Sources"/>.</summary>
    public LevelSchedule Schedule { get; }

    /// <summary>Counts of each source's newest revision.</summary>
    public ILookup<int, FacetRow> Facets { get; }

    /// <summary>The newest revisions, of models and drawings.</summary>
    public IReadOnlySet<Guid> Newest =>
        field ??= Sources.Concat(Drawings).Select(s => s.Latest?.Id).OfType<Guid>().ToHashSet();

    /// <summary>The elements of the newest revisions: those that have a body and are no rooms.</summary>
    public int Elements => Sources.Sum(s => s.Latest?.Bodies ?? 0);

    /// <summary>Whether there is anything to see: elements, annotations or rooms.</summary>
    public bool HasModels => Sources.Any(s => s.Latest?.Elements > 0);

    /// <summary>Loads the state of a job.</summary>
    public static async Task<JobState> LoadAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var rows = await db
            .Sources.AsNoTracking()
            .Where(s => s.JobId == job)
            .Where(SourceSuggestion.IsSeen)
            .Include(s => s.Party)
            .OrderBy(s => s.Party.Code)
            .ThenBy(s => s.Name)
            .Select(s => new
            {
                Source = s,
                s.Party,
                Latest = s
                    .Revisions.AsQueryable()
                    .Where(r => r.Kind == RevisionKind.Model)
                    .OrderByDescending(r => r.Number)
                    .Select(Revisions.WithoutReport)
                    .FirstOrDefault(),
                Drawing = s
                    .Revisions.AsQueryable()
                    .Where(r => r.Kind == RevisionKind.Drawing)
                    .OrderByDescending(r => r.Number)
                    .Select(Revisions.WithoutReport)
                    .FirstOrDefault(),
                Underway = s.Deliveries.Count(d => d.State < DeliveryState.Ready),
                Held = s.Deliveries.Count(d => d.State == DeliveryState.Held),
            })
            .ToListAsync(cancel);
        foreach (var row in rows)
            row.Source.Party = row.Party;
        var frames = await SourceFrames.LoadAsync(db, job, cancel);
        var sources = SourceState.ToldApart(
            rows.Where(r => r.Latest is not null || r.Drawing is null)
                .Select(r => Stands(r.Source, r.Latest, r.Underway, r.Held))
        );
        var drawings = SourceState.ToldApart(
            rows.Where(r => r.Drawing is not null).Select(r => Stands(r.Source, r.Drawing, r.Underway, r.Held))
        );
        var ids = sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        var number = sources
            .Select((s, n) => (s, n))
            .Where(p => p.s.Latest is not null)
            .ToDictionary(p => p.s.Latest!.Id, p => p.n);
        var levels = await db.Levels.AsNoTracking().Where(l => ids.Contains(l.RevisionId)).ToListAsync(cancel);
        var facets = await db.Facets.AsNoTracking().Where(f => ids.Contains(f.RevisionId)).ToListAsync(cancel);
        var storeys = LevelSchedule.InJob(
            [
                .. levels
                    .OrderBy(l => l.Number)
                    .Select(l => new SourceStorey(number[l.RevisionId], l.Number, l.Name, l.Elevation, l.PlacementZ)),
            ],
            n => sources[n].Frame
        );
        string? kept = await db
            .Jobs.AsNoTracking()
            .Where(j => j.Id == job)
            .Select(j => j.Levels)
            .FirstOrDefaultAsync(cancel);
        var schedule = LevelDocument.Read(kept).Schedule([.. sources.Select(s => s.Source.Id.ToString())], storeys);
        return new JobState(job, sources, drawings, storeys, schedule, facets.ToLookup(f => number[f.RevisionId]));

        SourceState Stands(Source source, Revision? newest, int underway, int waiting)
        {
            var held = newest is null ? null : frames.Holding(source.Id, newest.Number);
            return new SourceState(source, newest, underway)
            {
                SetOut = held?.Document,
                SetOutId = held?.Id,
                Held = waiting,
            };
        }
    }
}
