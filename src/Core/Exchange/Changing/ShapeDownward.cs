using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Writes shapes that an edition lacks in a form that it has: solids and tessellations as faceted breps or face sets, curves as
/// polylines and composite curves.</summary>
internal sealed class ShapeDownward
{
    private readonly IfcModel _model;
    private readonly ModelSnapshot _snapshot;
    private readonly double _metres;
    private readonly HashSet<EntityDef> _solids = [];
    private readonly HashSet<EntityDef> _curves = [];
    private readonly Dictionary<int, string> _types = [];

    public ShapeDownward(ModelSnapshot snapshot, IfcSchema to, double metres)
    {
        (_snapshot, _model, _metres) = (snapshot, snapshot.Model, metres);
        foreach (var (_, entity, _, _) in _model.Types())
        {
            if (entity is null || to.Find(entity.Keyword) is not null)
                continue;
            if (entity.Is("IfcTessellatedFaceSet") || entity.Is("IfcSolidModel"))
                _solids.Add(entity);
            else if (entity.Is("IfcBoundedCurve") && !entity.Is("IfcCurveSegment"))
                _curves.Add(entity);
        }

        foreach (int representation in _solids.Count == 0 ? [] : _model.OfType("IfcShapeRepresentation"))
        {
            var items = _model.Refs(representation, "Items");
            if (items.Length > 0 && items.All(i => Is(_solids, i)))
                _types[representation] = items.All(i => Closed(i)) ? "Brep" : "SurfaceModel";
        }
    }

    /// <summary>Whether anything is replaced.</summary>
    public bool Any => _solids.Count + _curves.Count > 0;

    /// <summary>Whether an instance is a part of tessellated shapes and indexed curves, which are always written otherwise where the
    /// schema lacks them.</summary>
    public static bool IsPart(IfcModel model, int index) =>
        model.Is(index, "IfcTessellatedItem") || model.Is(index, "IfcCartesianPointList");

    /// <summary>Whether an instance is written in another form.</summary>
    public bool Replaces(int index) => Is(_solids, index) || Is(_curves, index);

    /// <summary>The RepresentationType a representation has afterwards, null when it keeps its own.</summary>
    public string? TypeOf(int representation) => _types.GetValueOrDefault(representation);

    /// <summary>Replaces an instance; false when it is not one to be replaced.</summary>
    public bool Replace(InstanceText text, NewInstances fresh)
    {
        if (Is(_curves, text.Index))
        {
            Curve(text, fresh);
            return true;
        }

        if (!Is(_solids, text.Index))
            return false;
        try
        {
            Facets(text, Mesh.Join([Mesh.Empty, .. _snapshot.Shapes.Item(text.Index)]), fresh);
        }
        catch (ShapeException)
        {
            text.Keyword = null;
        }

        return true;
    }

    private bool Is(HashSet<EntityDef> set, int index) =>
        set.Count > 0 && _model.Entity(index) is { } entity && set.Contains(entity);

    private bool Closed(int item)
    {
        try
        {
            return MassProperties.Of(Mesh.Join([Mesh.Empty, .. _snapshot.Shapes.Item(item)])).Closed;
        }
        catch (ShapeException)
        {
            return false;
        }
    }

