using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Points along the curves of drawings, for pictures: a chord for every five degrees.</summary>
internal static class CurvePoints
{
    private const double Step = Math.PI / 36;
    private const int MostSplinePoints = 400;

    /// <summary>Points of an arc about a centre, counterclockwise from one angle to another.</summary>
    public static IEnumerable<Vec3> Arc(Vec3 centre, Vec3 x, Vec3 y, double from, double to)
    {
        to = ArcAngles.End(from, to);
        int count = Math.Clamp((int)Math.Ceiling((to - from) / Step), 1, 1000);
        for (int i = 0; i <= count; i++)
        {
            double angle = from + ((to - from) * i / count);
            yield return centre + (x * Math.Cos(angle)) + (y * Math.Sin(angle));
        }
    }

    /// <summary>Points of lines and arcs given by vertices and bulges.</summary>
    public static IEnumerable<Vec2> Bulged(IReadOnlyList<(Vec2 Point, double Bulge)> vertices, bool closed)
    {
        for (int i = 0; i < vertices.Count; i++)
        {
            var (a, bulge) = vertices[i];
            yield return a;
            if (bulge == 0 || (!closed && i == vertices.Count - 1))
                continue;
            var b = vertices[(i + 1) % vertices.Count].Point;
            double angle = 4 * Math.Atan(bulge);
            var middle = (a + b) * 0.5;
            var half = (b - a) * 0.5;
            var centre = middle + (new Vec2(-half.Y, half.X) * ((1 - (bulge * bulge)) / (2 * bulge)));
            int count = Math.Clamp((int)Math.Ceiling(Math.Abs(angle) / Step), 1, 1000);
            for (int k = 1; k < count; k++)
            {
                double turn = angle * k / count,
                    c = Math.Cos(turn),
                    s = Math.Sin(turn);
                var d = a - centre;
                yield return centre + new Vec2((d.X * c) - (d.Y * s), (d.X * s) + (d.Y * c));
            }
        }

        if (closed && vertices.Count > 0)
            yield return vertices[0].Point;
    }

    /// <summary>Points of a spline; those it goes through where it has no control points, or makes no curve.</summary>
    public static IReadOnlyList<Vec3> Spline(Spline spline)
    {
        if (spline.Controls.Count == 0)
            return spline.Fits;
        if (spline.Curve() is not var (curve, from, to))
            return spline.Controls;
        int steps = Math.Min(MostSplinePoints, 8 * spline.Controls.Count);
        return [.. Enumerable.Range(0, steps + 1).Select(i => curve.Point(from + ((to - from) * i / steps)))];
    }
}
