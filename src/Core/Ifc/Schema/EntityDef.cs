namespace SteadyLintel.Ifc;

/// <summary>An entity of a schema, with its attributes in file order, inherited ones first.</summary>
public sealed class EntityDef
{
    private readonly HashSet<string> _ancestors = [];
    private readonly Dictionary<string, int> _positions = [];

    internal EntityDef(string name, EntityDef? parent, AttributeDef[] attributes)
    {
        (Name, Keyword, Parent, Attributes) = (name, name.ToUpperInvariant(), parent, attributes);
        for (var e = this; e is not null; e = e.Parent)
            _ancestors.Add(e.Name);
        for (int i = 0; i < attributes.Length; i++)
            _positions[attributes[i].Name] = i;
    }

    /// <summary>The name as the standard spells it: <c>IfcWall</c>.</summary>
    public string Name { get; }

    /// <summary>The name as a file spells it: <c>IFCWALL</c>.</summary>
    public string Keyword { get; }

    /// <summary>The supertype, null at a root.</summary>
    public EntityDef? Parent { get; }

    /// <summary>The explicit attributes.</summary>
    public IReadOnlyList<AttributeDef> Attributes { get; }

    /// <summary>Whether this is the named entity or a subtype of it.</summary>
    /// <param name="name">As the standard spells it.</param>
    public bool Is(string name) => _ancestors.Contains(name);

    /// <summary>The position of an attribute, -1 when the entity has none of that name.</summary>
    /// <param name="attribute">As the standard spells it.</param>
    public int Position(string attribute) => _positions.GetValueOrDefault(attribute, -1);
}
