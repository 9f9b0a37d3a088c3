using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Fields from the groups of one DXF object.</summary>
internal sealed class DxfReadFields : Fields
{
    private readonly DxfInput _in;
    private readonly Drawing _drawing;
    private readonly SymbolRecord?[] _last = new SymbolRecord?[9];
    private int _start,
        _end,
        _cursor;

    public DxfReadFields(DxfInput input, Drawing drawing)
    {
        (_in, _drawing) = (input, drawing);
        Version = drawing.Version;
    }

    /// <inheritdoc/>
    public override bool Reading => true;

    /// <summary>Records made for names that no table had when they were used.</summary>
    public HashSet<SymbolRecord> Made { get; } = [];

    /// <summary>Begins with the object the input holds.</summary>
    public void Begin() => (_start, _end, _cursor) = (0, _in.Count, 0);

    /// <inheritdoc/>
    public override void Subclass(string name)
    {
        int marker = -1;
        for (int i = _end < _in.Count ? _end : 0; i < _in.Count; i++)
        {
            if (_in.Codes[i] != 100 || !Is(i, name))
                continue;
            marker = i;
            break;
        }

        // Release 12 and careless writers have no markers: then every group may be meant.
        if (marker < 0)
        {
            if (_start == 0 && _end == _in.Count)
                _cursor = 0;
            return;
        }

        (_start, _cursor, _end) = (marker + 1, marker + 1, marker + 1);
        while (_end < _in.Count && _in.Code(_end) is not (100 or >= 1000))
            _end++;
    }

    /// <inheritdoc/>
    public override double Double(int code, double value, double omit = double.NaN) =>
        Find(code) is >= 0 and var i ? _in.Double(i) : value;

    /// <inheritdoc/>
    public override double Angle(int code, double value, double omit = double.NaN) =>
        Find(code) is >= 0 and var i ? _in.Double(i) * (Math.PI / 180) : value;

    /// <inheritdoc/>
    public override int Short(int code, int value, int omit = int.MinValue) => Long(code, value, omit);

    /// <inheritdoc/>
    public override int Long(int code, int value, int omit = int.MinValue) =>
        Find(code) is >= 0 and var i ? unchecked((int)_in.Long(i)) : value;

    /// <inheritdoc/>
    public override int Byte(int code, int value, int omit = int.MinValue) => Long(code, value, omit);

    /// <inheritdoc/>
    public override bool Bit(int code, bool value, bool? omit = null) =>
        Find(code) is >= 0 and var i ? _in.Long(i) != 0 : value;

    /// <inheritdoc/>
    public override string Text(int code, string value, string? omit = null) =>
        Find(code) is >= 0 and var i ? _in.String(i) : value;

    /// <inheritdoc/>
    public override Vec3 Point(int code, Vec3 value)
    {
        int i = Find(code);
        if (i < 0)
            return value;
        double x = _in.Double(i),
            y = Next(code + 10),
            z = Next(code + 20);
        return new Vec3(x, y, z);
    }

    /// <inheritdoc/>
    public override Vec2 Flat(int code, Vec2 value)
    {
        int i = Find(code);
        return i < 0 ? value : new Vec2(_in.Double(i), Next(code + 10));
    }

    /// <inheritdoc/>
    public override Vec3 Normal(Vec3 value) => Point(210, value) is var n && n.Length > 1e-12 ? n : Vec3.AxisZ;

    /// <inheritdoc/>
    public override double Thickness(double value) => Double(39, value);

