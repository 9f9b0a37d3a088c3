using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A revision of a source.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Number">Its number.</param>
/// <param name="File">The name of its file.</param>
/// <param name="Blob">Its content.</param>
public sealed record RevisionLine(Guid Id, int Number, string File, Guid Blob);

/// <summary>The revisions of a source, to be compared.</summary>
/// <param name="db">The database.</param>
public sealed class RevisionHistory(LintelDb db)
{
    /// <summary>A source of a job; null where it is none of this job's.</summary>
    public Task<Source?> SourceAsync(Guid job, Guid source, CancellationToken cancel) =>
        db
            .Sources.AsNoTracking()
            .Include(s => s.Party)
            .FirstOrDefaultAsync(s => s.Id == source && s.JobId == job, cancel);

    /// <summary>Its revisions of a kind, the newest first.</summary>
    public Task<List<RevisionLine>> RevisionsAsync(Guid source, RevisionKind kind, CancellationToken cancel) =>
        db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == source && r.Kind == kind)
            .OrderByDescending(r => r.Number)
            .Select(r => new RevisionLine(r.Id, r.Number, r.Delivery.FileName, r.Delivery.BlobId))
            .ToListAsync(cancel);

    /// <summary>The fingerprints of two revisions; null of one that was read by an older version of the program.</summary>
    public Task<(RevisionFingerprint? Old, RevisionFingerprint? Now)> FingerprintsAsync(
        Guid older,
        Guid newer,
        CancellationToken cancel
    ) => StoredFingerprints.LoadAsync(db, older, newer, cancel);

    /// <summary>The names of the storeys of two revisions, by GlobalId.</summary>
    public async Task<IReadOnlyDictionary<string, string>> StoreyNamesAsync(
        Guid older,
        Guid newer,
        CancellationToken cancel
    ) =>
        (
            await db
                .Levels.AsNoTracking()
                .Where(l => (l.RevisionId == older || l.RevisionId == newer) && l.GlobalId != "")
                .Select(l => new { l.GlobalId, l.Name })
                .ToListAsync(cancel)
        )
            .GroupBy(l => l.GlobalId)
            .ToDictionary(g => g.Key, g => g.Last().Name);

    /// <summary>Whether a setting-out holds from exactly this revision on.</summary>
    public Task<bool> IsSetOutFromAsync(Guid source, int revision, CancellationToken cancel) =>
        db.SettingOuts.AnyAsync(
            s => s.SourceId == source && s.TakenBackAt == null && s.FromRevision == revision,
            cancel
        );

    /// <summary>The frame of a revision; as it came where it is not set out.</summary>
    public async Task<Frame> FrameAsync(Guid job, Guid source, int revision, CancellationToken cancel) =>
        (await SourceFrames.LoadAsync(db, job, cancel)).FrameOf(source, revision);
}
