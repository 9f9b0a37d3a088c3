using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A model read for use: its elements, storeys and readers. Shapes are built when asked for. Safe for concurrent
/// reading.</summary>
public sealed class ModelSnapshot : SourceSnapshot
{
    private const int Batch = 1024;
    private readonly Lazy<RelationIndex> _relationIndex;
    private readonly Lazy<GroupReader> _groups;
    private readonly Lazy<ItemBody?[]> _bodies;
    private readonly Dictionary<EntityDef, ProductKind> _kinds = [];
    private int[] _indices = [];

    private ModelSnapshot(IfcModel model, Tolerance? tolerance)
    {
        Model = model;
        Relations = new IfcRelations(model);
        Units = new IfcUnits(model);
        Structure = new SpatialStructure(model, Relations, Units);
        Layers = new LayerReader(model);
        Properties = new PropertyReader(model, Relations, Units);
        Materials = new MaterialReader(model, Relations, Units);
        Classifications = new ClassificationReader(model, Relations);
        Tolerance = tolerance ?? Tolerance.Default;
        Shapes = new ShapeReader(model, Relations, Units, tolerance);
        _relationIndex = new Lazy<RelationIndex>(() => new RelationIndex(model));
        _groups = new Lazy<GroupReader>(() => new GroupReader(model));
        _bodies = new Lazy<ItemBody?[]>(Bodies);
    }

    /// <summary>The model.</summary>
    public IfcModel Model { get; }

    /// <summary>Its relationships.</summary>
    public IfcRelations Relations { get; }

    /// <summary>Its units.</summary>
    public IfcUnits Units { get; }

    /// <summary>Project, site, building, storeys.</summary>
    public SpatialStructure Structure { get; }

    /// <summary>Presentation layers.</summary>
    public LayerReader Layers { get; }

    /// <summary>Property sets and quantities.</summary>
    public PropertyReader Properties { get; }

    /// <summary>Materials.</summary>
    public MaterialReader Materials { get; }

    /// <summary>Classifications.</summary>
    public ClassificationReader Classifications { get; }

    /// <summary>Shapes.</summary>
    public ShapeReader Shapes { get; }

    /// <summary>How finely its curves become chords.</summary>
    public Tolerance Tolerance { get; }

    /// <summary>Who names whom in relationships; made when first asked for.</summary>
    internal RelationIndex RelationIndex => _relationIndex.Value;

    /// <summary>The elements, in file order.</summary>
    public IReadOnlyList<ModelElement> Elements { get; private set; } = [];

    /// <summary>Reads a model's elements.</summary>
    /// <param name="model">The model.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <param name="tolerance">How finely curves become chords; null for the usual.</param>
    public static ModelSnapshot Open(IfcModel model, CancellationToken cancel = default, Tolerance? tolerance = null)
    {
        var snapshot = new ModelSnapshot(model, tolerance);
        int[] products = [.. model.OfType("IfcProduct").Where(snapshot.IsElement)];
        Array.Sort(products);
        var elements = new ModelElement[products.Length];
        Parallel.For(0, products.Length, new ParallelOptions { CancellationToken = cancel }, n =>
        {
            elements[n] = new ModelElement(snapshot, n, products[n], snapshot.Structure.StoreyOf(products[n]));
        });
        (snapshot.Elements, snapshot._indices) = (elements, products);
        return snapshot;
    }

    /// <summary>Indexes bytes and opens them.</summary>
    public static ModelSnapshot Open(
        ReadOnlyMemory<byte> bytes,
        CancellationToken cancel = default,
        Tolerance? tolerance = null
    ) => Open(IfcModel.Open(bytes, cancel), cancel, tolerance);

    /// <summary>Whether a product is accounted for by itself.</summary>
    /// <remarks>
    /// Openings, projections and ports go with their host, and are elements only when they have none. Of the spatial structure above, rooms
    /// are elements, and
    /// whatever has a shape of its own: a site with its terrain.
    /// </remarks>
    private bool IsElement(int product) =>
        KindOf(product) switch
        {
            ProductKind.Subtraction => Relations.Voided.First(product) < 0,
            ProductKind.Addition => Relations.Projected.First(product) < 0,
            ProductKind.Port => Relations.Nest.First(product) < 0 && Relations.Host.First(product) < 0,
            ProductKind.Structure => Model.Ref(product, "Representation") >= 0,
            _ => true,
        };

