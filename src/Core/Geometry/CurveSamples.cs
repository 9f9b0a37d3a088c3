namespace SteadyLintel.Geometry;

/// <summary>A curve as points with their parameters.</summary>
/// <param name="Parameters">Ascending.</param>
/// <param name="Points">As many points, metres.</param>
public sealed record CurveSamples(IReadOnlyList<double> Parameters, IReadOnlyList<Vec3> Points)
{
    // A chord may be off its arc by this share of its own length: that of an arc of a 96th of a circle.
    private const double Flat = Math.PI / Sweep.FullCircle / 4;
    private const int MaxPoints = 20_000;

    /// <summary>Samples a curve between parameters until chords are close enough to it.</summary>
    /// <param name="point">The curve.</param>
    /// <param name="breaks">Ascending parameters that are always taken, the ends among them: where its form may change.</param>
    /// <param name="tolerance">How finely.</param>
    public static CurveSamples Of(Func<double, Vec3> point, IReadOnlyList<double> breaks, Tolerance tolerance)
    {
        var parameters = new List<double> { breaks[0] };
        var points = new List<Vec3> { point(breaks[0]) };
        for (int i = 0; i + 1 < breaks.Count; i++)
        {
            // Three stretches a span at first, so that an S does not look straight from its middle.
            for (int k = 0; k < 3; k++)
                Add(
                    breaks[i] + ((breaks[i + 1] - breaks[i]) * k / 3),
                    breaks[i] + ((breaks[i + 1] - breaks[i]) * (k + 1) / 3),
                    points[^1],
                    0
                );
        }

        return new CurveSamples(parameters, points);

        void Add(double from, double to, Vec3 start, int depth)
        {
            var end = point(to);
            double middle = (from + to) / 2;
            var at = point(middle);
            double off = ((start + end) * 0.5 - at).Length,
                chord = (end - start).Length;
            if (depth < 12 && points.Count < MaxPoints && off > 1e-7 && (off > tolerance.Chord || off > Flat * chord))
            {
                Add(from, middle, start, depth + 1);
                Add(middle, to, points[^1], depth + 1);
                return;
            }

            parameters.Add(to);
            points.Add(end);
        }
    }

    /// <summary>The part between two parameters, with the curve's own points at its ends.</summary>
    /// <param name="from">Where to begin.</param>
    /// <param name="to">Where to end; before <paramref name="from"/> the part runs backward.</param>
    /// <param name="point">The curve; null takes the chords.</param>
    public List<Vec3> Between(double from, double to, Func<double, Vec3>? point = null)
    {
        double low = Math.Min(from, to),
            high = Math.Max(from, to);
        double slack = 1e-9 * Math.Max(1, Math.Abs(Parameters[^1] - Parameters[0]));
        var part = new List<Vec3> { At(low, point) };
        for (int i = 0; i < Parameters.Count; i++)
            if (Parameters[i] > low + slack && Parameters[i] < high - slack)
                part.Add(Points[i]);
        part.Add(At(high, point));
        if (from > to)
            part.Reverse();
        return part;
    }

    /// <summary>The parameter of the place on the chords that is nearest to a point.</summary>
    /// <param name="p">In the frame of the curve, metres.</param>
    public double Nearest(Vec3 p)
    {
        double best = double.PositiveInfinity,
            at = Parameters[0];
        for (int i = 0; i + 1 < Points.Count; i++)
        {
            var chord = Points[i + 1] - Points[i];
            double share = chord.Length < 1e-12 ? 0 : Math.Clamp((p - Points[i]).Dot(chord) / chord.Dot(chord), 0, 1);
            double off = (Points[i] + (chord * share) - p).Length;
            if (off >= best - 1e-12)
                continue;
            best = off;
            at = Parameters[i] + ((Parameters[i + 1] - Parameters[i]) * share);
        }

        return at;
    }

    /// <summary>The point on the chords at a parameter.</summary>
    /// <param name="t">The parameter, in the unit of the curve.</param>
    public Vec3 Point(double t)
    {
        int i = 1;
        for (int last = Parameters.Count - 1; i < last; )
        {
            int middle = (i + last) / 2;
            if (Parameters[middle] < t)
                i = middle + 1;
            else
                last = middle;
        }

        double span = Parameters[i] - Parameters[i - 1];
        double share = span <= 0 ? 0 : Math.Clamp((t - Parameters[i - 1]) / span, 0, 1);
        return Points[i - 1] + ((Points[i] - Points[i - 1]) * share);
    }

    private Vec3 At(double t, Func<double, Vec3>? point) =>
        point is null ? Point(t) : point(Math.Clamp(t, Parameters[0], Parameters[^1]));
}
