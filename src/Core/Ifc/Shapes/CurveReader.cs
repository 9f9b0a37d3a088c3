using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Curves as points in metres.</summary>
internal sealed class CurveReader(IfcModel model, IfcPlacements placements, IfcUnits units, Tolerance tolerance)
{
    private const int MaxDepth = 30;

    /// <summary>The points of a bounded curve, or of a closed one once around (the first point not repeated).</summary>
    /// <exception cref="ShapeException">The curve is of a kind not read, or broken.</exception>
    public List<Vec3> Points(int curve, int depth = 0)
    {
        if (curve < 0) throw new ShapeException("A curve is missing.");
        if (depth > MaxDepth) throw new ShapeException("A curve refers to itself.");
        return model.ClassName(curve) switch
        {
            "IfcPolyline" => [.. model.Refs(curve, "Points").Select(placements.Point)],
            "IfcCircle" => Conic(curve, Length(curve, "Radius"), Length(curve, "Radius")),
            "IfcEllipse" => Conic(curve, Length(curve, "SemiAxis1"), Length(curve, "SemiAxis2")),
            "IfcTrimmedCurve" => Trimmed(curve),
            "IfcCompositeCurve" or "Ifc2DCompositeCurve" => Composite(curve, depth),
            "IfcIndexedPolyCurve" => Indexed(curve),
            var other => throw new ShapeException($"A curve of kind {other} is not shaped yet."),
        };
    }

    /// <summary>A length attribute in metres.</summary>
    public double Length(int index, string attribute)
    {
        double value = model.Get(index, attribute).Real;
        return double.IsFinite(value) ? value * units.Metres : throw new ShapeException($"{model.ClassName(index)} has no {attribute}.");
    }

    /// <summary>An optional length attribute in metres, 0 when unset.</summary>
    public double Optional(int index, string attribute)
    {
        double value = model.Get(index, attribute).Real;
        return double.IsFinite(value) ? value * units.Metres : 0;
    }

    private List<Vec3> Conic(int curve, double a, double b)
    {
        var frame = placements.Axes(model.Ref(curve, "Position"));
        return [.. Arc.Ellipse(a, b, tolerance).Select(p => frame.Point(new Vec3(p.X, p.Y, 0)))];
    }

    private List<Vec3> Trimmed(int curve)
    {
        int basis = model.Ref(curve, "BasisCurve");
        bool agrees = !model.Get(curve, "SenseAgreement").IsFalse;
        var kind = model.ClassName(basis);
        if (kind == "IfcLine")
        {
            var origin = placements.Point(model.Ref(basis, "Pnt"));
            int vector = model.Ref(basis, "Dir");
            var along = placements.Direction(model.Ref(vector, "Orientation"), Vec3.AxisX).Unit() * Length(vector, "Magnitude");
            Vec3 At(string trim) => TrimPoint(curve, trim) ?? (origin + (along * TrimParameter(curve, trim)));
            return [At("Trim1"), At("Trim2")];
        }

        if (kind is not ("IfcCircle" or "IfcEllipse")) throw new ShapeException($"A trimmed curve over {kind} is not shaped yet.");
        var frame = placements.Axes(model.Ref(basis, "Position"));
        double a = kind == "IfcCircle" ? Length(basis, "Radius") : Length(basis, "SemiAxis1");
        double b = kind == "IfcCircle" ? a : Length(basis, "SemiAxis2");
        double Angle(string trim)
        {
            if (TrimPoint(curve, trim) is not { } p) return TrimParameter(curve, trim) * units.Radians;
            var d = p - frame.Origin;
            return Math.Atan2(d.Dot(frame.Y) / b, d.Dot(frame.X) / a);
        }

        double from = Angle("Trim1"), sweep = Angle("Trim2") - from;
        const double full = 2 * Math.PI;
        if (agrees) while (sweep <= 1e-12) sweep += full;
        else while (sweep >= -1e-12) sweep -= full;
        sweep = Math.Clamp(sweep, -full, full);
        int n = tolerance.Chords(Math.Max(a, b), sweep);
        var points = new List<Vec3>(n + 1);
        for (int i = 0; i <= n; i++)
        {
            double angle = from + (sweep * i / n);
            points.Add(frame.Point(new Vec3(a * Math.Cos(angle), b * Math.Sin(angle), 0)));
        }

        return points;
    }

    private Vec3? TrimPoint(int curve, string trim)
    {
        foreach (var item in model.Get(curve, trim).Items)
            if (item.Reference > 0 && model.Target(item) is >= 0 and var point) return placements.Point(point);
        return null;
    }

    private double TrimParameter(int curve, string trim)
    {
        foreach (var item in model.Get(curve, trim).Items)
            if (double.IsFinite(item.Real)) return item.Real;
        throw new ShapeException("A trimmed curve has neither a point nor a parameter to trim by.");
    }

    private List<Vec3> Composite(int curve, int depth)
    {
        var points = new List<Vec3>();
        foreach (int segment in model.Refs(curve, "Segments"))
        {
            var part = Points(model.Ref(segment, "ParentCurve"), depth + 1);
            if (model.Get(segment, "SameSense").IsFalse) part.Reverse();
            int skip = points.Count > 0 && part.Count > 0 && (points[^1] - part[0]).Length < 1e-6 ? 1 : 0;
            points.AddRange(part.Skip(skip));
        }

        return points;
    }

    private List<Vec3> Indexed(int curve)
    {
        var all = Coordinates(model.Ref(curve, "Points"));
        var segments = model.Get(curve, "Segments");
        if (segments.IsNull) return [.. all];
        var points = new List<Vec3>();
        Span<double> n = stackalloc double[3];
        foreach (var segment in segments.Items)
        {
            IReadOnlyList<Vec3> part;
            if (segment.TypeName == "IFCARCINDEX")
            {
                if (segment.Inner.Reals(n) != 3) throw new ShapeException("An arc of an indexed curve does not have three points.");
                part = Arc.Through(At(all, n[0]), At(all, n[1]), At(all, n[2]), tolerance);
            }
            else
            {
                var line = new List<Vec3>();
                foreach (var index in segment.Inner.Items) line.Add(At(all, index.Real));
                part = line;
            }

            int skip = points.Count > 0 && part.Count > 0 && (points[^1] - part[0]).Length < 1e-9 ? 1 : 0;
            points.AddRange(part.Skip(skip));
        }

        return points;
    }

    /// <summary>The points of an IfcCartesianPointList2D or 3D, metres.</summary>
    public Vec3[] Coordinates(int list)
    {
        if (list < 0) throw new ShapeException("A list of points is missing.");
        var points = new List<Vec3>();
        Span<double> c = stackalloc double[3];
        foreach (var item in model.Get(list, "CoordList").Items)
        {
            c.Clear();
            item.Reals(c);
            if (!double.IsFinite(c[0] + c[1] + c[2])) throw new ShapeException("A point has a coordinate that is not a number.");
            points.Add(new Vec3(c[0], c[1], c[2]) * units.Metres);
        }

        return [.. points];
    }

    private static Vec3 At(Vec3[] points, double index) =>
        index >= 1 && index <= points.Length ? points[(int)index - 1] : throw new ShapeException("An index points outside its list of points.");
}
