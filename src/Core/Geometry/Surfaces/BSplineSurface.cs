namespace SteadyLintel.Geometry;

/// <summary>A B-spline surface, rational when it has weights (ISO 10303-42 b_spline_surface).</summary>
/// <param name="u">Knots along the rows of the net.</param>
/// <param name="v">Knots along its columns.</param>
/// <param name="points">The control net, [row in u][column in v].</param>
/// <param name="weights">As the net, or null.</param>
public sealed class BSplineSurface(BSplineBasis u, BSplineBasis v, Vec3[][] points, double[][]? weights) : Surface
{
    private const int Coarse = 12;
    private (Vec2 Uv, Vec3 Point)[]? _grid;

    /// <inheritdoc/>
    public override double PeriodU { get; } = Closes(points[0], points[^1]) ? u.To - u.From : 0;

    /// <inheritdoc/>
    public override double PeriodV { get; } = points.All(row => (row[0] - row[^1]).Length < 1e-7) ? v.To - v.From : 0;

    /// <inheritdoc/>
    public override (double FromU, double ToU, double FromV, double ToV) Domain => (u.From, u.To, v.From, v.To);

    /// <summary>Parameters where the form may change: the distinct knots in u and v.</summary>
    public (IReadOnlyList<double> U, IReadOnlyList<double> V) Breaks => (u.Breaks, v.Breaks);

    /// <inheritdoc/>
    public override Vec3 Point(double s, double t)
    {
        Span<double> nu = stackalloc double[u.Degree + 1],
            nv = stackalloc double[v.Degree + 1];
        int firstU = u.Weights(Wrap(s, u, PeriodU), nu),
            firstV = v.Weights(Wrap(t, v, PeriodV), nv);
        var sum = Vec3.Zero;
        double all = 0;
        for (int i = 0; i < nu.Length; i++)
        {
            for (int j = 0; j < nv.Length; j++)
            {
                double w = nu[i] * nv[j] * (weights?[firstU + i][firstV + j] ?? 1);
                sum += points[firstU + i][firstV + j] * w;
                all += w;
            }
        }

        return sum * (1 / all);
    }

    /// <inheritdoc/>
    /// <remarks>A coarse grid gives the start, Newton's method on the distance the rest.</remarks>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        var start = Grid().MinBy(g => (g.Point - p).Length);
        var best = Refine(start.Uv, p);
        if (
            near is { } close
            && (Point(best.X, best.Y) - p).Length > 1e-7
            && Refine(close, p) is var other
            && (Point(other.X, other.Y) - p).Length < (Point(best.X, best.Y) - p).Length
        )
            best = other;
        return best;
    }

    private Vec2 Refine(Vec2 at, Vec3 p)
    {
        double hu = (u.To - u.From) * 1e-5,
            hv = (v.To - v.From) * 1e-5;
        double error = (Point(at.X, at.Y) - p).Length;
        for (int i = 0; i < 40 && error > 1e-10; i++)
        {
            Vec3 du = (Point(at.X + hu, at.Y) - Point(at.X - hu, at.Y)) * (1 / Span(at.X, hu, u, PeriodU)),
                dv = (Point(at.X, at.Y + hv) - Point(at.X, at.Y - hv)) * (1 / Span(at.Y, hv, v, PeriodV));
            var r = p - Point(at.X, at.Y);
            double a = du.Dot(du),
                b = du.Dot(dv),
                c = dv.Dot(dv),
                det = (a * c) - (b * b);
            double stepU,
                stepV;
            if (det > 1e-12 * a * c)
                (stepU, stepV) = (((c * r.Dot(du)) - (b * r.Dot(dv))) / det, ((a * r.Dot(dv)) - (b * r.Dot(du))) / det);
            else
                (stepU, stepV) = (a > 0 ? r.Dot(du) / a : 0, c > 0 ? r.Dot(dv) / c : 0);
            // Half the step until it helps.
            bool better = false;
            for (int k = 0; k < 12 && !better; k++, stepU /= 2, stepV /= 2)
            {
                var next = new Vec2(Clamp(at.X + stepU, u, PeriodU), Clamp(at.Y + stepV, v, PeriodV));
                double off = (Point(next.X, next.Y) - p).Length;
                if (off >= error)
                    continue;
                (at, error, better) = (next, off, true);
            }

            if (!better)
                break;
        }

        return at;
    }

    private (Vec2 Uv, Vec3 Point)[] Grid()
    {
        if (_grid is not null)
            return _grid;
        double[] us = Fine(u),
            vs = Fine(v);
        return _grid = [.. us.SelectMany(s => vs.Select(t => (new Vec2(s, t), Point(s, t))))];
    }

    private static double[] Fine(BSplineBasis basis)
    {
        var breaks = basis.Breaks;
        int per = Math.Max(2, Coarse / (breaks.Count - 1));
        return
        [
            .. Enumerable
                .Range(0, breaks.Count - 1)
                .SelectMany(i =>
                    Enumerable.Range(0, per).Select(k => breaks[i] + ((breaks[i + 1] - breaks[i]) * k / per))
                ),
            breaks[^1],
        ];
    }

    // Finite differences at an open edge see only one side.
    private static double Span(double t, double h, BSplineBasis basis, double period) =>
        period > 0 ? 2 * h : Math.Min(t + h, basis.To) - Math.Max(t - h, basis.From);

    private static double Clamp(double t, BSplineBasis basis, double period) =>
        period > 0 ? t : Math.Clamp(t, basis.From, basis.To);

    private static double Wrap(double t, BSplineBasis basis, double period)
    {
        if (period <= 0 || (t >= basis.From && t <= basis.To))
            return t;
        return basis.From + (t - basis.From) - (period * Math.Floor((t - basis.From) / period));
    }

    private static bool Closes(Vec3[] first, Vec3[] last) =>
        first.Zip(last).All(p => (p.First - p.Second).Length < 1e-7);

    /// <inheritdoc/>
    public override bool IsPole(double t)
    {
        if (t > v.From + 1e-9 && t < v.To - 1e-9)
            return false;
        var row = points.Select(r => t <= v.From + 1e-9 ? r[0] : r[^1]).ToList();
        return row.All(p => (p - row[0]).Length < 1e-7);
    }
}
