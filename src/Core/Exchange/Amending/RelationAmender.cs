using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Gives elements another type, storey, material, classification, zone, system or layer.</summary>
/// <param name="editor">The model.</param>
internal sealed class RelationAmender(ModelEditor editor)
{
    private readonly IfcModel _model = editor.Model;
    private readonly Dictionary<string, ILookup<int, int>> _relations = [];
    private readonly Dictionary<(string Entity, string Name), string> _made = [];
    private readonly Dictionary<string, List<int>> _layers = [];

    /// <summary>Applies an amendment.</summary>
    public void Apply(int element, Amendment amendment)
    {
        switch (amendment.Kind)
        {
            case AmendmentKind.Type:
                Type(element, amendment);
                break;
            case AmendmentKind.Storey:
                Storey(element, amendment);
                break;
            case AmendmentKind.Material:
                Material(element, amendment);
                break;
            case AmendmentKind.Classification:
                Classification(element, amendment);
                break;
            case AmendmentKind.Zone:
                Group(element, amendment, "IfcZone");
                break;
            case AmendmentKind.System:
                Group(element, amendment, "IfcSystem");
                break;
            default:
                Layer(element, amendment);
                break;
        }
    }

    private void Type(int element, Amendment by)
    {
        var entity = _model.Entity(element)!;
        // The class may have been amended just before.
        var written = editor.Text(element).Entity ?? entity;
        var wanted = TypeChange.TypeOf(_model.Schema, written)
            ?? throw new AmendmentException($"{_model.Schema.Name} has no types of {written.Name}.");
        int type = _model
            .OfType(wanted.Name)
            .FirstOrDefault(t => _model.Name(t) == by.Value && _model.Entity(t) == wanted, -1);
        Leave("IfcRelDefinesByType", "RelatedObjects", element, by);
        string reference;
        if (type >= 0)
            reference = editor.Ref(type);
        else
            reference = Made(wanted.Name, by.Value!, by);
        Enter("IfcRelDefinesByType", "RelatingType", reference, "RelatedObjects", element, by);
    }

    private void Storey(int element, Amendment by)
    {
        var structure = editor.Snapshot.Structure;
        if (
            editor.Snapshot.Relations.Container.First(element) < 0
            && (
                editor.Snapshot.Relations.Whole.First(element) >= 0
                || editor.Snapshot.Relations.Nest.First(element) >= 0
            )
        )
            throw new AmendmentException(
                "It is part of an assembly, which is on the storey as a whole; amend the storey of the assembly."
            );
        var storey = structure.Storeys.FirstOrDefault(s => s.Name == by.Value)
            ?? structure.Storeys.FirstOrDefault(s => s.Name.Equals(by.Value, StringComparison.OrdinalIgnoreCase))
            ?? throw new AmendmentException(
                $"The model has no storey '{by.Value}'.{NearestNames.Of(by.Value!, structure.Storeys.Select(s => s.Name))}"
            );
        Leave("IfcRelContainedInSpatialStructure", "RelatedElements", element, by);
        Enter(
            "IfcRelContainedInSpatialStructure",
            "RelatingStructure",
            editor.Ref(storey.Index),
            "RelatedElements",
            element,
            by
        );
    }

    private void Material(int element, Amendment by)
    {
        int material = _model.OfType("IfcMaterial").FirstOrDefault(m => _model.Name(m) == by.Value, -1);
        string reference;
        if (material >= 0)
            reference = editor.Ref(material);
        else
        {
            var text = editor.Blank("IfcMaterial");
            text["Name"] = StepWriter.String(by.Value);
            reference = editor.Once(text);
        }

        Leave("IfcRelAssociatesMaterial", "RelatedObjects", element, by);
        Enter("IfcRelAssociatesMaterial", "RelatingMaterial", reference, "RelatedObjects", element, by);
    }

    private void Classification(int element, Amendment by)
    {
        // One code of a system at a time: another code takes its place.
        foreach (int relation in Of("IfcRelAssociatesClassification", "RelatedObjects", element))
            if (SystemOf(_model.Ref(relation, "RelatingClassification")) == by.Set)
                editor.Part(relation, "RelatedObjects", element, by);
        if (by.Value is "" && by.Name is "-")
            return;
        var text = editor.Blank("IfcClassificationReference");
        text[text.Entity!.Position("Identification") >= 0 ? "Identification" : "ItemReference"] = StepWriter.String(
            by.Name
        );
        if (by.Value is { Length: > 0 } title)
            text["Name"] = StepWriter.String(title);
        text["ReferencedSource"] = System(by.Set!);
        Enter(
            "IfcRelAssociatesClassification",
            "RelatingClassification",
            editor.Once(text),
            "RelatedObjects",
            element,
            by
        );
    }

    private string SystemOf(int reference)
    {
        for (int depth = 0; depth < 10 && _model.Is(reference, "IfcClassificationReference"); depth++)
            reference = _model.Ref(reference, "ReferencedSource");
        return reference < 0 ? "" : _model.Name(reference);
    }

