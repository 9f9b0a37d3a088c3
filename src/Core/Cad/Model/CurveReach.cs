using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>How far curves reach along the axes: exact for arcs of circles and ellipses, to a billionth for splines.</summary>
internal static class CurveReach
{
    private const int Steps = 16;

    /// <summary>The ends of an arc and its points farthest along each axis.</summary>
    /// <param name="centre">The centre.</param>
    /// <param name="u">From the centre to the point at 0.</param>
    /// <param name="v">From the centre to the point at a right angle.</param>
    /// <param name="from">Where it begins, radians.</param>
    /// <param name="to">Where it ends; not after <paramref name="from"/> means once round and on.</param>
    public static IEnumerable<Vec3> Arc(Vec3 centre, Vec3 u, Vec3 v, double from, double to)
    {
        to = ArcAngles.End(from, to);
        yield return At(from);
        yield return At(to);
        foreach (var (a, b) in ((double, double)[])[(u.X, v.X), (u.Y, v.Y), (u.Z, v.Z)])
        {
            // a cos t + b sin t is farthest where its derivative is nothing.
            double t = Math.Atan2(b, a);
            for (int half = 0; half < 2; half++, t += Math.PI)
            {
                double within = t + (2 * Math.PI * Math.Ceiling((from - t) / (2 * Math.PI)));
                if (within >= from && within <= to)
                    yield return At(within);
            }
        }

        Vec3 At(double t) => centre + (u * Math.Cos(t)) + (v * Math.Sin(t));
    }

    /// <summary>Points of a spline that bound it: its ends, and along each axis the farthest of every stretch; its control points where it
    /// makes no curve.</summary>
    public static IReadOnlyList<Vec3> Of(Spline spline)
    {
        if (spline.Controls.Count == 0)
            return spline.Fits;
        if (spline.Curve() is not var (curve, from, to))
            return spline.Controls;
        int steps = Math.Min(4000, Steps * spline.Controls.Count);
        double step = (to - from) / steps;
        var points = Enumerable.Range(0, steps + 1).Select(i => curve.Point(from + (step * i))).ToList();
        var farthest = new List<Vec3>(points);
        foreach (var of in (Func<Vec3, double>[])[p => p.X, p => -p.X, p => p.Y, p => -p.Y, p => p.Z, p => -p.Z])
        {
            double middle = from + (step * Enumerable.Range(0, points.Count).MaxBy(i => of(points[i])));
            farthest.Add(Farthest(curve, of, Math.Max(from, middle - step), Math.Min(to, middle + step)));
        }

        return farthest;
    }

    // Golden section: the stretch is short enough to have one summit.
    private static Vec3 Farthest(BSplineCurve curve, Func<Vec3, double> of, double low, double high)
    {
        const double Part = 0.6180339887498949;
        for (int i = 0; i < 50 && high - low > 1e-15; i++)
        {
            double a = high - (Part * (high - low)),
                b = low + (Part * (high - low));
            if (of(curve.Point(a)) < of(curve.Point(b)))
                low = a;
            else
                high = b;
        }

        return curve.Point((low + high) / 2);
    }
}
