using System.Buffers.Binary;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>ACIS data in the binary form of version 218, which drawings have from 2013 on.</summary>
internal sealed class SabOutput : AcisOutput
{
    // Bodies and the record that names the modeller's release; a mark whose meaning is not known, which others write so.
    private const int Version = 21800,
        Entities = 2,
        Flags = 12;
    private const double Resolution = 9.9999999999999995e-7,
        NormalResolution = 1e-10;
    private readonly MemoryStream _bytes = new();

    public SabOutput()
    {
        _bytes.Write(SabReader.Signatures[0]);
        foreach (int number in (ReadOnlySpan<int>)[Version, 0, Entities, Flags])
            Raw(number);
        foreach (string word in (string[])["Steady Lintel", "ACIS 218.00 NT", "Thu Jan  1 00:00:00 1970"])
            Word(word);
        foreach (double number in (ReadOnlySpan<double>)[1, Resolution, NormalResolution])
            Number(number);
        Name("asmheader");
        Link(-1);
        Integer(-1);
        Word("208.0.4.7009");
        End();
    }

    /// <inheritdoc/>
    public override int First => 1;

    /// <summary>The bytes, with their end.</summary>
    public byte[] Bytes()
    {
        _bytes.Write(SabReader.Ends[1]);
        return _bytes.ToArray();
    }

    /// <inheritdoc/>
    public override void Begin(string kind)
    {
        Name(kind);
        Link(-1);
        Integer(-1);
        Link(-1);
    }

    /// <inheritdoc/>
    public override void Link(int record)
    {
        Tag(SabTag.Link);
        Raw(record);
    }

    /// <inheritdoc/>
    public override void Number(double value)
    {
        Tag(SabTag.Double);
        Raw(value);
    }

    /// <inheritdoc/>
    public override void Position(Vec3 value) => Three(SabTag.Position, value);

    /// <inheritdoc/>
    public override void Direction(Vec3 value) => Three(SabTag.Direction, value);

    /// <inheritdoc/>
    public override void Either(bool value, string whenTrue, string whenFalse) =>
        Tag(value ? SabTag.True : SabTag.False);

    /// <inheritdoc/>
    public override void Word(string word) => Text(SabTag.Text, word);

    /// <inheritdoc/>
    public override void OnlyBinary(int value) => Integer(value);

    /// <inheritdoc/>
    public override void End() => Tag(SabTag.Record);

    private void Name(string kind)
    {
        string[] parts = kind.Split('-');
        for (int i = 0; i < parts.Length; i++)
            Text(i + 1 < parts.Length ? SabTag.NamePart : SabTag.Name, parts[i]);
    }

    private void Integer(int value)
    {
        Tag(SabTag.Integer);
        Raw(value);
    }

    private void Three(SabTag tag, Vec3 value)
    {
        Tag(tag);
        foreach (double number in (ReadOnlySpan<double>)[value.X, value.Y, value.Z])
            Raw(number);
    }

    private void Text(SabTag tag, string word)
    {
        Tag(tag);
        _bytes.WriteByte((byte)word.Length);
        _bytes.Write(Encoding.ASCII.GetBytes(word));
    }

    private void Tag(SabTag tag) => _bytes.WriteByte((byte)tag);

    private void Raw(int value)
    {
        Span<byte> bytes = stackalloc byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(bytes, value);
        _bytes.Write(bytes);
    }

    private void Raw(double value)
    {
        Span<byte> bytes = stackalloc byte[8];
        BinaryPrimitives.WriteDoubleLittleEndian(bytes, value);
        _bytes.Write(bytes);
    }
}
