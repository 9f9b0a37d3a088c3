namespace SteadyLintel.Geometry;

/// <summary>An axis-aligned box; <see cref="Empty"/> holds nothing and grows by <see cref="Add(Vec3)"/>.</summary>
/// <param name="Min">The corner with the least coordinates, in the unit and frame of the points.</param>
/// <param name="Max">The corner with the greatest.</param>
public readonly record struct Box(Vec3 Min, Vec3 Max)
{
    /// <summary>The box of no points.</summary>
    public static readonly Box Empty = new(
        new Vec3(double.PositiveInfinity, double.PositiveInfinity, double.PositiveInfinity),
        new Vec3(double.NegativeInfinity, double.NegativeInfinity, double.NegativeInfinity)
    );

    /// <summary>Whether no point was added.</summary>
    public bool IsEmpty => Min.X > Max.X;

    /// <summary>The middle.</summary>
    public Vec3 Centre => (Min + Max) * 0.5;

    /// <summary>The edge lengths.</summary>
    public Vec3 Size => Max - Min;

    /// <summary>Its eight corners.</summary>
    public IEnumerable<Vec3> Corners()
    {
        var (low, high) = (Min, Max);
        return from x in new[] { low.X, high.X }
            from y in new[] { low.Y, high.Y }
            from z in new[] { low.Z, high.Z }
            select new Vec3(x, y, z);
    }

    /// <summary>The box with a point.</summary>
    /// <param name="p">In the frame of the box.</param>
    public Box Add(Vec3 p) =>
        new(
            new Vec3(Math.Min(Min.X, p.X), Math.Min(Min.Y, p.Y), Math.Min(Min.Z, p.Z)),
            new Vec3(Math.Max(Max.X, p.X), Math.Max(Max.Y, p.Y), Math.Max(Max.Z, p.Z))
        );

    /// <summary>The box around both.</summary>
    /// <param name="other">In the same frame; an empty one adds nothing.</param>
    public Box Add(Box other) => other.IsEmpty ? this : Add(other.Min).Add(other.Max);

    /// <summary>The box around points.</summary>
    /// <param name="points">In one frame; none give the empty box.</param>
    public static Box Of(IEnumerable<Vec3> points)
    {
        var box = Empty;
        foreach (var p in points)
            box = box.Add(p);
        return box;
    }

    /// <summary>Whether the boxes share a point, with a margin.</summary>
    /// <param name="other">In the same frame.</param>
    /// <param name="margin">How far apart they may be, in the unit of the box.</param>
    public bool Touches(Box other, double margin) =>
        Min.X <= other.Max.X + margin
        && other.Min.X <= Max.X + margin
        && Min.Y <= other.Max.Y + margin
        && other.Min.Y <= Max.Y + margin
        && Min.Z <= other.Max.Z + margin
        && other.Min.Z <= Max.Z + margin;
}
