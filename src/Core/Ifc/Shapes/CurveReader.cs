using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>Curves as points in metres.</summary>
internal sealed class CurveReader(IfcModel model, IfcPlacements placements, IfcUnits units, Tolerance tolerance)
{
    private const int MaxDepth = 30;
    private const int MaxListed = 1_000_000;

    /// <summary>Curves of alignments.</summary>
    public AlignmentReader Alignment => field ??= new AlignmentReader(model, placements, units, this, tolerance);

    /// <summary>The points of a bounded curve, or of a closed one once around (the first point not repeated).</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    /// <exception cref="ShapeException">The curve is of a kind not read, or broken.</exception>
    public List<Vec3> Points(int curve, int depth = 0)
    {
        if (curve < 0)
            throw new ShapeException("A curve is missing.");
        if (depth > MaxDepth)
            throw new ShapeException("A curve refers to itself.");
        WorkBudget.Spend(100);
        List<Vec3> points;
        try
        {
            points = Read(curve, depth);
        }
        catch (Exception e)
            when (e is ArithmeticException or InvalidOperationException or IndexOutOfRangeException or ArgumentException
            )
        {
            throw new ShapeException($"The numbers of a curve ({model.ClassName(curve)}) make no sense.", e);
        }

        // Nobody who asks for a curve can do anything with none, and many take its first point.
        return points.Count > 0
            ? points
            : throw new ShapeException($"A curve ({model.ClassName(curve)}) has no points.");
    }

    private List<Vec3> Read(int curve, int depth) =>
        model.ClassName(curve) switch
        {
            "IfcPolyline" => [.. model.Refs(curve, "Points").Select(placements.Point)],
            "IfcCircle" => Conic(curve, Length(curve, "Radius"), Length(curve, "Radius")),
            "IfcEllipse" => Conic(curve, Length(curve, "SemiAxis1"), Length(curve, "SemiAxis2")),
            "IfcTrimmedCurve" => Trimmed(curve, depth),
            "IfcCompositeCurve" or "Ifc2DCompositeCurve" => Composite(curve, depth),
            "IfcIndexedPolyCurve" => Indexed(curve),
            "IfcBSplineCurveWithKnots"
            or "IfcRationalBSplineCurveWithKnots"
            or "IfcBezierCurve"
            or "IfcRationalBezierCurve" => [.. Samples(curve, depth).Points],
            "IfcOffsetCurve2D" or "IfcOffsetCurve3D" => Offset(curve, depth),
            "IfcSurfaceCurve" or "IfcIntersectionCurve" or "IfcSeamCurve" => Points(
                model.Ref(curve, "Curve3D"),
                depth + 1
            ),
            "IfcGradientCurve" or "IfcSegmentedReferenceCurve" => [.. Alignment.Samples(curve, depth).Points],
            var other => throw new ShapeException($"A curve of kind {other} is not shaped yet."),
        };

    /// <summary>Radians in one plane angle unit of the file.</summary>
    public double Radians => units.Radians;

    /// <summary>A length attribute in metres.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
    public double Length(int index, string attribute)
    {
        double value = model.Get(index, attribute).Real;
        return double.IsFinite(value)
            ? value * units.Metres
            : throw new ShapeException($"{model.ClassName(index)} has no {attribute}.");
    }

    /// <summary>An optional length attribute in metres, 0 when unset.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
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

    private List<Vec3> Trimmed(int curve, int depth)
    {
        int basis = model.Ref(curve, "BasisCurve");
        bool agrees = !model.Get(curve, "SenseAgreement").IsFalse;
        var kind = model.ClassName(basis);
        if (kind == "IfcLine")
        {
            var (origin, along) = Line(basis);
            Vec3 At(string trim) => TrimPoint(curve, trim) ?? (origin + (along * TrimParameter(curve, trim)));
            return [At("Trim1"), At("Trim2")];
        }

        if (kind is not ("IfcCircle" or "IfcEllipse"))
        {
            var samples = Samples(basis, depth + 1);
            var exact = model.Is(basis, "IfcBSplineCurve") ? Spline(basis).Point : (Func<double, Vec3>?)null;
            double Parameter(string trim) =>
                TrimPoint(curve, trim) is { } p ? samples.Nearest(p) : TrimParameter(curve, trim);
            double first = Parameter("Trim1"),
                second = Parameter("Trim2");
            return agrees ? samples.Between(first, second, exact) : Backward(samples.Between(second, first, exact));
        }

        var (frame, a, b, from, sweep) = Turn(curve, basis);
        int n = tolerance.Chords(Math.Max(a, b), sweep);
        var points = new List<Vec3>(n + 1);
        for (int i = 0; i <= n; i++)
        {
            double angle = from + (sweep * i / n);
            points.Add(frame.Point(new Vec3(a * Math.Cos(angle), b * Math.Sin(angle), 0)));
        }

        return points;
    }

