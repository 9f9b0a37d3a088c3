using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Notes when the frame of a source jumped between two revisions, so that it is seen before somebody builds on it.</summary>
public static class FrameJumps
{
    /// <summary>Compares a new revision with the one before, in the caller's transaction.</summary>
    public static async Task NoteAsync(LintelDb db, Guid revision, CancellationToken cancel)
    {
        var now = await db
            .Revisions.AsNoTracking()
            .Where(r => r.Id == revision)
            .Select(r => new { r.SourceId, r.Number })
            .FirstAsync(cancel);
        var before = await db
            .Revisions.AsNoTracking()
            .Where(r =>
                r.SourceId == now.SourceId && r.Kind == RevisionKind.Model && r.Number > 0 && r.Number < now.Number
            )
            .OrderByDescending(r => r.Number)
            .Select(r => (Guid?)r.Id)
            .FirstOrDefaultAsync(cancel);
        if (
            before is not { } old
            || await StoredFingerprints.LoadAsync(db, old, cancel) is not { } first
            || await StoredFingerprints.LoadAsync(db, revision, cancel) is not { } second
        )
            return;
        string? jump = RevisionComparer.JumpOf(first, second) is { } found
            ? JsonSerializer.Serialize(found, IntakeStore.Json)
            : null;
        await db
            .Revisions.Where(r => r.Id == revision)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.Jump, jump), cancel);
    }

    /// <summary>The newest models of a job whose frame jumped, and that nobody has set out since; by source.</summary>
    public static async Task<HashSet<Guid>> OpenAsync(LintelDb db, Guid job, CancellationToken cancel) =>
        (
            await db
                .Revisions.AsNoTracking()
                .Where(r =>
                    r.Delivery.Source.JobId == job
                    && r.Jump != null
                    && r.Kind == RevisionKind.Model
                    && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
                    && !db.SettingOuts.Any(s =>
                        s.SourceId == r.SourceId && s.TakenBackAt == null && s.FromRevision == r.Number
                    )
                )
                .Select(r => r.SourceId)
                .ToListAsync(cancel)
        ).ToHashSet();
}
