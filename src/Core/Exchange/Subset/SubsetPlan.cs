using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Which instances of a model a subset holds, and which of them are cut down.</summary>
/// <remarks>
/// Chosen products, their openings, projections and ports, everything these refer to; the spatial structure above; relationships cut down to what is
/// there; what points at the chosen from outside (styles, layers, shape aspects, material data); project, units, contexts. An element whose
/// whole or container stays behind is contained in its storey by a relationship of its own.
/// </remarks>
public sealed class SubsetPlan
{
    // GlobalId, OwnerHistory, Name, Description.
    private const int RootAttributes = 4;
    private readonly IfcModel _model;
    private readonly ModelSnapshot _snapshot;
    private readonly Closure _closure;
    private readonly Waiting _waiting;
    private readonly Dictionary<EntityDef, RelationshipForm> _forms = [];
    private readonly Dictionary<int, int[]> _cut = [];
    private readonly List<(int Product, int Structure)> _contained = [];

    private SubsetPlan(ModelSnapshot snapshot)
    {
        (_snapshot, _model) = (snapshot, snapshot.Model);
        (_closure, _waiting) = (new Closure(_model.File), new Waiting(_model.File.Count));
    }

    /// <summary>How many instances the subset holds.</summary>
    public int Count => _closure.Count;

    /// <summary>Relationships and layer assignments whose list is shortened: instance → the members that stay.</summary>
    public IReadOnlyDictionary<int, int[]> Cut => _cut;

    /// <summary>Elements to be contained in a spatial structure element by a relationship that the source does not have.</summary>
    public IReadOnlyList<(int Product, int Structure)> Contained => _contained;

    /// <summary>Whether an instance is in the subset.</summary>
    public bool Has(int index) => _closure.Has(index);

    /// <summary>Plans the subset of some elements.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="chosen">The elements.</param>
    /// <param name="storeys">Storeys that stay even when nothing on them is chosen.</param>
    public static SubsetPlan Of(ModelSnapshot snapshot, IReadOnlyList<ModelElement> chosen, IEnumerable<int> storeys)
    {
        var plan = new SubsetPlan(snapshot);
        foreach (int project in snapshot.Model.OfType("IfcProject")) plan._closure.Add(project);
        foreach (var element in chosen) plan.AddElement(element.Index);
        foreach (int storey in storeys) plan.AddAbove(snapshot.Structure.Storeys[storey].Index);
        foreach (var element in chosen) plan.Place(element);
        plan.AddWhatFollows();
        foreach (int layer in snapshot.Model.OfType("IfcPresentationLayerAssignment")) plan.CutList(layer, "AssignedItems");
        return plan;
    }

    private void AddElement(int product)
    {
        if (!_closure.Add(product)) return;
        foreach (int opening in _snapshot.Relations.Openings[product]) AddElement(opening);
        foreach (int projection in _snapshot.Relations.Projections[product]) AddElement(projection);
    }

    // Spatial structure from an instance up to the project.
    private void AddAbove(int structure)
    {
        for (int depth = 0; structure >= 0 && depth < 100; depth++)
        {
            _closure.Add(structure);
            structure = _snapshot.Relations.Whole.First(structure);
        }
    }

    private void Place(ModelElement element)
    {
        int parent = _snapshot.Structure.Parent(element.Index);
        if (parent >= 0 && !ModelSnapshot.IsElement(_model, parent) && _model.Is(parent, "IfcSpatialStructureElement"))
        {
            AddAbove(parent);
            return;
        }

        if (parent < 0 || _closure.Has(parent)) return;
        // The whole or the room it stands in was not chosen: its storey takes it in.
        int structure = element.Storey >= 0 ? _snapshot.Structure.Storeys[element.Storey].Index : _snapshot.Structure.Buildings.Append(-1).First();
        if (structure < 0) return;
        AddAbove(structure);
        _contained.Add((element.Index, structure));
    }

    // Relationships and pointers come in behind what they are about; each is looked at once for each thing it waits for.
    private void AddWhatFollows()
    {
        Pointers.AddTo(_waiting, _snapshot);
        foreach (int relationship in _model.OfType("IfcRelationship"))
        {
            if (_closure.Has(relationship) || FormOf(relationship) is not { Declares: false } form) continue;
            if (form.Many < 0) Try(relationship, form);
            else WaitForMembers(relationship, form);
        }

        for (int n = 0; n < _closure.Count; n++)
        {
            foreach (int index in _waiting.Of(_closure[n]))
            {
                if (FormOf(index) is not { } form) _closure.Add(index);
                else if (!_closure.Has(index)) Try(index, form);
            }
        }

        // What came in later may lengthen a list that was cut before.
        foreach (int relationship in _cut.Keys.ToList()) Recut(relationship);
        foreach (int declares in _model.OfType("IfcRelDeclares")) CutList(declares, "RelatedDefinitions");
    }

