namespace SteadyLintel.Geometry;

/// <summary>A plane: u and v along the frame's X and Y.</summary>
/// <param name="frame">Whose zero is where u and v are zero.</param>
public sealed class PlaneSurface(Frame frame) : Surface
{
    /// <inheritdoc/>
    public override Vec3 Point(double u, double v) => frame.Point(new Vec3(u, v, 0));

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near) =>
        new((p - frame.Origin).Dot(frame.X), (p - frame.Origin).Dot(frame.Y));
}

/// <summary>A cylinder: u about the frame's Z, v along it.</summary>
/// <param name="frame">Whose Z is the axis.</param>
/// <param name="radius">Metres.</param>
public sealed class CylinderSurface(Frame frame, double radius) : Surface
{
    /// <inheritdoc/>
    public override double PeriodU => 2 * Math.PI;

    /// <inheritdoc/>
    public override Vec3 Point(double u, double v) =>
        frame.Point(new Vec3(radius * Math.Cos(u), radius * Math.Sin(u), v));

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        var d = p - frame.Origin;
        return new Vec2(Math.Atan2(d.Dot(frame.Y), d.Dot(frame.X)), d.Dot(frame.Z));
    }
}

/// <summary>A sphere: u about the frame's Z, v the height above the equator as an angle.</summary>
/// <param name="frame">Whose zero is the middle.</param>
/// <param name="radius">Metres.</param>
public sealed class SphereSurface(Frame frame, double radius) : Surface
{
    /// <inheritdoc/>
    public override double PeriodU => 2 * Math.PI;

    /// <inheritdoc/>
    public override (double FromU, double ToU, double FromV, double ToV) Domain =>
        (0, 2 * Math.PI, -Math.PI / 2, Math.PI / 2);

    /// <inheritdoc/>
    public override Vec3 Point(double u, double v) =>
        frame.Point(
            new Vec3(radius * Math.Cos(v) * Math.Cos(u), radius * Math.Cos(v) * Math.Sin(u), radius * Math.Sin(v))
        );

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        var d = p - frame.Origin;
        double x = d.Dot(frame.X),
            y = d.Dot(frame.Y),
            z = d.Dot(frame.Z);
        return new Vec2(Math.Atan2(y, x), Math.Atan2(z, Math.Sqrt((x * x) + (y * y))));
    }

    /// <inheritdoc/>
    public override bool IsPole(double v) => Math.Abs(Math.Abs(v) - (Math.PI / 2)) < 1e-6;
}

/// <summary>A torus: u about the frame's Z, v about its tube.</summary>
/// <param name="frame">Whose zero is the middle and whose Z the axis.</param>
/// <param name="major">From the axis to the middle of the tube, metres.</param>
/// <param name="minor">Of the tube, metres.</param>
public sealed class TorusSurface(Frame frame, double major, double minor) : Surface
{
    /// <inheritdoc/>
    public override double PeriodU => 2 * Math.PI;

    /// <inheritdoc/>
    public override double PeriodV => 2 * Math.PI;

    /// <inheritdoc/>
    public override (double FromU, double ToU, double FromV, double ToV) Domain => (0, 2 * Math.PI, 0, 2 * Math.PI);

    /// <inheritdoc/>
    public override Vec3 Point(double u, double v)
    {
        double reach = major + (minor * Math.Cos(v));
        return frame.Point(new Vec3(reach * Math.Cos(u), reach * Math.Sin(u), minor * Math.Sin(v)));
    }

    /// <inheritdoc/>
    public override Vec2 Uv(Vec3 p, Vec2? near)
    {
        var d = p - frame.Origin;
        double x = d.Dot(frame.X),
            y = d.Dot(frame.Y);
        return new Vec2(Math.Atan2(y, x), Math.Atan2(d.Dot(frame.Z), Math.Sqrt((x * x) + (y * y)) - major));
    }
}
