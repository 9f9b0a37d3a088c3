using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Makes deliveries of the drawings that came in one archive: the sheet takes the place of the archive, what it draws on becomes
/// sources of the same party, named like the files.</summary>
/// <remarks>All in one transaction: a worker that dies leaves either the archive or all its drawings.</remarks>
internal sealed class UnpackDrawings(LintelDb db, WorkTable table)
{
    /// <summary>Unpacks a delivery, if it is an archive of drawings.</summary>
    /// <param name="delivery">The delivery; changed to its sheet.</param>
    /// <param name="worker">Who works at it.</param>
    /// <param name="path">Its bytes; the sheet's afterwards.</param>
    /// <param name="progress">Is reported, and stops it.</param>
    /// <returns>Whether it was one.</returns>
    /// <exception cref="DeliveryException">The archive is damaged or too large.</exception>
    public async Task<bool> RunAsync(Delivery delivery, Guid worker, string path, WorkProgress progress)
    {
        var cancel = progress.Token;
        byte[] head = new byte[FileRecognition.HeadLength];
        await using (var file = File.OpenRead(path))
            head = head[..await file.ReadAtLeastAsync(head, head.Length, false, cancel)];
        if (FileRecognition.Recognise(head).Kind != DeliveredKind.Zip)
            return false;
        string folder = Directory.CreateDirectory(path + "-drawings").FullName;
        string PathOf(int n) => Path.Combine(folder, $"{n}");
        IReadOnlyList<string> names;
        using (var archive = File.OpenRead(path))
            names = DrawingPackage.Unpack(archive, n => File.Create(PathOf(n)), UploadLimits.MaxBytes, cancel);
        if (names.Count == 0)
            return false;
        int sheet = DrawingPackage.Sheet(
            names,
            n => Read(PathOf(n), cancel),
            [.. names.Select((_, n) => new FileInfo(PathOf(n)).Length)]
        );
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await table.HoldAsync(db, delivery.Id, worker, cancel);
        var source = await db.Sources.FirstAsync(s => s.Id == delivery.SourceId, cancel);
        for (int n = 0; n < names.Count; n++)
            if (n != sheet)
                await AddAsync(delivery, source, names[n], PathOf(n), cancel);
        var old = delivery.BlobId;
        delivery.BlobId = await KeepAsync(PathOf(sheet), cancel);
        (delivery.FileName, delivery.Length) = (names[sheet], new FileInfo(PathOf(sheet)).Length);
        delivery.Sha256 = await ShaAsync(PathOf(sheet), cancel);
        await db
            .Deliveries.Where(d => d.Id == delivery.Id)
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(d => d.BlobId, delivery.BlobId)
                        .SetProperty(d => d.FileName, delivery.FileName)
                        .SetProperty(d => d.Length, delivery.Length)
                        .SetProperty(d => d.Sha256, delivery.Sha256),
                cancel
            );
        db.Note(
            new Actor(delivery.ReceivedBy, ""),
            source.JobId,
            "unpacked",
            $"{names.Count} drawings, {names[sheet]} the sheet"
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await db.Blobs.DeleteAsync(old, cancel);
        File.Move(PathOf(sheet), path, overwrite: true);
        return true;
    }

    private static Drawing? Read(string path, CancellationToken cancel)
    {
        try
        {
            return CadFile.Read(File.ReadAllBytes(path), cancel).Drawing;
        }
        catch (CadFormatException)
        {
            // It is reported when its own delivery is read.
            return null;
        }
    }

    private async Task AddAsync(Delivery package, Source sheet, string file, string path, CancellationToken cancel)
    {
        string name = InputRules.Of(
            Path.GetFileNameWithoutExtension(file),
            "The source's name",
            Receiving.LongestName,
            false
        );
        var source = await db.Sources.FirstOrDefaultAsync(s => s.PartyId == sheet.PartyId && s.Name == name, cancel);
        if (
            source is not null
            && await db.Revisions.AnyAsync(r => r.SourceId == source.Id && r.Kind != RevisionKind.Drawing, cancel)
        )
        {
            name = $"{name} (drawing)";
            source = await db.Sources.FirstOrDefaultAsync(s => s.PartyId == sheet.PartyId && s.Name == name, cancel);
        }

        if (source is null)
        {
            source = new Source
            {
                Id = Guid.NewGuid(),
                JobId = sheet.JobId,
                PartyId = sheet.PartyId,
                Name = name,
            };
            db.Sources.Add(source);
        }

        db.Deliveries.Add(
            new Delivery
            {
                Id = Guid.NewGuid(),
                SourceId = source.Id,
                FileName = file,
                Length = new FileInfo(path).Length,
                BlobId = await KeepAsync(path, cancel),
                ReceivedAt = package.ReceivedAt,
                ReceivedBy = package.ReceivedBy,
                State = DeliveryState.Received,
                // As work that the queue has lost: whoever looks for such takes it up at once.
                Beat = DateTime.UnixEpoch,
            }
        );
    }

    private async Task<Guid> KeepAsync(string path, CancellationToken cancel)
    {
        var blob = Guid.NewGuid();
        await using var stream = File.OpenRead(path);
        await db.Blobs.PutAllAsync(blob, stream, cancel);
        return blob;
    }

    private static async Task<string> ShaAsync(string path, CancellationToken cancel)
    {
        await using var stream = File.OpenRead(path);
        return Convert.ToHexStringLower(await SHA256.HashDataAsync(stream, cancel));
    }
}
