using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Which instances of a model a subset holds, and which of them are cut down.</summary>
/// <remarks>
/// Chosen products with their openings, projections and ports; the spatial structure above; types, sets, groups, processes and actors that
/// something of it is assigned to; relationships whose ends both go, with their lists cut down to what goes; everything these refer to;
/// what points at it from outside (styles, layers, aspects, material data); project, units, contexts. No product comes along because a
/// relationship names it. An element whose whole or container stays is contained in its storey by a relationship of its own.
/// </remarks>
public sealed class SubsetPlan
{
    private const byte HasOne = 1,
        HasMany = 2,
        HasOther = 4,
        Seen = 8;
    private readonly IfcModel _model;
    private readonly ModelSnapshot _snapshot;
    private readonly RelationIndex _index;
    private readonly bool[] _in;
    private readonly byte[] _ends;
    private readonly List<int> _members = [];
    private readonly HashSet<int> _cut = [];
    private readonly List<int> _suspects = [];
    private readonly List<(int Product, int Structure)> _contained = [];

    private readonly ShapeStrip? _strip;

    private SubsetPlan(ModelSnapshot snapshot, ShapeStrip? strip)
    {
        _strip = strip;
        (_snapshot, _model, _index) = (snapshot, snapshot.Model, snapshot.RelationIndex);
        (_in, _ends) = (new bool[_model.File.Count], new byte[_model.File.Count]);
    }

    /// <summary>How many instances the subset holds.</summary>
    public int Count => _members.Count;

    /// <summary>Instances that refer to something that stays: such references are taken out of their lists, single ones are
    /// unset.</summary>
    public IReadOnlySet<int> Cut => _cut;

    /// <summary>Elements to be contained in a spatial structure element by a relationship that the source does not have.</summary>
    public IReadOnlyList<(int Product, int Structure)> Contained => _contained;

    /// <summary>Whether an instance is in the subset.</summary>
    public bool Has(int index) => index >= 0 && _in[index];

    /// <summary>Plans the subset of some elements.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="chosen">The elements.</param>
    /// <param name="storeys">Storeys that stay even when nothing on them is chosen.</param>
    /// <param name="strip">What of shapes does not go; null for nothing.</param>
    public static SubsetPlan Of(
        ModelSnapshot snapshot,
        IReadOnlyList<ModelElement> chosen,
        IEnumerable<int> storeys,
        ShapeStrip? strip = null
    )
    {
        var plan = new SubsetPlan(snapshot, strip);
        foreach (int project in snapshot.Model.OfType("IfcProject"))
            plan.Add(project);
        foreach (var element in chosen)
            plan.Add(element.Index);
        foreach (int storey in storeys)
            plan.AddAbove(snapshot.Structure.Storeys[storey].Index);
        foreach (var element in chosen)
            plan.Place(element);
        plan.Follow();
        plan.FindCuts();
        return plan;
    }

    private InstanceKind Kind(int index) => _index.Kinds[_model.File.TypeOf(index)];

    private void Add(int index)
    {
        if (_in[index])
            return;
        _in[index] = true;
        _members.Add(index);
    }

    // Spatial structure from an instance up to the project.
    private void AddAbove(int structure)
    {
        for (int depth = 0; structure >= 0 && depth < 100; depth++)
        {
            Add(structure);
            structure = _snapshot.Relations.Whole.First(structure);
        }
    }

    private void Place(ModelElement element)
    {
        int parent = _snapshot.Structure.Parent(element.Index);
        if (parent >= 0 && _model.Is(parent, "IfcSpatialStructureElement") && !_model.Is(parent, "IfcSpace"))
        {
            AddAbove(parent);
            return;
        }

        if (parent < 0 || _in[parent])
            return;
        // The whole or the room it is in was not chosen: its storey takes it in.
        int structure =
            element.Storey >= 0
                ? _snapshot.Structure.Storeys[element.Storey].Index
                : _snapshot.Structure.Buildings.Append(-1).First();
        if (structure < 0)
            return;
        AddAbove(structure);
        _contained.Add((element.Index, structure));
    }

    // Each member brings what it refers to, and wakes the relationships and pointers that name it.
    private void Follow()
    {
        for (int n = 0; n < _members.Count; n++)
        {
            int member = _members[n];
            AddReferences(member);
            for (int entry = _index.First(member); entry > 0; )
            {
                var (index, end, next) = _index.Entry(entry);
                if (!_in[index])
                    Arrive(index, end);
                entry = next;
            }
        }
    }

