using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Drawings of a job as they are worked on: read from their originals, prepared, placed.</summary>
public static class SheetDesk
{
    /// <summary>Reads a drawing with what it refers to.</summary>
    /// <param name="db">The database.</param>
    /// <param name="references">The drawings it may refer to.</param>
    /// <param name="source">Its source.</param>
    /// <param name="blob">Its original.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The drawing, and the references that stay open.</returns>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public static async Task<(Drawing Drawing, IReadOnlyList<CadFinding> Open)> ReadBoundAsync(
        LintelDb db,
        JobReferences references,
        Source source,
        Guid blob,
        CancellationToken cancel
    )
    {
        var drawing = await ReadAsync(db, blob, cancel);
        return (drawing, await references.BindAsync(drawing, source.PartyId, cancel));
    }

    /// <summary>Reads the original of a drawing.</summary>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public static async Task<Drawing> ReadAsync(LintelDb db, Guid blob, CancellationToken cancel)
    {
        using var bytes = new MemoryStream();
        await db.Blobs.CopyToAsync(blob, bytes, cancel);
        return await Task.Run(() => CadFile.Read(bytes.ToArray(), cancel).Drawing, cancel);
    }

    /// <summary>Reads a drawing as it takes part in the job: with what it refers to, its steps run.</summary>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public static async Task<Drawing> ReadPreparedAsync(
        LintelDb db,
        Guid job,
        SourceState drawing,
        CancellationToken cancel
    )
    {
        var blob = await db.Deliveries.Where(d => d.Id == drawing.Latest!.Id).Select(d => d.BlobId).FirstAsync(cancel);
        var references = await JobReferences.LoadAsync(db, job, null, cancel);
        var (read, _) = await ReadBoundAsync(db, references, drawing.Source, blob, cancel);
        var steps = await new Details(db).WithAsync(job, drawing.Preparation, cancel);
        await Task.Run(() => DrawingPreparation.Run(read, steps, cancel), cancel);
        return read;
    }
}
