using System.IO.Compression;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The originals of a job's newest revisions in one archive, byte for byte, by party and source.</summary>
public static class NewestOriginals
{
    /// <summary>Whether there is any that may be seen.</summary>
    public static bool Any(JobState state, Func<Guid, bool> maySee) => Seen(state, maySee).Any();

    /// <summary>Writes the archive as it goes; nothing is held but a piece.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">The job as it is.</param>
    /// <param name="maySee">Whether the files of a party may be seen by who asks.</param>
    /// <param name="target">Need not be seekable.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task WriteAsync(
        LintelDb db,
        JobState state,
        Func<Guid, bool> maySee,
        Stream target,
        CancellationToken cancel
    )
    {
        await using var zip = await ZipArchive.CreateAsync(
            target,
            ZipArchiveMode.Create,
            leaveOpen: true,
            null,
            cancel
        );
        foreach (var source in Seen(state, maySee))
        {
            var latest = source.Latest!;
            var blob = await db.Deliveries.Where(d => d.Id == latest.Id).Select(d => d.BlobId).FirstAsync(cancel);
            var entry = zip.CreateEntry(
                $"{Name(source.Source.Party.Code)}/{Name(source.Source.Name)}/{Name(latest.Delivery.FileName)}",
                CompressionLevel.Fastest
            );
            entry.LastWriteTime = latest.Delivery.ReceivedAt;
            await using var stream = await entry.OpenAsync(cancel);
            await db.Blobs.CopyToAsync(blob, stream, cancel);
        }
    }

    private static IEnumerable<SourceState> Seen(JobState state, Func<Guid, bool> maySee) =>
        state
            .Sources.Concat(state.Drawings)
            .Where(s => s.Latest is not null && s.Source.RetiredAt is null && maySee(s.Source.PartyId));

    // No name leads out of the folder that somebody unpacks into.
    private static string Name(string name) =>
        LayerNames.Clean(name).Trim('.', ' ') is { Length: > 0 } clean ? clean : "_";
}
