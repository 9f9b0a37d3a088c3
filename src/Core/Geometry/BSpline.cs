namespace SteadyLintel.Geometry;

/// <summary>The knots of a B-spline in one direction: which spans there are, and how much each control point weighs at a
/// parameter.</summary>
/// <remarks>Piegl and Tiller, The NURBS Book, algorithms A2.1 and A2.2; knots are written out with their multiplicities.</remarks>
public sealed class BSplineBasis
{
    /// <summary>The degree that is still read.</summary>
    public const int MaxDegree = 24;

    private readonly double[] _knots;
    private readonly int _count;

    /// <summary>Checks and keeps knots.</summary>
    /// <param name="degree">At least 1.</param>
    /// <param name="knots">Ascending, as many as control points + degree + 1.</param>
    /// <param name="count">The number of control points.</param>
    /// <exception cref="ShapeException">The numbers do not fit together.</exception>
    public BSplineBasis(int degree, double[] knots, int count)
    {
        if (degree < 1 || degree > MaxDegree || count <= degree || knots.Length != count + degree + 1)
            throw new ShapeException("A B-spline's degree, knots and control points do not fit together.");
        for (int i = 1; i < knots.Length; i++)
            if (!(knots[i] >= knots[i - 1]))
                throw new ShapeException("A B-spline's knots do not ascend.");
        (Degree, _knots, _count) = (degree, knots, count);
        if (!(To > From))
            throw new ShapeException("A B-spline's knots span nothing.");
    }

    /// <summary>The degree.</summary>
    public int Degree { get; }

    /// <summary>The first parameter.</summary>
    public double From => _knots[Degree];

    /// <summary>The last parameter.</summary>
    public double To => _knots[_count];

    /// <summary>The distinct knots from <see cref="From"/> to <see cref="To"/>.</summary>
    public IReadOnlyList<double> Breaks => [.. _knots[Degree..(_count + 1)].Distinct()];

    /// <summary>Fills the weights of the <see cref="Degree"/> + 1 control points that matter at a parameter.</summary>
    /// <param name="t">The parameter, in the unit of the knots.</param>
    /// <param name="weights">Takes them; as many as there are degrees and one more.</param>
    /// <returns>The number of the first of them.</returns>
    public int Weights(double t, Span<double> weights)
    {
        t = Math.Clamp(t, From, To);
        int span = Span(t);
        Span<double> left = stackalloc double[Degree + 1],
            right = stackalloc double[Degree + 1];
        weights[0] = 1;
        for (int j = 1; j <= Degree; j++)
        {
            left[j] = t - _knots[span + 1 - j];
            right[j] = _knots[span + j] - t;
            double saved = 0;
            for (int r = 0; r < j; r++)
            {
                double part = weights[r] / (right[r + 1] + left[j - r]);
                weights[r] = saved + (right[r + 1] * part);
                saved = left[j - r] * part;
            }

            weights[j] = saved;
        }

        return span - Degree;
    }

    private int Span(double t)
    {
        if (t >= _knots[_count])
        {
            int last = _count - 1;
            while (last > Degree && _knots[last] >= _knots[last + 1])
                last--;
            return last;
        }

        int lo = Degree,
            hi = _count;
        while (hi - lo > 1)
        {
            int mid = (lo + hi) / 2;
            if (t < _knots[mid])
                hi = mid;
            else
                lo = mid;
        }

        return lo;
    }
}

/// <summary>A B-spline curve, rational when it has weights (ISO 10303-42 b_spline_curve).</summary>
/// <param name="basis">Degree and knots.</param>
/// <param name="points">The control points, metres.</param>
/// <param name="weights">A weight for each control point; null where all are one.</param>
public sealed class BSplineCurve(BSplineBasis basis, Vec3[] points, double[]? weights)
{
    /// <summary>Its knots.</summary>
    public BSplineBasis Basis { get; } = basis;

    /// <summary>The point at a parameter.</summary>
    /// <param name="t">The parameter, in the unit of the knots.</param>
    public Vec3 Point(double t)
    {
        Span<double> n = stackalloc double[Basis.Degree + 1];
        int first = Basis.Weights(t, n);
        var sum = Vec3.Zero;
        double all = 0;
        for (int i = 0; i < n.Length; i++)
        {
            double w = n[i] * (weights?[first + i] ?? 1);
            sum += points[first + i] * w;
            all += w;
        }

        return sum * (1 / all);
    }
}
