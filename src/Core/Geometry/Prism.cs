namespace SteadyLintel.Geometry;

/// <summary>A region in a frame's XY plane, swept along a direction given in that frame.</summary>
/// <param name="Regions">The regions; they do not overlap.</param>
/// <param name="Frame">The frame of the regions.</param>
/// <param name="Sweep">The sweep vector in the frame's own axes; its length is the depth.</param>
public sealed record Prism(IReadOnlyList<Region> Regions, Frame Frame, Vec3 Sweep)
{
    /// <summary>Whether the sweep is square to the regions.</summary>
    public bool IsRight => Math.Abs(Sweep.X) + Math.Abs(Sweep.Y) < 1e-9 * Sweep.Length;

    /// <summary>The closed surface.</summary>
    public Mesh ToMesh() => ToMesh(Triangulator.Triangulate);

    /// <summary>The closed surface.</summary>
    /// <param name="triangulate">Cuts a region into triangles, as <see cref="Triangulator.Triangulate"/> does.</param>
    internal Mesh ToMesh(Func<Region, int[]> triangulate) =>
        Mesh.Join([.. Regions.Select(r => ToMesh(r, triangulate(r)))]);

    private Mesh ToMesh(Region region, int[] caps)
    {
        int n = region.Outer.Length + region.Holes.Sum(h => h.Length);
        var points = new Vec3[2 * n];
        var triangles = new int[(2 * caps.Length) + (6 * n)];
        int p = 0,
            t = 0;
        // With the sweep against the frame's Z, or a mirroring frame, the surface would face inward.
        bool turned = Sweep.Z * Frame.Determinant < 0;
        var sweep = Frame.Direction(Sweep);
        foreach (var loop in region.Loops)
        {
            for (int i = 0; i < loop.Length; i++)
            {
                points[p + i] = Frame.Point(new Vec3(loop[i].X, loop[i].Y, 0));
                points[p + i + n] = points[p + i] + sweep;
                int a = p + i,
                    b = p + ((i + 1) % loop.Length);
                t = Add(triangles, t, turned, a, b, b + n);
                t = Add(triangles, t, turned, a, b + n, a + n);
            }

            p += loop.Length;
        }

        for (int i = 0; i < caps.Length; i += 3)
        {
            t = Add(triangles, t, turned, caps[i], caps[i + 2], caps[i + 1]);
            t = Add(triangles, t, turned, caps[i] + n, caps[i + 1] + n, caps[i + 2] + n);
        }

        return new Mesh(points, triangles);
    }

    private static int Add(int[] triangles, int t, bool turned, int a, int b, int c)
    {
        (triangles[t], triangles[t + 1], triangles[t + 2]) = turned ? (a, c, b) : (a, b, c);
        return t + 3;
    }

    /// <summary>The same body swept along another of its axes, when it is a right box.</summary>
    /// <param name="direction">A direction in the outer frame.</param>
    /// <returns>Null when the direction is along none of the box's edges, or the body is no box; the body itself when it already runs that
    /// way.</returns>
    public Prism? SweptAlong(Vec3 direction)
    {
        if (!IsRight)
            return null;
        var d = direction.Unit();
        if (Math.Abs(Math.Abs(Frame.Z.Unit().Dot(d)) - 1) < 1e-9)
            return this;
        if (Regions.Count != 1 || Regions[0] is not { Holes.Count: 0, Outer: { Length: 4 } o })
            return null;
        Vec2 u = o[1] - o[0],
            v = o[3] - o[0];
        if (((o[2] - o[0]) - (u + v)).Length > 1e-9 || Math.Abs(u.Dot(v)) > 1e-9 * u.Length * v.Length)
            return null;
        Vec3 along = Frame.Direction(new Vec3(u.X, u.Y, 0)),
            across = Frame.Direction(new Vec3(v.X, v.Y, 0)),
            up = Frame.Direction(Sweep);
        var origin = Frame.Point(new Vec3(o[0].X, o[0].Y, 0));
        if (Math.Abs(Math.Abs(along.Unit().Dot(d)) - 1) < 1e-9)
            return Box(origin, across, up, along);
        return Math.Abs(Math.Abs(across.Unit().Dot(d)) - 1) < 1e-9 ? Box(origin, along, up, across) : null;
    }

    /// <summary>A box from a corner and three edges that are square to each other; swept along the last.</summary>
    /// <param name="corner">In the outer frame, metres.</param>
    /// <param name="a">An edge from it.</param>
    /// <param name="b">Another, square to it.</param>
    /// <param name="sweep">The third; the box is swept along it.</param>
    public static Prism Box(Vec3 corner, Vec3 a, Vec3 b, Vec3 sweep)
    {
        if (a.Cross(b).Dot(sweep) < 0)
            (a, b) = (b, a);
        var frame = new Frame(corner, a.Unit(), b.Unit(), a.Unit().Cross(b.Unit()));
        Vec2 x = new(a.Length, 0),
            y = new(0, b.Length);
        return new Prism([new Region([default, x, x + y, y])], frame, new Vec3(0, 0, sweep.Length));
    }

    /// <summary>This body less others, when that can be done exactly in its own plane.</summary>
    /// <param name="tools">In the same outer frame.</param>
    /// <returns>Null when a tool is slanted, or ends inside the body.</returns>
    public Prism? Less(IReadOnlyList<Prism> tools)
    {
        var inverse = Frame.Inverse();
        double top = Math.Max(0, Sweep.Z),
            bottom = Math.Min(0, Sweep.Z);
        var cutters = new List<Region>();
        foreach (var tool in tools)
        {
            var swept = tool.SweptAlong(Frame.Z);
            if (swept is null)
                return null;
            double from = inverse.Point(swept.Frame.Origin).Z,
                to = from + inverse.Direction(swept.Frame.Direction(swept.Sweep)).Z;
            if (from > to)
                (from, to) = (to, from);
            if (to <= bottom + 1e-9 || from >= top - 1e-9)
                continue;
            if (from > bottom + 1e-6 || to < top - 1e-6)
                return null;
            foreach (var region in swept.Regions)
                cutters.Add(region.Map(p => inverse.Point(swept.Frame.Point(new Vec3(p.X, p.Y, 0))).XY));
        }

        return cutters.Count == 0
            ? this
            : this with
            {
                Regions = [.. Regions.SelectMany(r => Overlay.Subtract(r, cutters))],
            };
    }
}
