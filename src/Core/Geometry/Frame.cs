namespace SteadyLintel.Geometry;

/// <summary>An affine map: a point p goes to Origin + X·p.x + Y·p.y + Z·p.z. A placement when the axes are unit and square to each
/// other.</summary>
/// <param name="Origin">Where the zero of the inner frame lies in the outer one.</param>
/// <param name="X">What a step along the inner X is in the outer frame.</param>
/// <param name="Y">The same along Y.</param>
/// <param name="Z">The same along Z.</param>
public readonly record struct Frame(Vec3 Origin, Vec3 X, Vec3 Y, Vec3 Z)
{
    /// <summary>The frame that moves nothing.</summary>
    public static readonly Frame Identity = new(Vec3.Zero, Vec3.AxisX, Vec3.AxisY, Vec3.AxisZ);

    /// <summary>The determinant of the axes: the factor on volumes, negative for a mirror.</summary>
    public double Determinant => X.Dot(Y.Cross(Z));

    /// <summary>A frame that only shifts.</summary>
    /// <param name="origin">The shift, in the unit of the points.</param>
    public static Frame At(Vec3 origin) => Identity with { Origin = origin };

    /// <summary>A placement from a Z direction and a hint for X, as IfcAxis2Placement3D builds it (ISO 10303-42 build_axes).</summary>
    /// <param name="origin">Where the zero lies in the outer frame.</param>
    /// <param name="axis">Z, of any length; the outer Z where it has none.</param>
    /// <param name="reference">Roughly X; where it lies along Z another direction is taken.</param>
    public static Frame FromAxes(Vec3 origin, Vec3 axis, Vec3 reference)
    {
        var z = axis.Length > 0 ? axis.Unit() : Vec3.AxisZ;
        var x = reference - (z * reference.Dot(z));
        if (x.Length < 1e-9)
            x = Math.Abs(z.X) < 0.9 ? Vec3.AxisX - (z * z.X) : Vec3.AxisY - (z * z.Y);
        x = x.Unit();
        return new Frame(origin, x, z.Cross(x), z);
    }

    /// <summary>Maps a point.</summary>
    /// <param name="p">In the inner frame.</param>
    public Vec3 Point(Vec3 p) => Origin + Direction(p);

    /// <summary>Maps a direction.</summary>
    /// <param name="d">In the inner frame; the origin does not count.</param>
    public Vec3 Direction(Vec3 d) => (X * d.X) + (Y * d.Y) + (Z * d.Z);

    /// <summary>Returns the frame that applies <paramref name="inner"/> first and this frame second.</summary>
    /// <param name="inner">The frame applied first; same length unit as this frame.</param>
    /// <returns>The composed frame. Composition is not commutative.</returns>
    public Frame Compose(Frame inner) =>
        new(Point(inner.Origin), Direction(inner.X), Direction(inner.Y), Direction(inner.Z));

    /// <summary>The map that undoes this one.</summary>
    /// <exception cref="InvalidOperationException">The axes are in one plane.</exception>
    public Frame Inverse()
    {
        double d = Determinant;
        if (Math.Abs(d) < 1e-300)
            throw new InvalidOperationException("The axes are in one plane.");
        Vec3 a = Y.Cross(Z) * (1 / d),
            b = Z.Cross(X) * (1 / d),
            c = X.Cross(Y) * (1 / d);
        var inverse = new Frame(Vec3.Zero, new Vec3(a.X, b.X, c.X), new Vec3(a.Y, b.Y, c.Y), new Vec3(a.Z, b.Z, c.Z));
        return inverse with { Origin = -inverse.Direction(Origin) };
    }
}
