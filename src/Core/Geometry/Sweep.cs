namespace SteadyLintel.Geometry;

/// <summary>Bodies that a plane region leaves behind on its way.</summary>
public static class Sweep
{
    /// <summary>Curves that bodies are swept along or around become this many chords a circle at least: 0.07 % of the volume of a full
    /// turn.</summary>
    public const int FullCircle = 96;

    /// <summary>Turns a region about an axis.</summary>
    /// <param name="start">The region at the start.</param>
    /// <param name="end">The region at the end, in the same plane, for a tapered body; the same region otherwise.</param>
    /// <param name="frame">The frame of the regions.</param>
    /// <param name="origin">A point of the axis, in the outer frame.</param>
    /// <param name="axis">The direction of the axis, in the outer frame.</param>
    /// <param name="angle">Radians, either sign; a full turn closes the body.</param>
    /// <param name="tolerance">How finely.</param>
    public static Mesh Around(
        Region start,
        Region end,
        Frame frame,
        Vec3 origin,
        Vec3 axis,
        double angle,
        Tolerance tolerance
    )
    {
        var d = axis.Unit();
        var corners = start.Loops.SelectMany(l => l).Select(p => frame.Point(new Vec3(p.X, p.Y, 0)));
        double reach = corners.Max(p => (p - origin - (d * (p - origin).Dot(d))).Length);
        bool ring = Math.Abs(angle) > (2 * Math.PI) - 1e-6;
        angle = Math.Clamp(angle, -2 * Math.PI, 2 * Math.PI);
        int n = (tolerance with { FullCircle = Math.Max(FullCircle, tolerance.FullCircle) }).Chords(reach, angle);
        var sections = new List<LoftSection>(n + 1);
        for (int i = 0; i <= n - (ring ? 1 : 0); i++)
        {
            double share = (double)i / n;
            var region = ReferenceEquals(start, end) ? start : Between(start, end, share);
            sections.Add(LoftSection.Of(region, Turn(origin, d, angle * share).Compose(frame)));
        }

        return Loft.Through(sections, ring ? null : start, ring);
    }

    /// <summary>Moves a region along a path, square to it; at corners it is mitred.</summary>
    /// <param name="path">The path's points, the last not the first again when it is a ring.</param>
    /// <param name="ring">Whether the path closes.</param>
    /// <param name="region">The region, its origin on the path.</param>
    /// <param name="side">For a stretch of the path and its unit direction, where the region's X points; made square to the direction
    /// here.</param>
    public static Mesh Along(IReadOnlyList<Vec3> path, bool ring, Region region, Func<int, Vec3, Vec3> side)
    {
        path = Clean(path, ring);
        if (path.Count < 2)
            throw new ShapeException("A body is swept along a path without length.");
        int stretches = ring ? path.Count : path.Count - 1;
        var frames = new Frame[stretches];
        for (int i = 0; i < stretches; i++)
        {
            var d = (path[(i + 1) % path.Count] - path[i]).Unit();
            var x = side(i, d);
            x -= d * x.Dot(d);
            x = x.Length < 1e-9 ? Frame.FromAxes(Vec3.Zero, d, Vec3.AxisX).X : x.Unit();
            frames[i] = new Frame(path[i], x, d.Cross(x), d);
        }

        var sections = new List<LoftSection>();
        for (int i = 0; i < path.Count; i++)
        {
            int before = i > 0 ? i - 1
                : ring ? stretches - 1
                : -1,
                after = i < stretches ? i : -1;
            sections.Add(
                At(
                    region,
                    path[i],
                    before < 0 ? frames[after] : frames[before],
                    after < 0 ? frames[before] : frames[after],
                    EndNormal(frames, before, after)
                )
            );
        }

        return Loft.Through(sections, ring ? null : region, ring);
    }

    /// <summary>Directions that follow a path without twisting about it, for <see cref="Along"/>.</summary>
    public static Func<int, Vec3, Vec3> Untwisted()
    {
        Vec3? lastX = null;
        var last = Vec3.Zero;
        return (_, d) =>
        {
            // The least rotation that takes the last direction into this one, applied to the last X.
            var x = lastX is { } known
                ? Rotate(known, last, d)
                : Frame.FromAxes(Vec3.Zero, d, Math.Abs(d.Z) < 0.9 ? Vec3.AxisZ : Vec3.AxisX).X;
            (lastX, last) = (x, d);
            return x;
        };
    }

