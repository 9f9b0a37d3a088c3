using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A piece of what a drawing shows, seen from above: a segment, or an arc of a circle or an ellipse.</summary>
/// <param name="Origin">The start of a segment, the centre of an arc.</param>
/// <param name="U">From start to end of a segment; the arc's point at 0 from its centre.</param>
/// <param name="V">The arc's point at a right angle from its centre: with <paramref name="U"/> two conjugate half-axes. Zero for a
/// segment.</param>
/// <param name="From">Where an arc begins, radians.</param>
/// <param name="To">Where it ends; greater than <paramref name="From"/>.</param>
/// <remarks>Both kinds stay of their kind under every affine map, so inserts within inserts, scaled unlike along their axes, are exact.
/// </remarks>
public readonly record struct DrawnPiece(Vec2 Origin, Vec2 U, Vec2 V, double From, double To)
{
    private bool IsArc => V != default || From != 0 || To != 1;

    /// <summary>A segment.</summary>
    public static DrawnPiece Segment(Vec2 a, Vec2 b) => new(a, b - a, default, 0, 1);

    /// <summary>The point of the piece at a parameter: from 0 to 1 along a segment, an angle along an arc.</summary>
    public Vec2 At(double t) => IsArc ? Origin + (U * Math.Cos(t)) + (V * Math.Sin(t)) : Origin + (U * t);

    /// <summary>Both ends.</summary>
    public (Vec2 Start, Vec2 End) Ends => (At(From), At(To));

    /// <summary>Whether the piece meets a segment.</summary>
    public bool Meets(Vec2 a, Vec2 b) => IsArc ? ArcMeets(a, b) : SegmentsMeet(Origin, Origin + U, a, b);

    private static bool SegmentsMeet(Vec2 p, Vec2 q, Vec2 a, Vec2 b)
    {
        double d1 = (b - a).Cross(p - a),
            d2 = (b - a).Cross(q - a),
            d3 = (q - p).Cross(a - p),
            d4 = (q - p).Cross(b - p);
        if (((d1 > 0 && d2 < 0) || (d1 < 0 && d2 > 0)) && ((d3 > 0 && d4 < 0) || (d3 < 0 && d4 > 0)))
            return true;
        return (d1 == 0 && Within(p, a, b))
            || (d2 == 0 && Within(q, a, b))
            || (d3 == 0 && Within(a, p, q))
            || (d4 == 0 && Within(b, p, q));
    }

    private static bool Within(Vec2 p, Vec2 a, Vec2 b) =>
        p.X >= Math.Min(a.X, b.X)
        && p.X <= Math.Max(a.X, b.X)
        && p.Y >= Math.Min(a.Y, b.Y)
        && p.Y <= Math.Max(a.Y, b.Y);

    // n·(C + U cos t + V sin t − a) = 0 along the segment's normal n: r·cos(t − phase) = level.
    private bool ArcMeets(Vec2 a, Vec2 b)
    {
        var n = new Vec2(a.Y - b.Y, b.X - a.X);
        double u = n.Dot(U),
            v = n.Dot(V),
            level = n.Dot(a - Origin),
            r = Math.Sqrt((u * u) + (v * v));
        if (r == 0)
            return SegmentsMeet(At(From), At(To), a, b);
        if (Math.Abs(level) > r)
            return false;
        double phase = Math.Atan2(v, u),
            half = Math.Acos(level / r);
        return Hits(phase + half, a, b) || Hits(phase - half, a, b);
    }

    private bool Hits(double t, Vec2 a, Vec2 b)
    {
        const double Whole = 2 * Math.PI;
        t += Whole * Math.Ceiling((From - t) / Whole);
        // A whole turn more reaches an end that rounding put a hair before the start.
        if (t > To + 1e-12 && t - Whole < From - 1e-12)
            return false;
        var d = b - a;
        double along = (At(t) - a).Dot(d),
            whole = d.Dot(d);
        return along >= 0 && along <= whole;
    }
}