    /// <summary>Where an IfcLine begins to be measured, and how far a parameter of 1 goes along it, metres.</summary>
    /// <param name="line">Its position among the instances of the file.</param>
    public (Vec3 Origin, Vec3 Along) Line(int line)
    {
        int vector = model.Ref(line, "Dir");
        return (
            placements.Point(model.Ref(line, "Pnt")),
            placements.Direction(model.Ref(vector, "Orientation"), Vec3.AxisX).Unit() * Length(vector, "Magnitude")
        );
    }

    // The angle where a trimmed circle or ellipse begins, and how far it goes; negative against the sense.
    private (Frame Frame, double A, double B, double From, double Sweep) Turn(int curve, int basis)
    {
        bool agrees = !model.Get(curve, "SenseAgreement").IsFalse;
        string kind = model.ClassName(basis);
        var frame = placements.Axes(model.Ref(basis, "Position"));
        double a = kind == "IfcCircle" ? Length(basis, "Radius") : Length(basis, "SemiAxis1");
        double b = kind == "IfcCircle" ? a : Length(basis, "SemiAxis2");
        double Angle(string trim)
        {
            if (TrimPoint(curve, trim) is not { } p)
                return TrimParameter(curve, trim) * units.Radians;
            var d = p - frame.Origin;
            return Math.Atan2(d.Dot(frame.Y) / b, d.Dot(frame.X) / a);
        }

        double from = Angle("Trim1"),
            sweep = Angle("Trim2") - from;
        const double full = 2 * Math.PI;
        if (!(Math.Abs(from) + Math.Abs(sweep) < 1e6))
            throw new ShapeException("A curve is trimmed at an angle that makes no sense.");
        // Once around at most, and the way the sense says.
        if (agrees)
            sweep -= full * (Math.Ceiling((sweep - 1e-12) / full) - 1);
        else
            sweep -= full * (Math.Floor((sweep + 1e-12) / full) + 1);
        return (frame, a, b, from, sweep);
    }

    // A trimmed curve has the parameters of its basis (ISO 10303-42 trimmed_curve, from memory); against the sense they count from nothing
    // here.
    private CurveSamples TrimmedSamples(int curve, int basis, int depth)
    {
        var points = Trimmed(curve, depth);
        double first,
            reach;
        if (model.ClassName(basis) == "IfcLine")
        {
            var (origin, along) = Line(basis);
            first = (points[0] - origin).Dot(along) / along.Dot(along);
            reach = ((points[^1] - origin).Dot(along) / along.Dot(along)) - first;
        }
        else
        {
            var turn = Turn(curve, basis);
            (first, reach) = (turn.From / units.Radians, turn.Sweep / units.Radians);
        }

        if (reach < 0)
            (first, reach) = (0, -reach);
        return new CurveSamples(
            [.. Enumerable.Range(0, points.Count).Select(i => first + (reach * i / (points.Count - 1)))],
            points
        );
    }

    private static List<Vec3> Backward(List<Vec3> points)
    {
        points.Reverse();
        return points;
    }

    /// <summary>A bounded curve with the parameters the standard gives it: knots of a spline, stretches of a polyline, lengths of an
    /// alignment.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    /// <exception cref="ShapeException">As <see cref="Points"/>.</exception>
    public CurveSamples Samples(int curve, int depth = 0)
    {
        if (depth > MaxDepth)
            throw new ShapeException("A curve refers to itself.");
        WorkBudget.Spend(100);
        if (model.Is(curve, "IfcBSplineCurve"))
        {
            var spline = Spline(curve);
            return CurveSamples.Of(spline.Point, spline.Basis.Breaks, tolerance);
        }

        switch (model.ClassName(curve))
        {
            case "IfcCompositeCurve" or "Ifc2DCompositeCurve":
                return CompositeSamples(curve, depth);
            case "IfcCircle" or "IfcEllipse":
                var round = Points(curve);
                return new CurveSamples(
                    [
                        .. Enumerable
                            .Range(0, round.Count + 1)
                            .Select(i => 2 * Math.PI * i / round.Count / units.Radians),
                    ],
                    [.. round, round[0]]
                );
            case "IfcGradientCurve" or "IfcSegmentedReferenceCurve":
                return Alignment.Samples(curve, depth);
            case "IfcTrimmedCurve"
                when model.Ref(curve, "BasisCurve") is >= 0 and var basis
                    && model.ClassName(basis) is "IfcLine" or "IfcCircle" or "IfcEllipse":
                return TrimmedSamples(curve, basis, depth);
        }

        var points = Points(curve, depth + 1);
        return new CurveSamples([.. Enumerable.Range(0, points.Count).Select(i => (double)i)], points);
    }

