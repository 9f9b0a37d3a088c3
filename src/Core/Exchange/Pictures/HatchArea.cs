using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The area a hatch fills, seen from above: loops around it counter-clockwise, loops around its islands clockwise, so that areas
/// drawn together neither cover nor cut one another.</summary>
internal static class HatchArea
{
    private const int Outermost = 1,
        Ignored = 2,
        MostLoops = 500;

    /// <summary>The loops.</summary>
    /// <param name="hatch">The hatch.</param>
    /// <param name="at">Where its block is.</param>
    public static List<Vec3[]> Loops(Hatch hatch, InsertTransform at)
    {
        var loops = hatch
            .Paths.Select(p =>
                Points(p)
                    .Select(c => at.Apply(ObjectCoordinates.ToWorld(new Vec3(c.X, c.Y, hatch.Elevation), hatch.Normal)))
                    .ToArray()
            )
            .Where(l => l.Length > 2)
            .ToList();
        // Of very many loops each alone is filled: to ask which lies in which would take too long.
        if (loops.Count > MostLoops)
            return [.. loops.Select(l => Oriented(l, false))];
        var oriented = new List<Vec3[]>();
        var boxes = loops.ConvertAll(l => Box.Of(l));
        foreach (var loop in loops)
        {
            int depth = Enumerable
                .Range(0, loops.Count)
                .Count(i => loops[i] != loop && Reaches(boxes[i], loop[0]) && Holds(loops[i], loop[0].XY));
            if ((hatch.Style == Ignored && depth > 0) || (hatch.Style == Outermost && depth > 1))
                continue;
            oriented.Add(Oriented(loop, depth % 2 == 1));
        }

        return oriented;
    }

    /// <summary>A loop that turns the way asked for.</summary>
    public static Vec3[] Oriented(Vec3[] loop, bool clockwise)
    {
        double area = 0;
        for (int i = 1; i + 1 < loop.Length; i++)
            area += (loop[i] - loop[0]).XY.Cross((loop[i + 1] - loop[0]).XY);
        if (area < 0 != clockwise)
            Array.Reverse(loop);
        return loop;
    }

    private static bool Reaches(Box box, Vec3 p) =>
        p.X >= box.Min.X && p.X <= box.Max.X && p.Y >= box.Min.Y && p.Y <= box.Max.Y;

    private static bool Holds(Vec3[] loop, Vec2 point)
    {
        bool inside = false;
        for (int i = 0, before = loop.Length - 1; i < loop.Length; before = i++)
        {
            Vec3 a = loop[i],
                b = loop[before];
            if (a.Y > point.Y != b.Y > point.Y && point.X < a.X + ((b.X - a.X) * (point.Y - a.Y) / (b.Y - a.Y)))
                inside = !inside;
        }

        return inside;
    }

    private static IEnumerable<Vec2> Points(HatchPath path)
    {
        if (path.IsPolyline)
            return CurvePoints.Bulged(path.Vertices, path.Closed);
        return path.Edges.SelectMany(e =>
            e.Kind switch
            {
                HatchEdgeKind.Line => [e.First, e.Second],
                HatchEdgeKind.Arc => SampleConic(e, new Vec2(e.Radius, 0)),
                HatchEdgeKind.Ellipse => SampleConic(e, e.Second),
                _ => e.Controls.Select(c => c.Point),
            }
        );
    }

    // Arcs that run clockwise have their angles mirrored.
    private static IEnumerable<Vec2> SampleConic(HatchEdge e, Vec2 axis)
    {
        double ratio = e.Kind == HatchEdgeKind.Ellipse ? e.Radius : 1,
            sign = e.Counterclockwise ? 1 : -1;
        return CurvePoints
            .Arc(
                new Vec3(e.First.X, e.First.Y, 0),
                new Vec3(axis.X, axis.Y, 0),
                new Vec3(-axis.Y, axis.X, 0) * (ratio * sign),
                e.Angles.Start,
                e.Angles.End
            )
            .Select(p => p.XY);
    }
}
