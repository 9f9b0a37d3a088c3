using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Receives files: in pieces, so that a lost connection or a restarted server costs one piece; or whole.</summary>
/// <param name="db">The database.</param>
/// <param name="queue">Takes what has arrived.</param>
/// <param name="options">How work is watched.</param>
/// <param name="space">Whether there is room.</param>
public sealed class Receiving(LintelDb db, IWorkQueue queue, WorkOptions options, StorageQuota space)
{
    /// <summary>The longest name of a source, characters.</summary>
    public const int LongestName = 80;

    private const int LongestFileName = 200;

    private static readonly string[] DrawingEndings = [".dwg", ".dxf"];

    /// <summary>Begins a delivery, or goes on with one of the same file by the same person that was interrupted.</summary>
    /// <param name="party">The party it comes from.</param>
    /// <param name="source">The source's name; the party's discipline when empty.</param>
    /// <param name="fileName">The file's name as sent.</param>
    /// <param name="length">Its length in bytes.</param>
    /// <param name="by">Who sends it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="apart">Whether a drawing sent to a source of models, or the other way round, goes into a source of its own; else that
    /// is
    /// asked.</param>
    /// <exception cref="RefusedException">The file is empty or too long, or there is no room for it.</exception>
    /// <exception cref="AskedException">The source has had files of the other kind.</exception>
    public async Task<Delivery> BeginAsync(
        Party party,
        string? source,
        string? fileName,
        long length,
        Actor by,
        CancellationToken cancel,
        bool apart = true
    )
    {
        if (length > UploadLimits.MaxBytes)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"The file is longer than {UploadLimits.MaxBytes >> 20} MB; ask for it in parts."
            );
        if (length <= 0)
            throw new RefusedException(RefusalKind.Wrong, "The file is empty (0 bytes); ask for it to be sent again.");
        string file = Path.GetFileName(InputRules.Of(fileName, "The file's name", 1000, false).Replace('\\', '/'));
        source = InputRules.Of(source, "The source's name", LongestName, false);
        // One after the other in a job, so that two files together do not take more than there is.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {party.JobId} FOR NO KEY UPDATE", cancel);
        file = file.Length == 0 ? "model.ifc" : file[..Math.Min(LongestFileName, file.Length)];
        string wanted = source.Length == 0 ? party.Discipline : source;
        if (await InterruptedAsync(party, file, length, by, cancel) is { } open)
            return open;
        await space.CheckAsync(party.JobId, by.User, length, cancel);
        var target = await SourceAsync(party, wanted, file, apart, cancel);
        await SourceLocks.CheckAsync(db, target, by, cancel);
        var delivery = new Delivery
        {
            Id = Guid.NewGuid(),
            SourceId = target.Id,
            FileName = file,
            Length = length,
            BlobId = Guid.NewGuid(),
            ReceivedAt = DateTime.UtcNow,
            ReceivedBy = by.User,
        };
        db.Deliveries.Add(delivery);
        db.Note(by, party.JobId, "sent", $"{delivery.FileName} for {party.Code} {target.Name}");
        await SaveWithSourceAsync(delivery, target, cancel);
        await transaction.CommitAsync(cancel);
        return delivery;
    }

    // An upload that stopped on its way: the pieces that are here need not be sent again.
    private Task<Delivery?> InterruptedAsync(
        Party party,
        string file,
        long length,
        Actor by,
        CancellationToken cancel
    ) =>
        db
            .Deliveries.Where(d =>
                d.Source.PartyId == party.Id
                && d.State == DeliveryState.Receiving
                && d.FileName == file
                && d.Length == length
                && d.ReceivedBy == by.User
                && !d.CancelRequested
            )
            .OrderBy(d => d.ReceivedAt)
            .FirstOrDefaultAsync(cancel);

    /// <summary>Takes one piece.</summary>
    /// <param name="delivery">The delivery.</param>
    /// <param name="number">The piece's number, from 0.</param>
    /// <param name="length">How many bytes are announced.</param>
    /// <param name="read">Reads them.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The piece is not one of the file's, or the delivery was cancelled.</exception>
    public async Task PieceAsync(
        Delivery delivery,
        int number,
        long? length,
        Func<byte[], Task<int>> read,
        CancellationToken cancel
    )
    {
        if (delivery.CancelRequested)
            throw new RefusedException(RefusalKind.Conflict, "This delivery was cancelled.");
        long from = (long)number * Blobs.PieceLength;
        if (number < 0 || from >= delivery.Length)
            throw new RefusedException(RefusalKind.Wrong, "A piece is outside the file.");
        var bytes = new byte[Math.Min(Blobs.PieceLength, delivery.Length - from)];
        if (length != bytes.Length)
            throw new RefusedException(RefusalKind.Wrong, "A piece has the wrong length.");
        // Whoever posts a form has its body read before it comes here.
        if (await read(bytes) < bytes.Length)
            throw new RefusedException(
                RefusalKind.Wrong,
                "A piece must be sent as bytes (application/octet-stream), not as a form."
            );
        await StorageQuota.KeepAsync(() => db.Blobs.PutAsync(delivery.BlobId, number, bytes, cancel));
        await db.Database.ExecuteSqlAsync($"UPDATE deliveries SET beat = now() WHERE id = {delivery.Id}", cancel);
    }

    /// <summary>Ends a delivery and has it read.</summary>
    /// <exception cref="RefusedException">Not all bytes have arrived.</exception>
    public async Task CompleteAsync(Delivery delivery, CancellationToken cancel)
    {
        var (held, _) = await db.Blobs.HeldAsync(delivery.BlobId, cancel);
        if (held != delivery.Length)
            throw new RefusedException(RefusalKind.Conflict, $"{held} of {delivery.Length} bytes have arrived.");
        // Only one caller may move it on.
        int moved = await db
            .Deliveries.Where(d => d.Id == delivery.Id && d.State == DeliveryState.Receiving)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.State, DeliveryState.Received), cancel);
        if (moved == 1)
            queue.Read(delivery.Id);
    }

    /// <summary>Receives a whole file.</summary>
    public async Task<Guid> DeliverAsync(
        Party party,
        string source,
        string fileName,
        Stream bytes,
        Actor by,
        CancellationToken cancel
    )
    {
        var delivery = await BeginAsync(party, source, fileName, bytes.Length, by, cancel);
        await db.Blobs.PutAllAsync(delivery.BlobId, bytes, cancel);
        await CompleteAsync(delivery, cancel);
        return delivery.Id;
    }

    /// <summary>Cancels a delivery; one that is being read ends when its reader notices.</summary>
    /// <exception cref="RefusedException">It is a revision already.</exception>
    public async Task CancelAsync(Delivery delivery, Actor by, CancellationToken cancel)
    {
        if (await db.Revisions.IgnoreQueryFilters().AnyAsync(r => r.Id == delivery.Id && r.Number > 0, cancel))
            throw new RefusedException(
                RefusalKind.Conflict,
                "This delivery is a revision already. A coordinator can withdraw it on its page."
            );
        db.Note(by, delivery.Source.JobId, "cancelled the delivery", delivery.FileName);
        await db.SaveChangesAsync(cancel);
        var arriving = db.Deliveries.Where(d => d.Id == delivery.Id && d.State == DeliveryState.Receiving);
        int ended = await arriving.ExecuteUpdateAsync(
            u =>
                u.SetProperty(d => d.State, DeliveryState.Cancelled)
                    .SetProperty(d => d.Sentence, ReadDelivery.WasCalledOff)
                    .SetProperty(d => d.CancelRequested, true),
            cancel
        );
        if (ended == 0)
            await WorkTable.Deliveries.AskCancelAsync(
                db,
                delivery.Id,
                ReadDelivery.WasCalledOff,
                options.Lease,
                cancel
            );
        if (await db.Deliveries.AnyAsync(d => d.Id == delivery.Id && d.State == DeliveryState.Cancelled, cancel))
            await db.Blobs.DeleteAsync(delivery.BlobId, cancel);
    }

    /// <summary>Ends uploads of which nothing came for a while.</summary>
    /// <returns>The deliveries.</returns>
    public async Task<IReadOnlyList<Guid>> GiveUpAsync(TimeSpan after, CancellationToken cancel)
    {
        var before = DateTime.UtcNow - after;
        var old = await db
            .Deliveries.AsNoTracking()
            .Where(d => d.State == DeliveryState.Receiving && (d.Beat ?? d.ReceivedAt) < before)
            .Select(d => new { d.Id, d.BlobId })
            .ToListAsync(cancel);
        foreach (var delivery in old)
        {
            await db
                .Deliveries.Where(d => d.Id == delivery.Id && d.State == DeliveryState.Receiving)
                .ExecuteUpdateAsync(
                    u =>
                        u.SetProperty(d => d.State, DeliveryState.Cancelled)
                            .SetProperty(
                                d => d.Sentence,
                                "Nothing of this upload arrived for a day, so it was cancelled and removed. Send the file again."
                            ),
                    cancel
                );
            await db.Blobs.DeleteAsync(delivery.BlobId, cancel);
        }

        return [.. old.Select(o => o.Id)];
    }

    // Somebody else may make the same source at the same time; then theirs is taken.
    private async Task SaveWithSourceAsync(Delivery delivery, Source source, CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e)
            when (db.Entry(source).State == EntityState.Added
                && e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation }
            )
        {
            var theirs = await db
                .Sources.AsNoTracking()
                .FirstAsync(s => s.PartyId == source.PartyId && s.Name == source.Name, cancel);
            db.Entry(source).State = EntityState.Detached;
            delivery.SourceId = theirs.Id;
            await db.SaveChangesAsync(cancel);
        }
    }

    // Models and drawings do not follow one another in one source: what is sent to a source of the other kind is one of its own, named like
    // the file.
    private async Task<Source> SourceAsync(Party party, string name, string file, bool apart, CancellationToken cancel)
    {
        // What an archive holds is not known before it is opened.
        bool archive = Path.GetExtension(file).Equals(".zip", StringComparison.OrdinalIgnoreCase);
        bool drawing = DrawingEndings.Contains(Path.GetExtension(file), StringComparer.OrdinalIgnoreCase);
        string stem = Path.GetFileNameWithoutExtension(file);
        foreach (
            string title in new[] { name, stem, $"{stem} ({(drawing ? "drawing" : "model")})" }
                .Where(t => t.Length > 0)
                .Select(t => t[..Math.Min(LongestName, t.Length)])
        )
        {
            if (
                await db.Sources.FirstOrDefaultAsync(s => s.PartyId == party.Id && s.Name == title, cancel)
                is not { } known
            )
                return Add(title);
            if (
                archive
                || !await db.Revisions.AnyAsync(
                    r => r.SourceId == known.Id && (r.Kind == RevisionKind.Drawing) != drawing,
                    cancel
                )
            )
                return known;
            if (!apart)
                throw new AskedException(
                    $"{known.Name} has {(drawing ? "models" : "drawings")} so far, and {file} is a "
                        + $"{(drawing ? "drawing" : "model")}. Send it as a source of its own?"
                );
        }

        return Add($"{Guid.NewGuid():N}");

        Source Add(string title)
        {
            var made = new Source
            {
                Id = Guid.NewGuid(),
                JobId = party.JobId,
                PartyId = party.Id,
                Name = title,
            };
            db.Sources.Add(made);
            return made;
        }
    }
}
