using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Solids and surfaces (IfcGeometricModelResource) as bodies in metres.</summary>
internal sealed class BodyReader(IfcModel model, IfcPlacements placements, CurveReader curves, ProfileReader profiles, FaceReader faces, SweptReader swept, Tolerance tolerance)
{
    private const int MaxDepth = 60;

    /// <summary>The bodies of an item that is not a mapped one. Curves and points give none.</summary>
    /// <exception cref="ShapeException">The item is of a kind not shaped, or broken.</exception>
    public IReadOnlyList<Body> Read(int item, int depth = 0)
    {
        if (item < 0) throw new ShapeException("A representation item is missing.");
        if (depth > MaxDepth) throw new ShapeException("A Boolean is nested deeper than 60, or refers to itself.");
        return model.ClassName(item) switch
        {
            "IfcExtrudedAreaSolid" => [new Body(Extruded(item))],
            "IfcFacetedBrep" => [Brep(item, [model.Ref(item, "Outer")])],
            "IfcFacetedBrepWithVoids" => [Brep(item, [model.Ref(item, "Outer"), .. model.Refs(item, "Voids")])],
            "IfcFaceBasedSurfaceModel" => [new Body(faces.Shells(model.Refs(item, "FbsmFaces")))],
            "IfcShellBasedSurfaceModel" => [new Body(faces.Shells(model.Refs(item, "SbsmBoundary")))],
            "IfcTriangulatedFaceSet" => [new Body(faces.Triangulated(item))],
            "IfcPolygonalFaceSet" => [new Body(faces.Polygonal(item))],
            "IfcAdvancedBrep" => [Brep(item, [model.Ref(item, "Outer")])],
            "IfcAdvancedBrepWithVoids" => [Brep(item, [model.Ref(item, "Outer"), .. model.Refs(item, "Voids")])],
            "IfcExtrudedAreaSolidTapered" or "IfcRevolvedAreaSolid" or "IfcRevolvedAreaSolidTapered" or "IfcSweptDiskSolid" or "IfcSweptDiskSolidPolygonal" or "IfcFixedReferenceSweptAreaSolid"
                or "IfcDirectrixDerivedReferenceSweptAreaSolid" or "IfcSurfaceCurveSweptAreaSolid" or "IfcSectionedSpine" or "IfcSectionedSolidHorizontal" => [.. swept.Read(item).Select(m => new Body(m))],
            "IfcBlock" => [new Body(Block(item))],
            "IfcRightCircularCylinder" => [new Body(Cylinder(item))],
            "IfcRightCircularCone" => [new Body(Primitives.Cone(Position(item), curves.Length(item, "BottomRadius"), curves.Length(item, "Height"), tolerance))],
            "IfcRectangularPyramid" => [new Body(Primitives.Pyramid(Position(item), curves.Length(item, "XLength"), curves.Length(item, "YLength"), curves.Length(item, "Height")))],
            "IfcSphere" => [new Body(Primitives.Sphere(Position(item), curves.Length(item, "Radius"), tolerance))],
            "IfcCsgSolid" => Read(model.Ref(item, "TreeRootExpression"), depth + 1),
            "IfcTriangulatedIrregularNetwork" => [new Body(faces.Triangulated(item))],
            "IfcRectangularTrimmedSurface" or "IfcCurveBoundedPlane" or "IfcCurveBoundedSurface" => [new Body(faces.Bounded(item))],
            "IfcGeometricSet" => [.. model.Refs(item, "Elements").Where(e => model.Is(e, "IfcSurface")).Select(e => new Body(faces.Bounded(e)))],
            "IfcBooleanResult" or "IfcBooleanClippingResult" => [new Body(Boolean(item, depth))],
            "IfcGeometricCurveSet" or "IfcBoundingBox" => [],
            _ when model.Is(item, "IfcCurve") || model.Is(item, "IfcPoint") => [],
            var other => throw new ShapeException($"{other} is not shaped yet."),
        };
    }

    private Frame Position(int item) => placements.Axes(model.Ref(item, "Position"));

    private Prism Block(int item)
    {
        var frame = Position(item);
        return Prism.Box(frame.Origin, frame.X * curves.Length(item, "XLength"), frame.Y * curves.Length(item, "YLength"), frame.Z * curves.Length(item, "ZLength"));
    }

