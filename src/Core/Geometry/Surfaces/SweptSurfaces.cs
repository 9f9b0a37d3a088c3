namespace SteadyLintel.Geometry;

/// <summary>A curve moved along a direction: u along the curve, v metres along the direction.</summary>
/// <param name="curve">What is moved, metres.</param>
/// <param name="direction">Of any length.</param>
public sealed class ExtrusionSurface(CurveSamples curve, Vec3 direction) : Surface
{
    private readonly Vec3 _direction = direction.Unit();
    private readonly CurveSamples _flat = new(
        curve.Parameters,
        [.. curve.Points.Select(p => Flat(p, direction.Unit()))]
    );

    /// <inheritdoc/>
    public override double PeriodU { get; } = SweptCurve.Period(curve);

    /// <inheritdoc/>
    public override (double FromU, double ToU, double FromV, double ToV) Domain =>
        (curve.Parameters[0], curve.Parameters[^1], double.NegativeInfinity, double.PositiveInfinity);

    /// <inheritdoc/>
    public override Vec3 Point(double u, double v) =>
        curve.Point(SweptCurve.Wrap(curve, u, PeriodU)) + (_direction * v);

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        // Seen along the direction, the point lies on the curve.
        double u = _flat.Nearest(Flat(p, _direction));
        return new Vec2(u, (p - curve.Point(u)).Dot(_direction));
    }

    private static Vec3 Flat(Vec3 p, Vec3 direction) => p - (direction * p.Dot(direction));
}

/// <summary>A curve turned about an axis: u the angle, v along the curve.</summary>
/// <param name="curve">What is turned, metres.</param>
/// <param name="origin">A point of the axis.</param>
/// <param name="axis">Its direction.</param>
public sealed class RevolutionSurface(CurveSamples curve, Vec3 origin, Vec3 axis) : Surface
{
    private readonly Frame _frame = Frame.FromAxes(
        origin,
        axis,
        curve.Points.Select(p => p - origin).Select(d => d - (axis.Unit() * d.Dot(axis.Unit()))).MaxBy(d => d.Length)
    );

    /// <inheritdoc/>
    public override double PeriodU => 2 * Math.PI;

    /// <inheritdoc/>
    public override double PeriodV { get; } = SweptCurve.Period(curve);

    /// <inheritdoc/>
    public override (double FromU, double ToU, double FromV, double ToV) Domain =>
        (0, 2 * Math.PI, curve.Parameters[0], curve.Parameters[^1]);

    /// <inheritdoc/>
    public override Vec3 Point(double u, double v) =>
        Sweep.Turn(_frame.Origin, _frame.Z, u).Point(curve.Point(SweptCurve.Wrap(curve, v, PeriodV)));

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        double v = Flattened.Nearest(Flat(p));
        return new Vec2(Angle(p) - Angle(curve.Point(v)), v);
    }

    /// <inheritdoc/>
    public override bool IsPole(double v)
    {
        var d = curve.Point(SweptCurve.Wrap(curve, v, PeriodV)) - _frame.Origin;
        return (d - (_frame.Z * d.Dot(_frame.Z))).Length < 1e-7;
    }

    // In the half-plane of radius and height a point lies on the curve; the angle between the two is u.
    private CurveSamples Flattened => field ??= new CurveSamples(curve.Parameters, [.. curve.Points.Select(Flat)]);

    private Vec3 Flat(Vec3 p)
    {
        var d = p - _frame.Origin;
        double height = d.Dot(_frame.Z);
        return new Vec3((d - (_frame.Z * height)).Length, height, 0);
    }

    private double Angle(Vec3 p) => Math.Atan2((p - _frame.Origin).Dot(_frame.Y), (p - _frame.Origin).Dot(_frame.X));
}

/// <summary>What surfaces over a curve share.</summary>
internal static class SweptCurve
{
    public static double Period(CurveSamples curve) =>
        curve.Points.Count > 3 && (curve.Points[0] - curve.Points[^1]).Length < 1e-7
            ? curve.Parameters[^1] - curve.Parameters[0]
            : 0;

    public static double Wrap(CurveSamples curve, double t, double period) =>
        period > 0
            ? curve.Parameters[0] + Math.IEEERemainder(t - curve.Parameters[0] - (period / 2), period) + (period / 2)
            : t;
}
