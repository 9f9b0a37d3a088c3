using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What one source draws in plan, to lie over another.</summary>
public static class OverlayLines
{
    // Above thresholds, below lintels and sills of high windows; a plan is cut about here (common practice).
    private const double CutAbove = 1.0;

    /// <summary>Loads the lines, metres in the job's plan.</summary>
    /// <param name="db">The database.</param>
    /// <param name="prepared">Drawings that are prepared already.</param>
    /// <param name="state">The job as it is.</param>
    /// <param name="source">A model, or a drawing that is placed.</param>
    /// <param name="level">The level above which a model is cut; null cuts above zero.</param>
    /// <param name="most">How many lines at most.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Null where the job has no such source, or it is a drawing that nobody has placed.</returns>
    public static async Task<IReadOnlyList<(Vec2 A, Vec2 B)>?> LoadAsync(
        LintelDb db,
        PreparedDrawings prepared,
        JobState state,
        Guid source,
        int? level,
        int most,
        CancellationToken cancel
    )
    {
        if (state.Drawings.FirstOrDefault(d => d.Source.Id == source) is { SetOut: { } placed } drawing)
        {
            var read = await prepared.OfAsync(db, state, drawing, cancel);
            return await Task.Run(
                () => SheetLines.InPlan(read, JobModel.FrameOf(placed, state.Schedule), most),
                cancel
            );
        }

        int number = state.Sources.ToList().FindIndex(s => s.Source.Id == source && s.Latest is not null);
        return number < 0 ? null : await CutAsync(db, state, number, level, most, cancel);
    }

    // Chunks are made storey by storey: those of the rung and of the one below reach its height.
    private static async Task<IReadOnlyList<(Vec2 A, Vec2 B)>> CutAsync(
        LintelDb db,
        JobState state,
        int source,
        int? level,
        int most,
        CancellationToken cancel
    )
    {
        var at = state.Sources[source];
        int rung = state.Schedule.Rungs.ToList().FindIndex(r => level is not null && r.Level == level);
        double height = (rung < 0 ? 0 : state.Schedule.Rungs[rung].Elevation) + CutAbove;
        var chunks = await db
            .Chunks.AsNoTracking()
            .Where(c => c.RevisionId == at.Latest!.Id && c.Class != "IfcSpace")
            .Select(c => new { c.Storey, c.Hash })
            .ToListAsync(cancel);
        var hashes = chunks
            .Where(c =>
                rung < 0 || state.Schedule.RungOf(source, c.Storey) is var r && (r < 0 || r == rung || r == rung - 1)
            )
            .Select(c => c.Hash)
            .Distinct()
            .ToList();
        var lines = new List<(Vec2 A, Vec2 B)>();
        await foreach (
            var packed in db
                .ChunkContents.AsNoTracking()
                .Where(c => hashes.Contains(c.Hash))
                .OrderBy(c => c.Hash)
                .Select(c => c.Bytes)
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            if (lines.Count >= most)
                break;
            ChunkSection.Cut(GeometryChunk.Unpack(packed), at.Frame, height, lines, most);
        }

        return lines;
    }
}
