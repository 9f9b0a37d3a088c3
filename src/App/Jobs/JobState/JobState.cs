using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A source as it is: its newest revision and what is under way.</summary>
/// <param name="Source">The source.</param>
/// <param name="Latest">Its newest revision of the kind; null while nothing has come.</param>
/// <param name="Known">What Core knows of it.</param>
/// <param name="Underway">How many of its deliveries are being read.</param>
public sealed record SourceState(Source Source, Revision? Latest, JobSource Known, int Underway)
{
    /// <summary>How many of its deliveries are held until a coordinator decides.</summary>
    public int Held { get; init; }

    /// <summary>Where it lies, with the evidence; null while it is not set out.</summary>
    public SettingOutDocument? SetOut => Known.Place?.Document;

    /// <summary>Of a drawing: how it is prepared.</summary>
    public PreparationDocument Preparation => Known.Place?.Preparation ?? PreparationDocument.Empty;

    /// <summary>The acceptance that it rests on; null while it is not set out.</summary>
    public Guid? SetOutId => Known.Place?.Id;

    /// <summary>From its own frame into the job's; while it is not set out it lies as it came.</summary>
    public Geometry.Frame Frame => Known.Frame;

    /// <inheritdoc cref="JobSource.Mark"/>
    public string Mark => Known.Mark;

    /// <inheritdoc cref="JobSource.Title"/>
    public string Title => Known.Title;

    /// <inheritdoc cref="JobSource.Label"/>
    public string Label => Known.Label;
}

/// <summary>What a job holds now: what Core knows of it (<see cref="JobModel"/>), with its rows and counts. Six queries, whatever the
/// size.</summary>
public sealed class JobState
{
    private JobState(
        JobModel model,
        IReadOnlyList<SourceState> sources,
        IReadOnlyList<SourceState> drawings,
        ILookup<int, FacetRow> facets
    ) => (Model, Sources, Drawings, Facets) = (model, sources, drawings, facets);

    /// <summary>What Core knows of it.</summary>
    public JobModel Model { get; }

    /// <summary>The job.</summary>
    public Guid Job => Model.Id;

    /// <summary>The sources of models, and those nothing has come from yet, by party.</summary>
    public IReadOnlyList<SourceState> Sources { get; }

    /// <summary>The sources of drawings with their newest, by party.</summary>
    public IReadOnlyList<SourceState> Drawings { get; }

    /// <summary>The storeys of the newest revisions; the source numbers are those of <see cref="Sources"/>.</summary>
    public IReadOnlyList<SourceStorey> Storeys => Model.Storeys;

    /// <summary>What a source calls its storey; empty for none.</summary>
    public string StoreyName(int source, int storey) =>
        Storeys.FirstOrDefault(s => s.Source == source && s.Number == storey)?.Name ?? "";

    /// <summary>What a source calls its storeys, from below.</summary>
    public IReadOnlyList<string> StoreyNames(SourceState source) =>
        [.. Storeys.Where(s => Sources[s.Source] == source).OrderBy(s => s.Number).Select(s => s.Name).Distinct()];

    /// <summary>The job's storeys over all sources; the source numbers are those of <see cref="Sources"/>.</summary>
    public LevelSchedule Schedule => Model.Schedule;

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
            .Where(Revisions.IsSeen)
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
        var places = await SourceFrames.LoadAsync(db, job, cancel);
        var models = Distinguished(
            rows.Where(r => r.Latest is not null || r.Drawing is null)
                .Select(r => Stands(r.Source, r.Latest, r.Underway, r.Held))
        );
        var drawings = Distinguished(
            rows.Where(r => r.Drawing is not null).Select(r => Stands(r.Source, r.Drawing, r.Underway, r.Held))
        );
        var ids = models.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        var number = models
            .Select((s, n) => (s, n))
            .Where(p => p.s.Latest is not null)
            .ToDictionary(p => p.s.Latest!.Id, p => p.n);
        var levels = await db.Levels.AsNoTracking().Where(l => ids.Contains(l.RevisionId)).ToListAsync(cancel);
        var facets = await db.Facets.AsNoTracking().Where(f => ids.Contains(f.RevisionId)).ToListAsync(cancel);
        string? kept = await db
            .Jobs.AsNoTracking()
            .Where(j => j.Id == job)
            .Select(j => j.Levels)
            .FirstOrDefaultAsync(cancel);
        var model = new JobModel(
            job,
            models.ConvertAll(s => s.Known),
            drawings.ConvertAll(s => s.Known),
            [
                .. levels
                    .OrderBy(l => l.Number)
                    .Select(l => new SourceStorey(number[l.RevisionId], l.Number, l.Name, l.Elevation, l.PlacementZ)),
            ],
            LevelDocument.Read(kept),
            await ItemsAsync(db, job, cancel)
        );
        return new JobState(model, models, drawings, facets.ToLookup(f => number[f.RevisionId]));

        SourceState Stands(Source source, Revision? newest, int underway, int waiting) =>
            new(
                source,
                newest,
                new JobSource(source.Id, source.Party.Code, source.Name, newest?.Kind == RevisionKind.Drawing)
                {
                    Newest = newest is null
                        ? null
                        : new JobRevision(
                            newest.Id,
                            newest.Number,
                            newest.Delivery.FileName,
                            newest.Delivery.ReceivedAt
                        ),
                    Place = newest is null ? null : places.Of(source.Id, newest.Number),
                    IsRetired = source.RetiredAt is not null,
                    Amendments = source.Amendments,
                    AmendedAt = source.AmendedAt,
                },
                underway
            )
            {
                Held = waiting,
            };
    }

    private static List<SourceState> Distinguished(IEnumerable<SourceState> sources)
    {
        var byId = sources.ToDictionary(s => s.Source.Id);
        return
        [
            .. JobSource.Distinguished(byId.Values.Select(s => s.Known)).Select(k => byId[k.Id] with { Known = k }),
        ];
    }

    private static Task<List<JobItem>> ItemsAsync(LintelDb db, Guid job, CancellationToken cancel) =>
        db.NewestItems(job)
            .OrderBy(i => i.Kind)
            .ThenBy(i => i.Name)
            .Select(i => new JobItem(i.Kind, i.Name, i.Version, i.MadeAt))
            .ToListAsync(cancel);
}
