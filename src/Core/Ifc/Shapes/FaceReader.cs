using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>Bodies given by their faces: shells, breps and tessellations.</summary>
internal sealed class FaceReader(
    IfcModel model,
    IfcPlacements placements,
    CurveReader curves,
    SurfaceReader surfaces,
    EdgeReader edges,
    Tolerance tolerance
)
{
    /// <summary>The surface of shells or connected face sets; points that are the same instance, or lie at the same place, are
    /// shared.</summary>
    /// <param name="shells">The shells.</param>
    /// <param name="origin">Gets the face of each triangle, by its position in the file; null when nobody asks.</param>
    public Mesh Shells(IReadOnlyList<int> shells, List<int>? origin = null)
    {
        if (shells.Any(IsAdvanced))
            return Advanced(shells);
        var points = new PointPool();
        var triangles = new List<int>();
        var byInstance = new Dictionary<int, int>();
        foreach (int shell in shells)
        {
            foreach (int face in model.Refs(shell, "CfsFaces"))
            {
                Face(face, points, byInstance, triangles);
                Note(origin, face, triangles);
            }
        }

        if (triangles.Count == 0)
            throw new ShapeException("A shell has no faces.");
        return new Mesh(points.ToArray(), [.. triangles]);
    }

    private static void Note(List<int>? origin, int face, List<int> triangles)
    {
        while (origin is not null && origin.Count < triangles.Count / 3)
            origin.Add(face);
    }

    // One face with curved edges is enough: its neighbours must have the same points.
    private bool IsAdvanced(int shell) =>
        model
            .Refs(shell, "CfsFaces")
            .Any(f => model.Refs(f, "Bounds").Any(b => !model.Is(model.Ref(b, "Bound"), "IfcPolyLoop")));

    /// <summary>The surface of shells whose faces lie on surfaces and are bounded by edges.</summary>
    /// <param name="shells">Their positions among the instances.</param>
    public Mesh Advanced(IEnumerable<int> shells)
    {
        var builder = new MeshBuilder();
        foreach (int shell in shells)
        {
            foreach (int face in model.Refs(shell, "CfsFaces"))
            {
                var loops = model.Refs(face, "Bounds").Select(b => Bound(b)).Where(l => l.Length > 1).ToList();
                // A face without a surface is flat.
                var surface =
                    model.Is(face, "IfcFaceSurface") ? surfaces.Read(model.Ref(face, "FaceSurface"))
                    : Plane.Through(loops[0]) is { } plane
                        ? new PlaneSurface(Frame.FromAxes(loops[0][0], plane.Normal, Vec3.AxisX))
                    : null;
                if (surface is not null)
                    TrimmedSurface.Add(builder, surface, loops, !model.Get(face, "SameSense").IsFalse, tolerance);
            }
        }

        var mesh = builder.Outward();
        return mesh.Triangles.Length > 0 ? mesh : throw new ShapeException("A shell has no faces.");
    }

    /// <summary>A surface with its own bounds: rectangular trimmed, curve bounded.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    public Mesh Bounded(int item)
    {
        var builder = new MeshBuilder();
        TrimmedSurface.Add(builder, surfaces.Read(item), Bounds(item), true, tolerance);
        return builder.ToMesh();
    }

    private List<Vec3[]> Bounds(int item)
    {
        switch (model.ClassName(item))
        {
            case "IfcRectangularTrimmedSurface":
                return [Rectangle(item)];
            case "IfcCurveBoundedPlane":
                // The curves lie in the plane's own coordinates.
                var frame = placements.Axes(model.Ref(model.Ref(item, "BasisSurface"), "Position"));
                return
                [
                    .. model
                        .Refs(item, "InnerBoundaries")
                        .Prepend(model.Ref(item, "OuterBoundary"))
                        .Select(c => curves.Points(c).Select(p => frame.Point(p with { Z = 0 })).ToArray()),
                ];
            case "IfcCurveBoundedSurface":
                return [.. model.Refs(item, "Boundaries").Select(c => curves.Points(c).ToArray())];
            default:
                return [];
        }
    }

    private Vec3[] Rectangle(int item)
    {
        var basis = surfaces.Read(model.Ref(item, "BasisSurface"));
        // Parameters that are angles come in the file's unit, those along curves bare, the others are lengths.
        double U(string name) =>
            basis is BSplineSurface or ExtrusionSurface ? Bare(item, name)
            : basis.PeriodU > 0 ? Bare(item, name) * curves.Radians
            : curves.Length(item, name);
        double V(string name) =>
            basis is BSplineSurface or RevolutionSurface ? Bare(item, name)
            : basis is SphereSurface or TorusSurface ? Bare(item, name) * curves.Radians
            : curves.Length(item, name);
        double u1 = U("U1"),
            u2 = U("U2"),
            v1 = V("V1"),
            v2 = V("V2");
        var points = new List<Vec3>();
        void Side(double a, double b, double c, double d) =>
            points.AddRange(
                CurveSamples
                    .Of(t => basis.Point(a + ((c - a) * t), b + ((d - b) * t)), [0, 1], tolerance)
                    .Points.SkipLast(1)
            );
        Side(u1, v1, u2, v1);
        Side(u2, v1, u2, v2);
        Side(u2, v2, u1, v2);
        Side(u1, v2, u1, v1);
        return [.. points];
    }

    private double Bare(int item, string name) =>
        model.Get(item, name).Real is var value && double.IsFinite(value)
            ? value
            : throw new ShapeException("A trimmed surface has no bounds.");

    private Vec3[] Bound(int bound)
    {
        var loop = edges.Loop(model.Ref(bound, "Bound"));
        if (model.Get(bound, "Orientation").IsFalse)
            Array.Reverse(loop);
        return loop;
    }

    /// <summary>An IfcTriangulatedFaceSet.</summary>
    /// <param name="set">The face set.</param>
    /// <param name="origin">Gets the number of the face of each triangle, from 0; null when nobody asks.</param>
    public Mesh Triangulated(int set, List<int>? origin = null)
    {
        var points = curves.Coordinates(model.Ref(set, "Coordinates"));
        var through = Indirection(set);
        var triangles = new List<int>();
        Span<double> corner = stackalloc double[3];
        var flags = Flags(set);
        int row = 0;
        foreach (var item in model.Get(set, "CoordIndex").Items)
        {
            // A triangulated irregular network marks holes and voids with negative flags.
            if (row++ < flags.Count && flags[row - 1] < 0)
                continue;
            if (item.Reals(corner) != 3)
                throw new ShapeException("A triangle does not have three corners.");
            for (int k = 0; k < 3; k++)
                triangles.Add(Resolve(corner[k], through, points.Length));
            Note(origin, row - 1, triangles);
        }

        return Outward(new Mesh(points, [.. triangles]));
    }

    /// <summary>An IfcPolygonalFaceSet, faces with holes included.</summary>
    /// <param name="set">The face set.</param>
    /// <param name="origin">Gets the number of the face of each triangle, from 0; null when nobody asks.</param>
    public Mesh Polygonal(int set, List<int>? origin = null)
    {
        var points = curves.Coordinates(model.Ref(set, "Coordinates"));
        var through = Indirection(set);
        var triangles = new List<int>();
        int number = 0;
        foreach (int face in model.Refs(set, "Faces"))
        {
            var loops = new List<int[]> { Corners(model.Get(face, "CoordIndex"), through, points.Length) };
            foreach (var hole in model.Get(face, "InnerCoordIndices").Items)
                loops.Add(Corners(hole, through, points.Length));
            FaceTriangles.Add(loops, points, triangles);
            Note(origin, number++, triangles);
        }

        return Outward(new Mesh(points, [.. triangles]));
    }

    private List<int> Flags(int set)
    {
        var flags = new List<int>();
        if (model.Is(set, "IfcTriangulatedIrregularNetwork"))
            foreach (var item in model.Get(set, "Flags").Items)
                flags.Add(item.Integer);
        return flags;
    }

    private int[]? Indirection(int set)
    {
        var list = model.Get(set, "PnIndex");
        if (list.Kind != StepKind.List)
            return null;
        var through = new List<int>();
        foreach (var item in list.Items)
            through.Add(item.Integer);
        return [.. through];
    }

    private static int Resolve(double index, int[]? through, int count)
    {
        int n = double.IsFinite(index) ? (int)index : 0;
        if (through is not null)
            n = n >= 1 && n <= through.Length ? through[n - 1] : 0;
        return n >= 1 && n <= count ? n - 1 : throw new ShapeException("A face points outside its list of points.");
    }

    private static int[] Corners(StepValue list, int[]? through, int count)
    {
        var corners = new List<int>();
        foreach (var item in list.Items)
            corners.Add(Resolve(item.Real, through, count));
        return [.. corners];
    }

    // Tessellations often come inside out; a closed one can be recognised by its volume.
    private static Mesh Outward(Mesh mesh)
    {
        if (mesh.Triangles.Length == 0)
            throw new ShapeException("A face set has no faces.");
        var mass = MassProperties.Of(mesh);
        return mass is { Closed: true, Volume: < 0 } ? mesh.Flipped() : mesh;
    }

    private void Face(int face, PointPool points, Dictionary<int, int> byInstance, List<int> triangles)
    {
        var loops = new List<int[]>();
        foreach (int bound in model.Refs(face, "Bounds"))
        {
            int loop = model.Ref(bound, "Bound");
            if (!model.Is(loop, "IfcPolyLoop"))
                throw new ShapeException(
                    $"A face bounded by {(loop < 0 ? "nothing" : model.ClassName(loop))} is not shaped yet."
                );
            var corners = new List<int>();
            foreach (int point in model.Refs(loop, "Polygon"))
            {
                if (!byInstance.TryGetValue(point, out int n))
                    byInstance[point] = n = points.Number(placements.Point(point));
                if (corners.Count == 0 || corners[^1] != n)
                    corners.Add(n);
            }

            while (corners.Count > 1 && corners[0] == corners[^1])
                corners.RemoveAt(corners.Count - 1);
            if (model.Get(bound, "Orientation").IsFalse)
                corners.Reverse();
            if (corners.Count < 3)
                continue;
            if (model.Is(bound, "IfcFaceOuterBound"))
                loops.Insert(0, [.. corners]);
            else
                loops.Add([.. corners]);
        }

        if (loops.Count > 0)
            FaceTriangles.Add(loops, points.List, triangles);
    }

    private sealed class PointPool
    {
        private readonly Dictionary<Vec3, int> _numbers = [];

        public List<Vec3> List { get; } = [];

        public int Number(Vec3 p)
        {
            if (_numbers.TryGetValue(p, out int n))
                return n;
            _numbers[p] = List.Count;
            List.Add(p);
            return List.Count - 1;
        }

        public Vec3[] ToArray() => [.. List];
    }
}
