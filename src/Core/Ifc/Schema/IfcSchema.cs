using System.Collections.Concurrent;
using System.Globalization;

namespace SteadyLintel.Ifc;

/// <summary>The entities and types of one edition of ISO 16739, looked up late: a model needs no generated classes.</summary>
/// <remarks>schema.tsv, types.tsv and bounds.tsv hold facts of the standard; where they were read and what they lack is reported in
/// docs/findings.md.</remarks>
public sealed class IfcSchema
{
    private static readonly ConcurrentDictionary<string, IfcSchema> Loaded = new();
    private readonly Dictionary<string, EntityDef> _byKeyword = [];
    private readonly Dictionary<string, TypeDef> _types = new(StringComparer.OrdinalIgnoreCase);

    private IfcSchema(string name) => Name = name;

    /// <summary><c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>.</summary>
    public string Name { get; }

    /// <summary>Every entity.</summary>
    public IEnumerable<EntityDef> Entities => _byKeyword.Values;

    /// <summary>The schema that a FILE_SCHEMA name means.</summary>
    /// <param name="fileSchema">As the header has it.</param>
    /// <remarks><c>IFC2X3_TC1</c> and <c>IFC2X2_FINAL</c> give IFC2X3; <c>IFC4X1</c>, <c>IFC4X2</c> and <c>IFC4X3_ADD2</c> give IFC4X3;
    /// <c>IFC4_ADD2_TC1</c> gives IFC4; anything else gives null.</remarks>
    public static IfcSchema? For(string fileSchema)
    {
        string name = fileSchema.ToUpperInvariant();
        if (name.StartsWith("IFC4X", StringComparison.Ordinal))
            return Named("IFC4X3");
        if (name.StartsWith("IFC4", StringComparison.Ordinal))
            return Named("IFC4");
        return name.StartsWith("IFC2", StringComparison.Ordinal) ? Named("IFC2X3") : null;
    }

    /// <summary>The entity with a keyword in capitals, null when the schema has none.</summary>
    /// <param name="keyword">In capital letters.</param>
    public EntityDef? Find(string keyword) => _byKeyword.GetValueOrDefault(keyword);

    /// <summary>The defined type, enumeration or select of a name in any case, null when the schema has none.</summary>
    /// <param name="name">In any case.</param>
    public TypeDef? Type(string name) => _types.GetValueOrDefault(name);

    /// <summary>A schema by its short name.</summary>
    /// <param name="name"><c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>.</param>
    public static IfcSchema Named(string name) => Loaded.GetOrAdd(name, Load);

    private static IfcSchema Load(string name)
    {
        var schema = new IfcSchema(name);
        using var stream = typeof(IfcSchema).Assembly.GetManifestResourceStream("schema.tsv")!;
        using var reader = new StreamReader(stream);
        var rows = new Dictionary<string, string[]>();
        while (reader.ReadLine() is { } line)
        {
            var fields = line.Split('\t');
            if (fields[0] == name)
                rows[fields[1]] = fields;
        }

        var bounds = Bounds();
        foreach (string entity in rows.Keys)
            schema.Define(entity, rows, bounds);
        schema.LoadTypes();
        return schema;
    }

    private void LoadTypes()
    {
        using var stream = typeof(IfcSchema).Assembly.GetManifestResourceStream("types.tsv")!;
        using var reader = new StreamReader(stream);
        var rows = new Dictionary<string, (TypeKind Kind, string[] Members)>();
        while (reader.ReadLine() is { } line)
        {
            var fields = line.Split('\t');
            if (fields[0] == Name)
                rows[fields[1]] = (
                    Enum.Parse<TypeKind>(fields[2], true),
                    fields[3].Split(' ', StringSplitOptions.RemoveEmptyEntries)
                );
        }

        foreach (var (name, row) in rows)
        {
            var members = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            Gather(row.Members, 0);
            _types[name] = new TypeDef(name, row.Kind, members);

            void Gather(string[] names, int depth)
            {
                foreach (string member in names)
                    if (depth < 8 && rows.TryGetValue(member, out var inner) && inner.Kind == TypeKind.Select)
                        Gather(inner.Members, depth + 1);
                    else
                        members.Add(member);
            }
        }
    }

    // Lists whose bounds are not "one or more": entity and attribute, fewest, most, and the same of the lists within. Those of IFC4 hold
    // for the other editions where they have the attribute.
    private static Dictionary<string, (ListBounds Outer, ListBounds Inner)> Bounds()
    {
        using var stream = typeof(IfcSchema).Assembly.GetManifestResourceStream("bounds.tsv")!;
        using var reader = new StreamReader(stream);
        var bounds = new Dictionary<string, (ListBounds, ListBounds)>();
        while (reader.ReadLine() is { } line)
        {
            var fields = line.Split('\t');
            bounds[fields[0]] = (
                ListBounds.Parse(fields[1], fields[2]),
                fields.Length > 3 ? ListBounds.Parse(fields[3], fields[4]) : ListBounds.Some
            );
        }

        return bounds;
    }

    private EntityDef Define(
        string name,
        Dictionary<string, string[]> rows,
        Dictionary<string, (ListBounds Outer, ListBounds Inner)> bounds
    )
    {
        if (_byKeyword.TryGetValue(name.ToUpperInvariant(), out var known))
            return known;
        var fields = rows[name];
        var parent = fields[2].Length == 0 ? null : Define(fields[2], rows, bounds);
        var attributes = fields.Skip(3).Where(f => f.Length > 0).Select(AttributeDef.Parse).ToArray();
        for (int a = 0; a < attributes.Length; a++)
            attributes[a] =
                bounds.TryGetValue($"{name}.{attributes[a].Name}", out var own)
                    ? attributes[a] with
                    {
                        Bounds = own.Outer,
                        InnerBounds = own.Inner,
                    }
                : parent?.Position(attributes[a].Name) is >= 0 and var above
                    ? attributes[a] with
                    {
                        Bounds = parent.Attributes[above].Bounds,
                        InnerBounds = parent.Attributes[above].InnerBounds,
                    }
                : attributes[a];
        return _byKeyword[name.ToUpperInvariant()] = new EntityDef(name, parent, attributes);
    }
}
