using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Fields to the bits of one DWG object, or of the header.</summary>
internal sealed class DwgWriteFields : DwgFields
{
    private readonly CadText _text;

    public DwgWriteFields(CadVersion version, CadText text)
    {
        Version = version;
        _text = text;
        Strings = Since(CadVersion.AC1021) ? new BitWriter() : Data;
        References = new BitWriter();
    }

    /// <summary>The data.</summary>
    public BitWriter Data { get; } = new();

    /// <summary>The text: among the data up to 2004.</summary>
    public BitWriter Strings { get; }

    /// <summary>The handles.</summary>
    public BitWriter References { get; private set; }

    /// <inheritdoc/>
    public override bool Reading => false;

    /// <summary>In the header up to 2004 handles are among the data.</summary>
    public void HandlesAmongData() => References = Data;

    /// <summary>Begins an object.</summary>
    public void Clear()
    {
        Data.Clear();
        Strings.Clear();
        References.Clear();
    }

    /// <summary>Puts the streams together; answers the bit where the handles begin.</summary>
    public long Close()
    {
        if (Since(CadVersion.AC1021))
        {
            long size = Strings.Position;
            if (size > 0)
            {
                Data.Append(Strings);
                if (size > 0x7FFF)
                {
                    Data.RawShort((int)(size >> 15));
                    Data.RawShort((int)(size & 0x7FFF) | 0x8000);
                }
                else
                    Data.RawShort((int)size);
            }

            Data.Bit(size > 0);
        }

        long handles = Data.Position;
        if (!ReferenceEquals(References, Data))
            Data.Append(References);
        Data.Align();
        return handles;
    }

    /// <inheritdoc/>
    public override void Subclass(string name) { }

    /// <inheritdoc/>
    public override int TwoBits(int value)
    {
        Data.Bits((uint)value, 2);
        return value;
    }

    /// <inheritdoc/>
    public override int RawByte(int value)
    {
        Data.Byte(value);
        return value;
    }

    /// <inheritdoc/>
    public override int RawShort(int value)
    {
        Data.RawShort(value);
        return value;
    }

    /// <inheritdoc/>
    public override int RawLong(int value)
    {
        Data.RawLong(value);
        return value;
    }

    /// <inheritdoc/>
    public override long LongLong(long value)
    {
        Data.LongLong(value);
        return value;
    }

    /// <inheritdoc/>
    public override double RawDouble(double value)
    {
        Data.RawDouble(value);
        return value;
    }

    /// <inheritdoc/>
    public override double Default(double value, double other)
    {
        Data.Default(value, other);
        return value;
    }

    /// <inheritdoc/>
    public override byte[] Bytes(byte[] value, int count)
    {
        Data.Bytes(value.AsSpan(0, count));
        return value;
    }

    /// <inheritdoc/>
    public override int Count(int count)
    {
        Data.Long(count);
        return count;
    }

    /// <inheritdoc/>
    public override int Bounded(int count) => count;

    /// <inheritdoc/>
    public override double Double(int code, double value, double omit = double.NaN)
    {
        Data.Double(value);
        return value;
    }

    /// <inheritdoc/>
    public override double Angle(int code, double value, double omit = double.NaN) => Double(code, value);

    /// <inheritdoc/>
    public override int Short(int code, int value, int omit = int.MinValue)
    {
        Data.Short(value);
        return value;
    }

    /// <inheritdoc/>
    public override int Long(int code, int value, int omit = int.MinValue)
    {
        Data.Long(value);
        return value;
    }

    /// <inheritdoc/>
    public override int Byte(int code, int value, int omit = int.MinValue) => RawByte(value);

    /// <inheritdoc/>
    public override bool Bit(int code, bool value, bool? omit = null)
    {
        Data.Bit(value);
        return value;
    }

    /// <inheritdoc/>
    public override string Text(int code, string value, string? omit = null)
    {
        if (Since(CadVersion.AC1021))
        {
            Strings.Short(value.Length);
            Strings.Bytes(Encoding.Unicode.GetBytes(value));
            return value;
        }

        byte[] bytes = _text.Encode(value);
        Strings.Short(bytes.Length);
        Strings.Bytes(bytes);
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Point(int code, Vec3 value)
    {
        Data.Double(value.X);
        Data.Double(value.Y);
        Data.Double(value.Z);
        return value;
    }

    /// <inheritdoc/>
    public override Vec2 Flat(int code, Vec2 value)
    {
        Data.RawDouble(value.X);
        Data.RawDouble(value.Y);
        return value;
    }

    /// <inheritdoc/>
    public override Vec3 Normal(Vec3 value)
    {
        if (!Since(CadVersion.AC1015))
            return Point(210, value);
        Data.Bit(value == Vec3.AxisZ);
        return value == Vec3.AxisZ ? value : Point(210, value);
    }

    /// <inheritdoc/>
    public override double Thickness(double value)
    {
        if (!Since(CadVersion.AC1015))
            return Double(39, value);
        Data.Bit(value == 0);
        return value == 0 ? value : Double(39, value);
    }

    /// <inheritdoc/>
    public override Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer)
    {
        References.Handle(kind, value);
        return value;
    }

    /// <inheritdoc/>
    public override Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer) =>
        Reference(code, value, kind);

    /// <inheritdoc/>
    public override CadColour Colour(int code, CadColour value)
    {
        if (!Since(CadVersion.AC1018))
        {
            Data.Short(value.Index);
            return value;
        }

        Data.Short(0);
        Data.Long(unchecked((int)value.Packed()));
        string? name = value.Name is { } n && value.Rgb is not null ? n : null;
        int at = name?.IndexOf('$', StringComparison.Ordinal) ?? -1;
        Data.Byte(
            name is null ? 0
            : at >= 0 ? 3
            : 1
        );
        if (name is null)
            return value;
        Text(0, name[(at + 1)..]);
        if (at >= 0)
            Text(0, name[..at]);
        return value;
    }

    /// <inheritdoc/>
    public override void Items<T>(List<T> list, int count, int startCode, Func<T, T> item)
    {
        for (int i = 0; i < count; i++)
            item(i < list.Count ? list[i] : default!);
    }

    /// <inheritdoc/>
    public override void Groups(List<CadGroup> groups)
    {
        var bytes = DwgGroups.Write(groups, Version, _text);
        Data.Long(bytes.Length);
        Data.Bytes(bytes);
    }
}
