using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Surfaces (IfcGeometryResource) in metres.</summary>
internal sealed class SurfaceReader(IfcModel model, IfcPlacements placements, CurveReader curves)
{
    /// <summary>A surface without its bounds.</summary>
    /// <param name="surface">Its position among the instances of the file.</param>
    /// <param name="depth">How many references were followed to come here.</param>
    /// <exception cref="ShapeException">The surface is of a kind not read, or broken.</exception>
    public Surface Read(int surface, int depth = 0)
    {
        if (surface < 0)
            throw new ShapeException("A surface is missing.");
        if (depth > 10)
            throw new ShapeException("A surface refers to itself.");
        return model.ClassName(surface) switch
        {
            "IfcPlane" => new PlaneSurface(Position(surface)),
            "IfcCylindricalSurface" => new CylinderSurface(Position(surface), curves.Length(surface, "Radius")),
            "IfcSphericalSurface" => new SphereSurface(Position(surface), curves.Length(surface, "Radius")),
            "IfcToroidalSurface" => new TorusSurface(
                Position(surface),
                curves.Length(surface, "MajorRadius"),
                curves.Length(surface, "MinorRadius")
            ),
            "IfcBSplineSurfaceWithKnots" or "IfcRationalBSplineSurfaceWithKnots" => Spline(surface),
            "IfcSurfaceOfLinearExtrusion" => new ExtrusionSurface(
                Swept(surface),
                Position(surface).Direction(placements.Direction(model.Ref(surface, "ExtrudedDirection"), Vec3.AxisZ))
            ),
            "IfcSurfaceOfRevolution" => Revolution(surface),
            "IfcRectangularTrimmedSurface" or "IfcCurveBoundedPlane" or "IfcCurveBoundedSurface" => Read(
                model.Ref(surface, "BasisSurface"),
                depth + 1
            ),
            var other => throw new ShapeException($"A surface of kind {other} is not shaped yet."),
        };
    }

    private Frame Position(int surface) => placements.Axes(model.Ref(surface, "Position"));

    private RevolutionSurface Revolution(int surface)
    {
        var position = Position(surface);
        int axis = model.Ref(surface, "AxisPosition");
        return new RevolutionSurface(
            Swept(surface),
            position.Point(placements.Point(model.Ref(axis, "Location"))),
            position.Direction(placements.Direction(model.Ref(axis, "Axis"), Vec3.AxisZ))
        );
    }

    private CurveSamples Swept(int surface)
    {
        var position = Position(surface);
        int profile = model.Ref(surface, "SweptCurve");
        int curve = model.Is(profile, "IfcArbitraryClosedProfileDef")
            ? model.Ref(profile, "OuterCurve")
            : model.Ref(profile, "Curve");
        if (curve < 0)
            throw new ShapeException("A swept surface has no curve.");
        var samples = curves.Samples(curve);
        return new CurveSamples(samples.Parameters, [.. samples.Points.Select(position.Point)]);
    }

    private BSplineSurface Spline(int surface)
    {
        var rows = new List<Vec3[]>();
        foreach (var row in model.Get(surface, "ControlPointsList").Items)
            rows.Add([.. model.Targets(row).Select(placements.Point)]);
        if (rows.Count == 0 || rows.Any(r => r.Length != rows[0].Length))
            throw new ShapeException("A B-spline surface's control points do not form a net.");
        var u = new BSplineBasis(
            model.Get(surface, "UDegree").Integer,
            CurveReader.Knots(model.Get(surface, "UKnots"), model.Get(surface, "UMultiplicities")),
            rows.Count
        );
        var v = new BSplineBasis(
            model.Get(surface, "VDegree").Integer,
            CurveReader.Knots(model.Get(surface, "VKnots"), model.Get(surface, "VMultiplicities")),
            rows[0].Length
        );
        var list = model.Get(surface, "WeightsData");
        if (list.IsNull)
            return new BSplineSurface(u, v, [.. rows], null);
        var weights = new List<double[]>();
        foreach (var row in list.Items)
            weights.Add(CurveReader.Weights(row, rows[0].Length));
        if (weights.Count != rows.Count)
            throw new ShapeException("A B-spline's weights do not fit its control points.");
        return new BSplineSurface(u, v, [.. rows], [.. weights]);
    }
}
