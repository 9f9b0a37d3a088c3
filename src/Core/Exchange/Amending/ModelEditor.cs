using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>A model that is being amended: which instances change and how, which are added, which go.</summary>
/// <remarks>Whatever nobody touches is written byte for byte as it came. Rooted instances that change, or are added, get an
/// IfcOwnerHistory that says who did so and when.</remarks>
internal sealed class ModelEditor
{
    private readonly Dictionary<int, InstanceText> _texts = [];
    private readonly HashSet<int> _dropped = [];
    private readonly Dictionary<int, Amendment> _modified = [];
    private readonly Dictionary<(string Relation, string Relating), Joined> _joined = [];
    private readonly OwnerHistories _histories;

    public ModelEditor(ModelSnapshot snapshot, DateTime time)
    {
        Snapshot = snapshot;
        Fresh = new NewInstances(SubsetWriter.HighestName(snapshot.Model) + 1);
        _histories = new OwnerHistories(this, time);
    }

    /// <summary>The model as it came.</summary>
    public ModelSnapshot Snapshot { get; }

    /// <summary>Takes instances that are added.</summary>
    public NewInstances Fresh { get; }

    /// <summary>The header to write; the model's own unless an amendment changes it.</summary>
    public StepHeader Header { get; set; } = null!;

    public IfcModel Model => Snapshot.Model;

    /// <summary>The instance as earlier amendments left it; changes to it are written.</summary>
    public InstanceText Text(int index) =>
        _texts.TryGetValue(index, out var text) ? text : _texts[index] = InstanceText.Of(Model, index);

    /// <summary>An attribute as earlier amendments left it, in the standard's text form.</summary>
    public string Peek(int index, string attribute) =>
        _texts.TryGetValue(index, out var text) ? text[attribute]
        : Model.Get(index, attribute) is { IsNull: false } value ? Encoding.Latin1.GetString(value.Raw)
        : "$";

    /// <summary>Whether an amendment took an instance out.</summary>
    public bool IsDropped(int index) => _dropped.Contains(index);

    /// <summary>Whether an instance is changed, or taken out.</summary>
    public bool Touches(int index) => _texts.ContainsKey(index) || _dropped.Contains(index);

    /// <summary>Whether any instance is changed, added or taken out.</summary>
    public bool Any =>
        _texts.Count + _dropped.Count + _joined.Count + _modified.Count > 0 || Header != Model.File.Header;

    /// <summary>Takes an instance out. What refers to it has to be changed as well.</summary>
    public void Drop(int index) => _dropped.Add(index);

    /// <summary>A reference to an instance.</summary>
    public string Ref(int index) => "#" + Model.File.Id(index);

    /// <summary>The schema's form of an entity with all attributes unset: <c>$</c>, or NOTDEFINED where one must be there.</summary>
    public InstanceText Blank(string entity)
    {
        var definition = Model.Schema.Find(entity.ToUpperInvariant())
            ?? throw new AmendmentException($"{Model.Schema.Name} has no {entity}.");
        return new InstanceText(
            -1,
            definition,
            definition.Keyword,
            [
                .. definition.Attributes.Select(a =>
                    a.IsDerived ? "*"
                    : a.Optional ? "$"
                    : Undefined(a) ?? "$"
                ),
            ]
        );
    }

    /// <summary>Adds a rooted instance.</summary>
    /// <param name="text">Its attributes.</param>
    /// <param name="globalId">Its GlobalId.</param>
    /// <param name="by">What adds it.</param>
    /// <returns>A reference to it.</returns>
    public string AddRoot(InstanceText text, string globalId, Amendment by)
    {
        text["GlobalId"] = $"'{globalId}'";
        text["OwnerHistory"] = _histories.Added(by);
        return Add(text);
    }

    /// <summary>Adds an instance.</summary>
    /// <returns>A reference to it.</returns>
    public string Add(InstanceText text) => "#" + Fresh.Add(text.Keyword!, text.Inside);

    /// <summary>Adds an instance unless one like it was added before.</summary>
    /// <returns>A reference to it.</returns>
    public string Once(InstanceText text) => "#" + Fresh.Once(text.Keyword!, text.Inside);

    /// <summary>Notes that a rooted instance of the model was changed.</summary>
    public void Modify(int root, Amendment by)
    {
        if (
            !_modified.TryGetValue(root, out var before)
            || (by.At ?? DateTime.MinValue) >= (before.At ?? DateTime.MinValue)
        )
            _modified[root] = by;
    }