    /// <summary>The rotation about an axis by an angle.</summary>
    /// <param name="origin">A point of the axis, metres.</param>
    /// <param name="axis">Its direction.</param>
    /// <param name="angle">Radians, right-handed.</param>
    public static Frame Turn(Vec3 origin, Vec3 axis, double angle)
    {
        Vec3 On(Vec3 v) =>
            (v * Math.Cos(angle)) + (axis.Cross(v) * Math.Sin(angle)) + (axis * (axis.Dot(v) * (1 - Math.Cos(angle))));
        var turn = new Frame(Vec3.Zero, On(Vec3.AxisX), On(Vec3.AxisY), On(Vec3.AxisZ));
        return turn with { Origin = origin - turn.Direction(origin) };
    }

    /// <summary>A region between two with matching corners.</summary>
    /// <param name="start">At the beginning.</param>
    /// <param name="end">At the end, with as many corners.</param>
    /// <param name="share">From 0 to 1.</param>
    /// <exception cref="ShapeException">The regions do not match.</exception>
    public static Region Between(Region start, Region end, double share)
    {
        if (
            start.Outer.Length != end.Outer.Length
            || start.Holes.Count != end.Holes.Count
            || start.Holes.Zip(end.Holes).Any(h => h.First.Length != h.Second.Length)
        )
            throw new ShapeException("The two ends of a tapered body do not match corner by corner.");
        Vec2[] Mix(Vec2[] a, Vec2[] b) => [.. a.Zip(b, (p, q) => p + ((q - p) * share))];
        return new Region(Mix(start.Outer, end.Outer), [.. start.Holes.Zip(end.Holes, Mix)]);
    }

    private static Vec3 Rotate(Vec3 v, Vec3 from, Vec3 to)
    {
        var axis = from.Cross(to);
        double sine = axis.Length,
            cosine = from.Dot(to);
        return sine < 1e-12 ? v : Turn(Vec3.Zero, axis * (1 / sine), Math.Atan2(sine, cosine)).Direction(v);
    }

    // The first and last stretch of a curve are chords: its tangent at the end has turned half a step more. Zero elsewhere.
    private static Vec3 EndNormal(Frame[] frames, int before, int after)
    {
        if ((before >= 0 && after >= 0) || frames.Length < 2)
            return Vec3.Zero;
        var (end, next) = before < 0 ? (frames[0].Z, frames[1].Z) : (frames[^1].Z, frames[^2].Z);
        return end.Dot(next) > 0.98 ? ((end * 1.5) - (next * 0.5)).Unit() : Vec3.Zero;
    }

    // Where two stretches meet, both end in the plane that halves their angle; a very sharp corner is cut square instead.
    private static LoftSection At(Region region, Vec3 at, Frame before, Frame after, Vec3 normal)
    {
        var half = normal.Length > 0 ? normal : before.Z + after.Z;
        half = half.Length < 0.2 ? before.Z : half.Unit();
        Vec3 On(Frame f, Vec2 p)
        {
            var offset = (f.X * p.X) + (f.Y * p.Y);
            double along = f.Z.Dot(half);
            return along < 0.1 ? offset : offset - (f.Z * (offset.Dot(half) / along));
        }

        return new LoftSection([
            .. region.Loops.Select(l => Array.ConvertAll(l, p => at + ((On(before, p) + On(after, p)) * 0.5))),
        ]);
    }

    private static List<Vec3> Clean(IReadOnlyList<Vec3> path, bool ring)
    {
        var kept = new List<Vec3>();
        foreach (var p in path)
            if (kept.Count == 0 || (p - kept[^1]).Length > 1e-7)
                kept.Add(p);
        while (ring && kept.Count > 1 && (kept[0] - kept[^1]).Length <= 1e-7)
            kept.RemoveAt(kept.Count - 1);
        return kept;
    }
}
