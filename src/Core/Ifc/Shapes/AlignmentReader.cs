using System.Collections.Concurrent;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Curves of alignments (IFC4X3): segments cut out of a parent curve by length and put where their placement says, and heights
/// along a plan curve.</summary>
/// <remarks>Parents are lines, circles, polylines and compositions, every spiral, and polynomial curves.</remarks>
internal sealed class AlignmentReader(
    IfcModel model,
    IfcPlacements placements,
    IfcUnits units,
    CurveReader curves,
    Tolerance tolerance
)
{
    private const int Stretches = 2000,
        MostCoefficients = 16;

    // By degree, as the standard names them.
    private static readonly string[] Terms =
    [
        "ConstantTerm",
        "LinearTerm",
        "QuadraticTerm",
        "CubicTerm",
        "QuarticTerm",
        "QuinticTerm",
        "SexticTerm",
        "SepticTerm",
    ];

    private readonly ConcurrentDictionary<int, CurveSamples> _along = new();

    /// <summary>An IfcCurveSegment with the lengths along it, from 0, metres.</summary>
    /// <param name="segment">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    /// <exception cref="ShapeException">The parent curve is of a kind not read.</exception>
    public CurveSamples Segment(int segment, int depth)
    {
        int parent = model.Ref(segment, "ParentCurve");
        double start = Measure(segment, "SegmentStart"),
            length = Measure(segment, "SegmentLength");
        var local = model.Is(parent, "IfcPolynomialCurve")
            ? Polynomial(parent, start, length, model.Get(segment, "SegmentLength").TypeName == "IFCPARAMETERVALUE")
            : Parent(parent, depth, length);
        // The parent's own frame at the start goes to the placement.
        var begin = Frame.FromAxes(local(start), Vec3.AxisZ, Tangent(local, start, length));
        var place = placements.Axes(model.Ref(segment, "Placement")).Compose(begin.Inverse());
        Vec3 At(double s) => place.Point(local(start + (length < 0 ? -s : s)));
        return CurveSamples.Of(At, [0, Math.Max(1e-9, Math.Abs(length))], tolerance);
    }

    /// <summary>An IfcGradientCurve or IfcSegmentedReferenceCurve: its base curve with heights, measured by length in plan.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    public CurveSamples Samples(int curve, int depth)
    {
        var plan = Plan(model.Ref(curve, "BaseCurve"), depth + 1);
        if (model.ClassName(curve) != "IfcGradientCurve")
            return plan;
        // Segments of the gradient run in a plane of distance along (X) and height (Y).
        var heights = model
            .Refs(curve, "Segments")
            .SelectMany(s => Segment(s, depth + 1).Points)
            .OrderBy(p => p.X)
            .ToList();
        if (heights.Count == 0)
            throw new ShapeException("A gradient has no segments.");
        var profile = new CurveSamples([.. heights.Select(h => h.X)], [.. heights.Select(h => new Vec3(0, 0, h.Y))]);
        var stations = plan
            .Parameters.Concat(heights.Select(h => h.X).Where(x => x > plan.Parameters[0] && x < plan.Parameters[^1]))
            .Distinct()
            .Order()
            .ToList();
        return new CurveSamples(stations, [.. stations.Select(s => plan.Point(s) + profile.Point(s))]);
    }

    /// <summary>Where an IfcPointByDistanceExpression lies, with the frame of the curve there: X along, Y left, Z up.</summary>
    /// <param name="point">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    public Frame At(int point, int depth = 0)
    {
        int basis = model.Ref(point, "BasisCurve");
        // Many elements hang on one alignment.
        var along = _along.GetOrAdd(basis, b => model.Is(b, "IfcGradientCurve") ? Samples(b, depth) : Plan(b, depth));
        double distance = Measure(point, "DistanceAlong");
        var at = along.Point(distance);
        double step = 1e-4 * Math.Max(1, Math.Abs(along.Parameters[^1]));
        var tangent =
            along.Point(Math.Min(distance + step, along.Parameters[^1]))
            - along.Point(Math.Max(distance - step, along.Parameters[0]));
        var x = tangent.Length > 0 ? tangent.Unit() : Vec3.AxisX;
        var y = Vec3.AxisZ.Cross(x);
        y = y.Length > 1e-9 ? y.Unit() : Vec3.AxisY;
        var z = x.Cross(y);
        double lateral = curves.Optional(point, "OffsetLateral"),
            vertical = curves.Optional(point, "OffsetVertical"),
            longitudinal = curves.Optional(point, "OffsetLongitudinal");
        return new Frame(at + (x * longitudinal) + (y * lateral) + (z * vertical), x, y, z);
    }

    /// <summary>A curve measured by its length, metres.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    public CurveSamples Plan(int curve, int depth)
    {
        var points = curves.Points(curve, depth + 1);
        if (curves.IsClosed(curve))
            points.Add(points[0]);
        var lengths = new List<double> { 0 };
        for (int i = 1; i < points.Count; i++)
            lengths.Add(lengths[^1] + (points[i] - points[i - 1]).Length);
        return new CurveSamples(lengths, points);
    }

    private Func<double, Vec3> Parent(int parent, int depth, double length)
    {
        switch (model.ClassName(parent))
        {
            case "IfcLine":
                var origin = placements.Point(model.Ref(parent, "Pnt"));
                var direction = placements
                    .Direction(model.Ref(model.Ref(parent, "Dir"), "Orientation"), Vec3.AxisX)
                    .Unit();
                return s => origin + (direction * s);
            case "IfcCircle":
                var centre = placements.Axes(model.Ref(parent, "Position"));
                double radius = curves.Length(parent, "Radius");
                return s => centre.Point(new Vec3(radius * Math.Cos(s / radius), radius * Math.Sin(s / radius), 0));
            case "IfcClothoid":
                return Along(parent, Spiral.Polynomial(0, curves.Length(parent, "ClothoidConstant")));
            case "IfcSecondOrderPolynomialSpiral"
            or "IfcThirdOrderPolynomialSpiral"
            or "IfcSeventhOrderPolynomialSpiral":
                return Along(parent, Spiral.Polynomial([.. Terms.Select(t => curves.Optional(parent, t))]));
            case "IfcCosineSpiral":
                return Along(
                    parent,
                    Spiral.Cosine(
                        curves.Optional(parent, "ConstantTerm"),
                        curves.Length(parent, "CosineTerm"),
                        Math.Abs(length)
                    )
                );
            case "IfcSineSpiral":
                return Along(
                    parent,
                    Spiral.Sine(
                        curves.Optional(parent, "ConstantTerm"),
                        curves.Optional(parent, "LinearTerm"),
                        curves.Length(parent, "SineTerm"),
                        Math.Abs(length)
                    )
                );
            case "IfcPolyline" or "IfcIndexedPolyCurve" or "IfcCompositeCurve":
                var plan = Plan(parent, depth);
                return s => plan.Point(s);
            default:
                throw new ShapeException(
                    $"An alignment over {(parent < 0 ? "nothing" : model.ClassName(parent))} is not shaped yet."
                );
        }
    }

    private Func<double, Vec3> Along(int spiral, Spiral shape)
    {
        var frame = placements.Axes(model.Ref(spiral, "Position"));
        return s => frame.Point(shape.Point(s));
    }

    // Coordinates are polynomials of a parameter; lengths along the curve are found by walking it.
    private Func<double, Vec3> Polynomial(int curve, double start, double length, bool byParameter)
    {
        var frame = placements.Axes(model.Ref(curve, "Position"));
        double[] x = Coefficients(curve, "CoefficientsX"),
            y = Coefficients(curve, "CoefficientsY"),
            z = Coefficients(curve, "CoefficientsZ");
        Vec3 At(double t) => frame.Point(new Vec3(Value(x, t), Value(y, t), Value(z, t)));
        if (byParameter)
            return At;
        double first = Math.Min(0, Math.Min(start, start + length)),
            last = Math.Max(0, Math.Max(start, start + length)),
            step = Math.Max(1e-9, (last - first) / Stretches);
        // A little further on both sides, for the direction at the ends.
        int before = (int)Math.Ceiling(-first / step) + 8,
            count = Stretches + 16;
        var at = Enumerable.Range(-before, count + 1).Select(i => i * step).ToList();
        var points = at.Select(At).ToList();
        var lengths = new List<double> { 0 };
        for (int i = 1; i < points.Count; i++)
            lengths.Add(lengths[^1] + (points[i] - points[i - 1]).Length);
        double zero = lengths[before];
        var parameters = new CurveSamples([.. lengths.Select(l => l - zero)], [.. at.Select(t => new Vec3(t, 0, 0))]);
        return s => At(parameters.Point(s).X);
    }

    private double[] Coefficients(int curve, string attribute)
    {
        var values = new List<double>();
        // A coefficient of degree n turns a parameter, a length in the file's unit, into a length in it.
        foreach (var item in model.Get(curve, attribute).Items)
            values.Add(item.Real * Math.Pow(units.Metres, 1 - values.Count));
        return values.Count <= MostCoefficients && values.All(double.IsFinite)
            ? [.. values]
            : throw new ShapeException("A polynomial curve has coefficients that make no sense.");
    }

    private static double Value(double[] coefficients, double t)
    {
        double sum = 0;
        for (int i = coefficients.Length - 1; i >= 0; i--)
            sum = (sum * t) + coefficients[i];
        return sum;
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
        return double.IsFinite(value)
            ? value * units.Metres
            : throw new ShapeException($"{model.ClassName(index)} has no {attribute}.");
    }
}
