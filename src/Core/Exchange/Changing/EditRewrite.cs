using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Makes edits: storey names, layers, classes, properties.</summary>
public sealed partial class EditRewrite : IRewrite
{
    /// <summary>The ledger's name of the rule that renames materials, types and sections.</summary>
    public const string RenameRule = "name by the name table";

    /// <summary>The ledger's name of the rule that sets properties.</summary>
    public const string PropertyRule = "property set by the order";

    private readonly ModelSnapshot _snapshot;
    private readonly IReadOnlyList<ModelEdit> _edits;
    private readonly Dictionary<string, string> _storeys = new(StringComparer.OrdinalIgnoreCase),
        _layers = new(StringComparer.Ordinal);
    private readonly List<(string From, EntityDef To)> _classes = [];
    private readonly Dictionary<int, (EntityDef To, string Predefined)> _single = [];
    private readonly Dictionary<(EditKind Kind, string From), string> _renamed = [];
    private readonly Dictionary<int, string> _values = [];
    private readonly Dictionary<int, List<ModelEdit>> _added = [];
    private readonly Dictionary<int, HashSet<ModelEdit>> _longer = [];
    private readonly Dictionary<ModelEdit, HashSet<int>> _about = [];
    private readonly Dictionary<int, Dictionary<int, ModelEdit>> _swapped = [];
    private readonly TypeChange? _types;
    private Dictionary<int, int>? _uses;

    /// <summary>Prepares edits.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="edits">The edits.</param>
    /// <param name="kept">Whether an instance is written; null for all. Properties are set on elements that are.</param>
    /// <param name="classes">Elements that get another class by a table, by their instance; null for none.</param>
    /// <exception cref="OrderException">A class is unknown, or a property set is shared with elements that the edit is not
    /// about.</exception>
    public EditRewrite(
        ModelSnapshot snapshot,
        IReadOnlyList<ModelEdit> edits,
        Func<int, bool>? kept,
        IReadOnlyDictionary<int, ClassRow>? classes = null
    )
    {
        (_snapshot, _edits) = (snapshot, edits);
        foreach (var (index, row) in classes ?? new Dictionary<int, ClassRow>())
            _single[index] = (Entity(row.To!), row.Predefined.ToUpperInvariant());
        foreach (var edit in edits)
        {
            switch (edit.Kind)
            {
                case EditKind.RenameStorey:
                    _storeys[edit.From] = edit.To;
                    break;
                case EditKind.MoveLayer:
                    _layers[edit.From] = edit.To;
                    break;
                case EditKind.ChangeClass:
                    // One of several sources may have none of it, and a schema without the new class.
                    if (snapshot.Elements.Any(e => snapshot.Model.Is(e.Index, edit.From)))
                        _classes.Add((edit.From, Entity(edit.To)));
                    break;
                case EditKind.RenameMaterial or EditKind.RenameType or EditKind.RenameSection:
                    _renamed[(edit.Kind, edit.From.ToUpperInvariant())] = edit.To;
                    break;
                default:
                    SetProperty(edit, kept);
                    break;
            }
        }

        if (_classes.Count + _single.Count > 0)
            _types = new TypeChange(snapshot.Model, kept, NewClass);
    }

    /// <summary>Whether a relationship to a type has no elements left that the type fits.</summary>
    internal bool Drops(int index) => _types?.Empties(index) == true;

    /// <summary>Why a relationship to a type is not written; null when it is.</summary>
    internal string? DropOf(int index) => Drops(index) ? LossOf(index, _types!.CutOf(index)!.First()) : null;

    /// <summary>Why an element goes without its type; null where it has it.</summary>
    internal string? LossOf(int relation, int element) => _types?.LossOf(relation, element);

    /// <summary>The name a storey gets.</summary>
    public string StoreyName(string name) => _storeys.GetValueOrDefault(name, name);

    /// <summary>The name a layer gets.</summary>
    public string LayerName(string name) => _layers.GetValueOrDefault(name, name);

    /// <summary>The class an instance gets, null when it keeps its own.</summary>
    public EntityDef? NewClass(int index) =>
        _single.TryGetValue(index, out var one) ? one.To : NewClass(_snapshot.Model.Entity(index));

    /// <summary>The properties the order sets, and the elements that have each afterwards.</summary>
    internal IEnumerable<(ModelEdit Edit, IReadOnlyCollection<int> Elements)> Properties =>
        _about.Select(a => (a.Key, (IReadOnlyCollection<int>)a.Value));

    /// <summary>Whether a property is set by an edit.</summary>
    public bool Sets(string set, string property) =>
        _edits.Any(e => e.Kind == EditKind.SetProperty && e.Set == set && e.Property == property);

