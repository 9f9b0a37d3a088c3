using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Collects the fields of an object as groups: what DXF of the newest version would say of it.</summary>
/// <remarks>The statement of fields that reads and writes a kind also says which values it has, so that two drawings can be held against
/// each other value by value.</remarks>
internal sealed class FactFields : Fields
{
    private readonly Drawing _drawing;
    private readonly List<CadGroup> _facts;

    public FactFields(Drawing drawing, List<CadGroup> facts)
    {
        (_drawing, _facts) = (drawing, facts);
        Version = CadVersion.AC1032;
    }

    /// <inheritdoc/>
    public override bool Reading => false;

    /// <inheritdoc/>
    public override void Subclass(string name)
    {
        // Which subclass a field is under is the format's affair.
    }

    /// <inheritdoc/>
    public override double Double(int code, double value, double omit = double.NaN) => Add(code, value);

    /// <inheritdoc/>
    public override double Angle(int code, double value, double omit = double.NaN) => Add(code, value);

    /// <inheritdoc/>
    public override int Short(int code, int value, int omit = int.MinValue) => Long(code, value);

    /// <inheritdoc/>
    public override int Long(int code, int value, int omit = int.MinValue)
    {
        _facts.Add(new CadGroup(code, (long)value));
        return value;
    }

    /// <inheritdoc/>
    public override int Byte(int code, int value, int omit = int.MinValue) => Long(code, value);

    /// <inheritdoc/>
    public override bool Bit(int code, bool value, bool? omit = null)
    {
        _facts.Add(new CadGroup(code, value ? 1L : 0L));
        return value;
    }

    /// <inheritdoc/>
    public override string Text(int code, string value, string? omit = null)
    {
        _facts.Add(new CadGroup(code, value));
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Point(int code, Vec3 value)
    {
        Add(code, value.X);
        Add(code + 10, value.Y);
        Add(code + 20, value.Z);
        return value;
    }

    /// <inheritdoc/>
    public override Vec2 Flat(int code, Vec2 value)
    {
        Add(code, value.X);
        Add(code + 10, value.Y);
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Normal(Vec3 value) => Point(210, value);

    /// <inheritdoc/>
    public override double Thickness(double value) => Add(39, value);

    /// <inheritdoc/>
    public override Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer)
    {
        if (!value.IsNull)
            _facts.Add(new CadGroup(code, value));
        return value;
    }

    /// <inheritdoc/>
    public override Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer)
    {
        if (_drawing.Table(table).Of(value) is { } record)
            _facts.Add(new CadGroup(code, record.Name));
        return value;
    }

    /// <inheritdoc/>
    public override CadColour Colour(int code, CadColour value)
    {
        _facts.Add(new CadGroup(code, (long)value.Index));
        if (value.Rgb is { } rgb)
            _facts.Add(new CadGroup(CadFacts.TrueColour, (long)rgb));
        if (value.Name is { } name)
            _facts.Add(new CadGroup(CadFacts.ColourName, name));
        return value;
    }

    /// <inheritdoc/>
    public override void Items<T>(List<T> list, int count, int startCode, Func<T, T> item)
    {
        foreach (var one in list)
            item(one);
    }

    /// <summary>Groups that are written with a value of their own unless the object brought another.</summary>
    public List<CadGroup> FixedGroups { get; } = [];

    /// <inheritdoc/>
    public override void Fixed(int code, object value) =>
        FixedGroups.Add(new CadGroup(code, value is int i ? (long)i : value));

    /// <inheritdoc/>
    public override IReadOnlyList<CadGroup> Embedded(IReadOnlyList<CadGroup> groups)
    {
        foreach (var group in groups)
            _facts.Add(new CadGroup(CadFacts.EmbeddedCode, FormattableString.Invariant($"{group.Code} {group.Value}")));
        return groups;
    }

    /// <inheritdoc/>
    public override void Groups(List<CadGroup> groups) => _facts.AddRange(groups);

    private double Add(int code, double value)
    {
        _facts.Add(new CadGroup(code, value));
        return value;
    }
}
