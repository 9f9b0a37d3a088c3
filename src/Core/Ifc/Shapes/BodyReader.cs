using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Solids and surfaces (IfcGeometricModelResource) as bodies in metres.</summary>
internal sealed class BodyReader(
    IfcModel model,
    IfcPlacements placements,
    CurveReader curves,
    ProfileReader profiles,
    FaceReader faces,
    SurfaceReader surfaces,
    SweptReader swept,
    IfcStyles styles,
    Tolerance tolerance
)
{
    private const int MaxDepth = 60;

    /// <summary>The bodies of an item that is not a mapped one. Curves and points give none.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The item is of a kind not shaped, or broken.</exception>
    public IReadOnlyList<Body> Read(int item) => Read(item, 0, []);

    // What a Boolean uses twice is built once: a few unions of themselves would be millions.
    private IReadOnlyList<Body> Read(int item, int depth, Dictionary<int, Mesh> operands)
    {
        WorkBudget.Spend(Representations.ItemCost);
        if (item < 0)
            throw new ShapeException("A representation item is missing.");
        if (depth > MaxDepth)
            throw new ShapeException("A Boolean is nested deeper than 60, or refers to itself.");
        return model.ClassName(item) switch
        {
            "IfcExtrudedAreaSolid" => [new Body(Extruded(item))],
            "IfcFacetedBrep" => [Brep(item, [model.Ref(item, "Outer")])],
            "IfcFacetedBrepWithVoids" => [Brep(item, [model.Ref(item, "Outer"), .. model.Refs(item, "Voids")])],
            "IfcFaceBasedSurfaceModel" => [Shells(model.Refs(item, "FbsmFaces"))],
            "IfcShellBasedSurfaceModel" => [Shells(model.Refs(item, "SbsmBoundary"))],
            "IfcTriangulatedFaceSet" or "IfcTriangulatedIrregularNetwork" => [Tessellated(item, faces.Triangulated)],
            "IfcPolygonalFaceSet" => [Tessellated(item, faces.Polygonal)],
            "IfcAdvancedBrep" => [Brep(item, [model.Ref(item, "Outer")])],
            "IfcAdvancedBrepWithVoids" => [Brep(item, [model.Ref(item, "Outer"), .. model.Refs(item, "Voids")])],
            "IfcExtrudedAreaSolidTapered"
            or "IfcRevolvedAreaSolid"
            or "IfcRevolvedAreaSolidTapered"
            or "IfcSweptDiskSolid"
            or "IfcSweptDiskSolidPolygonal"
            or "IfcFixedReferenceSweptAreaSolid"
            or "IfcDirectrixDerivedReferenceSweptAreaSolid"
            or "IfcSurfaceCurveSweptAreaSolid"
            or "IfcSectionedSpine"
            or "IfcSectionedSolidHorizontal" => [.. swept.Read(item).Select(m => new Body(m))],
            "IfcBlock" => [new Body(Block(item))],
            "IfcRightCircularCylinder" => [new Body(Cylinder(item))],
            "IfcRightCircularCone" =>
            [
                new Body(
                    Primitives.Cone(
                        Position(item),
                        curves.Length(item, "BottomRadius"),
                        curves.Length(item, "Height"),
                        tolerance
                    )
                ),
            ],
            "IfcRectangularPyramid" =>
            [
                new Body(
                    Primitives.Pyramid(
                        Position(item),
                        curves.Length(item, "XLength"),
                        curves.Length(item, "YLength"),
                        curves.Length(item, "Height")
                    )
                ),
            ],
            "IfcSphere" => [new Body(Primitives.Sphere(Position(item), curves.Length(item, "Radius"), tolerance))],
            "IfcCsgSolid" => Read(model.Ref(item, "TreeRootExpression"), depth + 1, operands),
            "IfcRectangularTrimmedSurface" or "IfcCurveBoundedPlane" or "IfcCurveBoundedSurface" =>
            [
                new Body(faces.Bounded(item)),
            ],
            "IfcGeometricSet" =>
            [
                .. model
                    .Refs(item, "Elements")
                    .Where(e => model.Is(e, "IfcSurface"))
                    .Select(e => new Body(faces.Bounded(e))),
            ],
            "IfcBooleanResult" or "IfcBooleanClippingResult" => [new Body(Boolean(item, depth, operands))],
            "IfcGeometricCurveSet" or "IfcBoundingBox" => [],
            _ when model.Is(item, "IfcCurve") || model.Is(item, "IfcPoint") => [],
            var other => throw new ShapeException($"{other} is not shaped yet."),
        };
    }

    private Frame Position(int item) => placements.Axes(model.Ref(item, "Position"));

    private Prism Block(int item)
    {
        var frame = Position(item);
        return Prism.Box(
            frame.Origin,
            frame.X * curves.Length(item, "XLength"),
            frame.Y * curves.Length(item, "YLength"),
            frame.Z * curves.Length(item, "ZLength")
        );
    }

    private Prism Cylinder(int item) =>
        new(
            [Region.Of(Arc.Circle(curves.Length(item, "Radius"), tolerance))],
            Position(item),
            new Vec3(0, 0, curves.Length(item, "Height"))
        );

    private Prism Extruded(int item)
    {
        double depth = curves.Length(item, "Depth");
        if (depth <= 0)
            throw new ShapeException("An extrusion has no depth.");
        var direction = placements.Direction(model.Ref(item, "ExtrudedDirection"), Vec3.AxisZ).Unit();
        if (Math.Abs(direction.Z) < 1e-9)
            throw new ShapeException("An extrusion runs in the plane of its own profile.");
        return new Prism(
            profiles.Regions(model.Ref(item, "SweptArea")),
            placements.Axes(model.Ref(item, "Position")),
            direction * depth
        );
    }

    private Body Tessellated(int set, Func<int, List<int>?, Mesh> read)
    {
        if (styles.Faces(set) is not { } colours)
            return new Body(read(set, null));
        var origin = new List<int>();
        var mesh = read(set, origin);
        return new Body(mesh, [.. origin.Select(f => f < colours.Count ? colours[f] : null)]);
    }

    private Body Shells(IReadOnlyList<int> shells)
    {
        var origin = styles.FacesAreStyled ? new List<int>() : null;
        return new Body(faces.Shells(shells, origin), ColoursOf(origin));
    }

    // Faces on curved surfaces do not tell which triangles are theirs.
    private List<Colour?>? ColoursOf(List<int>? origin) =>
        origin is { Count: > 0 } ? [.. origin.Select(f => styles.Item(f))] : null;

    // The outer shell of a brep faces outward by the standard; files that break this are turned by their volume. Voids face the other way.
    private Body Brep(int item, int[] shells)
    {
        var meshes = new List<Mesh>();
        var origin = styles.FacesAreStyled ? new List<int>() : null;
        foreach (int shell in shells)
        {
            if (shell < 0)
                throw new ShapeException($"{model.ClassName(item)} has no shell.");
            var own = origin is null ? null : new List<int>();
            var mesh = faces.Shells([shell], own);
            origin?.AddRange(own!);
            bool wanted = meshes.Count == 0;
            var mass = MassProperties.Of(mesh);
            meshes.Add(mass.Closed && mass.Volume > 0 != wanted ? mesh.Flipped() : mesh);
        }

        var joined = Mesh.Join(meshes);
        return new Body(joined, origin?.Count == joined.TriangleCount ? ColoursOf(origin) : null);
    }

    private Mesh Boolean(int item, int depth, Dictionary<int, Mesh> operands)
    {
        var first = Operand(model.Ref(item, "FirstOperand"), depth, operands);
        int second = model.Ref(item, "SecondOperand");
        string operation = model.Get(item, "Operator").Enumeration ?? "";
        if (model.Is(second, "IfcHalfSpaceSolid") && !model.Is(model.Ref(second, "BaseSurface"), "IfcPlane"))
            return Curved(first, second, operation);
        var tool = model.Is(second, "IfcHalfSpaceSolid")
            ? HalfSpace(second, first.Bounds())
            : Operand(second, depth, operands);
        if (tool.Triangles.Length == 0)
            return operation == "INTERSECTION" ? Mesh.Empty : first;
        return operation switch
        {
            "UNION" => Solids.Unite(first, tool),
            "INTERSECTION" => Solids.Intersect(first, tool),
            _ => Solids.Subtract(first, tool),
        };
    }

    private Mesh Operand(int item, int depth, Dictionary<int, Mesh> operands) =>
        operands.TryGetValue(item, out var known)
            ? known
            : operands[item] = Mesh.Join([Mesh.Empty, .. Read(item, depth + 1, operands).Select(b => b.Mesh)]);

    /// <summary>The part of a half-space that can matter to a body within <paramref name="reach"/>.</summary>
    private Mesh HalfSpace(int half, Box reach)
    {
        if (reach.IsEmpty)
            return Mesh.Empty;
        int surface = model.Ref(half, "BaseSurface");
        var plane = placements.Axes(model.Ref(surface, "Position"));
        // AgreementFlag true: the normal points away from the material.
        bool below = !model.Get(half, "AgreementFlag").IsFalse;
        double far = 2 * (reach.Size.Length + (reach.Centre - plane.Origin).Length) + 1;
        // Put near the body, so that numbers stay small when the plane's own origin is far off.
        var centre = plane.Point((plane.Inverse().Point(reach.Centre)) with { Z = 0 });
        double size = 2 * reach.Size.Length + 1;
        var corner = centre - (plane.X * size) - (plane.Y * size);
        var slab = Prism
            .Box(corner, plane.X * (2 * size), plane.Y * (2 * size), plane.Z * (below ? -far : far))
            .ToMesh();
        if (!model.Is(half, "IfcPolygonalBoundedHalfSpace"))
            return slab;
        var position = placements.Axes(model.Ref(half, "Position"));
        var boundary = Region.Of([.. curves.Points(model.Ref(half, "PolygonalBoundary")).Select(p => p.XY)]);
        var local = position.Inverse().Point(reach.Centre);
        var start = position with { Origin = position.Point(new Vec3(0, 0, local.Z - size)) };
        var column = new Prism([boundary], start, new Vec3(0, 0, 2 * size)).ToMesh();
        // The slab must cover the column wherever that runs.
        return Solids.Intersect(column, slab);
    }

    // Normals of round surfaces point outward, so the material is within; with the flag false it is all that is not, which nothing need be
    // built for.
    private Mesh Curved(Mesh first, int half, string operation)
    {
        if (operation == "UNION")
            throw new ShapeException("A union with a half-space has no end.");
        int surface = model.Ref(half, "BaseSurface");
        bool outside = model.Get(half, "AgreementFlag").IsFalse;
        if (first.Triangles.Length == 0)
            return first;
        if (Within(surface, first.Bounds()) is not { } within)
            (within, outside) = (SurfaceSide.Of(surfaces.Read(surface), first, behind: !outside), false);
        return (operation == "INTERSECTION") == outside
            ? Solids.Subtract(first, within)
            : Solids.Intersect(first, within);
    }

    // What a round surface encloses; null for surfaces that enclose nothing.
    private Mesh? Within(int surface, Box reach)
    {
        if (!model.Is(surface, "IfcElementarySurface"))
            return null;
        var frame = placements.Axes(model.Ref(surface, "Position"));
        return model.ClassName(surface) switch
        {
            "IfcCylindricalSurface" => Column(
                frame,
                curves.Length(surface, "Radius"),
                reach.Size.Length + (reach.Centre - frame.Origin).Length + 1
            ),
            "IfcSphericalSurface" => Primitives.Sphere(
                frame,
                curves.Length(surface, "Radius"),
                Coarse(curves.Length(surface, "Radius"))
            ),
            "IfcToroidalSurface" => Primitives.Torus(
                frame,
                curves.Length(surface, "MajorRadius"),
                curves.Length(surface, "MinorRadius"),
                Coarse(curves.Length(surface, "MajorRadius"))
            ),
            _ => null,
        };
    }

    // A cut takes bodies of some thousand facets at most.
    private static Tolerance Coarse(double radius) => new(radius / 100, 24);

    private Mesh Column(Frame frame, double radius, double far) =>
        new Prism(
            [Region.Of(Arc.Circle(radius, tolerance))],
            frame with
            {
                Origin = frame.Point(new Vec3(0, 0, -far)),
            },
            new Vec3(0, 0, 2 * far)
        ).ToMesh();
}
