using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Profiles (IfcProfileResource) as plane regions in metres.</summary>
internal sealed class ProfileReader(
    IfcModel model,
    IfcPlacements placements,
    IfcUnits units,
    CurveReader curves,
    Tolerance tolerance
)
{
    private const int MaxDepth = 20;

    /// <summary>The regions of a profile; a composite has several.</summary>
    /// <param name="profile">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    /// <exception cref="ShapeException">The profile is of a kind not read, or has no area.</exception>
    public IReadOnlyList<Region> Regions(int profile, int depth = 0)
    {
        if (profile < 0)
            throw new ShapeException("A profile is missing.");
        if (depth > MaxDepth)
            throw new ShapeException("A profile refers to itself.");
        WorkBudget.Spend(100);
        switch (model.ClassName(profile))
        {
            case "IfcCompositeProfileDef":
                return [.. model.Refs(profile, "Profiles").SelectMany(p => Regions(p, depth + 1))];
            case "IfcDerivedProfileDef":
                var map = Operator(model.Ref(profile, "Operator"));
                return
                [
                    .. Regions(model.Ref(profile, "ParentProfile"), depth + 1)
                        .Select(r => r.Map(p => map.Point(new Vec3(p.X, p.Y, 0)).XY)),
                ];
            case "IfcMirroredProfileDef":
                return
                [
                    .. Regions(model.Ref(profile, "ParentProfile"), depth + 1)
                        .Select(r => r.Map(p => new Vec2(-p.X, p.Y))),
                ];
            case "IfcArbitraryClosedProfileDef":
                return [Region.Of(Flat(model.Ref(profile, "OuterCurve")))];
            case "IfcArbitraryProfileDefWithVoids":
                return
                [
                    Region.Of(Flat(model.Ref(profile, "OuterCurve")), model.Refs(profile, "InnerCurves").Select(Flat)),
                ];
            case "IfcCenterLineProfileDef":
                return [CentreLine.Thicken(Flat(model.Ref(profile, "Curve")), curves.Length(profile, "Thickness"))];
        }

        var frame = placements.Axes(model.Ref(profile, "Position"));
        return [Parametric(profile).Map(p => frame.Point(new Vec3(p.X, p.Y, 0)).XY)];
    }

    /// <summary>An IfcCartesianTransformationOperator as a frame.</summary>
    /// <param name="op">Its position among the instances of the file.</param>
    public Frame Operator(int op)
    {
        if (op < 0)
            throw new ShapeException("A transformation operator is missing.");
        var origin = placements.Point(model.Ref(op, "LocalOrigin"));
        double scale = Factor(op, "Scale", 1);
        double scale2 = Factor(op, "Scale2", scale),
            scale3 = Factor(op, "Scale3", scale);
        if (model.Is(op, "IfcCartesianTransformationOperator2D"))
        {
            var x2 = placements.Direction(model.Ref(op, "Axis1"), Vec3.AxisX).Unit();
            var y2 = new Vec3(-x2.Y, x2.X, 0);
            // Axis2 only tells the side (ISO 10303-42, base_axis).
            if (model.Ref(op, "Axis2") is >= 0 and var second && placements.Direction(second, y2).Dot(y2) < 0)
                y2 = -y2;
            return new Frame(origin, x2 * scale, y2 * scale2, Vec3.AxisZ);
        }

        var z = placements.Direction(model.Ref(op, "Axis3"), Vec3.AxisZ).Unit();
        var frame = Frame.FromAxes(origin, z, placements.Direction(model.Ref(op, "Axis1"), Vec3.AxisX));
        var y = frame.Y;
        if (model.Ref(op, "Axis2") is >= 0 and var axis && placements.Direction(axis, y).Dot(y) < 0)
            y = -y;
        return new Frame(origin, frame.X * scale, y * scale2, frame.Z * scale3);
    }

    /// <summary>The frame of an IfcMappedItem: from the mapped representation to where it is put.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    public Frame Mapping(int item) =>
        Operator(model.Ref(item, "MappingTarget"))
            .Compose(placements.Axes(model.Ref(model.Ref(item, "MappingSource"), "MappingOrigin")).Inverse());

    private double Factor(int op, string attribute, double fallback)
    {
        double value = model.Get(op, attribute).Real;
        return double.IsFinite(value) && value != 0 ? value : fallback;
    }

    private IReadOnlyList<Vec2> Flat(int curve) => [.. curves.Points(curve).Select(p => p.XY)];

    private double L(int profile, string attribute) => curves.Length(profile, attribute);

    private double O(int profile, string attribute) =>
        !tolerance.Fillets && ProfileFillets.Are(attribute) ? 0 : curves.Optional(profile, attribute);

    private double Slope(int profile, string attribute) =>
        model.Get(profile, attribute).Real is var s && double.IsFinite(s) ? Math.Tan(s * units.Radians) : 0;

    // What must be less than what, as the figures of ISO 16739-1:2024 draw it (from memory): attribute, how often, and the attribute it
    // must fit
    // in.
    // Where they contradict each other the profile has no outline.
    private static readonly Dictionary<string, (string Part, int Times, string Whole)[]> Fits = new()
    {
        ["IfcRectangleHollowProfileDef"] = [("WallThickness", 2, "XDim"), ("WallThickness", 2, "YDim")],
        ["IfcCircleHollowProfileDef"] = [("WallThickness", 1, "Radius")],
        ["IfcIShapeProfileDef"] = [("FlangeThickness", 2, "OverallDepth"), ("WebThickness", 1, "OverallWidth")],
        ["IfcAsymmetricIShapeProfileDef"] =
        [
            ("BottomFlangeThickness", 2, "OverallDepth"),
            ("WebThickness", 1, "BottomFlangeWidth"),
            ("WebThickness", 1, "TopFlangeWidth"),
            ("TopFlangeThickness", 1, "OverallDepth"),
        ],
        ["IfcLShapeProfileDef"] = [("Thickness", 1, "Depth"), ("Thickness", 1, "Width")],
        ["IfcUShapeProfileDef"] = [("FlangeThickness", 2, "Depth"), ("WebThickness", 1, "FlangeWidth")],
        ["IfcCShapeProfileDef"] =
        [
            ("WallThickness", 2, "Depth"),
            ("WallThickness", 2, "Width"),
            ("Girth", 2, "Depth"),
            ("WallThickness", 1, "Girth"),
        ],
        ["IfcZShapeProfileDef"] = [("FlangeThickness", 2, "Depth"), ("WebThickness", 1, "FlangeWidth")],
        ["IfcTShapeProfileDef"] = [("FlangeThickness", 1, "Depth"), ("WebThickness", 1, "FlangeWidth")],
    };

    private void CheckDimensions(int p)
    {
        foreach (var (part, times, whole) in Fits.GetValueOrDefault(model.ClassName(p), []))
        {
            double smaller = O(p, part),
                larger = O(p, whole);
            // Equal ones leave a wall of nothing, which some write for a full section.
            if (larger == 0 || smaller * times <= larger * (1 + 1e-9))
                continue;
            throw new ShapeException(
                FormattableString.Invariant(
                    $"The dimensions of an {model.ClassName(p)} contradict each other: {(times == 2 ? "twice " : "")}{part} is {smaller * times:0.####} m, {whole} only {larger:0.####} m."
                )
            );
        }
    }

    private Region Parametric(int p)
    {
        CheckDimensions(p);
        return Outlined(p);
    }

    private Region Outlined(int p) =>
        model.ClassName(p) switch
        {
            "IfcRectangleProfileDef" => Region.Of(Rectangle(L(p, "XDim"), L(p, "YDim"), 0)),
            "IfcRoundedRectangleProfileDef" => Region.Of(Rectangle(L(p, "XDim"), L(p, "YDim"), L(p, "RoundingRadius"))),
            "IfcRectangleHollowProfileDef" => RectangleHollow(p),
            "IfcCircleProfileDef" => Region.Of(Arc.Circle(L(p, "Radius"), tolerance)),
            "IfcCircleHollowProfileDef" => Region.Of(
                Arc.Circle(L(p, "Radius"), tolerance),
                [Arc.Circle(L(p, "Radius") - L(p, "WallThickness"), tolerance)]
            ),
            "IfcEllipseProfileDef" => Region.Of(Arc.Ellipse(L(p, "SemiAxis1"), L(p, "SemiAxis2"), tolerance)),
            "IfcIShapeProfileDef" => Region.Of(IShape(p)),
            "IfcAsymmetricIShapeProfileDef" => Region.Of(AsymmetricI(p)),
            "IfcLShapeProfileDef" => Region.Of(LShape(p)),
            "IfcUShapeProfileDef" => Region.Of(UShape(p)),
            "IfcCShapeProfileDef" => Region.Of(CShape(p)),
            "IfcZShapeProfileDef" => Region.Of(ZShape(p)),
            "IfcTShapeProfileDef" => Region.Of(TShape(p)),
            "IfcTrapeziumProfileDef" => Region.Of(Trapezium(p)),
            var other => throw new ShapeException($"A profile of kind {other} is not shaped yet."),
        };

    private IReadOnlyList<Vec2> Rectangle(double x, double y, double radius) =>
        new Outline(tolerance)
            .Corner(-x / 2, -y / 2, radius)
            .Corner(x / 2, -y / 2, radius)
            .Corner(x / 2, y / 2, radius)
            .Corner(-x / 2, y / 2, radius)
            .Points();

    private Region RectangleHollow(int p)
    {
        double x = L(p, "XDim"),
            y = L(p, "YDim"),
            wall = L(p, "WallThickness");
        return Region.Of(
            Rectangle(x, y, O(p, "OuterFilletRadius")),
            [Rectangle(x - (2 * wall), y - (2 * wall), O(p, "InnerFilletRadius"))]
        );
    }

    // Flange thickness is given in the middle of the outstand; a slope makes it thicker at the web.
    private IReadOnlyList<Vec2> IShape(int p)
    {
        double b = L(p, "OverallWidth") / 2,
            h = L(p, "OverallDepth") / 2,
            w = L(p, "WebThickness") / 2,
            t = L(p, "FlangeThickness");
        double r = O(p, "FilletRadius"),
            e = O(p, "FlangeEdgeRadius"),
            rise = Slope(p, "FlangeSlope") * (b - w) / 2;
        return new Outline(tolerance)
            .Corner(-b, -h)
            .Corner(b, -h)
            .Corner(b, -h + t - rise, e)
            .Corner(w, -h + t + rise, r)
            .Corner(w, h - t - rise, r)
            .Corner(b, h - t + rise, e)
            .Corner(b, h)
            .Corner(-b, h)
            .Corner(-b, h - t + rise, e)
            .Corner(-w, h - t - rise, r)
            .Corner(-w, -h + t + rise, r)
            .Corner(-b, -h + t - rise, e)
            .Points();
    }

    private IReadOnlyList<Vec2> AsymmetricI(int p)
    {
        // IFC2X3 makes it a subtype of the symmetric one and keeps that one's names for the bottom flange.
        bool old = model.Is(p, "IfcIShapeProfileDef");
        double b = L(p, old ? "OverallWidth" : "BottomFlangeWidth") / 2,
            h = L(p, "OverallDepth") / 2,
            w = L(p, "WebThickness") / 2;
        double t = L(p, old ? "FlangeThickness" : "BottomFlangeThickness"),
            r = O(p, old ? "FilletRadius" : "BottomFlangeFilletRadius");
        double b2 = L(p, "TopFlangeWidth") / 2,
            t2 = O(p, "TopFlangeThickness"),
            r2 = O(p, "TopFlangeFilletRadius");
        if (t2 == 0)
            t2 = t;
        return new Outline(tolerance)
            .Corner(-b, -h)
            .Corner(b, -h)
            .Corner(b, -h + t)
            .Corner(w, -h + t, r)
            .Corner(w, h - t2, r2)
            .Corner(b2, h - t2)
            .Corner(b2, h)
            .Corner(-b2, h)
            .Corner(-b2, h - t2)
            .Corner(-w, h - t2, r2)
            .Corner(-w, -h + t, r)
            .Corner(-b, -h + t)
            .Points();
    }

    private IReadOnlyList<Vec2> LShape(int p)
    {
        double d = L(p, "Depth"),
            w = O(p, "Width"),
            t = L(p, "Thickness"),
            r = O(p, "FilletRadius"),
            e = O(p, "EdgeRadius");
        if (w == 0)
            w = d;
        double x = w / 2,
            y = d / 2,
            slope = Slope(p, "LegSlope"),
            riseX = slope * (w - t) / 2,
            riseY = slope * (d - t) / 2;
        return new Outline(tolerance)
            .Corner(-x, -y)
            .Corner(x, -y)
            .Corner(x, -y + t - riseX, e)
            .Corner(-x + t + riseY, -y + t + riseX, r)
            .Corner(-x + t - riseY, y, e)
            .Corner(-x, y)
            .Points();
    }

    private IReadOnlyList<Vec2> UShape(int p)
    {
        double y = L(p, "Depth") / 2,
            b = L(p, "FlangeWidth"),
            w = L(p, "WebThickness"),
            t = L(p, "FlangeThickness");
        double r = O(p, "FilletRadius"),
            e = O(p, "EdgeRadius"),
            x = b / 2,
            rise = Slope(p, "FlangeSlope") * (b - w) / 2;
        return new Outline(tolerance)
            .Corner(-x, -y)
            .Corner(x, -y)
            .Corner(x, -y + t - rise, e)
            .Corner(-x + w, -y + t + rise, r)
            .Corner(-x + w, y - t - rise, r)
            .Corner(x, y - t + rise, e)
            .Corner(x, y)
            .Corner(-x, y)
            .Points();
    }

    private IReadOnlyList<Vec2> CShape(int p)
    {
        double y = L(p, "Depth") / 2,
            x = L(p, "Width") / 2,
            t = L(p, "WallThickness"),
            g = L(p, "Girth"),
            r = O(p, "InternalFilletRadius");
        double outer = r > 0 ? r + t : 0;
        return new Outline(tolerance)
            .Corner(-x, -y, outer)
            .Corner(x, -y, outer)
            .Corner(x, -y + g)
            .Corner(x - t, -y + g)
            .Corner(x - t, -y + t, r)
            .Corner(-x + t, -y + t, r)
            .Corner(-x + t, y - t, r)
            .Corner(x - t, y - t, r)
            .Corner(x - t, y - g)
            .Corner(x, y - g)
            .Corner(x, y, outer)
            .Corner(-x, y, outer)
            .Points();
    }

    private IReadOnlyList<Vec2> ZShape(int p)
    {
        double y = L(p, "Depth") / 2,
            b = L(p, "FlangeWidth"),
            w = L(p, "WebThickness") / 2,
            t = L(p, "FlangeThickness");
        double r = O(p, "FilletRadius"),
            e = O(p, "EdgeRadius"),
            x = b - w;
        return new Outline(tolerance)
            .Corner(-w, -y)
            .Corner(x, -y)
            .Corner(x, -y + t, e)
            .Corner(w, -y + t, r)
            .Corner(w, y)
            .Corner(-x, y)
            .Corner(-x, y - t, e)
            .Corner(-w, y - t, r)
            .Points();
    }

    private IReadOnlyList<Vec2> TShape(int p)
    {
        double y = L(p, "Depth") / 2,
            x = L(p, "FlangeWidth") / 2,
            w = L(p, "WebThickness") / 2,
            t = L(p, "FlangeThickness");
        double r = O(p, "FilletRadius"),
            fe = O(p, "FlangeEdgeRadius"),
            we = O(p, "WebEdgeRadius");
        double riseF = Slope(p, "FlangeSlope") * (x - w) / 2,
            riseW = Slope(p, "WebSlope") * ((2 * y) - t) / 2;
        return new Outline(tolerance)
            .Corner(-w + riseW, -y, we)
            .Corner(w - riseW, -y, we)
            .Corner(w + riseW, y - t - riseF, r)
            .Corner(x, y - t + riseF, fe)
            .Corner(x, y)
            .Corner(-x, y)
            .Corner(-x, y - t + riseF, fe)
            .Corner(-w - riseW, y - t - riseF, r)
            .Points();
    }

    private IReadOnlyList<Vec2> Trapezium(int p)
    {
        double b = L(p, "BottomXDim"),
            top = L(p, "TopXDim"),
            y = L(p, "YDim") / 2,
            offset = O(p, "TopXOffset"),
            x = -b / 2;
        return [new(x, -y), new(x + b, -y), new(x + offset + top, y), new(x + offset, y)];
    }
}
