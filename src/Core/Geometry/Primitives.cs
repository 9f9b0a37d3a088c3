namespace SteadyLintel.Geometry;

/// <summary>The solids of constructive geometry, in a frame (ISO 10303-42 csg_primitive).</summary>
public static class Primitives
{
    /// <summary>A pyramid over a rectangle with a corner in the origin.</summary>
    /// <param name="frame">Of the base, whose corner is its zero.</param>
    /// <param name="x">The base along X, metres.</param>
    /// <param name="y">The base along Y, metres.</param>
    /// <param name="height">Metres.</param>
    public static Mesh Pyramid(Frame frame, double x, double y, double height)
    {
        var points = new[]
        {
            new Vec3(0, 0, 0),
            new Vec3(x, 0, 0),
            new Vec3(x, y, 0),
            new Vec3(0, y, 0),
            new Vec3(x / 2, y / 2, height),
        };
        return new Mesh(points, [0, 2, 1, 0, 3, 2, 0, 1, 4, 1, 2, 4, 2, 3, 4, 3, 0, 4]).Map(frame);
    }

    /// <summary>A cone on its base circle.</summary>
    /// <param name="frame">Of the base, whose middle is its zero.</param>
    /// <param name="radius">Of the base, metres.</param>
    /// <param name="height">Metres.</param>
    /// <param name="tolerance">How finely the circle becomes chords.</param>
    public static Mesh Cone(Frame frame, double radius, double height, Tolerance tolerance)
    {
        var circle = Region.Of(Arc.Circle(radius, tolerance));
        var apex = new LoftSection([
            [.. circle.Outer.Select(_ => frame.Point(new Vec3(0, 0, height)))],
        ]);
        return Loft.Through([LoftSection.Of(circle, frame), apex], circle);
    }

    /// <summary>A sphere about the origin of a frame; its points lie as far outside as makes the volume exact.</summary>
    /// <param name="frame">Whose zero is the middle.</param>
    /// <param name="radius">Metres.</param>
    /// <param name="tolerance">How finely circles become chords.</param>
    public static Mesh Sphere(Frame frame, double radius, Tolerance tolerance)
    {
        int n = tolerance.Chords(radius, Math.PI);
        var half = new List<Vec2>();
        for (int i = 0; i <= n; i++)
            half.Add(new Vec2(radius * Math.Sin(Math.PI * i / n), -radius * Math.Cos(Math.PI * i / n)));
        (half[0], half[n]) = (new Vec2(0, -radius), new Vec2(0, radius));
        var region = Region.Of(half);
        var upright = new Frame(Vec3.Zero, Vec3.AxisX, Vec3.AxisZ, -Vec3.AxisY);
        var mesh = Sweep.Around(region, region, upright, Vec3.Zero, Vec3.AxisZ, 2 * Math.PI, tolerance);
        double grow = Math.Cbrt(4 * Math.PI / 3 * radius * radius * radius / MassProperties.Of(mesh).Volume);
        return mesh.Map(new Frame(frame.Origin, frame.X * grow, frame.Y * grow, frame.Z * grow));
    }

    /// <summary>A torus about the Z axis of a frame.</summary>
    /// <param name="frame">Whose zero is the middle and whose Z the axis.</param>
    /// <param name="major">From the axis to the middle of the tube, metres.</param>
    /// <param name="minor">Of the tube, metres.</param>
    /// <param name="tolerance">How finely circles become chords.</param>
    public static Mesh Torus(Frame frame, double major, double minor, Tolerance tolerance)
    {
        var region = Region.Of([.. Arc.Circle(minor, tolerance).Select(p => new Vec2(p.X + major, p.Y))]);
        var upright = new Frame(Vec3.Zero, Vec3.AxisX, Vec3.AxisZ, -Vec3.AxisY);
        return Sweep.Around(region, region, upright, Vec3.Zero, Vec3.AxisZ, 2 * Math.PI, tolerance).Map(frame);
    }
}
