namespace SteadyLintel.Geometry;

/// <summary>Joins loops of a region that meet at a corner: columns that touch a wall, or each other.</summary>
/// <remarks>Where loops share a corner, one can be walked into the other there without a bridge; a cutter into triangles that needs a
/// bridge for every hole fails on bridges without length.</remarks>
internal static class TouchingLoops
{
    /// <summary>The same region with touching loops joined at their shared corners.</summary>
    /// <param name="region">Metres.</param>
    public static Region Join(Region region)
    {
        var outer = region.Outer.ToList();
        var holes = region.Holes.Select(h => h.ToList()).ToList();
        while (JoinOne(outer, holes)) { }
        for (int i = 0; i < holes.Count; i++)
        {
            var others = holes.Skip(i + 1).ToList();
            while (JoinOne(holes[i], others)) { }
            holes.RemoveRange(i + 1, holes.Count - i - 1);
            holes.AddRange(others);
        }

        return new Region([.. outer], [.. holes.Select(h => h.ToArray())]);
    }

    private static bool JoinOne(List<Vec2> loop, List<List<Vec2>> holes)
    {
        var at = new Dictionary<Vec2, int>();
        for (int i = 0; i < loop.Count; i++)
            at.TryAdd(loop[i], i);
        for (int h = 0; h < holes.Count; h++)
        {
            int shared = holes[h].FindIndex(at.ContainsKey);
            if (shared < 0)
                continue;
            // Into the hole at the shared corner, once around it, and back to the corner.
            var around = holes[h].Skip(shared + 1).Concat(holes[h].Take(shared + 1)).ToList();
            loop.InsertRange(at[holes[h][shared]] + 1, around);
            holes.RemoveAt(h);
            return true;
        }

        return false;
    }
}
