using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>A building model: an exchange structure read through a schema table. Instances are addressed by their position in the
/// file.</summary>
/// <remarks>Nothing is changed or repaired on reading. Safe for concurrent reading.</remarks>
public sealed class IfcModel
{
    private readonly EntityDef?[] _types;
    private readonly int[] _byType;
    private readonly int[] _typeStart;

    private IfcModel(StepFile file, IfcSchema schema)
    {
        (File, Schema) = (file, schema);
        _types = [.. file.TypeNames.Select(schema.Find)];
        _typeStart = new int[_types.Length + 1];
        for (int i = 0; i < file.Count; i++)
            _typeStart[file.TypeOf(i) + 1]++;
        for (int t = 0; t < _types.Length; t++)
            _typeStart[t + 1] += _typeStart[t];
        var next = _typeStart.ToArray();
        _byType = new int[file.Count];
        for (int i = 0; i < file.Count; i++)
            _byType[next[file.TypeOf(i)]++] = i;
    }

    /// <summary>The exchange structure.</summary>
    public StepFile File { get; }

    /// <summary>The schema the file names, or IFC4 when it names none that is known (see <see cref="SchemaKnown"/>).</summary>
    public IfcSchema Schema { get; }

    /// <summary>Whether FILE_SCHEMA named a known schema.</summary>
    public bool SchemaKnown { get; private init; }

    /// <summary>Opens a model over an indexed file.</summary>
    /// <param name="file">The indexed file.</param>
    public static IfcModel Open(StepFile file)
    {
        var schema = IfcSchema.For(file.Header.Schema);
        return new IfcModel(file, schema ?? IfcSchema.For("IFC4")!) { SchemaKnown = schema is not null };
    }

    /// <summary>Indexes bytes and opens the model.</summary>
    /// <param name="bytes">The whole file.</param>
    /// <param name="cancel">Stops between instances.</param>
    public static IfcModel Open(ReadOnlyMemory<byte> bytes, CancellationToken cancel = default) =>
        Open(StepFile.Read(bytes, null, cancel));

    /// <summary>The entity of an instance, null when the schema does not know its keyword, and for a reference to nothing (-1).</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public EntityDef? Entity(int index) => index < 0 ? null : _types[File.TypeOf(index)];

    /// <summary>The class name as the standard spells it, or the file's keyword when the schema does not know it; <c>nothing</c> for a
    /// reference to nothing (-1).</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public string ClassName(int index) =>
        index < 0 ? "nothing" : Entity(index)?.Name ?? File.TypeNames[File.TypeOf(index)];

    /// <summary>Whether an instance is of an entity or one of its subtypes.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="entity">As the standard spells it.</param>
    public bool Is(int index, string entity) => index >= 0 && Entity(index)?.Is(entity) == true;

    /// <summary>All instances of an entity and its subtypes, type by type, in file order within a type.</summary>
    /// <param name="entity">As the standard spells it.</param>
    public IEnumerable<int> OfType(string entity) => OfType(e => e.Is(entity));

    /// <summary>All instances of the entities that are asked for, type by type, in file order within a type.</summary>
    /// <param name="wanted">Says of an entity whether it is.</param>
    public IEnumerable<int> OfType(Func<EntityDef, bool> wanted)
    {
        for (int t = 0; t < _types.Length; t++)
        {
            if (_types[t] is not { } entity || !wanted(entity))
                continue;
            for (int k = _typeStart[t]; k < _typeStart[t + 1]; k++)
                yield return _byType[k];
        }
    }

    /// <summary>Each keyword of the file with how often it is there and its entity (null when unknown).</summary>
    public IEnumerable<(string Keyword, EntityDef? Entity, int Count, int First)> Types()
    {
        for (int t = 0; t < _types.Length; t++)
        {
            int count = _typeStart[t + 1] - _typeStart[t];
            if (count > 0)
                yield return (File.TypeNames[t], _types[t], count, _byType[_typeStart[t]]);
        }
    }

    /// <summary>The attributes of an instance.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public StepRecord Record(int index) => File.Record(index);

    /// <summary>An attribute by its name in the standard; a null value when the entity has none of that name.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
    public StepValue Get(int index, string attribute) =>
        index < 0 ? default : File.Record(index)[Entity(index)?.Position(attribute) ?? -1];

    /// <summary>The text of an attribute, null when unset.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
    public string? Text(int index, string attribute) => Get(index, attribute).Text;

    /// <summary>The position of the instance that an attribute refers to, -1 when unset or dangling.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
    public int Ref(int index, string attribute) => Target(Get(index, attribute));

    /// <summary>The positions of the instances that a list attribute refers to, dangling ones left out.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="attribute">As the standard spells it.</param>
    public int[] Refs(int index, string attribute) => Targets(Get(index, attribute));

    /// <summary>The position of the instance that a value refers to, or -1.</summary>
    /// <param name="value">Of an attribute.</param>
    public int Target(StepValue value) => File.IndexOf(value.Reference);

    /// <summary>The positions of the instances that a list refers to, nested lists flattened, dangling ones left out.</summary>
    /// <param name="list">Of an attribute.</param>
    public int[] Targets(StepValue list)
    {
        var raw = list.Kind is StepKind.Reference or StepKind.List or StepKind.Typed ? list.Raw : default;
        Span<int> few = stackalloc int[16];
        int n = 0,
            at = 0;
        for (; n < few.Length && StepReferences.Next(raw, ref at, out int id, out _); )
            if (File.IndexOf(id) is >= 0 and var target)
                few[n++] = target;
        if (n < few.Length)
            return n == 0 ? [] : few[..n].ToArray();
        var many = new List<int>(few.ToArray());
        while (StepReferences.Next(raw, ref at, out int id, out _))
            if (File.IndexOf(id) is >= 0 and var target)
                many.Add(target);
        return [.. many];
    }

    /// <summary>The GlobalId of a rooted instance as written, empty when missing.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public string GlobalId(int index) => Text(index, "GlobalId") ?? "";

    /// <summary>The Name of an instance, empty when unset.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public string Name(int index) => Text(index, "Name") ?? "";
}