    private RelationshipForm? FormOf(int index)
    {
        var entity = _model.Entity(index)!;
        if (_forms.TryGetValue(entity, out var known)) return known;
        return entity.Is("IfcRelationship") ? _forms[entity] = RelationshipForm.Of(entity) : null;
    }

    private void WaitForMembers(int relationship, RelationshipForm form)
    {
        var list = _model.Record(relationship)[form.Many].Raw;
        for (int at = 0; StepReferences.Next(list, ref at, out int id, out _);) _waiting.For(_model.File.IndexOf(id), relationship);
    }

    // Adds a relationship of which a member is there, or that has no list, unless one of its ends is still to come.
    private void Try(int relationship, RelationshipForm form)
    {
        var record = _model.Record(relationship);
        foreach (int a in form.Ones)
        {
            // One end that must be there already; types, sets, materials and groups are brought along instead.
            int target = _model.Target(record[a]);
            if (target < 0 || !MustBeChosen(target) || _closure.Has(target)) continue;
            _waiting.For(target, relationship);
            return;
        }

        if (form.Many < 0) _closure.Add(relationship);
        else AddCut(relationship, record, form);
    }

    private void AddCut(int relationship, StepRecord record, RelationshipForm form)
    {
        var all = _model.Targets(record[form.Many]);
        var kept = all.Where(_closure.Has).ToArray();
        for (int a = 0; a < form.Count; a++)
        {
            if (a == form.Many) continue;
            foreach (int target in _model.Targets(record[a])) _closure.Add(target);
        }

        _closure.AddAlone(relationship);
        if (kept.Length < all.Length) _cut[relationship] = kept;
    }

    // Where a relationship has its list of members and its single ends.
    private sealed record RelationshipForm(int Many, int[] Ones, int Count, bool Declares)
    {
        public static RelationshipForm Of(EntityDef entity)
        {
            var attributes = entity.Attributes;
            int many = -1;
            for (int a = RootAttributes; a < attributes.Count; a++)
                if (attributes[a].Depth > 0 && attributes[a].Name.StartsWith("Related", StringComparison.Ordinal)) many = a;
            int[] ones = [.. Enumerable.Range(RootAttributes, Math.Max(0, attributes.Count - RootAttributes)).Where(a => a != many)];
            return new RelationshipForm(many, ones, attributes.Count, entity.Is("IfcRelDeclares"));
        }
    }

    private void Recut(int relationship)
    {
        if (!_cut.ContainsKey(relationship)) return;
        int many = CutPosition(_model, relationship);
        var all = _model.Targets(_model.Record(relationship)[many]);
        var kept = all.Where(_closure.Has).ToArray();
        if (kept.Length == all.Length) _cut.Remove(relationship);
        else _cut[relationship] = kept;
    }

    private void CutList(int index, string attribute)
    {
        var all = _model.Refs(index, attribute);
        var kept = all.Where(_closure.Has).ToArray();
        if (kept.Length == 0) return;
        int position = _model.Entity(index)!.Position(attribute);
        var record = _model.Record(index);
        for (int a = 0; a < _model.Entity(index)!.Attributes.Count; a++)
        {
            if (a == position) continue;
            foreach (int target in _model.Targets(record[a])) _closure.Add(target);
        }

        _closure.AddAlone(index);
        if (kept.Length < all.Length) _cut[index] = kept;
        else _cut.Remove(index);
    }

    /// <summary>The attribute position of the list that <see cref="Cut"/> shortens.</summary>
    public static int CutPosition(IfcModel model, int index)
    {
        var attributes = model.Entity(index)!.Attributes;
        for (int a = attributes.Count - 1; a >= 0; a--)
            if (attributes[a].Depth > 0 && (attributes[a].Name.StartsWith("Related", StringComparison.Ordinal) || attributes[a].Name == "AssignedItems")) return a;
        return -1;
    }

    private bool MustBeChosen(int index) => _model.Is(index, "IfcProduct") || _model.Is(index, "IfcProcess") || _model.Is(index, "IfcResource");
}
