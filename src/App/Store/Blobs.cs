using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace SteadyLintel.Store;

/// <summary>Large contents in the database, piece by piece, never whole in memory.</summary>
public sealed class Blobs(LintelDb db)
{
    /// <summary>The length of every piece but the last.</summary>
    public const int PieceLength = 4 << 20;

    /// <summary>Keeps a piece; the same piece sent again is passed over.</summary>
    public async Task PutAsync(Guid blob, int number, byte[] bytes, CancellationToken cancel = default) =>
        await db.Database.ExecuteSqlAsync(
            $"INSERT INTO pieces (blob_id, number, bytes) VALUES ({blob}, {number}, {bytes}) ON CONFLICT DO NOTHING", cancel);

    /// <summary>How many bytes of a blob are here, and how many pieces.</summary>
    public async Task<(long Bytes, int Pieces)> HeldAsync(Guid blob, CancellationToken cancel = default)
    {
        var held = await db.Pieces.Where(p => p.BlobId == blob).GroupBy(_ => 1)
            .Select(g => new { Bytes = g.Sum(p => (long)p.Bytes.Length), Pieces = g.Count() }).FirstOrDefaultAsync(cancel);
        return held is null ? (0, 0) : (held.Bytes, held.Pieces);
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
            if (n == 0 && number > 0) return total;
            await PutAsync(blob, number, buffer[..n], cancel);
            total += n;
            if (n < buffer.Length) return total;
        }
    }

    /// <summary>Copies a blob to a stream, in order.</summary>
    /// <returns>Its SHA-256, lower-case hex.</returns>
    public async Task<string> CopyToAsync(Guid blob, Stream target, CancellationToken cancel = default)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        for (int number = 0; ; number++)
        {
            var bytes = await db.Pieces.Where(p => p.BlobId == blob && p.Number == number).Select(p => p.Bytes).FirstOrDefaultAsync(cancel);
            if (bytes is null) break;
            hash.AppendData(bytes);
            await target.WriteAsync(bytes, cancel);
        }

        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    /// <summary>Lets go of a blob.</summary>
    public async Task DeleteAsync(Guid blob, CancellationToken cancel = default) =>
        await db.Pieces.Where(p => p.BlobId == blob).ExecuteDeleteAsync(cancel);
}
