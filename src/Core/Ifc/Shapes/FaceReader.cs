using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>Bodies given by their faces: shells, breps and tessellations.</summary>
internal sealed class FaceReader(IfcModel model, IfcPlacements placements, CurveReader curves)
{
    /// <summary>The surface of shells or connected face sets; points that are the same instance, or lie at the same place, are shared.</summary>
    public Mesh Shells(IEnumerable<int> shells)
    {
        var points = new PointPool();
        var triangles = new List<int>();
        var byInstance = new Dictionary<int, int>();
        foreach (int shell in shells)
        {
            foreach (int face in model.Refs(shell, "CfsFaces")) Face(face, points, byInstance, triangles);
        }

        if (triangles.Count == 0) throw new ShapeException("A shell has no faces.");
        return new Mesh(points.ToArray(), [.. triangles]);
    }

    /// <summary>An IfcTriangulatedFaceSet.</summary>
    public Mesh Triangulated(int set)
    {
        var points = curves.Coordinates(model.Ref(set, "Coordinates"));
        var through = Indirection(set);
        var triangles = new List<int>();
        Span<double> corner = stackalloc double[3];
        foreach (var item in model.Get(set, "CoordIndex").Items)
        {
            if (item.Reals(corner) != 3) throw new ShapeException("A triangle does not have three corners.");
            for (int k = 0; k < 3; k++) triangles.Add(Resolve(corner[k], through, points.Length));
        }

        return Outward(new Mesh(points, [.. triangles]));
    }

    /// <summary>An IfcPolygonalFaceSet, faces with holes included.</summary>
    public Mesh Polygonal(int set)
    {
        var points = curves.Coordinates(model.Ref(set, "Coordinates"));
        var through = Indirection(set);
        var triangles = new List<int>();
        foreach (int face in model.Refs(set, "Faces"))
        {
            var loops = new List<int[]> { Corners(model.Get(face, "CoordIndex"), through, points.Length) };
            foreach (var hole in model.Get(face, "InnerCoordIndices").Items) loops.Add(Corners(hole, through, points.Length));
            Fill(loops, points, triangles);
        }

        return Outward(new Mesh(points, [.. triangles]));
    }

    private int[]? Indirection(int set)
    {
        var list = model.Get(set, "PnIndex");
        if (list.Kind != StepKind.List) return null;
        var through = new List<int>();
        foreach (var item in list.Items) through.Add(item.Integer);
        return [.. through];
    }

    private static int Resolve(double index, int[]? through, int count)
    {
        int n = double.IsFinite(index) ? (int)index : 0;
        if (through is not null) n = n >= 1 && n <= through.Length ? through[n - 1] : 0;
        return n >= 1 && n <= count ? n - 1 : throw new ShapeException("A face points outside its list of points.");
    }

    private static int[] Corners(StepValue list, int[]? through, int count)
    {
        var corners = new List<int>();
        foreach (var item in list.Items) corners.Add(Resolve(item.Real, through, count));
        return [.. corners];
    }

    // Tessellations often come inside out; a closed one can be told by its volume.
    private static Mesh Outward(Mesh mesh)
    {
        if (mesh.Triangles.Length == 0) throw new ShapeException("A face set has no faces.");
        var mass = MassProperties.Of(mesh);
        return mass is { Closed: true, Volume: < 0 } ? Turned(mesh) : mesh;
    }

    internal static Mesh Turned(Mesh mesh)
    {
        var triangles = mesh.Triangles.ToArray();
        for (int i = 0; i < triangles.Length; i += 3) (triangles[i + 1], triangles[i + 2]) = (triangles[i + 2], triangles[i + 1]);
        return mesh with { Triangles = triangles };
    }

    private void Face(int face, PointPool points, Dictionary<int, int> byInstance, List<int> triangles)
    {
        var loops = new List<int[]>();
        foreach (int bound in model.Refs(face, "Bounds"))
        {
            int loop = model.Ref(bound, "Bound");
            if (!model.Is(loop, "IfcPolyLoop")) throw new ShapeException($"A face bounded by {(loop < 0 ? "nothing" : model.ClassName(loop))} is not shaped yet.");
            var corners = new List<int>();
            foreach (int point in model.Refs(loop, "Polygon"))
            {
                if (!byInstance.TryGetValue(point, out int n)) byInstance[point] = n = points.Number(placements.Point(point));
                if (corners.Count == 0 || corners[^1] != n) corners.Add(n);
            }

            while (corners.Count > 1 && corners[0] == corners[^1]) corners.RemoveAt(corners.Count - 1);
            if (model.Get(bound, "Orientation").IsFalse) corners.Reverse();
            if (corners.Count < 3) continue;
            if (model.Is(bound, "IfcFaceOuterBound")) loops.Insert(0, [.. corners]);
            else loops.Add([.. corners]);
        }

        if (loops.Count > 0) Fill(loops, points.List, triangles);
    }

    private static void Fill(List<int[]> loops, IReadOnlyList<Vec3> points, List<int> triangles)
    {
        var outer = loops[0];
        if (outer.Length == 3 && loops.Count == 1)
        {
            triangles.AddRange(outer);
            return;
        }

        if (Plane.Through([.. outer.Select(i => points[i])]) is not { } plane) return;
        var frame = Frame.FromAxes(points[outer[0]], plane.Normal, points[outer[1]] - points[outer[0]]);
        Vec2 Flat(int i)
        {
            var d = points[i] - frame.Origin;
            return new Vec2(d.Dot(frame.X), d.Dot(frame.Y));
        }

        // The loops' own order must survive, so the region is made without cleaning and numbers map back one to one.
        var region = new Region([.. outer.Select(Flat)], [.. loops.Skip(1).Select(l => Reversed(l, Flat))]);
        var numbers = outer.Concat(loops.Skip(1).SelectMany(l => Region.SignedArea([.. l.Select(Flat)]) > 0 ? l.Reverse() : l)).ToArray();
        foreach (int corner in Triangulator.Triangulate(region)) triangles.Add(numbers[corner]);
    }

    private static Vec2[] Reversed(int[] loop, Func<int, Vec2> flat)
    {
        var points = loop.Select(flat).ToArray();
        if (Region.SignedArea(points) > 0) Array.Reverse(points);
        return points;
    }

    private sealed class PointPool
    {
        private readonly Dictionary<Vec3, int> _numbers = [];

        public List<Vec3> List { get; } = [];

        public int Number(Vec3 p)
        {
            if (_numbers.TryGetValue(p, out int n)) return n;
            _numbers[p] = List.Count;
            List.Add(p);
            return List.Count - 1;
        }

        public Vec3[] ToArray() => [.. List];
    }
}
