using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Fields from the bits of one DWG object, or of the header.</summary>
internal sealed class DwgReadFields : DwgFields
{
    private readonly CadText _text;

    public DwgReadFields(byte[] bytes, CadVersion version, CadText text)
    {
        Version = version;
        _text = text;
        Data = new BitReader(bytes);
        Strings = Since(CadVersion.AC1021) ? new BitReader(bytes) : Data;
        References = new BitReader(bytes);
    }

    /// <summary>The data.</summary>
    public BitReader Data { get; }

    /// <summary>The text: among the data up to 2004.</summary>
    public BitReader Strings { get; }

    /// <summary>The handles.</summary>
    public BitReader References { get; private set; }

    /// <summary>The handle that others may be given relative to.</summary>
    public Handle Own { get; set; }

    /// <inheritdoc/>
    public override bool Reading => true;

    /// <inheritdoc/>
    public override bool IsAtEnd => Data.Left == 0 && (ReferenceEquals(Strings, Data) || Strings.Left == 0);

    /// <summary>Sets the streams of an object whose data begin at a bit, whose handles begin at another, and which ends at a
    /// third.</summary>
    public void Open(long start, long handles, long end)
    {
        (Data.Position, Data.End) = (start, end);
        if (handles > end || handles < start)
            throw new CadFormatException("its handles are outside it");
        (References.Position, References.End) = (handles, end);
        if (Since(CadVersion.AC1021))
            OpenStrings(start, handles);
        else
            Data.End = handles;
    }

    /// <summary>In the header up to 2004 handles are among the data.</summary>
    public void HandlesAmongData() => References = Data;

    /// <summary>Up to release 14 an object tells within its data where its handles begin.</summary>
    public void HandlesAt(long handles)
    {
        if (handles > References.End || handles < Data.Position)
            throw new CadFormatException("its handles are outside it");
        References.Position = Data.End = handles;
    }

    // The last bit before the handles tells whether there is text; its length is before it, in bits.
    private void OpenStrings(long start, long handles)
    {
        long at = handles - 1;
        (Strings.Position, Strings.End) = (at, handles);
        if (at < start || !Strings.Bit())
        {
            Strings.Position = Strings.End = at < start ? start : at;
            Data.End = Strings.End;
            return;
        }

        at -= 16;
        Strings.Position = Math.Max(start, at);
        long size = Strings.RawShort();
        if ((size & 0x8000) != 0)
        {
            at -= 16;
            Strings.Position = Math.Max(start, at);
            size = (size & 0x7FFF) | ((long)Strings.RawShort() << 15);
        }

        if (at - size < start)
            throw new CadFormatException("its text is outside it");
        (Strings.Position, Strings.End) = (at - size, at);
        Data.End = at - size;
    }

    /// <inheritdoc/>
    public override void Subclass(string name) { }

    /// <inheritdoc/>
    public override int TwoBits(int value) => (int)Data.Bits(2);

    /// <inheritdoc/>
    public override int RawByte(int value) => Data.Byte();

    /// <inheritdoc/>
    public override int RawShort(int value) => Data.RawShort();

    /// <inheritdoc/>
    public override int RawLong(int value) => Data.RawLong();

    /// <inheritdoc/>
    public override long LongLong(long value) => Data.LongLong();

    /// <inheritdoc/>
    public override double RawDouble(double value) => Data.RawDouble();

    /// <inheritdoc/>
    public override double Default(double value, double other) => Data.Default(other);

    /// <inheritdoc/>
    public override byte[] Bytes(byte[] value, int count) => Data.Bytes(count);

    /// <inheritdoc/>
    public override int Count(int count) => Bounded(Data.Long());

    /// <inheritdoc/>
    public override int Bounded(int count) =>
        count >= 0 && count <= Math.Max(Data.Left, References.Left)
            ? count
            : throw new CadFormatException($"{count} items where {Data.Left} bits are left");

    /// <inheritdoc/>
    public override double Double(int code, double value, double omit = double.NaN) => Data.Double();

    /// <inheritdoc/>
    public override double Angle(int code, double value, double omit = double.NaN) => Data.Double();

    /// <inheritdoc/>
    public override int Short(int code, int value, int omit = int.MinValue) => Data.Short();

    /// <inheritdoc/>
    public override int Long(int code, int value, int omit = int.MinValue) => Data.Long();

    /// <inheritdoc/>
    public override int Byte(int code, int value, int omit = int.MinValue) => Data.Byte();

    /// <inheritdoc/>
    public override bool Bit(int code, bool value, bool? omit = null) => Data.Bit();

    /// <inheritdoc/>
    public override string Text(int code, string value, string? omit = null)
    {
        int length = Strings.Short();
        if (length == 0)
            return "";
        if (length < 0)
            length &= 0xFFFF;
        if (!Since(CadVersion.AC1021))
            return _text.Decode(Strings.Bytes(length).AsSpan().TrimEnd((byte)0));
        if (length > LongestShort)
            return Encoding.Unicode.GetString(Strings.Bytes(2 * length)).TrimEnd('\0');
        Span<byte> bytes = stackalloc byte[2 * length];
        Strings.Bytes(bytes);
        while (bytes.Length >= 2 && bytes[^1] == 0 && bytes[^2] == 0)
            bytes = bytes[..^2];
        return Encoding.Unicode.GetString(bytes);
    }

    private const int LongestShort = 256;

    /// <inheritdoc/>
    public override Vec3 Point(int code, Vec3 value) => new(Data.Double(), Data.Double(), Data.Double());

    /// <inheritdoc/>
    public override Vec2 Flat(int code, Vec2 value) => new(Data.RawDouble(), Data.RawDouble());

    /// <inheritdoc/>
    public override Vec3 Normal(Vec3 value) =>
        Since(CadVersion.AC1015) && Data.Bit() ? Vec3.AxisZ
        : Point(210, value) is var n && n.Length > 1e-12 ? n
        : Vec3.AxisZ;

    /// <inheritdoc/>
    public override double Thickness(double value) => Since(CadVersion.AC1015) && Data.Bit() ? 0 : Data.Double();

    /// <inheritdoc/>
    public override Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer)
    {
        var (form, number) = References.Handle();
        return new Handle(
            form switch
            {
                6 => Own.Value + 1,
                8 => Own.Value - 1,
                10 => Own.Value + number,
                12 => Own.Value - number,
                _ => number,
            }
        );
    }

    /// <inheritdoc/>
    public override Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer) =>
        Reference(code, value, kind);

    /// <inheritdoc/>
    public override CadColour Colour(int code, CadColour value)
    {
        int index = Data.Short();
        if (!Since(CadVersion.AC1018))
            return new CadColour((short)index);
        uint rgb = unchecked((uint)Data.Long());
        int names = Data.Byte();
        string name = (names & 1) != 0 ? Text(0, "") : "",
            book = (names & 2) != 0 ? Text(0, "") : "";
        return CadColour.FromPacked(rgb, name.Length > 0 ? book + "$" + name : null);
    }

    /// <inheritdoc/>
    public override void Items<T>(List<T> list, int count, int startCode, Func<T, T> item)
    {
        list.EnsureCapacity(Math.Min(Bounded(count), MostAtOnce));
        for (int i = 0; i < count; i++)
            list.Add(item(default!));
    }

    /// <inheritdoc/>
    public override void Groups(List<CadGroup> groups)
    {
        int size = Data.Long();
        if (size < 0 || size > Data.Left / 8)
            throw new CadFormatException("a record of groups is longer than its object");
        DwgGroups.Read(Data, groups, size, Version, _text);
    }
}
