using Microsoft.EntityFrameworkCore;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Boxes of a revision's largest elements, to draw it from above and from the side: enough to recognise a building by.</summary>
public static class PlanOutlines
{
    private const int Most = 700;

    /// <summary>Loads the boxes, in the source's own frame, the largest first.</summary>
    public static async Task<IReadOnlyList<Box>> LoadAsync(LintelDb db, Guid revision, CancellationToken cancel)
    {
        var boxes = await db
            .Elements.AsNoTracking()
            .Where(e => e.RevisionId == revision && e.Box != null && e.Class != "IfcSpace" && e.Class != "IfcSite")
            .OrderByDescending(e => e.Area)
            .Select(e => e.Box!)
            .Take(Most)
            .ToListAsync(cancel);
        return boxes.ConvertAll(b => new Box(new Vec3(b[0], b[1], b[2]), new Vec3(b[3], b[4], b[5])));
    }
}