    private Prism Cylinder(int item) =>
        new([Region.Of(Arc.Circle(curves.Length(item, "Radius"), tolerance))], Position(item), new Vec3(0, 0, curves.Length(item, "Height")));

    private Prism Extruded(int item)
    {
        double depth = curves.Length(item, "Depth");
        if (depth <= 0) throw new ShapeException("An extrusion has no depth.");
        var direction = placements.Direction(model.Ref(item, "ExtrudedDirection"), Vec3.AxisZ).Unit();
        if (Math.Abs(direction.Z) < 1e-9) throw new ShapeException("An extrusion runs in the plane of its own profile.");
        return new Prism(profiles.Regions(model.Ref(item, "SweptArea")), placements.Axes(model.Ref(item, "Position")), direction * depth);
    }

    // The outer shell of a brep faces outward by the standard; files that break this are turned by their volume. Voids face the other way.
    private Body Brep(int item, int[] shells)
    {
        var meshes = new List<Mesh>();
        foreach (int shell in shells)
        {
            if (shell < 0) throw new ShapeException($"{model.ClassName(item)} has no shell.");
            var mesh = faces.Shells([shell]);
            bool wanted = meshes.Count == 0;
            var mass = MassProperties.Of(mesh);
            meshes.Add(mass.Closed && mass.Volume > 0 != wanted ? mesh.Turned() : mesh);
        }

        return new Body(Mesh.Join(meshes));
    }

    private Mesh Boolean(int item, int depth)
    {
        var first = Operand(model.Ref(item, "FirstOperand"), depth);
        int second = model.Ref(item, "SecondOperand");
        var tool = model.Is(second, "IfcHalfSpaceSolid") ? HalfSpace(second, first.Bounds()) : Operand(second, depth);
        if (tool.Triangles.Length == 0) return model.Get(item, "Operator").Enumeration == "INTERSECTION" ? Mesh.Empty : first;
        return model.Get(item, "Operator").Enumeration switch
        {
            "UNION" => Solids.Unite(first, tool),
            "INTERSECTION" => Solids.Intersect(first, tool),
            _ => Solids.Subtract(first, tool),
        };
    }

    private Mesh Operand(int item, int depth) => Mesh.Join([Mesh.Empty, .. Read(item, depth + 1).Select(b => b.Mesh)]);

    /// <summary>The part of a half-space that can matter to a body within <paramref name="reach"/>.</summary>
    private Mesh HalfSpace(int half, Box reach)
    {
        if (reach.IsEmpty) return Mesh.Empty;
        int surface = model.Ref(half, "BaseSurface");
        if (!model.Is(surface, "IfcPlane")) throw new ShapeException($"A half-space over {(surface < 0 ? "nothing" : model.ClassName(surface))} is not shaped yet.");
        var plane = placements.Axes(model.Ref(surface, "Position"));
        // AgreementFlag true: the normal points away from the material.
        bool below = !model.Get(half, "AgreementFlag").IsFalse;
        double far = 2 * (reach.Size.Length + (reach.Centre - plane.Origin).Length) + 1;
        // Put near the body, so that numbers stay small when the plane's own origin is far off.
        var centre = plane.Point((plane.Inverse().Point(reach.Centre)) with { Z = 0 });
        double size = 2 * reach.Size.Length + 1;
        var corner = centre - (plane.X * size) - (plane.Y * size);
        var slab = Prism.Box(corner, plane.X * (2 * size), plane.Y * (2 * size), plane.Z * (below ? -far : far)).ToMesh();
        if (!model.Is(half, "IfcPolygonalBoundedHalfSpace")) return slab;
        var position = placements.Axes(model.Ref(half, "Position"));
        var boundary = Region.Of([.. curves.Points(model.Ref(half, "PolygonalBoundary")).Select(p => p.XY)]);
        var local = position.Inverse().Point(reach.Centre);
        var start = position with { Origin = position.Point(new Vec3(0, 0, local.Z - size)) };
        var column = new Prism([boundary], start, new Vec3(0, 0, 2 * size)).ToMesh();
        // The slab must cover the column wherever that runs.
        return Solids.Intersect(column, slab);
    }
}
