namespace SteadyLintel.Geometry;

/// <summary>A plane: points p with Normal·p = Offset.</summary>
/// <param name="Normal">A unit normal.</param>
/// <param name="Offset">The distance from the origin along the normal, metres.</param>
public readonly record struct Plane(Vec3 Normal, double Offset)
{
    /// <summary>The same plane facing the other way.</summary>
    public Plane Flipped => new(-Normal, -Offset);

    /// <summary>The signed distance of a point, positive on the side the normal points to.</summary>
    /// <param name="p">In the frame of the plane, metres.</param>
    public double Distance(Vec3 p) => Normal.Dot(p) - Offset;

    /// <summary>The plane of a loop, by Newell's method: best for loops that are not quite flat. Null when the loop has no area.</summary>
    /// <param name="loop">Its corners, not closed by a repeated point.</param>
    public static Plane? Through(ReadOnlySpan<Vec3> loop)
    {
        if (loop.Length < 3)
            return null;
        var sum = Vec3.Zero;
        var origin = loop[0];
        for (int i = 1; i + 1 < loop.Length; i++)
            sum += (loop[i] - origin).Cross(loop[i + 1] - origin);
        double length = sum.Length;
        if (length < 1e-16)
            return null;
        var normal = sum * (1 / length);
        return new Plane(normal, normal.Dot(origin));
    }
}
