using System.Collections.Concurrent;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Builds the shapes of products: the right representation, mapped items shared, openings cut out. Safe for concurrent
/// use.</summary>
public sealed class ShapeReader
{
    private readonly IfcModel _model;
    private readonly IfcRelations _relations;
    private readonly IfcStyles _styles;
    private readonly IfcPlacements _placements;
    private readonly ProfileReader _profiles;
    private readonly BodyReader _bodies;
    private readonly CurveReader _curves;
    private readonly FeatureReader _features;
    private readonly DrawnReader _drawn;
    private readonly ConcurrentDictionary<int, (IReadOnlyList<Body> Bodies, string? Problem)> _shared = new();
    private readonly MeshPool _meshes = new();

    /// <summary>Prepares to read shapes of one model.</summary>
    /// <param name="model">The model.</param>
    /// <param name="relations">Its relationships.</param>
    /// <param name="units">Its units.</param>
    /// <param name="tolerance">How finely curves become chords; null for the usual.</param>
    public ShapeReader(IfcModel model, IfcRelations relations, IfcUnits units, Tolerance? tolerance = null)
    {
        tolerance ??= Tolerance.Default;
        (_model, _relations, _styles, _placements) = (
            model,
            relations,
            new IfcStyles(model),
            new IfcPlacements(model, units.Metres)
        );
        var curves = _curves = new CurveReader(model, _placements, units, tolerance);
        _placements.Along = point => curves.Alignment.At(point);
        _placements.OnGrid = new GridPlacements(model, _placements, curves, units).World;
        _profiles = new ProfileReader(model, _placements, units, curves, tolerance);
        // Edges of breps are chords, not corrected for their area as full circles are, so they are finer.
        var fine = tolerance with { FullCircle = Math.Max(128, tolerance.FullCircle) };
        var edgeCurves = new CurveReader(model, _placements, units, fine);
        var surfaces = new SurfaceReader(model, _placements, edgeCurves);
        var faces = new FaceReader(
            model,
            _placements,
            curves,
            surfaces,
            new EdgeReader(model, _placements, edgeCurves, fine),
            fine
        );
        _bodies = new BodyReader(
            model,
            _placements,
            curves,
            _profiles,
            faces,
            surfaces,
            new SweptReader(model, _placements, edgeCurves, _profiles, surfaces, tolerance),
            _styles,
            tolerance
        );
        _features = new FeatureReader(model, relations, _placements, _profiles, _bodies);
        _drawn = new DrawnReader(model, _placements, curves, _profiles);
    }

    /// <summary>Placements, in metres.</summary>
    public IfcPlacements Placements => _placements;

    /// <summary>The shape of a product, openings cut and projections added. Null when the product has no body representation.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="cancel">Stops between instances.</param>
    public Shape? Read(int product, CancellationToken cancel = default) => Read(product, cut: true, cancel);

    /// <summary>The shape of a product as <see cref="Read(int, CancellationToken)"/> gives it, but without its openings cut: what the gross
    /// quantities of the standard's quantity sets are of (ISO 16739-1, Qto_WallBaseQuantities).</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="cancel">Stops between instances.</param>
    public Shape? ReadGross(int product, CancellationToken cancel = default) => Read(product, cut: false, cancel);

    private Shape? Read(int product, bool cut, CancellationToken cancel) =>
        BodyRepresentation(product) is >= 0 and var representation ? Guard(cancel, problems =>
            {
                var world = _placements.Product(product);
                var openings = cut ? _features.Openings(product, world, problems) : [];
                var parts = new List<ShapePart>();
                var fallback = MaterialColour(product);
                foreach (int item in _model.Refs(representation, "Items"))
                    Item(item, Frame.Identity, fallback, openings, parts, problems, 0);
                return new Shape(
                    world,
                    FeatureReader.Unite(parts, _features.Projections(product, world, problems), fallback, problems),
                    problems
                );
            }) : null;

