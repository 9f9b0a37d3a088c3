using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Sets, adds and removes properties of elements, and their sets.</summary>
/// <remarks>
/// A set that other elements have too stays theirs: the amended element gets one of its own. A property that an element has from its
/// type is overridden by a set of the same name on the element (ISO 16739-1, IfcRelDefinesByProperties).
/// </remarks>
internal sealed class PropertyAmender
{
    private const string Quantities = "IfcElementQuantity";
    private readonly ModelEditor _editor;
    private readonly IfcModel _model;
    private readonly PropertyInstances _instances;
    private readonly Dictionary<int, List<(int Relation, int Element)>> _owners = [];
    private readonly Dictionary<int, int> _uses = [];

    public PropertyAmender(ModelEditor editor)
    {
        (_editor, _model, _instances) = (editor, editor.Model, new PropertyInstances(editor));
        foreach (int relation in _model.OfType("IfcRelDefinesByProperties"))
        {
            var elements = _model.Refs(relation, "RelatedObjects");
            foreach (int set in _model.Targets(_model.Get(relation, "RelatingPropertyDefinition")))
            foreach (int element in elements)
                (_owners.TryGetValue(set, out var list) ? list : _owners[set] = []).Add((relation, element));
        }

        foreach (int type in _model.OfType("IfcTypeObject"))
        foreach (int set in _model.Refs(type, "HasPropertySets"))
            (_owners.TryGetValue(set, out var list) ? list : _owners[set] = []).Add((-1, type));
        foreach (int set in _model.OfType("IfcPropertySet"))
        foreach (int property in _model.Refs(set, "HasProperties"))
            _uses[property] = _uses.GetValueOrDefault(property) + 1;
        foreach (int set in _model.OfType(Quantities))
        foreach (int property in _model.Refs(set, "Quantities"))
            _uses[property] = _uses.GetValueOrDefault(property) + 1;
    }

    /// <summary>Applies the amendments of one element to one set.</summary>
    /// <param name="element">The element.</param>
    /// <param name="name">The set's name.</param>
    /// <param name="amendments">Amendments of properties, or the removal of the set.</param>
    public void Apply(int element, string name, IReadOnlyList<Amendment> amendments)
    {
        var own = Own(element, name);
        if (amendments.FirstOrDefault(a => a.Kind == AmendmentKind.RemoveSet) is { } removal)
        {
            foreach (int gone in own)
                Detach(element, gone, removal);
            own = [];
        }

        var changes = amendments.Where(a => a.Kind != AmendmentKind.RemoveSet).ToList();
        if (changes.Count == 0)
            return;
        var by = changes.MaxBy(a => a.At ?? DateTime.MinValue)!;
        int set = own.Count == 0 ? -1 : own.FirstOrDefault(s => Has(s, changes), own[0]);
        if (set < 0)
            Create(element, name, changes, by);
        else if (_owners[set] is [var (_, only)] && only == element)
            Change(set, changes, by);
        else
            Copy(element, set, changes, by);
    }

    /// <summary>Why an amendment of a property or set cannot be applied; null where it can.</summary>
    public string? Problem(int element, Amendment amendment)
    {
        var own = Own(element, amendment.Set!);
        try
        {
            if (amendment.Kind == AmendmentKind.RemoveSet)
            {
                if (FromType(element, amendment.Set!) >= 0)
                    throw new AmendmentException(
                        $"{amendment.Set} comes with the element's type; a set of a type cannot be removed from one element."
                    );
                return null;
            }

            int before = own.SelectMany(Members).FirstOrDefault(p => _model.Name(p) == amendment.Name, -1);
            bool quantities = own.Count > 0 ? _model.Is(own[0], Quantities) : IsQuantities(amendment.Set!);
            Wanted(element, amendment, before, quantities);
            return null;
        }
        catch (AmendmentException e)
        {
            return e.Message;
        }
    }

    private static bool IsQuantities(string set) =>
        set.StartsWith("Qto_", StringComparison.Ordinal) || set == "BaseQuantities";

    // The sets of a name that an element has itself.
    private List<int> Own(int element, string name) =>
        [
            .. _editor
                .Snapshot.Relations.PropertySets[element]
                .ToArray()
                .Where(s => _model.Name(s) == name && (_model.Is(s, "IfcPropertySet") || _model.Is(s, Quantities)))
                .Distinct(),
        ];

    private bool Has(int set, List<Amendment> changes) =>
        Members(set).Any(p => changes.Exists(c => c.Name == _model.Name(p)));

    private int[] Members(int set) => _model.Refs(set, Attribute(set));