    // Each segment's parameters follow those of the segment before it (ISO 10303-42 composite_curve); segments of an alignment are measured
    // by length.
    private CurveSamples CompositeSamples(int curve, int depth)
    {
        var parameters = new List<double>();
        var points = new List<Vec3>();
        foreach (int segment in model.Refs(curve, "Segments"))
        {
            double start = parameters.Count > 0 ? parameters[^1] : 0;
            var part = model.Is(segment, "IfcCurveSegment")
                ? Alignment.Segment(segment, depth + 1)
                : Samples(model.Ref(segment, "ParentCurve"), depth + 1);
            var on = part.Points.ToList();
            var at = part.Parameters.Select(t => t - part.Parameters[0]).ToList();
            if (model.Get(segment, "SameSense").IsFalse)
            {
                on.Reverse();
                double last = at[^1];
                at = [.. at.AsEnumerable().Reverse().Select(t => last - t)];
            }

            int skip = points.Count > 0 && on.Count > 0 && (points[^1] - on[0]).Length < 1e-6 ? 1 : 0;
            points.AddRange(on.Skip(skip));
            parameters.AddRange(at.Skip(skip).Select(t => start + t));
        }

        if (points.Count == 0)
            throw new ShapeException("A composite curve has no segments.");
        return new CurveSamples(parameters, points);
    }

    /// <summary>A B-spline curve; one without knots is a Bézier curve or has uniform ones.</summary>
    private BSplineCurve Spline(int curve)
    {
        var points = model.Refs(curve, "ControlPointsList").Select(placements.Point).ToArray();
        int degree = model.Get(curve, "Degree").Integer;
        var knots = model.Get(curve, "Knots").IsNull
            ? Bezier(degree, points.Length)
            : Knots(model.Get(curve, "Knots"), model.Get(curve, "KnotMultiplicities"));
        var weights = model.Get(curve, "WeightsData");
        return new BSplineCurve(
            new BSplineBasis(degree, knots, points.Length),
            points,
            weights.IsNull ? null : Weights(weights, points.Length)
        );
    }

    /// <summary>Knots written out with their multiplicities.</summary>
    /// <param name="knots">Each once.</param>
    /// <param name="multiplicities">How often each counts.</param>
    public static double[] Knots(StepValue knots, StepValue multiplicities)
    {
        var values = new List<double>();
        foreach (var knot in knots.Items)
            values.Add(knot.Real);
        var all = new List<double>();
        int n = 0;
        foreach (var item in multiplicities.Items)
        {
            int times = item.Integer;
            if (n >= values.Count || times is < 1 or > BSplineBasis.MaxDegree + 2 || all.Count > MaxListed)
                throw new ShapeException("A B-spline's knots and multiplicities do not fit together.");
            for (int k = 0; k < times; k++)
                all.Add(values[n]);
            n++;
        }

        return [.. all];
    }

    /// <summary>Positive weights, as many as there are control points.</summary>
    /// <param name="list">As it is in the file.</param>
    /// <param name="count">Of control points.</param>
    public static double[] Weights(StepValue list, int count)
    {
        var weights = new List<double>();
        foreach (var item in list.Items)
            weights.Add(item.Real);
        if (weights.Count != count || weights.Any(w => !(w > 0)))
            throw new ShapeException("A B-spline's weights do not fit its control points.");
        return [.. weights];
    }

    // Bézier pieces that meet at every degree-th point.
    private static double[] Bezier(int degree, int count)
    {
        if (degree < 1 || degree > BSplineBasis.MaxDegree || (count - 1) % degree != 0)
            throw new ShapeException("A Bézier curve's degree does not fit its control points.");
        int pieces = (count - 1) / degree;
        return [0.0, .. Enumerable.Range(0, pieces + 1).SelectMany(i => Enumerable.Repeat((double)i, degree)), pieces];
    }

    private List<Vec3> Offset(int curve, int depth)
    {
        int basis = model.Ref(curve, "BasisCurve");
        var up = model.Is(curve, "IfcOffsetCurve3D")
            ? placements.Direction(model.Ref(curve, "RefDirection"), Vec3.AxisZ).Unit()
            : Vec3.AxisZ;
        return Offset(Points(basis, depth + 1), IsClosed(basis), Length(curve, "Distance"), up);
    }

