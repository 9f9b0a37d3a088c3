using System.Collections.Concurrent;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Builds the shapes of products: the right representation, mapped items shared, openings cut out. Safe for concurrent use.</summary>
public sealed class ShapeReader
{
    private static readonly string[] Preferred = ["Body", "Facetation", "Tessellation", "Surface", "Body-Fallback"];
    private static readonly HashSet<string> NotABody = ["Axis", "Box", "FootPrint", "Annotation", "Clearance", "Profile", "CoG", "Lighting", "Reference", "Plan"];
    private readonly IfcModel _model;
    private readonly IfcRelations _relations;
    private readonly IfcStyles _styles;
    private readonly IfcPlacements _placements;
    private readonly ProfileReader _profiles;
    private readonly BodyReader _bodies;
    private readonly CurveReader _curves;
    private readonly ConcurrentDictionary<int, (IReadOnlyList<Mesh> Meshes, string? Problem)> _shared = new();

    /// <summary>Prepares to read shapes of one model.</summary>
    public ShapeReader(IfcModel model, IfcRelations relations, IfcUnits units, Tolerance? tolerance = null)
    {
        tolerance ??= Tolerance.Default;
        (_model, _relations, _styles, _placements) = (model, relations, new IfcStyles(model), new IfcPlacements(model, units.Metres));
        var curves = _curves = new CurveReader(model, _placements, units, tolerance);
        _placements.Along = point => curves.Alignment.At(point);
        _profiles = new ProfileReader(model, _placements, units, curves, tolerance);
        // Edges of breps are chords, not corrected for their area as full circles are, so they are finer.
        var fine = tolerance with { FullCircle = Math.Max(128, tolerance.FullCircle) };
        var edgeCurves = new CurveReader(model, _placements, units, fine);
        var surfaces = new SurfaceReader(model, _placements, edgeCurves);
        var faces = new FaceReader(model, _placements, curves, surfaces, new EdgeReader(model, _placements, edgeCurves, fine), fine);
        _bodies = new BodyReader(model, _placements, curves, _profiles, faces, new SweptReader(model, _placements, edgeCurves, _profiles, surfaces, tolerance), tolerance);
    }

    /// <summary>Placements, in metres.</summary>
    public IfcPlacements Placements => _placements;

    /// <summary>The shape of a product, openings cut. Null when the product has no body representation.</summary>
    public Shape? Read(int product)
    {
        int representation = BodyRepresentation(product);
        if (representation < 0) return null;
        var problems = new List<string>();
        try
        {
            var world = _placements.Product(product);
            var openings = OpeningBodies(product, world, problems);
            var parts = new List<ShapePart>();
            var fallback = MaterialColour(product);
            foreach (int item in _model.Refs(representation, "Items")) Item(item, Frame.Identity, fallback, openings, parts, problems, 0);
            return new Shape(world, parts, problems);
        }
        catch (ShapeException e)
        {
            return new Shape(Frame.Identity, [], [.. problems, e.Message]);
        }
        catch (Exception e) when (e is ArithmeticException or InvalidOperationException or IndexOutOfRangeException or ArgumentException)
        {
            return new Shape(Frame.Identity, [], [.. problems, "The shape's numbers make no sense."]);
        }
    }

    /// <summary>The bodies of one representation item, in metres and in its own coordinates.</summary>
    /// <exception cref="ShapeException">The item cannot be shaped.</exception>
    public IReadOnlyList<Mesh> Item(int item) => [.. _bodies.Read(item).Select(b => b.Mesh)];

    /// <summary>The points of a curve, metres.</summary>
    /// <exception cref="ShapeException">The curve cannot be read.</exception>
    public IReadOnlyList<Vec3> Curve(int curve) => _curves.Points(curve);

    /// <summary>The points of an IfcCartesianPointList, metres.</summary>
    /// <exception cref="ShapeException">The list is broken.</exception>
    public IReadOnlyList<Vec3> Points(int list) => _curves.Coordinates(list);

    /// <summary>The representation that shows a product's body, -1 when it has none.</summary>
    public int BodyRepresentation(int product)
    {
        int best = -1, rank = int.MaxValue;
        foreach (int representation in _model.Refs(_model.Ref(product, "Representation"), "Representations"))
        {
            string name = _model.Text(representation, "RepresentationIdentifier") ?? "";
            int found = Array.IndexOf(Preferred, name);
            if (found < 0) found = NotABody.Contains(name) ? int.MaxValue : Preferred.Length;
            if (found < rank) (best, rank) = (representation, found);
        }

        return best;
    }