    /// <summary>The shape that a type object gives its occurrences, at the origin of its representation maps. Null when it has
    /// none.</summary>
    /// <param name="type">Its position among the instances of the file.</param>
    public Shape? ReadType(int type) =>
        Representations.MapsOfType(_model, type).ToList() is { Count: > 0 } maps ? Guard(default, problems =>
            {
                var parts = new List<ShapePart>();
                foreach (int map in maps)
                {
                    var frame = _placements.Axes(_model.Ref(map, "MappingOrigin")).Inverse();
                    foreach (int item in _model.Refs(_model.Ref(map, "MappedRepresentation"), "Items"))
                        Item(item, frame, MaterialColour(type), [], parts, problems, 0);
                }

                return new Shape(Frame.Identity, parts, problems);
            }) : null;

    private static Shape Guard(CancellationToken cancel, Func<List<string>, Shape> read)
    {
        var problems = new List<string>();
        using var budget = new WorkBudget(cancel);
        try
        {
            return read(problems);
        }
        catch (Exception e) when (e is ShapeException or WorkBudgetException)
        {
            // Of a shape that costs too much the problems are as many as its pieces.
            return new Shape(Frame.Identity, [], e is WorkBudgetException ? [e.Message] : [.. problems, e.Message]);
        }
        catch (Exception e)
            when (e is ArithmeticException or InvalidOperationException or IndexOutOfRangeException or ArgumentException
            )
        {
            return new Shape(Frame.Identity, [], [.. problems, "The shape's numbers make no sense."]);
        }
    }

    /// <summary>What a product draws for a purpose, such as <c>Axis</c> or <c>FootPrint</c>; nothing when it has no such
    /// representation.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="purpose">As the representation is identified: <c>Axis</c>, <c>FootPrint</c>.</param>
    public Drawn Drawn(int product, string purpose) => Drawn(() => _drawn.Read(product, purpose));

    /// <summary>What a product without a body shows in a plan: the axes of a grid, else what was drawn for plans, its outline, its
    /// axis.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    public Drawn ForPlan(int product) =>
        Drawn(() =>
        {
            if (_model.Is(product, "IfcGrid") && _drawn.Grid(product) is { IsEmpty: false } grid)
                return grid;
            return Representations.ForPlans.Select(p => _drawn.Read(product, p)).FirstOrDefault(d => !d.IsEmpty)
                ?? Ifc.Drawn.Nothing;
        });

    private static Drawn Drawn(Func<Drawn> read)
    {
        using var budget = new WorkBudget();
        try
        {
            return read();
        }
        catch (Exception e)
            when (e
                    is WorkBudgetException
                        or ShapeException
                        or ArithmeticException
                        or InvalidOperationException
                        or IndexOutOfRangeException
                        or ArgumentException
            )
        {
            return Ifc.Drawn.Nothing;
        }
    }

    /// <summary>The bodies of one representation item, in metres and in its own coordinates.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The item cannot be shaped.</exception>
    public IReadOnlyList<Mesh> Item(int item) => Within(() => _bodies.Read(item).Select(b => b.Mesh).ToList());

    /// <summary>The points of a curve, metres.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The curve cannot be read.</exception>
    public IReadOnlyList<Vec3> Curve(int curve) => Within(() => _curves.Points(curve));

    /// <summary>A bounded curve with its parameters.</summary>
    /// <param name="curve">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">It cannot be read.</exception>
    public CurveSamples CurveSamples(int curve) => Within(() => _curves.Samples(curve));

    // Whoever rewrites shapes asks for their parts: they cost no more than the whole may.
    private static T Within<T>(Func<T> read)
    {
        using var budget = new WorkBudget();
        try
        {
            return read();
        }
        catch (WorkBudgetException e)
        {
            throw new ShapeException(e.Message);
        }
    }

    /// <summary>The points of an IfcCartesianPointList, metres.</summary>
    /// <param name="list">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The list is broken.</exception>
    public IReadOnlyList<Vec3> Points(int list) => _curves.Coordinates(list);

    /// <summary>The representation that shows a product's body, -1 when it has none.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    public int BodyRepresentation(int product) => Representations.Body(_model, product);