    private enum ProductKind
    {
        Other,
        Subtraction,
        Addition,
        Port,
        Structure,
    }

    // Asked of each product, and the same for all of a class.
    private ProductKind KindOf(int product)
    {
        if (Model.Entity(product) is not { } entity)
            return ProductKind.Other;
        if (_kinds.TryGetValue(entity, out var known))
            return known;
        return _kinds[entity] =
            entity.Is("IfcFeatureElementSubtraction") ? ProductKind.Subtraction
            : entity.Is("IfcFeatureElementAddition") ? ProductKind.Addition
            : entity.Is("IfcPort") ? ProductKind.Port
            : IsStructure(product) ? ProductKind.Structure
            : ProductKind.Other;
    }

    /// <summary>Whether a product is spatial structure above the elements: site, building, storey, part of a facility; a room is
    /// none.</summary>
    public bool IsStructure(int product) =>
        Model.Is(product, "IfcSpatialStructureElement") && !Model.Is(product, "IfcSpace");

    /// <inheritdoc/>
    public override IReadOnlyList<SourceItem> Items => Elements;

    /// <inheritdoc/>
    public override IfcSchema Schema => Model.Schema;

    /// <inheritdoc/>
    public override string TypeName(SourceItem item) =>
        Relations.Type.First(((ModelElement)item).Index) is >= 0 and var type ? Model.Name(type) : "";

    /// <inheritdoc/>
    public override IReadOnlyList<string> MaterialNames(SourceItem item) =>
        [.. Materials.Of(((ModelElement)item).Index).Select(m => m.Name).Distinct()];

    /// <inheritdoc/>
    public override IReadOnlyList<PropertySet> PropertySets(SourceItem item) =>
        Properties.Of(((ModelElement)item).Index);

    /// <inheritdoc/>
    public override string Predefined(SourceItem item)
    {
        int at = ((ModelElement)item).Index,
            type = Relations.Type.First(at);
        string word = Model.Get(at, "PredefinedType").Enumeration
            ?? Model.Get(type, "PredefinedType").Enumeration
            ?? "";
        return word == "USERDEFINED" ? Model.Text(at, "ObjectType") ?? Model.Text(type, "ElementType") ?? word : word;
    }

    /// <inheritdoc/>
    public override IReadOnlyList<string> ClassificationNames(SourceItem item) =>
        [
            .. Classifications
                .Of(((ModelElement)item).Index)
                .SelectMany(c => (IEnumerable<string>)[c.Code, c.Name, .. c.Above, c.System])
                .Where(n => n.Length > 0)
                .Distinct(),
        ];

    /// <inheritdoc/>
    public override IReadOnlyList<SourceItem> Wholes(SourceItem item)
    {
        int at = ((ModelElement)item).Index;
        if (Relations.Whole.First(at) < 0 && Relations.Nest.First(at) < 0)
            return [];
        var wholes = new List<SourceItem>();
        for (int depth = 0; depth < MaxWholes; depth++)
        {
            at = Relations.Whole.First(at) is >= 0 and var whole ? whole : Relations.Nest.First(at);
            if (at < 0 || ElementAt(at) is not { } element || IsStructure(at) || wholes.Contains(element))
                break;
            wholes.Add(element);
        }

        return wholes;
    }

    // Assemblies in assemblies; files that go in circles end here.
    private const int MaxWholes = 16;

    /// <summary>The element that an instance is; null where it is none.</summary>
    public ModelElement? ElementAt(int index)
    {
        int at = Array.BinarySearch(_indices, index);
        return at < 0 ? null : Elements[at];
    }

    /// <inheritdoc/>
    /// <remarks>What is in a room is in the room's zones too.</remarks>
    public override IReadOnlyList<string> GroupNames(SourceItem item)
    {
        int at = ((ModelElement)item).Index,
            parent = Structure.Parent(at);
        var own = _groups.Value.Of(at);
        return parent >= 0 && Model.Is(parent, "IfcSpace") ? [.. own.Concat(_groups.Value.Of(parent)).Distinct()] : own;
    }

    /// <summary>The assembly that an element is part of, however deep; the element itself where it is in none.</summary>
    public int AssemblyOf(int element)
    {
        for (
            int depth = 0;
            depth < 100 && Relations.Whole.First(element) is >= 0 and var whole && Model.Is(whole, "IfcElement");
            depth++
        )
            element = whole;
        return element;
    }

