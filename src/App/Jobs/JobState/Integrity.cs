using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Reads every kept content again and holds it against the hash and length that were kept with it.</summary>
public static class Integrity
{
    /// <summary>What a check found.</summary>
    /// <param name="Contents">How many contents were read.</param>
    /// <param name="Bytes">How long they are together.</param>
    /// <param name="Faults">A sentence for each that is not what it was.</param>
    public sealed record Result(int Contents, long Bytes, IReadOnlyList<string> Faults);

    /// <summary>Checks originals of revisions, files of transmittals and files of topics.</summary>
    public static async Task<Result> CheckAsync(LintelDb db, CancellationToken cancel)
    {
        var originals = await db
            .Deliveries.AsNoTracking()
            .Where(d => d.Revision != null)
            .Select(d => new
            {
                d.BlobId,
                Name = d.Source.Party.Code + " " + d.Source.Name + ", " + d.FileName,
                d.Length,
                Hash = d.Sha256 ?? "",
            })
            .ToListAsync(cancel);
        var files = await db
            .TransmittalFiles.AsNoTracking()
            .Select(f => new
            {
                f.BlobId,
                f.Name,
                f.Length,
                Hash = f.Sha256,
            })
            .ToListAsync(cancel);
        var parts = await db
            .TopicParts.AsNoTracking()
            .Select(p => new
            {
                p.BlobId,
                p.Name,
                p.Length,
                Hash = p.Sha256,
            })
            .ToListAsync(cancel);
        var faults = new List<string>();
        long bytes = 0;
        var blobs = db.Blobs;
        foreach (var content in originals.Concat(files).Concat(parts))
        {
            var (held, _) = await blobs.HeldAsync(content.BlobId, cancel);
            string hash = await blobs.CopyToAsync(content.BlobId, Stream.Null, cancel);
            bytes += held;
            if (held != content.Length)
                faults.Add($"{content.Name}: {held} of {content.Length} bytes are stored.");
            else if (hash != content.Hash)
                faults.Add($"{content.Name}: its bytes are not those that were received.");
        }

        return new Result(originals.Count + files.Count + parts.Count, bytes, faults);
    }
}
