namespace SteadyLintel.Geometry;

/// <summary>A point or direction in space, metres, right-handed, Z up.</summary>
/// <param name="X">Metres.</param>
/// <param name="Y">Metres.</param>
/// <param name="Z">Metres, up.</param>
public readonly record struct Vec3(double X, double Y, double Z)
{
    /// <summary>The origin.</summary>
    public static readonly Vec3 Zero;

    /// <summary>The unit vectors.</summary>
    public static readonly Vec3 AxisX = new(1, 0, 0),
        AxisY = new(0, 1, 0),
        AxisZ = new(0, 0, 1);

    /// <summary>The length.</summary>
    public double Length => Math.Sqrt(Dot(this));

    /// <summary>The plan part.</summary>
    public Vec2 XY => new(X, Y);

    /// <summary>Sum.</summary>
    /// <param name="a">One.</param>
    /// <param name="b">The other.</param>
    public static Vec3 operator +(Vec3 a, Vec3 b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    /// <summary>Difference.</summary>
    /// <param name="a">What is taken from.</param>
    /// <param name="b">What is taken away.</param>
    public static Vec3 operator -(Vec3 a, Vec3 b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    /// <summary>Opposite.</summary>
    /// <param name="a">What is turned round.</param>
    public static Vec3 operator -(Vec3 a) => new(-a.X, -a.Y, -a.Z);

    /// <summary>Scaled.</summary>
    /// <param name="a">What is scaled.</param>
    /// <param name="s">By how much.</param>
    public static Vec3 operator *(Vec3 a, double s) => new(a.X * s, a.Y * s, a.Z * s);

    /// <summary>The dot product.</summary>
    /// <param name="b">The other.</param>
    public double Dot(Vec3 b) => (X * b.X) + (Y * b.Y) + (Z * b.Z);

    /// <summary>The cross product.</summary>
    /// <param name="b">The other, to the left.</param>
    public Vec3 Cross(Vec3 b) => new((Y * b.Z) - (Z * b.Y), (Z * b.X) - (X * b.Z), (X * b.Y) - (Y * b.X));

    /// <summary>The direction with length 1; the zero vector stays zero.</summary>
    public Vec3 Unit()
    {
        double length = Length;
        return length > 0 ? this * (1 / length) : this;
    }
}
