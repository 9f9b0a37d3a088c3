namespace SteadyLintel.Geometry;

/// <summary>Cuts plane faces with holes into triangles over the same points, so that neighbours still meet.</summary>
public static class FaceTriangles
{
    /// <summary>Adds the triangles of a face.</summary>
    /// <param name="loops">The outer loop first, then holes, by numbers of points; the outer one counter-clockwise seen from
    /// outside.</param>
    /// <param name="points">The points.</param>
    /// <param name="triangles">Gets three numbers a triangle.</param>
    public static void Add(List<int[]> loops, IReadOnlyList<Vec3> points, List<int> triangles)
    {
        var outer = loops[0];
        if (outer.Length == 3 && loops.Count == 1)
        {
            triangles.AddRange(outer);
            return;
        }

        if (Plane.Through([.. outer.Select(i => points[i])]) is not { } plane)
            return;
        var frame = Frame.FromAxes(points[outer[0]], plane.Normal, points[outer[1]] - points[outer[0]]);
        Vec2 Flat(int i)
        {
            var d = points[i] - frame.Origin;
            return new Vec2(d.Dot(frame.X), d.Dot(frame.Y));
        }

        // The loops' own order must survive, so the region is made without cleaning and numbers map back one to one.
        var region = new Region([.. outer.Select(Flat)], [.. loops.Skip(1).Select(l => Reversed(l, Flat))]);
        var numbers = outer
            .Concat(loops.Skip(1).SelectMany(l => Region.SignedArea([.. l.Select(Flat)]) > 0 ? l.Reverse() : l))
            .ToArray();
        foreach (int corner in Triangulator.Triangulate(region))
            triangles.Add(numbers[corner]);
    }

    private static Vec2[] Reversed(int[] loop, Func<int, Vec2> flat)
    {
        var points = loop.Select(flat).ToArray();
        if (Region.SignedArea(points) > 0)
            Array.Reverse(points);
        return points;
    }
}