    private void Facets(InstanceText text, Mesh mesh, NewInstances fresh)
    {
        var points = mesh.Points.Select(p => fresh.Once("IFCCARTESIANPOINT", Point(p, 3))).ToArray();
        var faces = new List<int>();
        for (int t = 0; t < mesh.Triangles.Length; t += 3)
        {
            int loop = fresh.Add(
                "IFCPOLYLOOP",
                $"(#{points[mesh.Triangles[t]]},#{points[mesh.Triangles[t + 1]]},#{points[mesh.Triangles[t + 2]]})"
            );
            faces.Add(fresh.Add("IFCFACE", $"(#{fresh.Add("IFCFACEOUTERBOUND", $"#{loop},.T.")})"));
        }

        string list = "(" + string.Join(",", faces.Select(f => "#" + f)) + ")";
        bool closed = MassProperties.Of(mesh).Closed;
        text.Keyword =
            faces.Count == 0 ? null
            : closed ? "IFCFACETEDBREP"
            : "IFCFACEBASEDSURFACEMODEL";
        text.Parts = closed
            ? [$"#{fresh.Add("IFCCLOSEDSHELL", list)}"]
            : [$"(#{fresh.Add("IFCCONNECTEDFACESET", list)})"];
    }

    // Straight stretches as one polyline; arcs of indexed curves as trimmed circles; everything else as chords.
    private void Curve(InstanceText text, NewInstances fresh)
    {
        int dimensions = _model.Is(_model.Ref(text.Index, "Points"), "IfcCartesianPointList2D") ? 2 : 3;
        if (_model.ClassName(text.Index) != "IfcIndexedPolyCurve")
            dimensions = Dimensions(text.Index);
        else if (!_model.Get(text.Index, "Segments").IsNull && Segments(text.Index, dimensions, fresh) is { } segments)
        {
            text.Keyword = "IFCCOMPOSITECURVE";
            text.Parts = ["(" + string.Join(",", segments.Select(s => "#" + s)) + ")", ".F."];
            return;
        }

        var points = _snapshot.Shapes.Curve(text.Index);
        text.Keyword = "IFCPOLYLINE";
        text.Parts =
        [
            "("
                + string.Join(",", points.Select(p => "#" + fresh.Once("IFCCARTESIANPOINT", Point(p, dimensions))))
                + ")",
        ];
    }

    private int Dimensions(int curve)
    {
        int point = _model.Refs(curve, "ControlPointsList").Append(-1).First();
        return point >= 0 && _model.Record(point)[0].Items.Count() == 2 ? 2 : 3;
    }

    private List<int>? Segments(int curve, int dimensions, NewInstances fresh)
    {
        var all = _snapshot.Shapes.Points(_model.Ref(curve, "Points"));
        var segments = new List<int>();
        Span<double> n = stackalloc double[3];
        foreach (var segment in _model.Get(curve, "Segments").Items)
        {
            var points = new List<Vec3>();
            foreach (var index in segment.Inner.Items)
            {
                if (!(index.Real >= 1 && index.Real <= all.Count))
                    return null;
                points.Add(all[(int)index.Real - 1]);
            }

            if (points.Count < 2)
                return null;
            int parent =
                segment.TypeName == "IFCARCINDEX" && points.Count == 3
                    ? Arc(points, dimensions, fresh)
                    : Line(points, dimensions, fresh);
            segments.Add(fresh.Add("IFCCOMPOSITECURVESEGMENT", $".CONTINUOUS.,.T.,#{parent}"));
        }

        return segments.Count == 0 ? null : segments;
    }

    private int Line(List<Vec3> points, int dimensions, NewInstances fresh) =>
        fresh.Add(
            "IFCPOLYLINE",
            "("
                + string.Join(",", points.Select(p => "#" + fresh.Once("IFCCARTESIANPOINT", Point(p, dimensions))))
                + ")"
        );

    private int Arc(List<Vec3> p, int dimensions, NewInstances fresh)
    {
        Vec3 u = p[1] - p[0],
            v = p[2] - p[0],
            normal = u.Cross(v);
        if (normal.Length < 1e-12 * u.Length * v.Length)
            return Line(p, dimensions, fresh);
        var centre = p[0] + (((v * u.Dot(u)) - (u * v.Dot(v))).Cross(normal) * (1 / (2 * normal.Dot(normal))));
        int at = fresh.Once("IFCCARTESIANPOINT", Point(centre, dimensions));
        bool forward = dimensions == 3 || normal.Z > 0;
        var x = (p[0] - centre).Unit();
        int place =
            dimensions == 2
                ? fresh.Add("IFCAXIS2PLACEMENT2D", $"#{at},#{fresh.Once("IFCDIRECTION", $"({N(x.X)},{N(x.Y)})")}")
                : fresh.Add(
                    "IFCAXIS2PLACEMENT3D",
                    $"#{at},#{fresh.Once("IFCDIRECTION", Direction(normal.Unit()))},#{fresh.Once("IFCDIRECTION", Direction(x))}"
                );
        int circle = fresh.Add("IFCCIRCLE", $"#{place},{N((p[0] - centre).Length / _metres)}");
        string Trim(Vec3 q) => $"(#{fresh.Once("IFCCARTESIANPOINT", Point(q, dimensions))})";
        return fresh.Add(
            "IFCTRIMMEDCURVE",
            $"#{circle},{Trim(p[0])},{Trim(p[2])},{(forward ? ".T." : ".F.")},.CARTESIAN."
        );
    }

    private string Point(Vec3 p, int dimensions)
    {
        double m = _metres;
        return dimensions == 2 ? $"({N(p.X / m)},{N(p.Y / m)})" : $"({N(p.X / m)},{N(p.Y / m)},{N(p.Z / m)})";
    }

    private static string Direction(Vec3 d) => $"({N(d.X)},{N(d.Y)},{N(d.Z)})";

    private static string N(double value) =>
        StepNumber.Format(
            double.Parse(
                value.ToString("G15", System.Globalization.CultureInfo.InvariantCulture),
                System.Globalization.CultureInfo.InvariantCulture
            )
        );
}
