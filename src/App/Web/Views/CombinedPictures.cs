using System.Buffers.Binary;
using System.IO.Compression;
using Microsoft.Extensions.Caching.Memory;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Views;

/// <summary>The geometry of a revision in one answer: its pieces one behind the other, the largest first, each behind its length (uint32,
/// little-endian), all compressed together as Brotli (RFC 7932).</summary>
/// <remarks>One answer takes the place of as many requests as there are pieces. It begins before the last piece is read, and the newest
/// answers are held, so that a second person does not wait for them to be packed again.</remarks>
public sealed class CombinedPictures : IDisposable
{
    private const long MostBytes = 128 << 20;

    // What is not shown until somebody asks for it.
    private const string Rooms = "IfcSpace";

    private readonly MemoryCache _packed = new(new MemoryCacheOptions { SizeLimit = MostBytes });

    /// <inheritdoc/>
    public void Dispose() => _packed.Dispose();

    /// <summary>Writes the picture of a revision.</summary>
    /// <param name="view">The job.</param>
    /// <param name="revision">The revision, of the job.</param>
    /// <param name="version">What the picture is named by; another one when its pieces are others.</param>
    /// <param name="response">Where to.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task WriteAsync(
        CombinedView view,
        Guid revision,
        string version,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        response.ContentType = "model/vnd.steady-lintel.picture";
        response.Headers.ContentEncoding = "br";
        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        if (_packed.TryGetValue((revision, version), out byte[]? packed))
        {
            response.ContentLength = packed!.Length;
            await response.Body.WriteAsync(packed, cancel);
            return;
        }

        using var kept = new MemoryStream();
        var brotli = new BrotliStream(kept, CompressionLevel.Fastest, leaveOpen: true);
        int sent = 0;
        byte[] length = new byte[sizeof(uint)];
        await foreach (byte[] piece in view.PiecesAsync(revision, Rooms, cancel))
        {
            BinaryPrimitives.WriteUInt32LittleEndian(length, (uint)piece.Length);
            brotli.Write(length);
            brotli.Write(piece);
            if (kept.Length - sent >= 1 << 16)
                sent = await SendAsync(kept, sent, response, cancel);
        }

        await brotli.DisposeAsync();
        await SendAsync(kept, sent, response, cancel);
        if (kept.Length < MostBytes / 4)
            _packed.Set((revision, version), kept.ToArray(), new MemoryCacheEntryOptions { Size = kept.Length });
    }

    private static async Task<int> SendAsync(
        MemoryStream kept,
        int sent,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        await response.Body.WriteAsync(kept.GetBuffer().AsMemory(sent, (int)kept.Length - sent), cancel);
        await response.Body.FlushAsync(cancel);
        return (int)kept.Length;
    }
}