    private void AddReferences(int member)
    {
        var kind = Kind(member);
        if (_strip?.Lists.TryGetValue(member, out string? list) == true)
        {
            var record = _model.Record(member);
            int without = _model.Entity(member)!.Position(list);
            for (int a = 0, count = record.Count; a < count; a++)
                if (a != without)
                    AddTargets(member, record[a].Raw, kind.Role);
        }
        else if (kind.Role == InstanceRole.Pointer)
        {
            var record = _model.Record(member);
            for (int a = 0, count = record.Count; a < count; a++)
                if (a != kind.Form!.Many)
                    AddTargets(member, record[a].Raw, kind.Role);
            _suspects.Add(member);
        }
        else
            AddTargets(member, _model.File.Raw(member)[1..], kind.Role);
    }

    private void AddTargets(int member, ReadOnlySpan<byte> raw, InstanceRole from)
    {
        bool suspect = false;
        for (int at = 0; StepReferences.Next(raw, ref at, out int id, out _); )
        {
            if (_model.File.IndexOf(id) is not (>= 0 and var target) || _in[target])
                continue;
            // Ends of relationships come by rule, products only when chosen.
            var role = Kind(target).Role;
            if (role < InstanceRole.Follower || (role == InstanceRole.Follower && from != InstanceRole.Relationship))
                Add(target);
            else
                suspect = true;
        }

        if (suspect)
            _suspects.Add(member);
    }

    private void Arrive(int index, RelationIndex.End end)
    {
        if (_strip?.Stays.Contains(index) == true)
            return;
        var kind = Kind(index);
        if (kind.Role == InstanceRole.Pointer)
        {
            Add(index);
            return;
        }

        byte before = _ends[index];
        _ends[index] |= end switch
        {
            RelationIndex.End.One => HasOne,
            RelationIndex.End.Many => HasMany,
            _ => HasOther,
        };
        if (_ends[index] == before)
            return;
        if ((before & Seen) == 0)
            FreeEnds(index, kind);
        if (end == RelationIndex.End.Many && kind.Pulls)
            AddEnd(index, kind.Form!.One, PullsIn);
        if (end == RelationIndex.End.One && kind.Carries)
            AddEnd(index, kind.Form!.Many, IsFeature);
        if ((_ends[index] & (HasOne | HasMany | HasOther)) == (HasOne | HasMany | HasOther))
            Add(index);
    }

    // An end that no rooted object holds, such as a material, waits for nobody.
    private void FreeEnds(int index, InstanceKind kind)
    {
        byte free = Seen;
        if (!Roots(index, kind.Form!.One))
            free |= HasOne;
        if (!Roots(index, kind.Form.Many))
            free |= HasMany;
        var entity = _model.Entity(index)!;
        bool needed = false;
        foreach (int other in kind.Form.Others)
        {
            if (entity.Attributes[other].Optional || !Roots(index, other))
                continue;
            needed = true;
            // A schedule that goes with its task; elements that realise a connection must be chosen.
            AddEnd(index, other, t => Kind(t).Role == InstanceRole.Follower);
        }

        if (!needed)
            free |= HasOther;
        _ends[index] |= free;
    }

    private bool Roots(int index, int position) =>
        position >= 0 && _model.Targets(_model.Record(index)[position]).Any(t => Kind(t).Role >= InstanceRole.Follower);

    private void AddEnd(int index, int position, Func<int, bool> wanted)
    {
        if (position < 0)
            return;
        foreach (int target in _model.Targets(_model.Record(index)[position]))
            if (wanted(target))
                Add(target);
    }

    private bool PullsIn(int target) => Kind(target).Role == InstanceRole.Follower || _model.Is(target, "IfcPort");

    private bool IsFeature(int target) => _model.Is(target, "IfcPort") || _model.Is(target, "IfcFeatureElement");

    private void FindCuts()
    {
        foreach (int member in _suspects)
        {
            var raw = _model.File.Raw(member);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
            {
                if (_model.File.IndexOf(id) is not (>= 0 and var target) || _in[target])
                    continue;
                _cut.Add(member);
                break;
            }
        }
    }
}
