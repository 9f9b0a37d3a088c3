namespace SteadyLintel.Geometry;

/// <summary>Regions out of the closed lines of a section.</summary>
public static class LoopRegions
{
    /// <summary>The regions that loops bound: each outer loop with the holes right inside it.</summary>
    /// <param name="loops">Closed lines, their first point repeated at the end or not; outer ones counter-clockwise, holes clockwise, as
    /// <see cref="Section.Cut"/> gives them.</param>
    public static IReadOnlyList<Region> Of(IEnumerable<IReadOnlyList<Vec2>> loops)
    {
        var clean = loops.Select(Open).Where(l => l.Length >= 3 && Math.Abs(Region.SignedArea(l)) > 1e-9).ToList();
        var outer = clean.Where(l => Region.SignedArea(l) > 0).OrderBy(Region.SignedArea).ToList();
        var holes = outer.ConvertAll(_ => new List<Vec2[]>());
        foreach (var hole in clean.Where(l => Region.SignedArea(l) < 0))
        {
            // The smallest loop around it.
            int around = outer.FindIndex(o => -Region.SignedArea(hole) < Region.SignedArea(o) && Contains(o, hole[0]));
            if (around >= 0)
                holes[around].Add(hole);
        }

        return [.. outer.Select((o, n) => Region.OrNone(o, holes[n])).OfType<Region>()];
    }

    /// <summary>Whether a loop goes round a point (ray crossing).</summary>
    /// <param name="loop">Its corners, not closed by a repeated point.</param>
    /// <param name="p">The point, in the same plane.</param>
    public static bool Contains(IReadOnlyList<Vec2> loop, Vec2 p)
    {
        bool inside = false;
        for (int i = 0, j = loop.Count - 1; i < loop.Count; j = i++)
        {
            Vec2 a = loop[i],
                b = loop[j];
            if ((a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X + ((b.X - a.X) * (p.Y - a.Y) / (b.Y - a.Y)))
                inside = !inside;
        }

        return inside;
    }

    private static Vec2[] Open(IReadOnlyList<Vec2> loop) =>
        loop.Count > 1 && (loop[0] - loop[^1]).Length < 1e-6 ? [.. loop.SkipLast(1)] : [.. loop];
}
