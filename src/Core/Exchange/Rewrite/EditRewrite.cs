using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Makes edits: storey names, layers, classes, properties.</summary>
public sealed class EditRewrite : IRewrite
{
    private readonly ModelSnapshot _snapshot;
    private readonly IReadOnlyList<ModelEdit> _edits;
    private readonly Dictionary<string, string> _storeys = new(StringComparer.OrdinalIgnoreCase), _layers = new(StringComparer.Ordinal);
    private readonly List<(string From, EntityDef To)> _classes = [];
    private readonly Dictionary<int, string> _values = [];
    private readonly Dictionary<int, List<ModelEdit>> _added = [];
    private readonly Dictionary<int, HashSet<ModelEdit>> _longer = [];

    /// <summary>Prepares edits.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="edits">The edits.</param>
    /// <param name="kept">Whether an instance is written; null for all. Properties are set on elements that are.</param>
    /// <exception cref="OrderException">A class is unknown, or a property set is shared with elements that the edit is not about.</exception>
    public EditRewrite(ModelSnapshot snapshot, IReadOnlyList<ModelEdit> edits, Func<int, bool>? kept)
    {
        (_snapshot, _edits) = (snapshot, edits);
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
                    if (snapshot.Elements.Any(e => snapshot.Model.Is(e.Index, edit.From))) _classes.Add((edit.From, Entity(edit.To)));
                    break;
                default:
                    SetProperty(edit, kept);
                    break;
            }
        }
    }

    /// <summary>The name a storey gets.</summary>
    public string StoreyName(string name) => _storeys.GetValueOrDefault(name, name);

    /// <summary>The name a layer gets.</summary>
    public string LayerName(string name) => _layers.GetValueOrDefault(name, name);

    /// <summary>The class an instance gets, null when it keeps its own.</summary>
    public EntityDef? NewClass(int index) => NewClass(_snapshot.Model.Entity(index));

    /// <summary>Whether a property is set by an edit.</summary>
    public bool Sets(string set, string property) => _edits.Any(e => e.Kind == EditKind.SetProperty && e.Set == set && e.Property == property);

    /// <inheritdoc/>
    public bool Touches(int index)
    {
        var entity = _snapshot.Model.Entity(index);
        return _values.ContainsKey(index) || _added.ContainsKey(index) || _longer.ContainsKey(index) || NewClass(entity) is not null
            || (_storeys.Count > 0 && entity?.Name == "IfcBuildingStorey") || (_layers.Count > 0 && entity?.Is("IfcPresentationLayerAssignment") == true);
    }

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (_values.TryGetValue(text.Index, out string? value)) text["NominalValue"] = value;
        if (text.Entity?.Name == "IfcBuildingStorey" && _storeys.TryGetValue(_snapshot.Model.Name(text.Index), out string? storey)) text["Name"] = StepWriter.String(storey);
        else if (text.Entity?.Is("IfcPresentationLayerAssignment") == true && _layers.TryGetValue(_snapshot.Model.Name(text.Index), out string? layer)) text["Name"] = StepWriter.String(layer);
        if (_longer.TryGetValue(text.Index, out var more))
            text["HasProperties"] = $"{text["HasProperties"][..^1]},{string.Join(",", more.Select(e => "#" + fresh.Once("IFCPROPERTYSINGLEVALUE", $"{StepWriter.String(e.Property)},$,{Value(e.To, null)},$")))})";
        if (_added.TryGetValue(text.Index, out var edits)) AddSets(text, edits, fresh);
        if (NewClass(text.Entity) is not { } other) return;
        var parts = other.Attributes.Select(a => a.IsDerived ? "*" : text[a.Name]).ToList();
        (text.Entity, text.Keyword, text.Parts) = (other, other.Keyword, parts);
    }

    private EntityDef? NewClass(EntityDef? entity) => entity is null ? null : _classes.FirstOrDefault(c => entity.Is(c.From)).To;

    private EntityDef Entity(string name)
    {
        var entity = _snapshot.Model.Schema.Find(name.ToUpperInvariant());
        return entity?.Is("IfcElement") == true ? entity : throw new OrderException($"{name} is not a class of elements in {_snapshot.Model.Schema.Name}.");
    }

    private void SetProperty(ModelEdit edit, Func<int, bool>? kept)
    {
        var model = _snapshot.Model;
        var about = _snapshot.Elements.Where(e => (kept is null || kept(e.Index)) && (edit.From.Length == 0 || model.Is(e.Index, edit.From))).Select(e => e.Index).ToHashSet();
        var owners = new Dictionary<int, List<int>>();
        foreach (var element in _snapshot.Elements.Where(e => kept is null || kept(e.Index)))
            foreach (int set in _snapshot.Relations.PropertySets[element.Index])
                if (model.Is(set, "IfcPropertySet") && model.Name(set) == edit.Set) (owners.TryGetValue(set, out var list) ? list : owners[set] = []).Add(element.Index);
        foreach (int element in about)
        {
            int set = _snapshot.Relations.PropertySets[element].ToArray().FirstOrDefault(owners.ContainsKey, -1);
            int property = set < 0 ? -1 : model.Refs(set, "HasProperties").FirstOrDefault(p => model.Name(p) == edit.Property && model.Is(p, "IfcPropertySingleValue"), -1);
            if (set >= 0 && property < 0 && owners[set].All(about.Contains)) (_longer.TryGetValue(set, out var more) ? more : _longer[set] = []).Add(edit);
            else if (property < 0) (_added.TryGetValue(element, out var list) ? list : _added[element] = []).Add(edit);
            else if (owners[set].All(about.Contains)) _values[property] = Value(edit.To, model.Get(property, "NominalValue").TypeName);
            else throw new OrderException($"The property set {edit.Set} of {model.GlobalId(element)} is shared with elements that are not to be changed.");
        }
    }

    private void AddSets(InstanceText text, List<ModelEdit> edits, NewInstances fresh)
    {
        string id = _snapshot.Model.GlobalId(text.Index), owner = text["OwnerHistory"];
        foreach (var group in edits.GroupBy(e => e.Set))
        {
            var properties = group.Select(e => "#" + fresh.Once("IFCPROPERTYSINGLEVALUE", $"{StepWriter.String(e.Property)},$,{Value(e.To, null)},$"));
            int set = fresh.Add("IFCPROPERTYSET", $"'{GlobalIds.Derived(id, group.Key + "+")}',{owner},{StepWriter.String(group.Key)},$,({string.Join(",", properties)})");
            fresh.Add("IFCRELDEFINESBYPROPERTIES", $"'{GlobalIds.Derived(id, group.Key + "+r")}',{owner},$,$,(#{_snapshot.Model.File.Id(text.Index)}),#{set}");
        }
    }

    // A value keeps the type it had where the text fits it; a new one is a boolean, a number or a label by its look.
    private static string Value(string text, string? type)
    {
        bool number = double.TryParse(text, System.Globalization.NumberStyles.Float, System.Globalization.CultureInfo.InvariantCulture, out double real);
        bool logical = text is "True" or "False";
        string truth = text == "True" ? ".T." : ".F.";
        if (type is "IFCBOOLEAN" or "IFCLOGICAL" && logical) return $"{type}({truth})";
        if (type is not null && type.EndsWith("MEASURE", StringComparison.Ordinal) && number) return $"{type}({StepNumber.Format(real)})";
        if (type is "IFCREAL" && number) return $"IFCREAL({StepNumber.Format(real)})";
        if (type is "IFCINTEGER" && number && real == Math.Floor(real)) return $"IFCINTEGER({(long)real})";
        if (type is "IFCLABEL" or "IFCTEXT" or "IFCIDENTIFIER") return $"{type}({StepWriter.String(text)})";
        return logical ? $"IFCBOOLEAN({truth})" : number ? $"IFCREAL({StepNumber.Format(real)})" : $"IFCLABEL({StepWriter.String(text)})";
    }
}