    /// <summary>A classification system of a name: a reference.</summary>
    public string System(string name)
    {
        int known = _model.OfType("IfcClassification").FirstOrDefault(c => _model.Name(c) == name, -1);
        if (known >= 0)
            return editor.Ref(known);
        var text = editor.Blank("IfcClassification");
        text["Name"] = StepWriter.String(name);
        // IFC2X3 demands who publishes it and in which edition; nobody says so.
        if (text["Source"] == "$" && !IsOptional(text, "Source"))
            text["Source"] = "'not stated'";
        if (text["Edition"] == "$" && !IsOptional(text, "Edition"))
            text["Edition"] = "'not stated'";
        return editor.Once(text);
    }

    private static bool IsOptional(InstanceText text, string attribute) =>
        text.Entity!.Position(attribute) is not (>= 0 and var p) || text.Entity.Attributes[p].Optional;

    private void Group(int element, Amendment by, string kind)
    {
        int group = _model.OfType(kind).FirstOrDefault(g => _model.Name(g) == by.Name, -1);
        if (by.Value == "no")
        {
            foreach (int relation in Of("IfcRelAssignsToGroup", "RelatedObjects", element))
                if (_model.Ref(relation, "RelatingGroup") == group)
                    editor.Part(relation, "RelatedObjects", element, by);
            return;
        }

        if (
            group >= 0
            && Of("IfcRelAssignsToGroup", "RelatedObjects", element).Any(r => _model.Ref(r, "RelatingGroup") == group)
        )
            return;
        string reference = group >= 0 ? editor.Ref(group) : Made(kind, by.Name!, by);
        Enter("IfcRelAssignsToGroup", "RelatingGroup", reference, "RelatedObjects", element, by);
    }

    // A type, zone or system that the model does not have, added once.
    private string Made(string entity, string name, Amendment by)
    {
        if (_made.TryGetValue((entity, name), out string? known))
            return known;
        var text = editor.Blank(entity);
        text["Name"] = StepWriter.String(name);
        string project = editor.Snapshot.Structure.Project is >= 0 and var p ? _model.GlobalId(p) : "";
        return _made[(entity, name)] = editor.AddRoot(text, GlobalIds.Derived(project, $"{entity} {name}"), by);
    }

    // A layer holds representations or their items (ISO 16739-1, IfcPresentationLayerAssignment).
    private void Layer(int element, Amendment by)
    {
        int[] representations = _model.Refs(_model.Ref(element, "Representation"), "Representations");
        if (representations.Length == 0)
            throw new AmendmentException("It has no shape, so nothing of it can be on a layer.");
        var own = new HashSet<int>(representations);
        foreach (int representation in representations)
        foreach (int item in _model.Refs(representation, "Items"))
        {
            own.Add(item);
            if (
                _model.Ref(_model.Ref(item, "MappingSource"), "MappedRepresentation") is >= 0 and var mapped
                && Layered(mapped) is { Length: > 0 } layer
                && layer != by.Value
            )
                throw new AmendmentException(
                    $"Its shape is that of its type, which is on layer {layer} for all elements of the type; amend the layer there, in the sender's program."
                );
        }

        foreach (int assignment in _model.OfType("IfcPresentationLayerAssignment"))
        foreach (int item in _model.Refs(assignment, "AssignedItems").Where(own.Contains))
            editor.Part(assignment, "AssignedItems", item, by);
        int known = _model.OfType("IfcPresentationLayerAssignment").FirstOrDefault(l => _model.Name(l) == by.Value, -1);
        if (known >= 0 && !editor.IsDropped(known))
        {
            var text = editor.Text(known);
            text["AssignedItems"] =
                $"({string.Join(",", InstanceText.Split(text["AssignedItems"].Trim('(', ')')).Union(representations.Select(editor.Ref)))})";
            return;
        }

        (_layers.TryGetValue(by.Value!, out var list) ? list : _layers[by.Value!] = []).AddRange(representations);
    }

    /// <summary>Adds the layers that the model did not have.</summary>
    public void Finish()
    {
        foreach (var (name, items) in _layers)
        {
            var text = editor.Blank("IfcPresentationLayerAssignment");
            text["Name"] = StepWriter.String(name);
            text["AssignedItems"] = $"({string.Join(",", items.Distinct().Select(editor.Ref))})";
            editor.Add(text);
        }
    }

    private string Layered(int representation) =>
        _model
            .OfType("IfcPresentationLayerAssignment")
            .Where(l => _model.Refs(l, "AssignedItems").Contains(representation))
            .Select(_model.Name)
            .FirstOrDefault("");

    private void Leave(string relation, string many, int element, Amendment by)
    {
        foreach (int known in Of(relation, many, element))
            editor.Part(known, many, element, by);
    }

    private void Enter(string relation, string one, string relating, string many, int element, Amendment by) =>
        editor.Join(relation, one, relating, many, element, by);

    private IEnumerable<int> Of(string relation, string many, int element)
    {
        if (!_relations.TryGetValue(relation, out var index))
            _relations[relation] = index = _model
                .OfType(relation)
                .SelectMany(r => _model.Refs(r, many).Select(m => (Member: m, Relation: r)))
                .ToLookup(p => p.Member, p => p.Relation);
        return index[element];
    }
}