    /// <summary>A path moved sideways: each stretch to its left (2D) or along up × tangent (3D); neighbours meet in the plane that halves
    /// their angle.</summary>
    /// <param name="path">Its points, metres.</param>
    /// <param name="ring">Whether it is closed.</param>
    /// <param name="distance">Metres.</param>
    /// <param name="up">Across both the tangent and the shift.</param>
    /// <exception cref="ShapeException">The path turns back on itself.</exception>
    public static List<Vec3> Offset(List<Vec3> path, bool ring, double distance, Vec3 up)
    {
        var moved = new List<Vec3>(path.Count);
        for (int i = 0; i < path.Count; i++)
        {
            Vec3? before = Left(i - 1),
                after = Left(i);
            var side =
                before is null ? End(after, Left(i + 1))
                : after is null ? End(before, Left(i - 2))
                : before + after;
            if (side is not { } s || s.Length < 1e-9)
                throw new ShapeException("An offset curve folds back on itself.");
            s = s.Unit();
            moved.Add(path[i] + (s * (distance / Math.Max(0.1, s.Dot(after ?? before!.Value)))));
        }

        return moved;

        // At an open end of a smooth curve the chord has turned half a step too far.
        static Vec3? End(Vec3? first, Vec3? next) =>
            first is { } f && next is { } n && f.Dot(n) > 0.98 ? (f * 1.5) - (n * 0.5) : first;

        Vec3? Left(int stretch)
        {
            if (ring)
                stretch = (stretch + path.Count) % path.Count;
            else if (stretch < 0 || stretch + 1 >= path.Count)
                return null;
            var d = path[(stretch + 1) % path.Count] - path[stretch];
            return d.Length < 1e-12 ? null : up.Cross(d).Unit();
        }
    }

    /// <summary>Whether a curve's points go once around without the first repeated at the end.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    public bool IsClosed(int curve) =>
        model.ClassName(curve) is "IfcCircle" or "IfcEllipse"
        || (model.Is(curve, "IfcOffsetCurve2D") && IsClosed(model.Ref(curve, "BasisCurve")));

    private Vec3? TrimPoint(int curve, string trim)
    {
        foreach (var item in model.Get(curve, trim).Items)
            if (item.Reference > 0 && model.Target(item) is >= 0 and var point)
                return placements.Point(point);
        return null;
    }

    private double TrimParameter(int curve, string trim)
    {
        foreach (var item in model.Get(curve, trim).Items)
            if (double.IsFinite(item.Real))
                return item.Real;
        throw new ShapeException("A trimmed curve has neither a point nor a parameter to trim by.");
    }

    private List<Vec3> Composite(int curve, int depth)
    {
        var points = new List<Vec3>();
        foreach (int segment in model.Refs(curve, "Segments"))
        {
            var part = model.Is(segment, "IfcCurveSegment")
                ? [.. Alignment.Segment(segment, depth + 1).Points]
                : Points(model.Ref(segment, "ParentCurve"), depth + 1);
            if (model.Get(segment, "SameSense").IsFalse)
                part.Reverse();
            int skip = points.Count > 0 && part.Count > 0 && (points[^1] - part[0]).Length < 1e-6 ? 1 : 0;
            points.AddRange(part.Skip(skip));
        }

        return points;
    }

    private List<Vec3> Indexed(int curve)
    {
        var all = Coordinates(model.Ref(curve, "Points"));
        var segments = model.Get(curve, "Segments");
        if (segments.IsNull)
            return [.. all];
        var points = new List<Vec3>();
        Span<double> n = stackalloc double[3];
        foreach (var segment in segments.Items)
        {
            IReadOnlyList<Vec3> part;
            if (segment.TypeName == "IFCARCINDEX")
            {
                if (segment.Inner.Reals(n) != 3)
                    throw new ShapeException("An arc of an indexed curve does not have three points.");
                part = Arc.Through(At(all, n[0]), At(all, n[1]), At(all, n[2]), tolerance);
            }
            else
            {
                var line = new List<Vec3>();
                foreach (var index in segment.Inner.Items)
                    line.Add(At(all, index.Real));
                part = line;
            }

            int skip = points.Count > 0 && part.Count > 0 && (points[^1] - part[0]).Length < 1e-9 ? 1 : 0;
            points.AddRange(part.Skip(skip));
        }

        return points;
    }

    /// <summary>The points of an IfcCartesianPointList2D or 3D, metres.</summary>
    /// <param name="list">Its position among the instances of the file.</param>
    public Vec3[] Coordinates(int list)
    {
        if (list < 0)
            throw new ShapeException("A list of points is missing.");
        var points = new List<Vec3>();
        Span<double> c = stackalloc double[3];
        foreach (var item in model.Get(list, "CoordList").Items)
        {
            c.Clear();
            item.Reals(c);
            if (!double.IsFinite(c[0] + c[1] + c[2]))
                throw new ShapeException("A point has a coordinate that is not a number.");
            points.Add(new Vec3(c[0], c[1], c[2]) * units.Metres);
        }

        return [.. points];
    }

    private static Vec3 At(Vec3[] points, double index) =>
        index >= 1 && index <= points.Length
            ? points[(int)index - 1]
            : throw new ShapeException("An index points outside its list of points.");
}
