using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>How a model is changed on its way into another file.</summary>
public sealed record RewriteOptions
{
    /// <summary>The length unit; null keeps the source's.</summary>
    public LengthUnit? Unit { get; init; }

    /// <summary>From where the model is to where it shall are, metres; null leaves it.</summary>
    public Frame? Move { get; init; }

    /// <summary>Where it is on the map when it has moved there; null when it goes to another frame.</summary>
    public MapPlace? Map { get; init; }

    /// <summary>Changes to names, classes, layers and properties.</summary>
    public IReadOnlyList<ModelEdit> Edits { get; init; } = [];

    /// <summary>The schema, <c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>; null keeps the source's.</summary>
    public string? Schema { get; init; }

    /// <summary>Elements that get another class by a table, by their instance.</summary>
    public IReadOnlyDictionary<int, ClassRow> Classes { get; init; } = new Dictionary<int, ClassRow>();

    /// <summary>Which properties travel; null for all as they are.</summary>
    public PropertyWish? Properties { get; init; }

    /// <summary>Other instances that are left out, with the reason of the balance.</summary>
    public IReadOnlyDictionary<int, string> Left { get; init; } = new Dictionary<int, string>();

    /// <summary>Boxes in place of shapes; null for shapes as they are.</summary>
    internal BoxRewrite? Boxes { get; init; }

    /// <summary>Whether profiles go without their fillets.</summary>
    public bool WithoutFillets { get; init; }

    /// <summary>What is computed of elements; null for nothing.</summary>
    public ComputedQuantities? Computed { get; init; }
}

/// <summary>The rewrites of one model in the order they must run: unit, frame, edits, schema.</summary>
public sealed class RewriteSet
{
    private readonly ModelSnapshot _snapshot;
    private readonly SchemaRewrite? _schema;
    private readonly EditRewrite? _edits;
    private readonly LeaveOutRewrite? _leaves;

    /// <summary>Prepares the rewrites.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="plan">What of it is written; null for everything.</param>
    /// <param name="options">What to change.</param>
    /// <param name="under">The model whose project it comes under when several are merged; null when it keeps its own.</param>
    /// <param name="label">What the model is called in errors.</param>
    /// <exception cref="OrderException">An edit or a merge cannot be made.</exception>
    public RewriteSet(
        ModelSnapshot snapshot,
        SubsetPlan? plan,
        RewriteOptions options,
        ModelSnapshot? under = null,
        string label = ""
    )
    {
        _snapshot = snapshot;
        var all = new List<IRewrite>();
        double metres = Metres = options.Unit?.Metres ?? snapshot.Units.Metres;
        if (UnitRewrite.To(snapshot, options.Unit) is { } unit)
            all.Add(unit);
        if (options.WithoutFillets)
            all.Add(new FilletRewrite(snapshot.Model));
        if (under is not null)
            all.Add(new OwnUnitRewrite(snapshot, under, label));
        if (options.Move is { } move && (move != Frame.Identity || options.Map is not null))
            all.Add(new FrameRewrite(snapshot, move, metres, options.Map));
        if (
            options.Map is { } map
            && under is null
            && MapRewrite.IsNeeded(snapshot.Model, options.Schema ?? snapshot.Model.Schema.Name)
        )
            all.Add(new MapRewrite(snapshot.Model, map, metres));
        if (options.Edits.Count > 0 || options.Classes.Count > 0)
            all.Add(_edits = new EditRewrite(snapshot, options.Edits, plan is null ? null : plan.Has, options.Classes));
        if (options.Properties is not null || options.Left.Count > 0)
            all.Add(
                _leaves = new LeaveOutRewrite(
                    snapshot,
                    options.Properties,
                    options.Left,
                    plan is null ? null : plan.Has
                )
            );
        if (options.Schema is { } schema && schema != snapshot.Model.Schema.Name)
        {
            Schema = schema;
            all.Add(
                _schema = new SchemaRewrite(snapshot, IfcSchema.Named(schema), metres, plan is null ? null : plan.Has)
            );
        }

        if (options.Computed is { } computed)
            all.Add(new QuantityRewrite(snapshot, computed, options.Schema ?? snapshot.Model.Schema.Name));
        if (options.Boxes is { } boxes)
            all.Add(Boxes = boxes);
        All = all;
    }

    /// <summary>The rewrites.</summary>
    public IReadOnlyList<IRewrite> All { get; }

    /// <summary>The boxes in place of shapes; null for none.</summary>
    internal BoxRewrite? Boxes { get; }

    /// <summary>The schema to name in the header; null when it stays.</summary>
    public string? Schema { get; }

    /// <summary>The class an element has in the file that is written.</summary>
    public string ClassOf(ModelElement element)
    {
        var entity = _edits?.NewClass(element.Index) ?? _snapshot.Model.Entity(element.Index);
        return entity is null ? element.Class : _schema?.ClassOf(entity) ?? entity.Name;
    }

    /// <summary>The name a storey has in the file that is written.</summary>
    public string StoreyName(string name) => _edits?.StoreyName(name) ?? name;

    /// <summary>The name a layer has in the file that is written.</summary>
    public string LayerName(string name) => _edits?.LayerName(name) ?? name;

    /// <summary>Whether an edit sets a property, so that it is not expected as it was.</summary>
    public bool IsEdited(string set, string property) => _edits?.Sets(set, property) == true;

    /// <summary>Why an instance has no place in the file that is written, and what becomes of it; null when it has one.</summary>
    internal (string Reason, DropKind Kind)? DropOf(int index) =>
        (Boxes?.DropOf(index) ?? _leaves?.DropOf(index)) is { } left ? (left, DropKind.LeftOut)
        : _edits?.DropOf(index) is { } without ? (without, DropKind.Lost)
        : _schema?.DropOf(index) is var (reason, lost) ? (reason, lost ? DropKind.Lost : DropKind.Replaced)
        : null;

    /// <summary>Why an end of a relationship is not carried; null where it is.</summary>
    internal string? LossOf(int relation, int member) => _edits?.LossOf(relation, member);

    /// <summary>Whether the shape that an instance is of is written in another form.</summary>
    internal bool Reshapes(int index) => _schema?.Reshapes(index) == true;

    /// <summary>Whether anything but names and numbers is written again, so that shapes have to be measured again.</summary>
    internal bool ChangesSchema => _schema is not null;

    /// <summary>The length unit of the written file in metres.</summary>
    internal double Metres { get; }

    /// <summary>The properties the order sets, and the elements that have each afterwards.</summary>
    internal IEnumerable<(ModelEdit Edit, IReadOnlyCollection<int> Elements)> Properties => _edits?.Properties ?? [];

    /// <summary>The properties and quantities that go in another unit than the source's, by instance.</summary>
    internal IReadOnlyDictionary<int, PropertyUnit> PropertyUnits =>
        _leaves?.Units ?? new Dictionary<int, PropertyUnit>();

    /// <summary>What to expect of an instance when the file is read again; null when it is to come as it is.</summary>
    internal ExpectedInstance? Expect(int index)
    {
        ExpectedInstance? expected = null;
        foreach (var rewrite in All)
            if (rewrite.Touches(index))
                rewrite.Expect(expected ??= ExpectedInstance.Of(_snapshot.Model, index));
        return expected;
    }

    /// <summary>Whether an instance has a place in the file that is written.</summary>
    public bool Keeps(int index) =>
        _schema?.Drops(index) != true && _leaves?.Drops(index) != true && _edits?.Drops(index) != true;
}