    private string Attribute(int set) => _model.Is(set, Quantities) ? "Quantities" : "HasProperties";

    // Takes the set away from the element, and out of the model where nobody else has it.
    private void Detach(int element, int set, Amendment by)
    {
        foreach (var (relation, owner) in _owners[set].Where(o => o.Element == element && o.Relation >= 0))
        {
            KeepOthers(relation, set, element, by);
            _editor.Part(relation, "RelatedObjects", owner, by);
        }

        _owners[set].RemoveAll(o => o.Element == element);
        if (_owners[set].Count > 0)
            return;
        foreach (int property in Members(set))
            if (--_uses[property] == 0)
                _editor.Drop(property);
        _editor.Drop(set);
    }

    // IFC4 allows several sets at the one end of a relationship: the element keeps the others.
    private void KeepOthers(int relation, int set, int element, Amendment by)
    {
        foreach (int other in _model.Targets(_model.Get(relation, "RelatingPropertyDefinition")).Where(o => o != set))
            _editor.Join(
                "IfcRelDefinesByProperties",
                "RelatingPropertyDefinition",
                _editor.Ref(other),
                "RelatedObjects",
                element,
                by
            );
    }

    private void Create(int element, string name, List<Amendment> changes, Amendment by)
    {
        bool quantities = IsQuantities(name);
        var members = changes.Select(c => New(element, c, -1, quantities)).OfType<string>().ToList();
        if (members.Count > 0)
            Attach(element, name, quantities, members, by);
    }

    private void Attach(int element, string name, bool quantities, List<string> members, Amendment by)
    {
        var text = _editor.Blank(quantities ? Quantities : "IfcPropertySet");
        text["Name"] = StepWriter.String(name);
        text[quantities ? "Quantities" : "HasProperties"] = $"({string.Join(",", members.Distinct())})";
        string id = _model.GlobalId(element);
        string set = _editor.AddRoot(text, GlobalIds.Derived(id, name + "+"), by);
        var relation = _editor.Blank("IfcRelDefinesByProperties");
        relation["RelatedObjects"] = $"({_editor.Ref(element)})";
        relation["RelatingPropertyDefinition"] = set;
        _editor.AddRoot(relation, GlobalIds.Derived(id, name + "+r"), by);
    }

    // The set is this element's alone: it is changed where it is.
    private void Change(int set, List<Amendment> changes, Amendment by)
    {
        int element = _owners[set][0].Element;
        var members = Changed(element, set, changes);
        if (members.Count == 0)
        {
            Detach(element, set, by);
            return;
        }

        foreach (int property in Members(set).Where(p => !members.Contains(_editor.Ref(p))))
            if (--_uses[property] == 0)
                _editor.Drop(property);
        _editor.Text(set)[Attribute(set)] = $"({string.Join(",", members)})";
        _editor.Modify(set, by);
    }

    // Others have the set too: the element gets one of its own in its place.
    private void Copy(int element, int set, List<Amendment> changes, Amendment by)
    {
        var members = Changed(element, set, changes);
        string name = _model.Name(set);
        bool quantities = _model.Is(set, Quantities);
        foreach (var (relation, owner) in _owners[set].Where(o => o.Element == element && o.Relation >= 0))
        {
            KeepOthers(relation, set, element, by);
            _editor.Part(relation, "RelatedObjects", owner, by);
        }

        _owners[set].RemoveAll(o => o.Element == element);
        if (members.Count > 0)
            Attach(element, name, quantities, members, by);
    }

    // The members of a set after the changes, those that are there in their places.
    private List<string> Changed(int element, int set, List<Amendment> changes)
    {
        var left = changes.ToDictionary(c => c.Name!, StringComparer.Ordinal);
        bool quantities = _model.Is(set, Quantities);
        var members = new List<string>();
        foreach (int property in Members(set))
        {
            if (!left.Remove(_model.Name(property), out var change))
                members.Add(_editor.Ref(property));
            else if (New(element, change, property, quantities) is { } made)
                members.Add(made);
        }

        members.AddRange(left.Values.Select(c => New(element, c, -1, quantities)).OfType<string>());
        return members;
    }

    // The property as the amendment wants it; null where it has none.
    private string? New(int element, Amendment change, int before, bool quantities)
    {
        if (Wanted(element, change, before, quantities) is not var (value, unit, like))
            return null;
        return quantities
            ? _instances.Quantity(change.Name!, value, unit)
            : _instances.Property(change.Name!, value, unit, Words(like));
    }

