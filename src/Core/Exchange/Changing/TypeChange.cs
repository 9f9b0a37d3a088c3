using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What becomes of the types of elements that get another class: IfcWallType cannot be the type of an IfcCovering (ISO 16739-1,
/// CorrectTypeAssigned).</summary>
/// <remarks>A type whose elements all get one class gets the type class that goes with it. A type that others still need stays, and the
/// elements
/// of another class go without it.</remarks>
internal sealed class TypeChange
{
    /// <summary>The ledger's name of the rule that changes a type's class with that of its elements.</summary>
    public const string Rule = "class of the type changed with its elements";

    private readonly IfcModel _model;
    private readonly Dictionary<int, EntityDef> _types = [];
    private readonly Dictionary<int, HashSet<int>> _cut = [];
    private readonly Dictionary<(int Relation, int Element), string> _losses = [];
    private readonly HashSet<int> _emptied = [];

    /// <summary>Decides about every type.</summary>
    /// <param name="model">The model.</param>
    /// <param name="kept">Whether an instance is written; null for all.</param>
    /// <param name="newClass">The class an element gets; null where it keeps its own.</param>
    public TypeChange(IfcModel model, Func<int, bool>? kept, Func<int, EntityDef?> newClass)
    {
        _model = model;
        var uses = new Dictionary<int, List<(int Relation, int Element)>>();
        foreach (int relation in model.OfType("IfcRelDefinesByType"))
        {
            int type = model.Ref(relation, "RelatingType");
            if (type < 0)
                continue;
            foreach (int element in model.Refs(relation, "RelatedObjects"))
                if (kept?.Invoke(element) != false)
                    (uses.TryGetValue(type, out var list) ? list : uses[type] = []).Add((relation, element));
        }

        foreach (var (type, elements) in uses)
            Decide(type, elements, newClass);
        foreach (var (relation, cut) in _cut)
            if (model.Refs(relation, "RelatedObjects").All(e => cut.Contains(e) || kept?.Invoke(e) == false))
                _emptied.Add(relation);
    }

    /// <summary>The class a type gets; null where it keeps its own.</summary>
    public EntityDef? NewClass(int type) => _types.GetValueOrDefault(type);

    /// <summary>The elements that a relationship to a type loses.</summary>
    public IReadOnlySet<int>? CutOf(int relation) => _cut.GetValueOrDefault(relation);

    /// <summary>Whether a relationship to a type has no elements left.</summary>
    public bool Empties(int relation) => _emptied.Contains(relation);

    /// <summary>Why an element goes without its type; null where it has it.</summary>
    public string? LossOf(int relation, int element) => _losses.GetValueOrDefault((relation, element));

    /// <summary>The type class that goes with a class; null where the schema has none.</summary>
    /// <remarks>By the standard's naming, IfcWall and IfcWallType; doors and windows have styles in IFC2X3.</remarks>
    public static EntityDef? TypeOf(IfcSchema schema, EntityDef entity)
    {
        for (var e = entity; e is not null; e = e.Parent)
        {
            string keyword = e.Name.ToUpperInvariant();
            if ((schema.Find(keyword + "TYPE") ?? schema.Find(keyword + "STYLE")) is { } type)
                return type;
        }

        return null;
    }

    private void Decide(int type, List<(int Relation, int Element)> uses, Func<int, EntityDef?> newClass)
    {
        if (_model.Entity(type) is not { } own)
            return;
        List<(bool Changes, EntityDef? Type)> wanted = uses.ConvertAll(u =>
            newClass(u.Element) is { } entity ? (true, TypeOf(_model.Schema, entity)) : (false, own)
        );
        if (wanted.TrueForAll(w => !w.Changes || Fits(own, w.Type)))
            return;
        if (wanted[0].Type is { } only && wanted.TrueForAll(w => w.Changes && w.Type == only))
        {
            _types[type] = only;
            return;
        }

        for (int n = 0; n < uses.Count; n++)
        {
            if (!wanted[n].Changes || Fits(own, wanted[n].Type))
                continue;
            (_cut.TryGetValue(uses[n].Relation, out var cut) ? cut : _cut[uses[n].Relation] = []).Add(uses[n].Element);
            _losses[uses[n]] = $"an {own.Name} cannot be the type of an {newClass(uses[n].Element)!.Name}";
        }
    }

    private static bool Fits(EntityDef own, EntityDef? wanted) => wanted is not null && own.Is(wanted.Name);
}
