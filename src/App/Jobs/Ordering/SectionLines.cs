using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Lines for sections and elevations that a job's models suggest.</summary>
public static class SectionLines
{
    // How far elevations are off the building, metres.
    private const double Beside = 2;

    /// <summary>Elevations of the four sides, and two sections through the middle; none where nothing has a shape.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Lines in the job's frame, metres.</returns>
    public static async Task<IReadOnlyList<OrderLine>> AroundAsync(
        LintelDb db,
        JobState state,
        CancellationToken cancel
    )
    {
        var box = Box.Empty;
        // Where somebody has set sources out, the others lie anywhere.
        var placed = state.Sources.Where(s => s.Latest is not null && s.SetOut is not null).ToList();
        if (placed.Count == 0)
            placed = [.. state.Sources.Where(s => s.Latest is not null)];
        var ids = placed.ConvertAll(s => s.Latest!.Id);
        var boxes = await db
            .Database.SqlQuery<RevisionBox>(
                $"SELECT revision_id AS id, min(box[1]) AS x, min(box[2]) AS y, max(box[4]) AS u, max(box[5]) AS v FROM elements WHERE revision_id = ANY({ids}) AND box IS NOT NULL AND class <> 'IfcSite' GROUP BY revision_id"
            )
            .ToListAsync(cancel);
        foreach (var found in boxes)
        {
            var frame = placed.First(s => s.Latest!.Id == found.Id).Frame;
            foreach (
                var (x, y) in new[] { (found.X, found.Y), (found.U, found.Y), (found.U, found.V), (found.X, found.V) }
            )
                box = box.Add(frame.Point(new Vec3(x, y, 0)));
        }

        if (box.IsEmpty)
            return [];
        double w = Math.Floor(box.Min.X) - Beside,
            s = Math.Floor(box.Min.Y) - Beside,
            e = Math.Ceiling(box.Max.X) + Beside,
            n = Math.Ceiling(box.Max.Y) + Beside;
        double x0 = Math.Round((w + e) / 2, 1),
            y0 = Math.Round((s + n) / 2, 1);
        return
        [
            Line("South", w, s, e, s),
            Line("East", e, s, e, n),
            Line("North", e, n, w, n),
            Line("West", w, n, w, s),
            Line("A", w, y0, e, y0),
            Line("B", x0, s, x0, n),
        ];
    }

    private static OrderLine Line(string name, double x, double y, double u, double v) =>
        new()
        {
            Name = name,
            From = [x, y],
            To = [u, v],
        };

    private sealed record RevisionBox(Guid Id, double X, double Y, double U, double V);
}
