using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;

namespace SteadyLintel.Store;

/// <summary>Large contents, piece by piece, never whole in memory: in the database, or in a folder where one is set.</summary>
/// <remarks>What is read is looked for in both places, so that contents can be moved from one to the other while people work.</remarks>
public sealed class Blobs(LintelDb db)
{
    /// <summary>The length of every piece but the last.</summary>
    public const int PieceLength = 4 << 20;

    /// <summary>Keeps a piece; the same piece sent again is passed over.</summary>
    public async Task PutAsync(Guid blob, int number, byte[] bytes, CancellationToken cancel = default)
    {
        if (db.Folder is { } folder)
            await folder.PutAsync(blob, number, bytes, cancel);
        else
            await IntoDatabaseAsync(blob, number, bytes, cancel);
    }

    /// <summary>How many bytes of a blob are here, and how many pieces.</summary>
    public async Task<(long Bytes, int Pieces)> HeldAsync(Guid blob, CancellationToken cancel = default)
    {
        var rows = await db
            .Pieces.Where(p => p.BlobId == blob)
            .GroupBy(_ => 1)
            .Select(g => new { Bytes = g.Sum(p => (long)p.Bytes.Length), Pieces = g.Count() })
            .SingleOrDefaultAsync(cancel);
        var (bytes, pieces) = db.Folder?.Held(blob) ?? (0, 0);
        return (bytes + (rows?.Bytes ?? 0), pieces + (rows?.Pieces ?? 0));
    }

    /// <summary>The SHA-256 of each piece that is here from the first on, lower-case hex.</summary>
    public async Task<IReadOnlyList<string>> HashesAsync(Guid blob, CancellationToken cancel = default)
    {
        var hashes = new List<string>();
        while (await ReadAsync(blob, hashes.Count, cancel) is { } bytes)
            hashes.Add(Convert.ToHexStringLower(SHA256.HashData(bytes)));
        return hashes;
    }

    /// <summary>Keeps a whole stream.</summary>
    /// <returns>Its length.</returns>
    public async Task<long> PutAllAsync(Guid blob, Stream source, CancellationToken cancel = default)
    {
        var buffer = new byte[PieceLength];
        long total = 0;
        for (int number = 0; ; number++)
        {
            int n = await source.ReadAtLeastAsync(buffer, buffer.Length, false, cancel);
            if (n == 0 && number > 0)
                return total;
            await PutAsync(blob, number, buffer[..n], cancel);
            total += n;
            if (n < buffer.Length)
                return total;
        }
    }

    /// <summary>Copies a blob to a stream, in order.</summary>
    /// <returns>Its SHA-256, lower-case hex.</returns>
    public async Task<string> CopyToAsync(Guid blob, Stream target, CancellationToken cancel = default)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var reading = ReadAsync(blob, 0, cancel);
        try
        {
            for (int number = 1; await reading is { } bytes; number++)
            {
                // The next piece is on its way while this one is hashed and written.
                reading = ReadAsync(blob, number, cancel);
                await Task.Run(() => hash.AppendData(bytes), cancel);
                await target.WriteAsync(bytes, cancel);
            }
        }
        finally
        {
            // A connection does one thing at a time.
            await Task.WhenAny(reading);
        }

        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    /// <summary>The first bytes of a blob.</summary>
    public async Task<byte[]> HeadAsync(Guid blob, int length, CancellationToken cancel = default) =>
        await ReadAsync(blob, 0, cancel) is { } bytes ? bytes[..Math.Min(length, bytes.Length)] : [];

    /// <summary>Lets go of a blob.</summary>
    public async Task DeleteAsync(Guid blob, CancellationToken cancel = default)
    {
        await db.Pieces.Where(p => p.BlobId == blob).ExecuteDeleteAsync(cancel);
        db.Folder?.Delete(blob);
    }

    /// <summary>Moves everything that is in the database into the folder that is set, or back. It may be stopped and begun again.</summary>
    /// <returns>How many pieces were moved.</returns>
    /// <exception cref="InvalidOperationException">No folder is set.</exception>
    public async Task<int> MoveAsync(bool toFolder, CancellationToken cancel)
    {
        var folder = db.Folder ?? throw new InvalidOperationException("No folder for originals is set.");
        int moved = 0;
        if (toFolder)
        {
            while (await db.Pieces.AsNoTracking().OrderBy(p => p.BlobId).FirstOrDefaultAsync(cancel) is { } piece)
            {
                await folder.PutAsync(piece.BlobId, piece.Number, piece.Bytes, cancel);
                await db
                    .Pieces.Where(p => p.BlobId == piece.BlobId && p.Number == piece.Number)
                    .ExecuteDeleteAsync(cancel);
                moved++;
            }

            return moved;
        }

        foreach (var blob in folder.All().ToList())
        {
            for (int number = 0; await folder.ReadAsync(blob, number, cancel) is { } bytes; number++, moved++)
                await IntoDatabaseAsync(blob, number, bytes, cancel);
            folder.Delete(blob);
        }

        return moved;
    }

    /// <summary>Deletes contents in the folder that nothing in the database speaks of: left by a deleted job or a process that
    /// ended.</summary>
    /// <returns>How many.</returns>
    public async Task<int> SweepAsync(CancellationToken cancel)
    {
        if (db.Folder is not { } folder)
            return 0;
        // Listed before the database is asked: what arrives in between has its row by then.
        var here = folder.All().ToList();
        var known = (
            await db
                .Deliveries.Select(d => d.BlobId)
                .Concat(db.TransmittalFiles.Select(f => f.BlobId))
                .Concat(db.TopicParts.Select(p => p.BlobId))
                .Concat(db.TopicImports.Select(i => i.BlobId))
                .ToListAsync(cancel)
        ).ToHashSet();
        int swept = 0;
        foreach (var blob in here.Where(b => !known.Contains(b)))
        {
            // The files of a transmittal are written before their rows are.
            if (DateTime.UtcNow - folder.WrittenAt(blob) < TimeSpan.FromDays(1))
                continue;
            folder.Delete(blob);
            swept++;
        }

        return swept;
    }

    private async Task<byte[]?> ReadAsync(Guid blob, int number, CancellationToken cancel)
    {
        // A piece that is being moved is in the second place before it leaves the first.
        for (int look = 0; look < 2; look++)
        {
            if (db.Folder is { } folder && await folder.ReadAsync(blob, number, cancel) is { } file)
                return file;
            if (
                await db
                    .Pieces.Where(p => p.BlobId == blob && p.Number == number)
                    .Select(p => p.Bytes)
                    .FirstOrDefaultAsync(cancel) is
                { } row
            )
                return row;
            if (db.Folder is null)
                break;
        }

        return null;
    }

    private Task<int> IntoDatabaseAsync(Guid blob, int number, byte[] bytes, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"INSERT INTO pieces (blob_id, number, bytes) VALUES ({blob}, {number}, {bytes}) ON CONFLICT DO NOTHING",
            cancel
        );
}
