using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Files of transmittals as they are fetched, one by one or in an archive: written from the database as they are read, so that
/// nothing is held in memory, and noted in the activity log whoever fetches them.</summary>
/// <param name="db">The database.</param>
public sealed class TransmittalArchive(LintelDb db)
{
    private static readonly JsonSerializerOptions Indented = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    /// <summary>The name of the archive of a transmittal.</summary>
    public static string Name(string job, int order, int transmittal) =>
        $"{job}-order{order}-transmittal{transmittal}.zip";

    /// <summary>Notes that a file is fetched.</summary>
    /// <returns>Its content.</returns>
    public async Task<Guid> FetchAsync(
        Guid job,
        Guid transmittal,
        string name,
        string of,
        Actor by,
        CancellationToken cancel
    )
    {
        var blob = await db
            .TransmittalFiles.Where(f => f.TransmittalId == transmittal && f.Name == name)
            .Select(f => f.BlobId)
            .FirstAsync(cancel);
        db.Note(by, job, "fetched", $"{name} of {of}");
        await db.SaveChangesAsync(cancel);
        return blob;
    }

    /// <summary>Notes that all files of a transmittal are fetched.</summary>
    public async Task FetchAllAsync(Guid job, string of, Actor by, CancellationToken cancel)
    {
        db.Note(by, job, "fetched", $"all files of {of}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Writes a content.</summary>
    public Task CopyToAsync(Guid blob, Stream target, CancellationToken cancel) =>
        db.Blobs.CopyToAsync(blob, target, cancel);

    /// <summary>Writes all files of a transmittal.</summary>
    /// <param name="transmittal">The transmittal.</param>
    /// <param name="manifest">What is added as <c>manifest.json</c>; null for nothing.</param>
    /// <param name="target">Need not be seekable.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task WriteAsync(Guid transmittal, object? manifest, Stream target, CancellationToken cancel)
    {
        var files = await db
            .TransmittalFiles.AsNoTracking()
            .Where(f => f.TransmittalId == transmittal)
            .Select(f => new { f.Name, f.BlobId })
            .ToListAsync(cancel);
        var blobs = db.Blobs;
        await using var zip = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true);
        foreach (var file in files.OrderBy(f => f.Name, StringComparer.Ordinal))
        {
            await using var entry = await zip.CreateEntry(file.Name, CompressionLevel.Fastest).OpenAsync(cancel);
            await blobs.CopyToAsync(file.BlobId, entry, cancel);
        }

        if (manifest is null)
            return;
        await using var last = await zip.CreateEntry("manifest.json").OpenAsync(cancel);
        await JsonSerializer.SerializeAsync(last, manifest, Indented, cancel);
    }

    /// <summary>What a transmittal says of itself, for who checks it.</summary>
    public static object Manifest(string job, OrderRow order, Transmittal run)
    {
        var result = TransmittalResult.Of(run)!;
        return new
        {
            Job = job,
            order.Number,
            Transmittal = run.Number,
            run.RanAt,
            Order = OrderDocument.Read(run.Spec),
            result.Files,
            Rows = result.Reconciliation.Rows.Select(r => new
            {
                r.Storey,
                r.Class,
                r.In,
                r.LeftOut,
                r.Written,
                r.Found,
                r.Unaccounted,
                r.Reasons,
            }),
            result.Reconciliation.Checks,
            result.Reconciliation.NotCarried,
            result.Reconciliation.Ledger,
            result.Drawings,
            result.Unaccounted,
            result.Balanced,
        };
    }
}
