namespace SteadyLintel.Geometry;

/// <summary>A point or direction in a plane, metres.</summary>
/// <param name="X">Metres.</param>
/// <param name="Y">Metres.</param>
public readonly record struct Vec2(double X, double Y)
{
    /// <summary>The length.</summary>
    public double Length => Math.Sqrt((X * X) + (Y * Y));

    /// <summary>Sum.</summary>
    /// <param name="a">One.</param>
    /// <param name="b">The other.</param>
    public static Vec2 operator +(Vec2 a, Vec2 b) => new(a.X + b.X, a.Y + b.Y);

    /// <summary>Difference.</summary>
    /// <param name="a">What is taken from.</param>
    /// <param name="b">What is taken away.</param>
    public static Vec2 operator -(Vec2 a, Vec2 b) => new(a.X - b.X, a.Y - b.Y);

    /// <summary>Scaled.</summary>
    /// <param name="a">What is scaled.</param>
    /// <param name="s">By how much.</param>
    public static Vec2 operator *(Vec2 a, double s) => new(a.X * s, a.Y * s);

    /// <summary>The z component of the cross product: positive when <paramref name="b"/> lies to the left of this.</summary>
    public double Cross(Vec2 b) => (X * b.Y) - (Y * b.X);

    /// <summary>The direction with length 1; the zero vector stays zero.</summary>
    public Vec2 Unit() => Length > 0 ? this * (1 / Length) : this;

    /// <summary>The dot product.</summary>
    /// <param name="b">The other.</param>
    public double Dot(Vec2 b) => (X * b.X) + (Y * b.Y);
}