    /// <inheritdoc/>
    public override Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer) =>
        Find(code) is >= 0 and var i ? _in.Handle(i) : value;

    /// <inheritdoc/>
    public override Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer) =>
        Find(code) is >= 0 and var i ? Symbol(i, table) : value;

    /// <inheritdoc/>
    public override CadColour Colour(int code, CadColour value)
    {
        int i = Find(code);
        if (i >= 0)
            value = value with { Index = (short)Math.Clamp(_in.Long(i), -257, 257) };
        if (code is not (62 or 63))
            return value;
        int rgb = Find(code == 62 ? 420 : 421),
            name = rgb < 0 ? -1 : Find(code == 62 ? 430 : 431);
        return rgb < 0
            ? value
            : value with
            {
                Rgb = (int)_in.Long(rgb) & 0xFFFFFF,
                Name = name < 0 ? null : _in.String(name),
            };
    }

    /// <inheritdoc/>
    public override void Items<T>(List<T> list, int count, int startCode, Func<T, T> item)
    {
        int end = _end,
            start = _start;
        int at = NextStart(startCode, _cursor, end);
        // Fields in front of the first item were looked for by code, perhaps behind it.
        if (at < 0)
            at = NextStart(startCode, start, end);
        // A count tells items from fields of the same code behind them; lists without one go on to the end.
        int most = list.Count == 0 && count > 0 ? count : int.MaxValue;
        int last = at;
        while (at >= 0 && most-- > 0)
        {
            int next = NextStart(startCode, at + 1, end);
            int stop = next < 0 ? end : next;
            (_start, _cursor, _end) = (at, at, stop);
            list.Add(item(default!));
            // What follows the last item is looked for from where that one ended.
            last = _cursor;
            at = next < 0 ? -1 : NextStart(startCode, next, end);
        }

        (_start, _end) = (start, end);
        if (last >= 0)
            _cursor = Math.Min(last, end);
    }

    /// <inheritdoc/>
    public override IReadOnlyList<CadGroup> Embedded(IReadOnlyList<CadGroup> groups) => _in.Embedded;

    /// <inheritdoc/>
    public override void Take(int code, List<int> list, long count)
    {
        while (count-- > 0 && _cursor < _end && _in.Codes[_cursor] == code)
        {
            list.Add((int)_in.Long(_cursor));
            _in.Codes[_cursor] = (short)~_in.Codes[_cursor];
            _cursor++;
        }
    }

    /// <inheritdoc/>
    public override void Groups(List<CadGroup> groups)
    {
        for (int i = _cursor; i < _end; i++)
        {
            if (_in.Codes[i] < 0)
                continue;
            groups.Add(new CadGroup(_in.Codes[i], _in.Value(i)));
            _in.Codes[i] = (short)~_in.Codes[i];
        }
    }

    /// <summary>The record a group names; an unknown name makes a record, with a finding.</summary>
    public Handle Symbol(int index, SymbolKind kind)
    {
        string name = _in.String(index);
        if (name.Length == 0)
            return default;
        if (kind == SymbolKind.LineType && name.Equals("BYLAYER", StringComparison.OrdinalIgnoreCase))
            return default;
        if (_last[(int)kind] is { } last && ReferenceEquals(last.Name, name))
            return last.Handle;
        var table = _drawing.Table(kind);
        if (table.Named(name) is not { } record)
        {
            record = table.Make();
            (record.Name, record.Handle, record.Owner) = (name, _drawing.NextHandle(), table.Handle);
            table.Put(record);
            Made.Add(record);
            bool usual = kind == SymbolKind.Block || _drawing.Version < CadVersion.AC1012;
            if (!usual && !(kind == SymbolKind.LineType && name.Equals("BYBLOCK", StringComparison.OrdinalIgnoreCase)))
                _drawing.Findings.Add(
                    new CadFinding(
                        "CAD-RECORD-MISSING",
                        _in.Place(index),
                        $"The {record.Type} table has no '{name}', which is used; one was added."
                    )
                );
        }

        _last[(int)kind] = record;
        return record.Handle;
    }

    private double Next(int code)
    {
        if (_cursor < _end && _in.Codes[_cursor] == code)
        {
            _in.Codes[_cursor] = (short)~code;
            return _in.Double(_cursor++);
        }

        int i = Find(code);
        return i < 0 ? 0 : _in.Double(i);
    }

    private int NextStart(int code, int from, int end)
    {
        for (int i = from; i < end; i++)
            if (_in.Codes[i] == code)
                return i;
        return -1;
    }

    private int Find(int code)
    {
        short[] codes = _in.Codes;
        for (int i = _cursor; i < _end; i++)
        {
            if (codes[i] != code)
                continue;
            codes[i] = (short)~code;
            _cursor = i + 1;
            return i;
        }

        for (int i = _start; i < _cursor && i < _end; i++)
        {
            if (codes[i] != code)
                continue;
            codes[i] = (short)~code;
            _cursor = i + 1;
            return i;
        }

        return -1;
    }

    private bool Is(int index, string name)
    {
        var bytes = _in.Bytes(index);
        return bytes.Length == name.Length && System.Text.Ascii.EqualsIgnoreCase(bytes, name);
    }
}
