using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Fields to the groups of one DXF object.</summary>
internal sealed class DxfWriteFields : Fields
{
    private readonly DxfOutput _out;
    private readonly Drawing _drawing;
    private List<CadGroup> _unread = [];
    private readonly HashSet<int> _woven = [];
    private int _next;
    private string? _subclass;
    private IReadOnlyList<CadGroup> _embedded = [];

    public DxfWriteFields(DxfOutput output, Drawing drawing, CadVersion version)
    {
        (_out, _drawing) = (output, drawing);
        Version = version;
    }

    /// <inheritdoc/>
    public override bool Reading => false;

    private bool HasMarkers => Version >= CadVersion.AC1012;

    /// <summary>Begins an object; groups it brought that no field has are woven in behind the fields of their subclass.</summary>
    public void Begin(CadObject item)
    {
        _unread = item.HasExtras ? item.Extras.Unread : [];
        (_next, _subclass) = (0, null);
        _embedded = [];
        _woven.Clear();
    }

    /// <summary>Writes the groups that are left.</summary>
    public void End()
    {
        Unread();
        for (; _next < _unread.Count; _next++)
        {
            if (_unread[_next].Code == 100 && !HasMarkers)
                continue;
            _out.Write(_unread[_next]);
        }

        if (_embedded.Count == 0 || !Since(CadVersion.AC1032))
            return;
        _out.Write(101, "Embedded Object");
        foreach (var group in _embedded)
            _out.Write(group);
    }

    /// <inheritdoc/>
    public override IReadOnlyList<CadGroup> Embedded(IReadOnlyList<CadGroup> groups) => _embedded = groups;

    /// <inheritdoc/>
    public override void Subclass(string name)
    {
        Unread();
        _subclass = name;
        if (HasMarkers)
            _out.Write(100, name);
    }

    /// <inheritdoc/>
    public override double Double(int code, double value, double omit = double.NaN)
    {
        if (value != omit)
            _out.Write(code, value);
        return value;
    }

    /// <inheritdoc/>
    public override double Angle(int code, double value, double omit = double.NaN)
    {
        if (value != omit)
            _out.Write(code, Degrees(value));
        return value;
    }

    /// <inheritdoc/>
    public override int Short(int code, int value, int omit = int.MinValue) => Long(code, value, omit);

    /// <inheritdoc/>
    public override int Long(int code, int value, int omit = int.MinValue)
    {
        if (value != omit)
            _out.Write(code, (long)value);
        return value;
    }

    /// <inheritdoc/>
    public override int Byte(int code, int value, int omit = int.MinValue) => Long(code, value, omit);

    /// <inheritdoc/>
    public override bool Bit(int code, bool value, bool? omit = null)
    {
        if (value != omit)
            _out.Write(code, value ? 1L : 0);
        return value;
    }

    /// <inheritdoc/>
    public override string Text(int code, string value, string? omit = null)
    {
        if (value != omit)
            _out.Write(code, value);
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Point(int code, Vec3 value)
    {
        _out.Write(code, value.X);
        _out.Write(code + 10, value.Y);
        _out.Write(code + 20, value.Z);
        return value;
    }

    /// <inheritdoc/>
    public override Vec2 Flat(int code, Vec2 value)
    {
        _out.Write(code, value.X);
        _out.Write(code + 10, value.Y);
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Normal(Vec3 value) => value == Vec3.AxisZ ? value : Point(210, value);

    /// <inheritdoc/>
    public override double Thickness(double value) => Double(39, value, 0);

    /// <inheritdoc/>
    public override Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer)
    {
        if (!value.IsNull)
            _out.Write(code, value);
        return value;
    }

    /// <inheritdoc/>
    public override Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer)
    {
        if (_drawing.Table(table).Of(value) is { } record)
            _out.Write(code, record.Name);
        return value;
    }

    /// <inheritdoc/>
    public override CadColour Colour(int code, CadColour value)
    {
        _out.Write(code, (long)value.Index);
        if (code is not (62 or 63) || value.Rgb is not { } rgb || !Since(CadVersion.AC1018))
            return value;
        _out.Write(code == 62 ? 420 : 421, (long)rgb);
        if (value.Name is { } name)
            _out.Write(code == 62 ? 430 : 431, name);
        return value;
    }

    /// <inheritdoc/>
    public override void Items<T>(List<T> list, int count, int startCode, Func<T, T> item)
    {
        foreach (var one in list)
            item(one);
    }

    /// <inheritdoc/>
    public override void Fixed(int code, object value)
    {
        string? subclass = null;
        for (int i = 0; i < _unread.Count; i++)
        {
            if (_unread[i].Code == 100)
                subclass = _unread[i].Text;
            if (_unread[i].Code != code || subclass != _subclass || !_woven.Add(i))
                continue;
            _out.Write(_unread[i]);
            return;
        }

        _out.Write(new CadGroup(code, value));
    }

    /// <inheritdoc/>
    public override void Groups(List<CadGroup> groups)
    {
        foreach (var group in groups)
            _out.Write(group);
    }

    /// <summary>Radians in degrees, such that degrees read as radians come back the same wherever they can.</summary>
    public static double Degrees(double radians)
    {
        double degrees = radians * (180 / Math.PI),
            round = Math.Round(degrees, 12);
        return round * (Math.PI / 180) == radians ? round : degrees;
    }

    // What was left of the subclass that ends here.
    private void Unread()
    {
        if (_next >= _unread.Count)
            return;
        int at = _next;
        // What came before the first marker belongs to what all entities share, and goes there again.
        if (_unread[at].Code == 100)
        {
            if (_unread[at].Text != _subclass)
                return;
            at++;
        }

        for (; at < _unread.Count && _unread[at].Code != 100; at++)
            if (!_woven.Contains(at))
                _out.Write(_unread[at]);
        _next = at;
    }
}
