using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Curves of alignments (IFC4X3): segments cut out of a parent curve by length and put where their placement says, and heights along a plan curve.</summary>
/// <remarks>Lines, circles and clothoids are read; other spirals and polynomials are not.</remarks>
internal sealed class AlignmentReader(IfcModel model, IfcPlacements placements, IfcUnits units, CurveReader curves, Tolerance tolerance)
{
    /// <summary>An IfcCurveSegment with the lengths along it, from 0, metres.</summary>
    /// <exception cref="ShapeException">The parent curve is of a kind not read.</exception>
    public CurveSamples Segment(int segment, int depth)
    {
        int parent = model.Ref(segment, "ParentCurve");
        double start = Measure(segment, "SegmentStart"), length = Measure(segment, "SegmentLength");
        var local = Parent(parent, depth);
        // The parent's own frame at the start goes to the placement.
        var begin = Frame.FromAxes(local(start), Vec3.AxisZ, Tangent(local, start, length));
        var place = placements.Axes(model.Ref(segment, "Placement")).Then(begin.Inverse());
        Vec3 At(double s) => place.Point(local(start + (length < 0 ? -s : s)));
        return CurveSamples.Of(At, [0, Math.Max(1e-9, Math.Abs(length))], tolerance);
    }

    /// <summary>An IfcGradientCurve or IfcSegmentedReferenceCurve: its base curve with heights, measured by length in plan.</summary>
    public CurveSamples Samples(int curve, int depth)
    {
        var plan = Plan(model.Ref(curve, "BaseCurve"), depth + 1);
        if (model.ClassName(curve) != "IfcGradientCurve") return plan;
        // Segments of the gradient run in a plane of distance along (X) and height (Y).
        var heights = model.Refs(curve, "Segments").SelectMany(s => Segment(s, depth + 1).Points).OrderBy(p => p.X).ToList();
        if (heights.Count == 0) throw new ShapeException("A gradient has no segments.");
        var profile = new CurveSamples([.. heights.Select(h => h.X)], [.. heights.Select(h => new Vec3(0, 0, h.Y))]);
        var stations = plan.Parameters.Concat(heights.Select(h => h.X).Where(x => x > plan.Parameters[0] && x < plan.Parameters[^1])).Distinct().Order().ToList();
        return new CurveSamples(stations, [.. stations.Select(s => plan.Point(s) + profile.Point(s))]);
    }

    /// <summary>Where an IfcPointByDistanceExpression lies, with the frame of the curve there: X along, Y left, Z up.</summary>
    public Frame At(int point, int depth = 0)
    {
        int basis = model.Ref(point, "BasisCurve");
        var along = model.Is(basis, "IfcGradientCurve") ? Samples(basis, depth) : Plan(basis, depth);
        double distance = Measure(point, "DistanceAlong");
        var at = along.Point(distance);
        double step = 1e-4 * Math.Max(1, Math.Abs(along.Parameters[^1]));
        var tangent = along.Point(Math.Min(distance + step, along.Parameters[^1])) - along.Point(Math.Max(distance - step, along.Parameters[0]));
        var x = tangent.Length > 0 ? tangent.Unit() : Vec3.AxisX;
        var y = Vec3.AxisZ.Cross(x);
        y = y.Length > 1e-9 ? y.Unit() : Vec3.AxisY;
        var z = x.Cross(y);
        double lateral = curves.Optional(point, "OffsetLateral"), vertical = curves.Optional(point, "OffsetVertical"), longitudinal = curves.Optional(point, "OffsetLongitudinal");
        return new Frame(at + (x * longitudinal) + (y * lateral) + (z * vertical), x, y, z);
    }

    /// <summary>A curve measured by its length, metres.</summary>
    public CurveSamples Plan(int curve, int depth)
    {
        var points = curves.Points(curve, depth + 1);
        if (curves.IsClosed(curve)) points.Add(points[0]);
        var lengths = new List<double> { 0 };
        for (int i = 1; i < points.Count; i++) lengths.Add(lengths[^1] + (points[i] - points[i - 1]).Length);
        return new CurveSamples(lengths, points);
    }

    private Func<double, Vec3> Parent(int parent, int depth)
    {
        switch (model.ClassName(parent))
        {
            case "IfcLine":
                var origin = placements.Point(model.Ref(parent, "Pnt"));
                var direction = placements.Direction(model.Ref(model.Ref(parent, "Dir"), "Orientation"), Vec3.AxisX).Unit();
                return s => origin + (direction * s);
            case "IfcCircle":
                var centre = placements.Axes(model.Ref(parent, "Position"));
                double radius = curves.Length(parent, "Radius");
                return s => centre.Point(new Vec3(radius * Math.Cos(s / radius), radius * Math.Sin(s / radius), 0));
            case "IfcClothoid":
                var start = placements.Axes(model.Ref(parent, "Position"));
                double constant = curves.Length(parent, "ClothoidConstant");
                return s => start.Point(Clothoid(constant, s));
            case "IfcPolyline" or "IfcIndexedPolyCurve" or "IfcCompositeCurve":
                var plan = Plan(parent, depth);
                return s => plan.Point(s);
            default:
                throw new ShapeException($"An alignment over {(parent < 0 ? "nothing" : model.ClassName(parent))} is not shaped yet.");
        }
    }

    // Curvature grows with length, s / A²: the direction has turned by s² / 2A². Simpson's rule over pieces of a tenth of a radian.
    private static Vec3 Clothoid(double constant, double s)
    {
        double a2 = constant * Math.Abs(constant);
        int pieces = (int)Math.Clamp(Math.Ceiling(s * s / Math.Abs(2 * a2) * 10), 4, 2000);
        double step = s / pieces, x = 0, y = 0;
        for (int i = 0; i < pieces; i++)
        {
            double from = i * step, middle = from + (step / 2), to = from + step;
            double Angle(double t) => t * t / (2 * a2);
            x += step / 6 * (Math.Cos(Angle(from)) + (4 * Math.Cos(Angle(middle))) + Math.Cos(Angle(to)));
            y += step / 6 * (Math.Sin(Angle(from)) + (4 * Math.Sin(Angle(middle))) + Math.Sin(Angle(to)));
        }

        return new Vec3(x, y, 0);
    }

    private static Vec3 Tangent(Func<double, Vec3> curve, double at, double length)
    {
        double step = 1e-5 * Math.Max(1, Math.Abs(length)) * (length < 0 ? -1 : 1);
        var d = curve(at + step) - curve(at - step);
        return d.Length > 0 ? d : Vec3.AxisX;
    }

    // IfcCurveMeasureSelect: a length, or a share of the parent's own parameters, which only lines, circles and clothoids do not need.
    private double Measure(int index, string attribute)
    {
        double value = model.Get(index, attribute).Real;
        return double.IsFinite(value) ? value * units.Metres : throw new ShapeException($"{model.ClassName(index)} has no {attribute}.");
    }
}
