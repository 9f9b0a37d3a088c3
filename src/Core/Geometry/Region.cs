namespace SteadyLintel.Geometry;

/// <summary>A plane region: an outer loop, counter-clockwise, and holes, clockwise; loops are not closed by a repeated point.</summary>
/// <param name="Outer">Counter-clockwise, metres.</param>
/// <param name="Holes">Clockwise, inside it.</param>
public sealed record Region(Vec2[] Outer, IReadOnlyList<Vec2[]> Holes)
{
    /// <summary>A region without holes.</summary>
    /// <param name="outer">Counter-clockwise, metres.</param>
    public Region(Vec2[] outer)
        : this(outer, []) { }

    /// <summary>The area, m².</summary>
    public double Area => SignedArea(Outer) + Holes.Sum(SignedArea);

    /// <summary>The outer loop first, then the holes.</summary>
    public IEnumerable<Vec2[]> Loops => Holes.Prepend(Outer);

    /// <summary>The region with repeated points dropped and its loops turned the right way.</summary>
    /// <param name="outer">In either direction, metres.</param>
    /// <param name="holes">In either direction; null for none.</param>
    /// <exception cref="ShapeException">The outer loop has no area.</exception>
    public static Region Of(IReadOnlyList<Vec2> outer, IEnumerable<IReadOnlyList<Vec2>>? holes = null) =>
        OrNone(outer, holes) ?? throw new ShapeException("A profile's outline encloses no area.");

    /// <summary>The same; null when the outer loop has no area, as a strip thinner than the distance of repeated points has none.</summary>
    /// <param name="outer">In either direction, metres.</param>
    /// <param name="holes">In either direction; null for none.</param>
    public static Region? OrNone(IReadOnlyList<Vec2> outer, IEnumerable<IReadOnlyList<Vec2>>? holes = null)
    {
        var loop = Clean(outer);
        if (loop.Length < 3 || Math.Abs(SignedArea(loop)) < 1e-14)
            return null;
        var inner = (holes ?? []).Select(Clean).Where(h => h.Length >= 3 && Math.Abs(SignedArea(h)) > 1e-14);
        return new Region(Oriented(loop, true), [.. inner.Select(h => Oriented(h, false))]);
    }

    /// <summary>The area of a loop, positive when counter-clockwise.</summary>
    /// <param name="loop">Its corners, not closed by a repeated point, metres.</param>
    public static double SignedArea(Vec2[] loop)
    {
        double sum = 0;
        for (int i = 1; i + 1 < loop.Length; i++)
            sum += (loop[i] - loop[0]).Cross(loop[i + 1] - loop[0]);
        return sum / 2;
    }

    /// <summary>The region mapped point by point; a mirroring map turns the loops back.</summary>
    /// <param name="map">From the plane of the region into another; it may mirror.</param>
    public Region Map(Func<Vec2, Vec2> map) =>
        Of([.. Outer.Select(map)], Holes.Select(h => (IReadOnlyList<Vec2>)[.. h.Select(map)]));

    private static Vec2[] Oriented(Vec2[] loop, bool counterClockwise)
    {
        if (SignedArea(loop) > 0 != counterClockwise)
            Array.Reverse(loop);
        return loop;
    }

    private static Vec2[] Clean(IReadOnlyList<Vec2> loop)
    {
        var kept = new List<Vec2>(loop.Count);
        foreach (var p in loop)
            if (kept.Count == 0 || (p - kept[^1]).Length > 1e-9)
                kept.Add(p);
        while (kept.Count > 1 && (kept[^1] - kept[0]).Length <= 1e-9)
            kept.RemoveAt(kept.Count - 1);
        return [.. kept];
    }
}
