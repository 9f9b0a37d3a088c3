namespace SteadyLintel.Geometry;

/// <summary>How long, wide and high a body is along its own directions, whichever way it is turned or placed.</summary>
public static class BodyBox
{
    // Normals that differ by less than this count as one direction.
    private const double Grid = 1e-3;

    // A box along the body's faces is taken only where it is clearly smaller than the one along the axes.
    private const double Smaller = 0.999;

    /// <summary>The size of a body: of the boxes along the axes of its frame and along its largest faces, the smaller.</summary>
    /// <param name="meshes">Its pieces, in one frame.</param>
    /// <returns>The sides of the box, in the unit of the points; zero for a body without points.</returns>
    /// <remarks>A member of 3 × 4 m that rises 3 m over 4 m is 5 m long: its box along the axes says 4 m. Of a prism the largest face and
    /// the
    /// next that is not parallel to it give the axis, round ones included.</remarks>
    public static Vec3 Size(IReadOnlyList<Mesh> meshes)
    {
        var own = Spread(meshes, Vec3.AxisX, Vec3.AxisY, Vec3.AxisZ);
        if (Faces(meshes) is not var (first, second))
            return own;
        var along = first.Cross(second).Unit();
        if (along == Vec3.Zero || (IsAxis(first) && IsAxis(along)))
            return own;
        var turned = Spread(meshes, first, along, first.Cross(along).Unit());
        return Volume(turned) < Smaller * Volume(own) ? turned : own;
    }

    /// <summary>The longest side of <see cref="Size"/>.</summary>
    /// <param name="meshes">The body's pieces, in one frame, metres.</param>
    public static double Longest(IReadOnlyList<Mesh> meshes) =>
        Size(meshes) is var s ? Math.Max(s.X, Math.Max(s.Y, s.Z)) : 0;

    private static (Vec3 First, Vec3 Second)? Faces(IReadOnlyList<Mesh> meshes)
    {
        var areas = new Dictionary<(long, long, long), (Vec3 Normal, double Area)>();
        foreach (var mesh in meshes)
        {
            for (int i = 0; i + 2 < mesh.Triangles.Length; i += 3)
            {
                Vec3 a = mesh.Points[mesh.Triangles[i]],
                    b = mesh.Points[mesh.Triangles[i + 1]],
                    c = mesh.Points[mesh.Triangles[i + 2]];
                var cross = (b - a).Cross(c - a);
                double area = cross.Length / 2;
                if (!(area > 0) || !double.IsFinite(area))
                    continue;
                var normal = Oriented(cross * (0.5 / area));
                var key = (
                    (long)Math.Round(normal.X / Grid),
                    (long)Math.Round(normal.Y / Grid),
                    (long)Math.Round(normal.Z / Grid)
                );
                areas[key] = areas.TryGetValue(key, out var known) ? (known.Normal, known.Area + area) : (normal, area);
            }
        }

        if (areas.Count < 2)
            return null;
        var first = areas.Values.MaxBy(a => a.Area).Normal;
        var (second, size) = (Vec3.Zero, 0.0);
        foreach (var (normal, area) in areas.Values)
            if (area > size && first.Cross(normal).Length > 10 * Grid)
                (second, size) = (normal, area);
        return size > 0 ? (first, second) : null;
    }

    // Both sides of a plate count as one direction.
    private static Vec3 Oriented(Vec3 n) =>
        n.X < -Grid || (Math.Abs(n.X) <= Grid && (n.Y < -Grid || (Math.Abs(n.Y) <= Grid && n.Z < 0))) ? -n : n;

    private static bool IsAxis(Vec3 d) =>
        Math.Max(Math.Abs(d.X), Math.Max(Math.Abs(d.Y), Math.Abs(d.Z))) > 1 - (Grid * Grid);

    private static Vec3 Spread(IReadOnlyList<Mesh> meshes, Vec3 x, Vec3 y, Vec3 z)
    {
        var box = Box.Empty;
        foreach (var mesh in meshes)
        foreach (var p in mesh.Points)
            box = box.Add(new Vec3(p.Dot(x), p.Dot(y), p.Dot(z)));
        return box.IsEmpty ? Vec3.Zero : box.Size;
    }

    private static double Volume(Vec3 size) => size.X * size.Y * size.Z;
}