    /// <summary>What an element is marked by: its tag, else its name.</summary>
    public string Mark(int element) => Model.Text(element, "Tag") is { Length: > 0 } tag ? tag : Model.Name(element);

    /// <summary>The first value of a property of an element; null where it has no such property.</summary>
    /// <param name="item">The element.</param>
    /// <param name="key">The property, <c>Set.Property</c>.</param>
    public string? PropertyText(SourceItem item, string key) =>
        PropertySets(item)
            .SelectMany(s =>
                s.Properties.Where(p => key.Equals($"{s.Name}.{p.Name}", StringComparison.OrdinalIgnoreCase))
            )
            .FirstOrDefault()
            ?.Value;

    /// <inheritdoc/>
    /// <remarks>The first call shapes every element.</remarks>
    public override ItemBody? BodyOf(SourceItem item) => _bodies.Value[item.Number];

    private ItemBody?[] Bodies()
    {
        var bodies = new ItemBody?[Elements.Count];
        ForEachShape(
            Elements,
            (_, shape) => ShapeFacts.Of(shape),
            (element, _, facts) =>
            {
                if (facts is not null)
                    bodies[element.Number] = new ItemBody(facts.Box, facts.Bearing, facts.Local.Longest);
            }
        );
        return bodies;
    }

    /// <inheritdoc/>
    public override string StoreyName(int storey) => storey < 0 ? "" : Structure.Storeys[storey].Name;

    /// <summary>Builds shapes on all cores and hands them out in the order of <paramref name="elements"/>, on the calling thread.</summary>
    /// <param name="elements">The elements to shape.</param>
    /// <param name="visit">Called for each element; the shape is null when the element has no body.</param>
    /// <param name="degree">How many threads; 0 for all cores.</param>
    /// <param name="cancel">Stops between elements.</param>
    public void ForEachShape(
        IReadOnlyList<ModelElement> elements,
        Action<ModelElement, Shape?> visit,
        int degree = 0,
        CancellationToken cancel = default
    ) => ForEachShape<object?>(elements, (_, _) => null, (element, shape, _) => visit(element, shape), degree, cancel);

    /// <summary>Builds shapes and what follows from them on all cores, and hands both out in the order of <paramref name="elements"/>, on
    /// the calling thread, while the next are built.</summary>
    /// <param name="elements">The elements to shape.</param>
    /// <param name="derive">What follows from an element and its shape; called on many threads at once.</param>
    /// <param name="visit">Called for each element; the shape is null when the element has no body.</param>
    /// <param name="degree">How many threads; 0 for all cores.</param>
    /// <param name="cancel">Stops between elements.</param>
    public void ForEachShape<T>(
        IReadOnlyList<ModelElement> elements,
        Func<ModelElement, Shape?, T> derive,
        Action<ModelElement, Shape?, T> visit,
        int degree = 0,
        CancellationToken cancel = default
    )
    {
        var options = new ParallelOptions
        {
            MaxDegreeOfParallelism = degree > 0 ? degree : Environment.ProcessorCount,
            CancellationToken = cancel,
        };
        var (made, next) = (Slots(), Slots());
        var making = MakeAsync(0, made);
        for (int start = 0; start < elements.Count; start += Batch)
        {
            making.GetAwaiter().GetResult();
            int count = Math.Min(Batch, elements.Count - start);
            making = MakeAsync(start + Batch, next);
            try
            {
                for (int i = 0; i < count; i++)
                    visit(elements[start + i], made[i].Shape, made[i].Derived);
            }
            catch
            {
                // Whoever called may close the file once this ends: nothing reads it any more.
                making.ContinueWith(_ => { }, TaskScheduler.Default).Wait(CancellationToken.None);
                throw;
            }

            (made, next) = (next, made);
        }

        making.GetAwaiter().GetResult();

        (Shape? Shape, T Derived)[] Slots() => new (Shape?, T)[Math.Min(Batch, elements.Count)];

        Task MakeAsync(int start, (Shape? Shape, T Derived)[] slots)
        {
            int count = Math.Min(Batch, elements.Count - start);
            if (count <= 0)
                return Task.CompletedTask;
            return Task.Run(() => Parallel.For(0, count, options, i =>
                    {
                        var element = elements[start + i];
                        var shape = Shapes.Read(element.Index, cancel);
                        slots[i] = (shape, derive(element, shape));
                    }), CancellationToken.None);
        }
    }
}