    /// <inheritdoc/>
    public bool Touches(int index)
    {
        var entity = _snapshot.Model.Entity(index);
        return _values.ContainsKey(index)
            || _added.ContainsKey(index)
            || _longer.ContainsKey(index)
            || _swapped.ContainsKey(index)
            || NewClass(index) is not null
            || _types?.NewClass(index) is not null
            || _types?.CutOf(index) is not null
            || (_renamed.Count > 0 && NewName(index) is not null)
            || (_storeys.Count > 0 && entity?.Name == "IfcBuildingStorey")
            || (_layers.Count > 0 && entity?.Is("IfcPresentationLayerAssignment") == true);
    }

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (_values.TryGetValue(text.Index, out string? value))
            text[text.Entity?.Name == "IfcPropertyEnumeratedValue" ? "EnumerationValues" : "NominalValue"] = value;
        if (
            text.Entity?.Name == "IfcBuildingStorey"
            && _storeys.TryGetValue(_snapshot.Model.Name(text.Index), out string? storey)
        )
            text["Name"] = StepWriter.String(storey);
        else if (
            text.Entity?.Is("IfcPresentationLayerAssignment") == true
            && _layers.TryGetValue(_snapshot.Model.Name(text.Index), out string? layer)
        )
            text["Name"] = StepWriter.String(layer);
        if (_longer.TryGetValue(text.Index, out var more))
            text["HasProperties"] =
                $"{text["HasProperties"][..^1]},{string.Join(",", more.Select(e => "#" + fresh.Once("IFCPROPERTYSINGLEVALUE", $"{StepWriter.String(e.Property)},$,{Value(e, TypeOnType(text.Index, e))},$")))})";
        if (_swapped.TryGetValue(text.Index, out var swaps))
            Swap(text, swaps, fresh);
        if (_added.TryGetValue(text.Index, out var edits))
            AddSets(text, edits, fresh);
        if (NewName(text.Index) is var (attribute, name))
            text[attribute] = StepWriter.String(name);
        if (_types?.CutOf(text.Index) is { } cut)
        {
            if (_types.Empties(text.Index))
                text.Keyword = null;
            else
                text["RelatedObjects"] = Without(text["RelatedObjects"], cut);
            return;
        }

        if (_types?.NewClass(text.Index) is { } type)
        {
            Become(text, type);
            if (Word(type, text["PredefinedType"]) is { } kind)
                (text["ElementType"], text["PredefinedType"]) = (
                    text["ElementType"] == "$" ? $"'{kind}'" : text["ElementType"],
                    ".USERDEFINED."
                );
            return;
        }

        if (NewClass(text.Index) is not { } other)
            return;
        Become(text, other);
        if (_single.TryGetValue(text.Index, out var one) && one.Predefined.Length > 0)
        {
            text["PredefinedType"] = $".{one.Predefined}.";
            return;
        }

