using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The level schedule of a job: kept with it. Storeys of a revision are matched where they are on a level without doubt; the
/// others
/// wait for a coordinator (<see cref="LevelEditing.ConfirmAsync"/>).</summary>
public static class JobLevels
{
    /// <summary>The schedule for some revisions, whose numbers are their places in the list.</summary>
    public static async Task<LevelSchedule> LoadAsync(
        LintelDb db,
        Guid job,
        IReadOnlyList<Guid> deliveries,
        CancellationToken cancel
    )
    {
        string? json = await db.Jobs.AsNoTracking().Where(j => j.Id == job).Select(j => j.Levels).FirstAsync(cancel);
        var (sources, storeys) = await StoreysAsync(db, deliveries, cancel);
        return LevelDocument.Read(json).Schedule(sources, storeys);
    }

    /// <summary>Matches the storeys of a new revision that are on a level of the job without doubt, in the caller's transaction; other
    /// revisions
    /// of the job wait meanwhile.</summary>
    public static async Task MatchAsync(LintelDb db, Guid job, Guid delivery, CancellationToken cancel)
    {
        string? json = (
            await db
                .Database.SqlQuery<string?>($"SELECT levels::text AS \"Value\" FROM jobs WHERE id = {job} FOR UPDATE")
                .ToListAsync(cancel)
        )[0];
        var (sources, storeys) = await StoreysAsync(db, [delivery], cancel);
        var document = LevelDocument.Read(json);
        // A job without a schedule gets one when somebody says which source gives it.
        if (document.Levels.Count == 0)
            return;
        string matched = document.WithSure(sources, storeys).Write();
        await db.Jobs.Where(j => j.Id == job).ExecuteUpdateAsync(u => u.SetProperty(j => j.Levels, matched), cancel);
    }

    /// <summary>Finds a level for every storey of the newest models that has none and is on one without doubt, in the caller's
    /// transaction.</summary>
    public static async Task CompleteAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        string? json = await db.Jobs.AsNoTracking().Where(j => j.Id == job).Select(j => j.Levels).FirstAsync(cancel);
        string completed = LevelDocument
            .Read(json)
            .WithSure([.. state.Sources.Select(s => s.Source.Id.ToString())], state.Storeys)
            .Write();
        await db.Jobs.Where(j => j.Id == job).ExecuteUpdateAsync(u => u.SetProperty(j => j.Levels, completed), cancel);
    }

    /// <summary>Matches the storeys of a source's newest model again, because it lies elsewhere now; what somebody matched by hand
    /// stays, and so do levels that somebody made or that others are on.</summary>
    public static async Task RematchAsync(LintelDb db, Guid job, Guid source, CancellationToken cancel)
    {
        string? json = (
            await db
                .Database.SqlQuery<string?>($"SELECT levels::text AS \"Value\" FROM jobs WHERE id = {job} FOR UPDATE")
                .ToListAsync(cancel)
        )[0];
        var newest = await db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == source && r.Kind == RevisionKind.Model)
            .OrderByDescending(r => r.Number)
            .Select(r => (Guid?)r.Id)
            .FirstOrDefaultAsync(cancel);
        var document = LevelDocument.Read(json).Without(source.ToString());
        if (newest is { } revision)
        {
            var (sources, storeys) = await StoreysAsync(db, [revision], cancel);
            document = document.WithSure(sources, storeys);
        }

        string written = document.Write();
        await db.Jobs.Where(j => j.Id == job).ExecuteUpdateAsync(u => u.SetProperty(j => j.Levels, written), cancel);
    }

    private static async Task<(List<string> Sources, IReadOnlyList<SourceStorey> Storeys)> StoreysAsync(
        LintelDb db,
        IReadOnlyList<Guid> deliveries,
        CancellationToken cancel
    )
    {
        var sources = await db
            .Revisions.AsNoTracking()
            .Where(d => deliveries.Contains(d.Id))
            .Select(r => new
            {
                r.Id,
                r.SourceId,
                r.Number,
                r.Delivery.Source.JobId,
            })
            .ToDictionaryAsync(d => d.Id, cancel);
        var job = sources.Values.Select(s => s.JobId).FirstOrDefault();
        var frames = await SourceFrames.LoadAsync(db, job, cancel);
        var levels = await db
            .Levels.AsNoTracking()
            .Where(l => deliveries.Contains(l.RevisionId))
            .OrderBy(l => l.Number)
            .ToListAsync(cancel);
        var number = deliveries.Select((d, n) => (d, n)).ToDictionary(p => p.d, p => p.n);
        return (
            [.. deliveries.Select(d => sources[d].SourceId.ToString())],
            LevelSchedule.InJob(
                levels.ConvertAll(l => new SourceStorey(
                    number[l.RevisionId],
                    l.Number,
                    l.Name,
                    l.Elevation,
                    l.PlacementZ
                )),
                n => frames.FrameOf(sources[deliveries[n]].SourceId, sources[deliveries[n]].Number)
            )
        );
    }
}