    // What is to be written of a property, and the one that is there; null where nothing is. Writes nothing.
    private (TypedValue Value, PropertyUnit? Unit, int Like)? Wanted(
        int element,
        Amendment change,
        int before,
        bool quantities
    )
    {
        if (change.Kind == AmendmentKind.RemoveProperty)
        {
            if (FromType(element, change.Set!, change.Name!) >= 0)
                throw new AmendmentException(
                    $"{change.Set}.{change.Name} comes with the element's type; it cannot be removed from one element. Make it blank instead."
                );
            return null;
        }

        int like = before >= 0 ? before : FromType(element, change.Set!, change.Name!);
        var value = Value(change, like);
        // Blank, and nothing there to be blank.
        if (value.IsBlank && (like < 0 || quantities))
            return null;
        if (quantities && !PropertyInstances.IsQuantity(value))
            throw new AmendmentException(
                $"{change.Set}.{change.Name} is in a set of quantities, which has lengths, areas, volumes, weights, counts and times; {PropertyTypes.Label(value.Type)} is none of these."
            );
        return (value, change.Unit is { Length: > 0 } symbol ? PropertyUnit.Find(symbol) : OwnUnit(like), like);
    }

    private PropertyUnit? OwnUnit(int property) =>
        property >= 0 && _model.Ref(property, "Unit") is >= 0 and var own
            ? PropertyUnit.Find(_editor.Snapshot.Units.Symbol(own))
            : null;

    private List<string> Words(int property)
    {
        var words = new List<string>();
        foreach (var word in _model.Get(_model.Ref(property, "EnumerationReference"), "EnumerationValues").Items)
            words.Add(PropertyReader.Text(word));
        return words;
    }

    /// <summary>The value of an amendment, in the form and type that it names, else in those of the property that is there.</summary>
    private TypedValue Value(Amendment change, int like)
    {
        var form = PropertyForms.Find(change.Form ?? "") ?? FormOf(like);
        string type = PropertyTypes.Find(change.Type ?? "") ?? TypeOf(like) ?? TypedValue.TypeOf(change.Value!);
        var value = Read(change, form, type);
        if (change.Form is null && like >= 0 && Words(like) is { Count: > 0 } words)
            foreach (var part in value.Parts)
                if (!words.Contains(part.Text))
                    throw new AmendmentException(
                        $"{change.Set}.{change.Name} is one of {string.Join(", ", words)}; '{part.Text}' is none of them.{NearestNames.Of(part.Text, words)}"
                    );
        return value;
    }

    private static TypedValue Read(Amendment change, PropertyForm form, string type)
    {
        try
        {
            return TypedValue.Read(change.Value!, form, type);
        }
        catch (FormatException e)
        {
            throw new AmendmentException($"{change.Set}.{change.Name}: {e.Message}");
        }
    }

    private PropertyForm FormOf(int property) =>
        property < 0
            ? PropertyForm.Single
            : _model.ClassName(property) switch
            {
                "IfcPropertyEnumeratedValue" => PropertyForm.Enumerated,
                "IfcPropertyListValue" => PropertyForm.List,
                "IfcPropertyBoundedValue" => PropertyForm.Bounded,
                "IfcPropertyTableValue" => PropertyForm.Table,
                "IfcPropertyReferenceValue" => PropertyForm.Reference,
                "IfcComplexProperty" => throw new AmendmentException(
                    $"{_model.Name(property)} is a property made of others; amend its parts in the sender's program."
                ),
                _ => PropertyForm.Single,
            };

    private string? TypeOf(int property)
    {
        if (property < 0)
            return null;
        if (_model.Is(property, "IfcPhysicalSimpleQuantity"))
            return _model.Entity(property)!.Attributes[3].Type;
        foreach (
            string attribute in (string[])
                [
                    "NominalValue",
                    "EnumerationValues",
                    "ListValues",
                    "UpperBoundValue",
                    "LowerBoundValue",
                    "DefinedValues",
                ]
        )
        {
            var value = _model.Get(property, attribute);
            if (value.TypeName is { } single)
                return PropertyTypes.Find(single);
            foreach (var item in value.Items)
                if (item.TypeName is { } first)
                    return PropertyTypes.Find(first);
        }

        return null;
    }

    // A property of an element's type; -1 where the type has none of the name.
    private int FromType(int element, string set, string? property = null)
    {
        foreach (
            int known in _model
                .Refs(_editor.Snapshot.Relations.Type.First(element), "HasPropertySets")
                .Where(s => _model.Name(s) == set)
        )
            if (property is null)
                return known;
            else if (Members(known).FirstOrDefault(p => _model.Name(p) == property, -1) is >= 0 and var found)
                return found;
        return -1;
    }
}
