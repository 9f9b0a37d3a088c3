using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The open topics that lie on a drawing which was placed in the job.</summary>
/// <param name="db">The database.</param>
public sealed class TopicsOnDrawing(LintelDb db)
{
    private const int Most = 500;

    // A drawing without a level, a section or an elevation, has what is as near to its plane as this, metres.
    private const double Near = 1.5;

    /// <summary>Finds them.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the reader may do.</param>
    /// <param name="drawing">The drawing's source.</param>
    /// <param name="extents">What it shows, its own units.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Each with its place, the drawing's units.</returns>
    public async Task<IReadOnlyList<(ShownTopic Topic, Vec2 At)>> FindAsync(
        JobState state,
        JobPermissions who,
        SourceState drawing,
        Box extents,
        CancellationToken cancel
    )
    {
        if (drawing.SetOut is not { } place || extents.IsEmpty)
            return [];
        var frame = JobModel.FrameOf(place, state.Schedule);
        var inverse = frame.Inverse();
        var (low, high) = (extents.Min, extents.Max);
        var open = await new TopicQuery(db)
            .Rows(state.Job, who)
            .Where(t => !t.Closed && t.Place != null && (place.Level == null || t.Level == place.Level))
            .OrderBy(t => t.Number)
            .Select(ShownTopic.Of)
            .ToListAsync(cancel);
        return
        [
            .. open.Select(t => (Topic: t, At: inverse.Point(new Vec3(t.Place![0], t.Place[1], t.Place[2]))))
                .Where(t => t.At.X >= low.X && t.At.X <= high.X && t.At.Y >= low.Y && t.At.Y <= high.Y)
                .Where(t => place.Level is not null || Math.Abs(t.At.Z) * frame.Z.Length <= Near)
                .Take(Most)
                .Select(t => (t.Topic, t.At.XY)),
        ];
    }
}
