using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The arc between two vertices of a polyline, given by its bulge: the tangent of a quarter of its angle, positive
/// counter-clockwise (DXF reference, group 42).</summary>
internal static class Bulge
{
    /// <summary>A vertex, with those points of the arc behind it that lie farthest left, right, up and down.</summary>
    /// <param name="vertices">Vertices with their bulges.</param>
    /// <param name="closed">Whether the last leads to the first.</param>
    public static IEnumerable<Vec2> Reach(IReadOnlyList<(Vec2 Point, double Bulge)> vertices, bool closed)
    {
        for (int i = 0; i < vertices.Count; i++)
        {
            var (point, bulge) = vertices[i];
            yield return point;
            if (bulge == 0 || (i + 1 == vertices.Count && !closed))
                continue;
            foreach (var far in Farthest(point, vertices[(i + 1) % vertices.Count].Point, bulge))
                yield return far;
        }
    }

    private static IEnumerable<Vec2> Farthest(Vec2 from, Vec2 to, double bulge)
    {
        Vec2 chord = to - from,
            centre = ((from + to) * 0.5) + (new Vec2(-chord.Y, chord.X) * ((1 - (bulge * bulge)) / (4 * bulge)));
        double radius = (from - centre).Length;
        foreach (var direction in (Vec2[])[new(1, 0), new(0, 1), new(-1, 0), new(0, -1)])
        {
            var point = centre + (direction * radius);
            // The chord parts the circle: the arc is the piece on its right when it turns counter-clockwise.
            if (chord.Cross(point - from) * bulge < 0)
                yield return point;
        }
    }
}