    private void Item(int item, Frame frame, Colour inherited, List<Body> openings, List<ShapePart> parts, List<string> problems, int depth)
    {
        var colour = _styles.Item(item) ?? inherited;
        if (_model.Is(item, "IfcMappedItem"))
        {
            Mapped(item, frame, colour, openings, parts, problems, depth);
            return;
        }

        try
        {
            if (openings.Count == 0 && depth > 0) AddShared(item, frame, colour, parts, problems);
            else
            {
                foreach (var body in _bodies.Read(item))
                    parts.Add(new ShapePart(Cut(body.Map(frame), openings, problems), Frame.Identity, colour, -1));
            }
        }
        catch (ShapeException e)
        {
            problems.Add(e.Message);
        }
    }

    private void AddShared(int item, Frame frame, Colour colour, List<ShapePart> parts, List<string> problems)
    {
        var (meshes, problem) = _shared.GetOrAdd(item, static (key, bodies) =>
        {
            try
            {
                return ([.. bodies.Read(key).Select(b => b.Mesh)], null);
            }
            catch (ShapeException e)
            {
                return ([], e.Message);
            }
        }, _bodies);
        if (problem is not null) problems.Add(problem);
        foreach (var mesh in meshes) parts.Add(new ShapePart(mesh, frame, colour, meshes.Count == 1 ? item : -1));
    }

    private void Mapped(int item, Frame frame, Colour colour, List<Body> openings, List<ShapePart> parts, List<string> problems, int depth)
    {
        if (depth > 10)
        {
            problems.Add("A mapped item refers to itself.");
            return;
        }

        int source = _model.Ref(item, "MappingSource");
        Frame target;
        try
        {
            var origin = _placements.Axes(_model.Ref(source, "MappingOrigin"));
            target = frame.Then(_profiles.Operator(_model.Ref(item, "MappingTarget"))).Then(origin.Inverse());
        }
        catch (ShapeException e)
        {
            problems.Add(e.Message);
            return;
        }

        foreach (int inner in _model.Refs(_model.Ref(source, "MappedRepresentation"), "Items")) Item(inner, target, colour, openings, parts, problems, depth + 1);
    }

    private List<Body> OpeningBodies(int product, Frame world, List<string> problems)
    {
        var bodies = new List<Body>();
        AddOpenings(product);
        // A decomposed wall carries its openings on the whole; they cut the parts.
        if (_relations.Whole.First(product) is >= 0 and var whole && _model.Is(whole, "IfcElement") && BodyRepresentation(whole) < 0) AddOpenings(whole);
        return bodies;

        void AddOpenings(int host)
        {
            foreach (int opening in _relations.Openings[host])
            {
                int representation = BodyRepresentation(opening);
                if (representation < 0) continue;
                try
                {
                    var frame = world.Inverse().Then(_placements.Product(opening));
                    foreach (int item in _model.Refs(representation, "Items")) AddOpeningItem(item, frame, bodies, 0);
                }
                catch (Exception e) when (e is ShapeException or InvalidOperationException)
                {
                    problems.Add($"Opening {_model.GlobalId(opening)} was not cut: {e.Message}");
                }
            }
        }
    }

    private void AddOpeningItem(int item, Frame frame, List<Body> bodies, int depth)
    {
        if (!_model.Is(item, "IfcMappedItem"))
        {
            foreach (var body in _bodies.Read(item)) bodies.Add(body.Map(frame));
            return;
        }

        if (depth > 10) throw new ShapeException("A mapped item refers to itself.");
        int source = _model.Ref(item, "MappingSource");
        var target = frame.Then(_profiles.Operator(_model.Ref(item, "MappingTarget"))).Then(_placements.Axes(_model.Ref(source, "MappingOrigin")).Inverse());
        foreach (int inner in _model.Refs(_model.Ref(source, "MappedRepresentation"), "Items")) AddOpeningItem(inner, target, bodies, depth + 1);
    }

    // Exact in the plane where all bodies are prisms along one axis; else facet by facet. What cannot be cut is shown uncut, and said.
    private static Mesh Cut(Body body, List<Body> openings, List<string> problems)
    {
        if (openings.Count == 0) return body.Mesh;
        var tools = openings.Select(o => o.Prism).OfType<Prism>().ToList();
        try
        {
            if (body.Prism is not null && tools.Count == openings.Count && CutInPlane(body.Prism, tools) is { } exact) return exact.ToMesh();
            var mesh = body.Mesh;
            if (!MassProperties.Of(mesh).Closed) throw new ShapeException("the body is not closed.");
            foreach (var opening in openings) mesh = Solids.Subtract(mesh, opening.Mesh);
            return mesh;
        }
        catch (ShapeException e)
        {
            problems.Add($"Openings were not cut: {e.Message}");
            return body.Mesh;
        }
    }

    private static Prism? CutInPlane(Prism body, List<Prism> tools)
    {
        var axis = tools[0].Frame.Direction(tools[0].Sweep);
        return body.SweptAlong(axis)?.Less(tools);
    }

    private Colour MaterialColour(int product)
    {
        int material = _relations.Material.First(product);
        if (material < 0) material = _relations.Material.First(_relations.Type.First(product));
        return material >= 0 && _styles.Material(material) is { } colour ? colour : Colour.Default;
    }
}