        // A word that the new class does not have becomes the user's own.
        if (Word(other, text["PredefinedType"]) is not { } word)
            return;
        if (text["ObjectType"] == "$")
            (text["ObjectType"], text["PredefinedType"]) = ($"'{word}'", ".USERDEFINED.");
        else
            text["PredefinedType"] = ".NOTDEFINED.";
    }

    // The attributes of the other class by name; a word that it must have and nobody said is NOTDEFINED.
    private void Become(InstanceText text, EntityDef other)
    {
        var parts = other
            .Attributes.Select(a =>
                a.IsDerived ? "*"
                : text[a.Name] is "$" && !a.Optional ? Undefined(a) ?? "$"
                : text[a.Name]
            )
            .ToList();
        (text.Entity, text.Keyword, text.Parts) = (other, other.Keyword, parts);
    }

    private string? Undefined(AttributeDef attribute) =>
        !attribute.IsEntity
        && _snapshot.Model.Schema.Type(attribute.Type) is { Kind: TypeKind.Enumeration } words
        && words.Members.Contains("NOTDEFINED")
            ? ".NOTDEFINED."
            : null;

    private string Without(string list, IReadOnlySet<int> cut)
    {
        var gone = cut.Select(i => "#" + _snapshot.Model.File.Id(i)).ToHashSet();
        return $"({string.Join(",", InstanceText.Split(list[1..^1]).Where(t => !gone.Contains(t)))})";
    }

    private string? Word(EntityDef entity, string text)
    {
        if (entity.Position("PredefinedType") is not (>= 0 and var p) || text.Length < 3 || text[0] != '.')
            return null;
        string word = text.Trim('.');
        return
            _snapshot.Model.Schema.Type(entity.Attributes[p].Type) is { Kind: TypeKind.Enumeration } words
            && !words.Members.Contains(word)
            ? word
            : null;
    }

    private EntityDef? NewClass(EntityDef? entity) =>
        entity is null ? null : _classes.FirstOrDefault(c => entity.Is(c.From)).To;

    private EntityDef Entity(string name)
    {
        var entity = _snapshot.Model.Schema.Find(name.ToUpperInvariant());
        return entity?.Is("IfcElement") == true
            ? entity
            : throw new OrderException($"{name} is not a class of elements in {_snapshot.Model.Schema.Name}.");
    }

    private void SetProperty(ModelEdit edit, Func<int, bool>? kept)
    {
        var model = _snapshot.Model;
        var about = _snapshot
            .Elements.Where(e =>
                (kept is null || kept(e.Index)) && (edit.From.Length == 0 || model.Is(e.Index, edit.From))
            )
            .Select(e => e.Index)
            .ToHashSet();
        _about[edit] = about;
        var owners = new Dictionary<int, List<int>>();
        foreach (var element in _snapshot.Elements.Where(e => kept is null || kept(e.Index)))
        foreach (int set in _snapshot.Relations.PropertySets[element.Index])
            if (model.Is(set, "IfcPropertySet") && model.Name(set) == edit.Set)
                (owners.TryGetValue(set, out var list) ? list : owners[set] = []).Add(element.Index);
        foreach (int element in about)
        {
            int set = _snapshot.Relations.PropertySets[element].ToArray().FirstOrDefault(owners.ContainsKey, -1);
            int property =
                set < 0 ? -1 : model.Refs(set, "HasProperties").FirstOrDefault(p => model.Name(p) == edit.Property, -1);
            if (property >= 0 && owners[set].All(about.Contains))
            {
                // A property that other sets list too is replaced in this set, not changed for all of them.
                if (Uses(property) == 1)
                    _values[property] = Replacement(property, edit);
                else
                    (_swapped.TryGetValue(set, out var swaps) ? swaps : _swapped[set] = [])[property] = edit;
            }
            else if (set >= 0 && owners[set].All(about.Contains))
                (_longer.TryGetValue(set, out var more) ? more : _longer[set] = []).Add(edit);
            else if (property < 0)
                (_added.TryGetValue(element, out var list) ? list : _added[element] = []).Add(edit);
            else
                throw new OrderException(
                    $"The property set {edit.Set} of {model.GlobalId(element)} is shared with elements that are not to be changed."
                );
        }
    }

    private void Swap(InstanceText text, Dictionary<int, ModelEdit> swaps, NewInstances fresh)
    {
        var file = _snapshot.Model.File;
        var kept = InstanceText
            .Split(text["HasProperties"][1..^1])
            .Where(t => !swaps.Keys.Any(i => t == "#" + file.Id(i)))
            .ToList();
        foreach (var (property, edit) in swaps)
        {
            var copy = InstanceText.Of(_snapshot.Model, property);
            copy[copy.Entity?.Name == "IfcPropertyEnumeratedValue" ? "EnumerationValues" : "NominalValue"] =
                Replacement(property, edit);
            kept.Add("#" + fresh.Once(copy.Keyword!, copy.Inside));
        }

        text["HasProperties"] = $"({string.Join(",", kept)})";
    }

    private int Uses(int property)
    {
        if (_uses is null)
        {
            _uses = [];
            foreach (int set in _snapshot.Model.OfType("IfcPropertySet"))
            foreach (int member in _snapshot.Model.Refs(set, "HasProperties"))
                _uses[member] = _uses.GetValueOrDefault(member) + 1;
        }

        return _uses.GetValueOrDefault(property);
    }

    // The value of a property that is there already, in the type it has.
    private string Replacement(int property, ModelEdit edit)
    {
        var model = _snapshot.Model;
        switch (model.ClassName(property))
        {
            case "IfcPropertySingleValue":
                return Value(edit, model.Get(property, "NominalValue").TypeName);
            case "IfcPropertyEnumeratedValue":
                var words = model.Get(model.Ref(property, "EnumerationReference"), "EnumerationValues");
                var allowed = new List<string>();
                string? type = null;
                foreach (var word in words.Items)
                {
                    allowed.Add(PropertyReader.Text(word));
                    type ??= word.TypeName;
                }

                foreach (var word in model.Get(property, "EnumerationValues").Items)
                    type ??= word.TypeName;
                if (allowed.Count > 0 && !allowed.Contains(edit.To))
                    throw new OrderException(
                        $"{edit.Set}.{edit.Property} takes one of {string.Join(", ", allowed)}, not '{edit.To}'."
                    );
                return $"({Value(edit, type)})";
            default:
                throw new OrderException(
                    $"{edit.Set}.{edit.Property} is an {model.ClassName(property)}; only single and enumerated values can be set."
                );
        }
    }

    // A property that the element has from its type keeps that type's measure.
    private string? TypeOnType(int element, ModelEdit edit)
    {
        var model = _snapshot.Model;
        foreach (
            int set in model
                .Refs(_snapshot.Relations.Type.First(element), "HasPropertySets")
                .Where(s => model.Name(s) == edit.Set)
        )
        foreach (
            int property in model
                .Refs(set, "HasProperties")
                .Where(p => model.Name(p) == edit.Property && model.Is(p, "IfcPropertySingleValue"))
        )
            return model.Get(property, "NominalValue").TypeName;
        return null;
    }

    private void AddSets(InstanceText text, List<ModelEdit> edits, NewInstances fresh)
    {
        string id = _snapshot.Model.GlobalId(text.Index),
            owner = text["OwnerHistory"];
        foreach (var group in edits.GroupBy(e => e.Set))
        {
            var properties = group.Select(e =>
                "#"
                + fresh.Once(
                    "IFCPROPERTYSINGLEVALUE",
                    $"{StepWriter.String(e.Property)},$,{Value(e, TypeOnType(text.Index, e))},$"
                )
            );
            int set = fresh.Add(
                "IFCPROPERTYSET",
                $"'{GlobalIds.Derived(id, group.Key + "+")}',{owner},{StepWriter.String(group.Key)},$,({string.Join(",", properties)})"
            );
            fresh.Add(
                "IFCRELDEFINESBYPROPERTIES",
                $"'{GlobalIds.Derived(id, group.Key + "+r")}',{owner},$,$,(#{_snapshot.Model.File.Id(text.Index)}),#{set}"
            );
        }
    }

    // A value keeps the type it had; a new one is a boolean, a number or a label by its look.
    private static string Value(ModelEdit edit, string? type)
    {
        string text = edit.To;
        bool number =
            double.TryParse(
                text,
                System.Globalization.NumberStyles.Float,
                System.Globalization.CultureInfo.InvariantCulture,
                out double real
            ) && double.IsFinite(real);
        string? truth = Truth(text);
        switch (type)
        {
            case null:
                return truth is not null and not ".U." && text.Length > 1 ? $"IFCBOOLEAN({truth})"
                    : number ? $"IFCREAL({StepNumber.Format(real)})"
                    : $"IFCLABEL({StepWriter.String(text)})";
            case "IFCBOOLEAN" when truth is not (null or ".U."):
                return $"IFCBOOLEAN({truth})";
            case "IFCLOGICAL" when truth is not null:
                return $"IFCLOGICAL({truth})";
            case "IFCINTEGER"
            or "IFCCOUNTMEASURE"
            or "IFCPOSITIVEINTEGER"
            or "IFCTIMESTAMP" when number && real == Math.Floor(real):
                return $"{type}({(long)real})";
            case "IFCBOOLEAN" or "IFCLOGICAL" or "IFCINTEGER" or "IFCREAL":
                break;
            default:
                if (!type.EndsWith("MEASURE", StringComparison.Ordinal) || type == "IFCDESCRIPTIVEMEASURE")
                    return $"{type}({StepWriter.String(text)})";
                break;
        }

        if (number && type is not ("IFCBOOLEAN" or "IFCLOGICAL" or "IFCINTEGER"))
            return $"{type}({StepNumber.Format(real)})";
        throw new OrderException($"{edit.Set}.{edit.Property} is an {type}; '{text}' is no value of that type.");
    }

    // The attribute that a table of names changes, with the receiver's name.
    private (string Attribute, string Name)? NewName(int index)
    {
        if (_renamed.Count == 0 || _snapshot.Model.Entity(index) is not { } entity)
            return null;
        var (kind, attribute) =
            entity.Is("IfcMaterial") ? (EditKind.RenameMaterial, "Name")
            : entity.Is("IfcTypeObject") ? (EditKind.RenameType, "Name")
            : entity.Is("IfcProfileDef") ? (EditKind.RenameSection, "ProfileName")
            : default;
        if (attribute is null || _snapshot.Model.Text(index, attribute) is not { Length: > 0 } name)
            return null;
        return _renamed.TryGetValue((kind, name.ToUpperInvariant()), out string? to) ? (attribute, to) : null;
    }

    private static string? Truth(string text) =>
        text.ToUpperInvariant() switch
        {
            "TRUE" or ".T." or "T" => ".T.",
            "FALSE" or ".F." or "F" => ".F.",
            "UNKNOWN" or ".U." or "U" => ".U.",
            _ => null,
        };
}
