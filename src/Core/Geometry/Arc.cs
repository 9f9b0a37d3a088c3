namespace SteadyLintel.Geometry;

/// <summary>How finely curves become chords.</summary>
/// <param name="Chord">The largest distance between a curve and its chord, metres.</param>
/// <param name="FullCircle">The fewest chords of a full circle. 48 keeps the perimeter within 0.07 %; the area is exact, see
/// <see cref="Arc.Circle"/>.</param>
public sealed record Tolerance(double Chord = 0.001, int FullCircle = 48)
{
    /// <summary>Whether profiles have their fillets; a coarse shape goes without them.</summary>
    public bool Fillets { get; init; } = true;

    /// <summary>1 mm, 48 chords.</summary>
    public static Tolerance Default { get; } = new();

    /// <summary>How many chords an arc takes.</summary>
    /// <param name="radius">Metres.</param>
    /// <param name="sweep">Radians, either sign.</param>
    public int Chords(double radius, double sweep)
    {
        double step = radius > Chord ? 2 * Math.Acos(1 - (Chord / radius)) : Math.PI / 2;
        step = Math.Min(step, 2 * Math.PI / FullCircle);
        return (int)Math.Clamp(Math.Ceiling(Math.Abs(sweep) / step - 1e-9), 1, 1024);
    }
}

/// <summary>Circles and arcs as points.</summary>
public static class Arc
{
    /// <summary>A full circle as a regular polygon of the circle's own area.</summary>
    /// <param name="radius">Metres.</param>
    /// <param name="tolerance">How finely the circle becomes chords.</param>
    /// <remarks>An inscribed polygon of 48 sides would lack 0.3 % of the area; corners set r·√(α / sin α) out, α = 2π/n, lack nothing and
    /// are 0.14 % of the radius outside.</remarks>
    public static Vec2[] Circle(double radius, Tolerance tolerance) => Ellipse(radius, radius, tolerance);

    /// <summary>A full ellipse, as <see cref="Circle"/>.</summary>
    /// <param name="a">Half the extent along X, metres.</param>
    /// <param name="b">Half the extent along Y, metres.</param>
    /// <param name="tolerance">How finely the ellipse becomes chords.</param>
    public static Vec2[] Ellipse(double a, double b, Tolerance tolerance)
    {
        int n = (tolerance.Chords(Math.Max(a, b), 2 * Math.PI) + 3) / 4 * 4;
        double alpha = 2 * Math.PI / n,
            grow = Math.Sqrt(alpha / Math.Sin(alpha));
        var points = new Vec2[n];
        for (int i = 0; i < n; i++)
            points[i] = new Vec2(a * grow * Math.Cos(alpha * i), b * grow * Math.Sin(alpha * i));
        return points;
    }

    /// <summary>Adds an arc's points, both ends included.</summary>
    /// <param name="points">Where to add.</param>
    /// <param name="centre">The centre.</param>
    /// <param name="radius">Metres.</param>
    /// <param name="from">Start angle, radians.</param>
    /// <param name="sweep">Angle swept, radians, negative for clockwise.</param>
    /// <param name="tolerance">How finely.</param>
    public static void Add(
        List<Vec2> points,
        Vec2 centre,
        double radius,
        double from,
        double sweep,
        Tolerance tolerance
    )
    {
        int n = tolerance.Chords(radius, sweep);
        WorkBudget.Spend(n);
        for (int i = 0; i <= n; i++)
        {
            double angle = from + (sweep * i / n);
            points.Add(centre + new Vec2(radius * Math.Cos(angle), radius * Math.Sin(angle)));
        }
    }

    /// <summary>The points of the arc through three points, both ends included; the straight line when they lie in a row.</summary>
    /// <param name="a">The first point, metres.</param>
    /// <param name="mid">A point between.</param>
    /// <param name="b">The last point.</param>
    /// <param name="tolerance">How finely the arc becomes chords.</param>
    public static IReadOnlyList<Vec3> Through(Vec3 a, Vec3 mid, Vec3 b, Tolerance tolerance)
    {
        Vec3 u = mid - a,
            v = b - a,
            normal = u.Cross(v);
        if (normal.Length < 1e-12 * Math.Max(1e-12, u.Length * v.Length))
            return [a, mid, b];
        var centre = a + ((v * u.Dot(u) - u * v.Dot(v)).Cross(normal) * (1 / (2 * normal.Dot(normal))));
        var frame = Frame.FromAxes(centre, normal, a - centre);
        double radius = (a - centre).Length;
        double sweep = Angle(frame, b);
        int n = tolerance.Chords(radius, sweep);
        var points = new Vec3[n + 1];
        for (int i = 0; i <= n; i++)
        {
            double angle = sweep * i / n;
            points[i] = frame.Point(new Vec3(radius * Math.Cos(angle), radius * Math.Sin(angle), 0));
        }

        (points[0], points[n]) = (a, b);
        return points;
    }

    private static double Angle(Frame frame, Vec3 p)
    {
        double angle = Math.Atan2((p - frame.Origin).Dot(frame.Y), (p - frame.Origin).Dot(frame.X));
        return angle <= 0 ? angle + (2 * Math.PI) : angle;
    }
}