    /// <summary>Takes a member out of a list of a relationship; one that is empty then goes.</summary>
    public void Part(int relation, string many, int member, Amendment by)
    {
        if (IsDropped(relation))
            return;
        var text = Text(relation);
        string gone = Ref(member);
        var kept = InstanceText.Split(text[many].Trim('(', ')')).Where(m => m != gone).ToList();
        if (kept.Count == 0)
        {
            Drop(relation);
            return;
        }

        text[many] = $"({string.Join(",", kept)})";
        if (Model.Is(relation, "IfcRoot"))
            Modify(relation, by);
    }

    /// <summary>Puts a member into the relationship of a kind that has a relating end: one that is there already, else a new
    /// one.</summary>
    /// <param name="relation">The entity of the relationship.</param>
    /// <param name="one">The name of its relating attribute.</param>
    /// <param name="relating">A reference to the relating instance.</param>
    /// <param name="many">The name of its list of members.</param>
    /// <param name="member">The member.</param>
    /// <param name="by">What does so.</param>
    public void Join(string relation, string one, string relating, string many, int member, Amendment by)
    {
        if (!_joined.TryGetValue((relation, relating), out var joined))
            _joined[(relation, relating)] = joined = new Joined(one, many, by);
        joined.Members.Add(member);
    }

    /// <summary>The names of the instances that amendments take out.</summary>
    public IReadOnlySet<int> Dropped => _dropped.Select(Model.File.Id).ToHashSet();

    /// <summary>Writes the amended model.</summary>
    /// <param name="made">Gets what is not copied.</param>
    /// <param name="cancel">Stops between instances.</param>
    public byte[] Write(MadeInstances made, CancellationToken cancel)
    {
        foreach (var ((relation, relating), joined) in _joined)
            Relate(relation, relating, joined);
        foreach (var (root, by) in _modified)
            if (!IsDropped(root))
                Text(root)["OwnerHistory"] = _histories.Modified(root, by);
        using var stream = new MemoryStream(Model.File.Bytes.Length + (_texts.Count * 64) + 4096);
        var writer = new StepWriter(stream);
        writer.Begin(Header);
        for (int i = 0; i < Model.File.Count; i++)
        {
            if ((i & 4095) == 0)
                cancel.ThrowIfCancellationRequested();
            if (_dropped.Contains(i))
                continue;
            if (_texts.TryGetValue(i, out var text))
                Put(Model.File.Id(i), text.Keyword!, text.Inside, i);
            else
                writer.Copy(Model.File.Raw(i));
        }

        foreach (var (id, keyword, inside) in Fresh.Take())
            Put(id, keyword, inside, -1);
        writer.End();
        return stream.ToArray();

        void Put(int id, string keyword, string inside, int index)
        {
            writer.Instance(id, keyword, inside);
            made.Add(id, keyword, inside, index);
        }
    }

    private void Relate(string relation, string relating, Joined joined)
    {
        var members = joined.Members.Select(Ref).ToList();
        foreach (int known in Model.OfType(relation))
        {
            if (Model.ClassName(known) != relation || IsDropped(known) || Peek(known, joined.One) != relating)
                continue;
            var text = Text(known);
            var all = InstanceText.Split(text[joined.Many].Trim('(', ')')).Union(members);
            text[joined.Many] = $"({string.Join(",", all)})";
            Modify(known, joined.By);
            return;
        }

        var made = Blank(relation);
        made[joined.One] = relating;
        made[joined.Many] = $"({string.Join(",", members)})";
        AddRoot(made, GlobalIds.Derived(Model.GlobalId(joined.Members[0]), $"{relation}{relating}"), joined.By);
    }

    private string? Undefined(AttributeDef attribute) =>
        !attribute.IsEntity
        && Model.Schema.Type(attribute.Type) is { Kind: TypeKind.Enumeration } words
        && words.Members.Contains("NOTDEFINED")
            ? ".NOTDEFINED."
            : null;

    private sealed record Joined(string One, string Many, Amendment By)
    {
        public List<int> Members { get; } = [];
    }
}

/// <summary>An amendment cannot be applied to a model; the message says why.</summary>
internal sealed class AmendmentException(string message) : Exception(message);