    private void Item(
        int item,
        Frame frame,
        Colour inherited,
        List<Body> openings,
        List<ShapePart> parts,
        List<string> problems,
        int depth
    )
    {
        WorkBudget.Spend(Representations.ItemCost);
        var colour = _styles.Item(item) ?? inherited;
        if (_model.Is(item, "IfcMappedItem"))
        {
            Mapped(item, frame, colour, openings, parts, problems, depth);
            return;
        }

        try
        {
            if (openings.Count == 0 && depth > 0)
                AddShared(item, frame, colour, parts, problems);
            else
            {
                foreach (var body in _bodies.Read(item))
                {
                    var cut = Cut(body.Map(frame), openings, problems, _meshes);
                    var mesh = cut.MeshIn(_meshes);
                    WorkBudget.SpendTriangles(mesh.TriangleCount);
                    parts.Add(
                        new ShapePart(mesh, Frame.Identity, colour, -1)
                        {
                            FaceColours = openings.Count == 0 ? Colours(body, colour) : null,
                            Item = item,
                            Prism = cut.Prism,
                        }
                    );
                }
            }
        }
        catch (ShapeException e)
        {
            problems.Add(e.Message);
        }
    }

    private void AddShared(int item, Frame frame, Colour colour, List<ShapePart> parts, List<string> problems)
    {
        var (bodies, problem) = _shared.GetOrAdd(
            item,
            static (key, reader) =>
            {
                try
                {
                    return (reader.Read(key), null);
                }
                catch (Exception e) when (e is ShapeException or WorkBudgetException)
                {
                    return ([], e.Message);
                }
            },
            _bodies
        );
        if (problem is not null)
            problems.Add(problem);
        foreach (var body in bodies)
        {
            var mesh = body.MeshIn(_meshes);
            WorkBudget.SpendTriangles(mesh.TriangleCount);
            parts.Add(
                new ShapePart(mesh, frame, colour, bodies.Count == 1 ? item : -1)
                {
                    FaceColours = Colours(body, colour),
                    Item = item,
                    Prism = body.Prism,
                }
            );
        }
    }

    private static IReadOnlyList<Colour>? Colours(Body body, Colour fallback) =>
        body.Colours is { } colours ? [.. colours.Select(c => c ?? fallback)] : null;

    private void Mapped(
        int item,
        Frame frame,
        Colour colour,
        List<Body> openings,
        List<ShapePart> parts,
        List<string> problems,
        int depth
    )
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
            target = frame.Compose(_profiles.Mapping(item));
        }
        catch (ShapeException e)
        {
            problems.Add(e.Message);
            return;
        }

        foreach (int inner in _model.Refs(_model.Ref(source, "MappedRepresentation"), "Items"))
            Item(inner, target, colour, openings, parts, problems, depth + 1);
    }

    // Exact in the plane where all bodies are prisms along one axis; else facet by facet. What cannot be cut is shown uncut, and said.
    private static Body Cut(Body body, List<Body> openings, List<string> problems, MeshPool meshes)
    {
        if (openings.Count == 0)
            return body;
        var tools = openings.Select(o => o.Prism).OfType<Prism>().ToList();
        try
        {
            if (body.Prism is not null && tools.Count == openings.Count && CutInPlane(body.Prism, tools) is { } exact)
                return new Body(exact);
            return new Body(
                body.Prism is { } prism && tools.Count == openings.Count
                    ? meshes.Cut(prism, tools, () => CutFacets(body, openings))
                    : CutFacets(body, openings)
            );
        }
        catch (ShapeException e)
        {
            problems.Add($"Openings were not cut: {e.Message}");
            return body;
        }
    }

    private static Mesh CutFacets(Body body, List<Body> openings)
    {
        var mesh = body.Mesh;
        if (!MassProperties.Of(mesh).Closed)
            throw new ShapeException("the body is not closed.");
        foreach (var opening in openings)
            mesh = Solids.Subtract(mesh, opening.Mesh);
        return mesh;
    }

    private static Prism? CutInPlane(Prism body, List<Prism> tools)
    {
        var axis = tools[0].Frame.Direction(tools[0].Sweep);
        return body.SweptAlong(axis)?.Less(tools);
    }

    private Colour MaterialColour(int product)
    {
        int material = _relations.Material.First(product);
        if (material < 0)
            material = _relations.Material.First(_relations.Type.First(product));
        return material >= 0 && _styles.Material(material) is { } colour ? colour : Colour.Default;
    }
}
