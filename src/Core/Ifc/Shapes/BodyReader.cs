using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Solids and surfaces (IfcGeometricModelResource) as bodies in metres.</summary>
internal sealed class BodyReader(IfcModel model, IfcPlacements placements, CurveReader curves, ProfileReader profiles, FaceReader faces)
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
            "IfcBooleanResult" or "IfcBooleanClippingResult" => [new Body(Boolean(item, depth))],
            "IfcGeometricCurveSet" or "IfcBoundingBox" => [],
            var kind when model.Is(item, "IfcCurve") || model.Is(item, "IfcPoint") || kind == "IfcGeometricSet" => [],
            var other => throw new ShapeException($"{other} is not shaped yet."),
        };
    }

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
            meshes.Add(mass.Closed && mass.Volume > 0 != wanted ? FaceReader.Turned(mesh) : mesh);
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
