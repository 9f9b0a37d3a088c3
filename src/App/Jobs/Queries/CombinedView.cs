using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What became of the elements of a source since an older revision, for the picture.</summary>
/// <param name="Older">The older revision.</param>
/// <param name="Elements">How many elements it has.</param>
/// <param name="Picture">What was added, changed and removed.</param>
/// <param name="Removed">The removed elements of the older revision.</param>
/// <param name="Storeys">The number that each storey of the older revision has in the newest, by GlobalId, else by name; those that are
/// gone are left out.</param>
/// <param name="Chunks">The older revision's geometry.</param>
/// <param name="Frame">From the older revision's frame into the job's.</param>
public sealed record SourceChanges(
    Guid Older,
    int Elements,
    ChangePicture Picture,
    IReadOnlyList<ViewedElement> Removed,
    IReadOnlyDictionary<int, int> Storeys,
    IReadOnlyList<ChunkRow> Chunks,
    Geometry.Frame Frame
);

/// <summary>What an element counts under in the chips of a picture.</summary>
/// <param name="Number">The element.</param>
/// <param name="Storey">Its storey's number, -1 for none.</param>
/// <param name="Class">Its class.</param>
/// <param name="Layer">Its layers, a line each.</param>
public sealed record ViewedElement(int Number, int Storey, string Class, string Layer);

/// <summary>What the combined view asks of a job.</summary>
/// <param name="db">The database.</param>
public sealed class CombinedView(LintelDb db)
{
    private const int PiecesAtOnce = 48;

    /// <summary>The geometry of some revisions, in pieces.</summary>
    public Task<List<ChunkRow>> ChunksAsync(IReadOnlyList<Guid> revisions, CancellationToken cancel) =>
        db
            .Chunks.AsNoTracking()
            .Where(c => revisions.Contains(c.RevisionId))
            .OrderBy(c => c.RevisionId)
            .ThenBy(c => c.Number)
            .ToListAsync(cancel);

    /// <summary>The contents of a revision's pieces, unpacked, those with most triangles first.</summary>
    /// <param name="revision">The revision.</param>
    /// <param name="without">The class that is left out.</param>
    /// <param name="cancel">Stops it.</param>
    public async IAsyncEnumerable<byte[]> PiecesAsync(
        Guid revision,
        string without,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var hashes = await db
            .Chunks.AsNoTracking()
            .Where(c => c.RevisionId == revision && c.Class != without)
            .OrderByDescending(c => c.Triangles)
            .ThenBy(c => c.Number)
            .Select(c => c.Hash)
            .ToListAsync(cancel);
        foreach (var batch in hashes.Chunk(PiecesAtOnce))
        {
            var contents = await db
                .ChunkContents.AsNoTracking()
                .Where(c => batch.Contains(c.Hash))
                .ToDictionaryAsync(c => c.Hash, c => c.Bytes, cancel);
            foreach (string hash in batch)
                yield return GeometryChunk.Unpack(contents[hash]);
        }
    }

    /// <summary>What the picture of a revision is named by, another one when its pieces are others; null where it is none of the
    /// job's.</summary>
    public async Task<string?> PictureVersionAsync(Guid job, Guid revision, CancellationToken cancel) =>
        await db.Revisions.AnyAsync(v => v.Id == revision && v.Delivery.Source.JobId == job, cancel)
            ? PictureVersion(
                await db
                    .Chunks.Where(c => c.RevisionId == revision)
                    .OrderBy(c => c.Number)
                    .Select(c => c.Hash)
                    .ToListAsync(cancel)
            )
            : null;

