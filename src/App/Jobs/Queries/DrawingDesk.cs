using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Reads drawings of a job for those who prepare, place and look at them.</summary>
/// <param name="db">The database.</param>
/// <param name="prepared">Those that are prepared already.</param>
public sealed class DrawingDesk(LintelDb db, PreparedDrawings prepared)
{
    /// <summary>The newest drawing of a source with what it refers to, before its steps.</summary>
    /// <param name="job">The job.</param>
    /// <param name="source">The source, with a drawing.</param>
    /// <param name="maySee">Whether the files of a party may be seen by who asks.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The drawing, and the references that stay open.</returns>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public async Task<(Drawing Drawing, IReadOnlyList<CadFinding> Open)> ReadAsync(
        Guid job,
        SourceState source,
        Func<Guid, bool> maySee,
        CancellationToken cancel
    )
    {
        var blob = await db.Deliveries.Where(d => d.Id == source.Latest!.Id).Select(d => d.BlobId).FirstAsync(cancel);
        var references = await ReferencesAsync(job, maySee, cancel);
        return await SheetDesk.ReadBoundAsync(db, references, source.Source, blob, cancel);
    }

    /// <summary>The drawings of the job that others may refer to.</summary>
    public Task<JobReferences> ReferencesAsync(Guid job, Func<Guid, bool> maySee, CancellationToken cancel) =>
        JobReferences.LoadAsync(db, job, maySee, cancel);

    /// <summary>A drawing as it takes part in the job: with what it refers to, its steps run.</summary>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public Task<Drawing> PreparedAsync(JobState state, SourceState drawing, CancellationToken cancel) =>
        prepared.OfAsync(db, state, drawing, cancel);

    /// <summary>An original as it came.</summary>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public Task<Drawing> OriginalAsync(Guid blob, CancellationToken cancel) => SheetDesk.ReadAsync(db, blob, cancel);

    /// <summary>The layouts of each drawing that has some, by revision.</summary>
    public Task<IReadOnlyDictionary<Guid, IReadOnlyList<DrawingLayout>>> SheetsAsync(
        JobState state,
        CancellationToken cancel
    ) => DrawingSheets.LoadAsync(db, state, cancel);

    /// <summary>What another source draws at the height of a level, in the job's frame, metres; null where there is no such
    /// source.</summary>
    /// <param name="state">What the job holds.</param>
    /// <param name="over">The other source.</param>
    /// <param name="level">The level; null for the job's zero.</param>
    /// <param name="most">How many lines at most.</param>
    /// <param name="cancel">Stops it.</param>
    public Task<IReadOnlyList<(Vec2 A, Vec2 B)>?> OverlayAsync(
        JobState state,
        Guid over,
        int? level,
        int most,
        CancellationToken cancel
    ) => OverlayLines.LoadAsync(db, prepared, state, over, level, most, cancel);
}
