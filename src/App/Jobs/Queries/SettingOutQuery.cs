using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A setting-out that was accepted.</summary>
/// <param name="Row">When, for which revisions, and whether it still holds.</param>
/// <param name="Document">What was accepted.</param>
/// <param name="Preparation">Of a drawing: how it is prepared.</param>
/// <param name="By">Who did.</param>
public sealed record AcceptedSettingOut(
    SettingOutRow Row,
    SettingOutDocument Document,
    PreparationDocument Preparation,
    string By
);

/// <summary>What the pages of the second stop ask of a job.</summary>
/// <param name="db">The database.</param>
public sealed class SettingOutQuery(LintelDb db)
{
    // Enough corners to pick from, and quick to send: the pieces with fewest triangles have most corners each.
    private const int MostChunks = 200;

    /// <summary>What the newest models of a job declare, by source.</summary>
    public async Task<IReadOnlyDictionary<Guid, FrameFacts>> FactsAsync(JobState state, CancellationToken cancel)
    {
        var ids = state.Sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        return (
            await db
                .Revisions.AsNoTracking()
                .Where(r => ids.Contains(r.Id) && r.Frame != null)
                .Select(r => new { r.SourceId, r.Frame })
                .ToListAsync(cancel)
        ).ToDictionary(r => r.SourceId, r => JsonSerializer.Deserialize<FrameFacts>(r.Frame!, IntakeStore.Json)!);
    }

    /// <summary>The sources whose newest model's frame jumped, and that nobody has set out since.</summary>
    public async Task<IReadOnlySet<Guid>> JumpedAsync(Guid job, CancellationToken cancel) =>
        await FrameJumps.OpenAsync(db, job, cancel);

    /// <summary>What was accepted for a source, the newest first.</summary>
    public async Task<IReadOnlyList<AcceptedSettingOut>> HistoryAsync(Guid source, CancellationToken cancel)
    {
        var rows = await db
            .SettingOuts.AsNoTracking()
            .Where(s => s.SourceId == source)
            .OrderByDescending(s => s.AcceptedAt)
            .Select(s => new
            {
                Row = s,
                By = db.Users.Where(u => u.Id == s.AcceptedBy).Select(u => u.DisplayName).FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(r => new AcceptedSettingOut(
                r.Row,
                SettingOutDocument.Read(r.Row.Document),
                PreparationDocument.Read(r.Row.Preparation),
                r.By ?? "somebody who left"
            )),
        ];
    }

    /// <summary>Outlines of a model in plan, in its own frame.</summary>
    public Task<IReadOnlyList<Box>> OutlinesAsync(Guid revision, CancellationToken cancel) =>
        PlanOutlines.LoadAsync(db, revision, cancel);

    /// <summary>Corners of a model's elements in plan, metres in its own frame, for picks to be caught by.</summary>
    public async Task<IReadOnlyList<Vec3>> CornersAsync(Guid revision, CancellationToken cancel)
    {
        var chunks = await db
            .Chunks.AsNoTracking()
            .Where(c => c.RevisionId == revision && c.Class != "IfcSpace")
            .OrderBy(c => c.Triangles)
            .Take(MostChunks)
            .Join(db.ChunkContents, c => c.Hash, k => k.Hash, (c, k) => k.Bytes)
            .ToListAsync(cancel);
        return [.. ChunkCorners.Of(chunks)];
    }

    /// <summary>The level schedule as it is kept.</summary>
    public async Task<LevelDocument> LevelsAsync(Guid job, CancellationToken cancel) =>
        LevelDocument.Read(
            await db.Jobs.AsNoTracking().Where(j => j.Id == job).Select(j => j.Levels).FirstAsync(cancel)
        );

    /// <summary>Beams, columns and braces of the newest models.</summary>
    public Task<IReadOnlyList<JobMember>> MembersAsync(JobState state, CancellationToken cancel) =>
        JobStructuralMembers.LoadAsync(db, state, cancel);
}