    /// <summary>What a picture is named by.</summary>
    /// <param name="hashes">Of its pieces, in their order.</param>
    public static string PictureVersion(IEnumerable<string> hashes) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(string.Concat(hashes))))[..16];

    /// <summary>The content of a piece; null where no revision of the job has it.</summary>
    public Task<byte[]?> ChunkAsync(Guid job, string hash, CancellationToken cancel) =>
        db
            .ChunkContents.AsNoTracking()
            .Where(c =>
                c.Hash == hash
                && db.Chunks.Any(r =>
                    r.Hash == hash && db.Revisions.Any(v => v.Id == r.RevisionId && v.Delivery.Source.JobId == job)
                )
            )
            .Select(c => c.Bytes)
            .FirstOrDefaultAsync(cancel)!;

    /// <summary>What every element of a revision counts under.</summary>
    public IAsyncEnumerable<ViewedElement> PlacesAsync(Guid revision) =>
        db
            .Elements.AsNoTracking()
            .Where(e => e.RevisionId == revision)
            .Select(e => new ViewedElement(e.Number, e.Storey, e.Class, e.Layer))
            .AsAsyncEnumerable();

    /// <summary>What changed in a source since one of its older revisions; null where one of the two cannot be compared.</summary>
    public async Task<SourceChanges?> ChangesAsync(
        Guid job,
        Guid source,
        Guid newest,
        int old,
        CancellationToken cancel
    )
    {
        var older = await db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == source && r.Number == old && r.Kind == RevisionKind.Model)
            .Select(r => new { r.Id, r.Elements })
            .FirstOrDefaultAsync(cancel);
        if (
            older is null
            || await StoredFingerprints.LoadAsync(db, older.Id, newest, cancel) is not ({ } before, { } after)
        )
            return null;
        var picture = await Task.Run(
            () => ChangePicture.Of(RevisionComparer.Compare(before, after), before, after),
            cancel
        );
        var frames = await SourceFrames.LoadAsync(db, job, cancel);
        return new SourceChanges(
            older.Id,
            older.Elements,
            picture,
            await db
                .Elements.AsNoTracking()
                .Where(e => e.RevisionId == older.Id && picture.Removed.Contains(e.Number))
                .Select(e => new ViewedElement(e.Number, e.Storey, e.Class, e.Layer))
                .ToListAsync(cancel),
            await StoreysAsync(older.Id, newest, cancel),
            await db.Chunks.AsNoTracking().Where(c => c.RevisionId == older.Id).ToListAsync(cancel),
            frames.FrameOf(source, old)
        );
    }

    /// <summary>The elements that a figure of a transmittal's balance counts, and whose it is; null where the job has no such
    /// transmittal.</summary>
    /// <exception cref="OrderException">The figure cannot be looked up.</exception>
    public async Task<(Transmittal Run, IReadOnlyList<string> Ids, bool More)?> FigureAsync(
        JobState state,
        Guid transmittal,
        BalanceFigure figure,
        CancellationToken cancel
    )
    {
        var run = await db
            .Transmittals.AsNoTracking()
            .Include(t => t.Order)
            .FirstOrDefaultAsync(t => t.Id == transmittal && t.Order.JobId == state.Job && t.Result != null, cancel);
        if (run is null)
            return null;
        var balance = TransmittalResult.Of(run)!.Reconciliation;
        var (ids, more) = await figure.ElementsAsync(db, state, run, balance, cancel);
        return (run, ids, more);
    }

    /// <summary>An element that was picked; null where the revision has none of the number.</summary>
    public async Task<PickedElement?> ElementAsync(Delivery delivery, int number, CancellationToken cancel)
    {
        var row = await db
            .Elements.AsNoTracking()
            .FirstOrDefaultAsync(e => e.RevisionId == delivery.Id && e.Number == number, cancel);
        if (row is null)
            return null;
        var level = await db
            .Levels.AsNoTracking()
            .FirstOrDefaultAsync(l => l.RevisionId == delivery.Id && l.Number == row.Storey, cancel);
        double? above = row.Box is { } box && level is not null ? box[2] - (level.PlacementZ ?? level.Elevation) : null;
        var frames = await SourceFrames.LoadAsync(db, delivery.Source.JobId, cancel);
        return new PickedElement(
            delivery,
            row,
            await IntakeStore.FactsAsync(db, row, cancel),
            above,
            frames.FrameOf(delivery.SourceId, delivery.Revision!.Number)
        );
    }

    private async Task<Dictionary<int, int>> StoreysAsync(Guid older, Guid newest, CancellationToken cancel)
    {
        var levels = await db
            .Levels.AsNoTracking()
            .Where(l => l.RevisionId == older || l.RevisionId == newest)
            .ToListAsync(cancel);
        var now = levels.Where(l => l.RevisionId == newest).ToList();
        LevelRow? Now(LevelRow l) =>
            now.Find(n => n.GlobalId.Length > 0 && n.GlobalId == l.GlobalId) ?? now.Find(n => n.Name == l.Name);
        return levels
            .Where(l => l.RevisionId == older)
            .Select(l => (l.Number, Now: Now(l)))
            .Where(p => p.Now is not null)
            .ToDictionary(p => p.Number, p => p.Now!.Number);
    }
}
