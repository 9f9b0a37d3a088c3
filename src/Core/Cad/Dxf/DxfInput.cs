using System.Buffers.Binary;
using System.Buffers.Text;
using System.Globalization;

namespace SteadyLintel.Cad;

/// <summary>The groups of a DXF file, ASCII or binary, one object at a time, in columns: code, where the value lies, how long it
/// is.</summary>
internal sealed class DxfInput
{
    private static ReadOnlySpan<byte> Sentinel => "AutoCAD Binary DXF\r\n\u001a\0"u8;

    private static ReadOnlySpan<byte> Blanks => " \t"u8;

    private const int EmbeddedCode = 101;
    private readonly byte[] _bytes;
    private readonly bool _binary,
        _byteCodes;
    private int _at,
        _line = 1;
    private int _nextCode,
        _nextStart,
        _nextLength,
        _nextLine;
    private bool _has;
    private short[] _codes = new short[64];
    private int[] _starts = new int[64],
        _lengths = new int[64];

    public DxfInput(byte[] bytes)
    {
        _bytes = bytes;
        _binary = bytes.AsSpan().StartsWith(Sentinel);
        if (_binary)
        {
            _at = Sentinel.Length;
            _byteCodes = bytes.Length > _at + 1 && bytes[_at] == 0 && bytes[_at + 1] != 0;
        }
        else if (bytes is [0xEF, 0xBB, 0xBF, ..])
            _at = 3;

        Text = CadText.For(CadVersion.AC1009, "ANSI_1252");
        _has = Advance();
    }

    /// <summary>What bytes mean.</summary>
    public CadText Text { get; set; }

    /// <summary>Whether the file is binary.</summary>
    public bool IsBinary => _binary;

    /// <summary>How many groups the object has.</summary>
    public int Count { get; private set; }

    /// <summary>The codes of the object; one that was read has its bits turned over.</summary>
    public short[] Codes => _codes;

    /// <summary>The text of the group that began the object: its kind.</summary>
    public string Kind { get; private set; } = "";

    /// <summary>The line the object begins in; the byte in binary files.</summary>
    public int Line { get; private set; }

    /// <summary>The groups of an object that the entity embeds, from 2018 on (101): paragraphs and columns of texts. None for
    /// most.</summary>
    public IReadOnlyList<CadGroup> Embedded { get; private set; } = [];

    /// <summary>Whether the file ended without EOF.</summary>
    public bool Torn { get; private set; }

    /// <summary>Reads the groups from one of code 0 up to the next; false at the end.</summary>
    public bool ReadObject()
    {
        while (_has && _nextCode != 0)
            _has = Advance();
        if (!_has)
            return false;
        Kind = Text.Decode(_bytes.AsSpan(_nextStart, _nextLength));
        Line = _nextLine;
        Count = 0;
        int embedded = -1;
        Embedded = [];
        _has = Advance();
        while (_has && _nextCode != 0)
        {
            if (Count == _codes.Length)
                Grow();
            if (_nextCode == EmbeddedCode && embedded < 0)
                embedded = Count;
            (_codes[Count], _starts[Count], _lengths[Count]) = ((short)_nextCode, _nextStart, _nextLength);
            Count++;
            _has = Advance();
        }

        if (embedded >= 0 && Bytes(embedded).SequenceEqual("Embedded Object"u8))
            TakeEmbedded(embedded);
        return true;
    }

    // Its groups have the codes of the entity's own; they end where extended data begin.
    private void TakeEmbedded(int at)
    {
        int end = at + 1;
        while (end < Count && _codes[end] != 1001)
            end++;
        var groups = new List<CadGroup>();
        for (int i = at + 1; i < end; i++)
            groups.Add(new CadGroup(_codes[i], Value(i)));
        Embedded = groups;
        int rest = Count - end;
        Array.Copy(_codes, end, _codes, at, rest);
        Array.Copy(_starts, end, _starts, at, rest);
        Array.Copy(_lengths, end, _lengths, at, rest);
        Count = at + rest;
    }

    /// <summary>The place of a group, for findings.</summary>
    public string Place(int index) => _binary ? $"byte {_starts[index]}" : $"line {Line + (2 * (index + 1))}";

    /// <summary>The bytes of a value.</summary>
    public ReadOnlySpan<byte> Bytes(int index) => _bytes.AsSpan(_starts[index], _lengths[index]);

    /// <summary>A value as text.</summary>
    public string String(int index) => Text.Decode(Bytes(index));

    /// <summary>A value as a number; 0 when it is none.</summary>
    public double Double(int index)
    {
        var bytes = Bytes(index);
        if (_binary)
            return GroupCodes.Kind(Code(index)) == GroupKind.Double
                ? BinaryPrimitives.ReadDoubleLittleEndian(bytes)
                : Whole(index, bytes);
        return
            double.TryParse(bytes, NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
            && double.IsFinite(value)
            ? value
            : 0;
    }

    /// <summary>A value as a whole number; 0 when it is none.</summary>
    public long Long(int index)
    {
        var bytes = Bytes(index);
        if (_binary)
            return GroupCodes.Kind(Code(index)) == GroupKind.Double
                ? (long)Math.Clamp(Double(index), int.MinValue, uint.MaxValue)
                : Whole(index, bytes);
        return Utf8Parser.TryParse(bytes, out long value, out int used) && used == bytes.Length
            ? value
            : (long)Math.Clamp(Double(index), int.MinValue, uint.MaxValue);
    }

    private long Whole(int index, ReadOnlySpan<byte> bytes) =>
        GroupCodes.Kind(Code(index)) switch
        {
            GroupKind.Bool => bytes[0],
            GroupKind.Short => BinaryPrimitives.ReadInt16LittleEndian(bytes),
            GroupKind.Int => BinaryPrimitives.ReadInt32LittleEndian(bytes),
            GroupKind.Long => BinaryPrimitives.ReadInt64LittleEndian(bytes),
            _ => 0,
        };

    /// <summary>A value as a handle; null when it is none.</summary>
    public Handle Handle(int index) =>
        Utf8Parser.TryParse(Bytes(index), out ulong value, out _, 'X') ? new Handle(value) : default;

    /// <summary>The value of a group as the kind its code announces.</summary>
    public object Value(int index) =>
        GroupCodes.Kind(Code(index)) switch
        {
            GroupKind.Double => Double(index),
            GroupKind.Short or GroupKind.Int or GroupKind.Long => Long(index),
            GroupKind.Bool => Long(index) != 0,
            GroupKind.Handle => Handle(index),
            GroupKind.Binary => _binary ? Bytes(index).ToArray() : Hex(index),
            _ => String(index),
        };

    /// <summary>The code of a group, read or not.</summary>
    public int Code(int index) => _codes[index] < 0 ? ~_codes[index] : _codes[index];

    /// <summary>The greatest handle of the file, by a pass over everything that leaves the place where it was.</summary>
    public ulong GreatestHandle()
    {
        var (at, line, code, start, length, has) = (_at, _line, _nextCode, _nextStart, _nextLength, _has);
        ulong greatest = 0;
        while (_has)
        {
            if (
                _nextCode is 5 or 105
                && Utf8Parser.TryParse(_bytes.AsSpan(_nextStart, _nextLength), out ulong value, out _, 'X')
            )
                greatest = Math.Max(greatest, value);
            _has = Advance();
        }

        (_at, _line, _nextCode, _nextStart, _nextLength, _has) = (at, line, code, start, length, has);
        Torn = false;
        return greatest;
    }

    private byte[] Hex(int index)
    {
        try
        {
            return Convert.FromHexString(String(index));
        }
        catch (FormatException)
        {
            return [];
        }
    }

    private void Grow()
    {
        Array.Resize(ref _codes, 2 * Count);
        Array.Resize(ref _starts, 2 * Count);
        Array.Resize(ref _lengths, 2 * Count);
    }

    private bool Advance()
    {
        bool more = _binary ? AdvanceBinary() : AdvanceText();
        if (more && _nextCode == 0 && _bytes.AsSpan(_nextStart, _nextLength).SequenceEqual("EOF"u8))
            return false;
        if (!more)
            Torn = true;
        return more;
    }

    private bool AdvanceText()
    {
        _nextLine = _line;
        var code = NextLine().Trim(Blanks);
        while (_at < _bytes.Length && code.Length == 0)
            code = NextLine().Trim(Blanks);
        if (_at >= _bytes.Length)
            return false;
        if (!Utf8Parser.TryParse(code, out _nextCode, out int used) || used != code.Length || (uint)_nextCode > 1100)
            throw new CadFormatException(
                $"Line {_line - 1}: '{Text.Decode(code[..Math.Min(code.Length, 40)])}' is not a group code, so this is no DXF file or it is damaged there. Ask for it again."
            );
        int from = _at;
        var value = NextLine();
        // Text keeps its blanks; everything else is easier without them. What is under 2 is a name or a piece of a text, which may
        // begin with one.
        if (_nextCode == 2)
            value = value.TrimEnd(Blanks);
        else if (GroupCodes.Kind(_nextCode) != GroupKind.Text || _nextCode is 0 or 100)
            value = value.Trim(Blanks);
        _nextStart = value.Length == 0 ? from : Offset(value);
        _nextLength = value.Length;
        return true;
    }

    private ReadOnlySpan<byte> NextLine()
    {
        var rest = _bytes.AsSpan(_at);
        int end = rest.IndexOf((byte)'\n');
        _line++;
        if (end < 0)
            _at = _bytes.Length;
        else
        {
            _at += end + 1;
            rest = rest[..end];
        }

        return rest.Length > 0 && rest[^1] == '\r' ? rest[..^1] : rest;
    }

    private int Offset(ReadOnlySpan<byte> part) =>
        (int)
            System.Runtime.CompilerServices.Unsafe.ByteOffset(
                ref _bytes[0],
                ref System.Runtime.InteropServices.MemoryMarshal.GetReference(part)
            );

    private bool AdvanceBinary()
    {
        if (!Need(_byteCodes ? 1 : 2))
            return false;
        _nextLine = _at;
        if (!_byteCodes)
            (_nextCode, _at) = (BinaryPrimitives.ReadInt16LittleEndian(_bytes.AsSpan(_at)), _at + 2);
        else if (_bytes[_at] != 255)
            _nextCode = _bytes[_at++];
        else if (!Need(3))
            return false;
        else
            (_nextCode, _at) = (BinaryPrimitives.ReadInt16LittleEndian(_bytes.AsSpan(_at + 1)), _at + 3);
        if ((uint)_nextCode > 1100)
            throw new CadFormatException(
                $"Byte {_nextLine}: {_nextCode} is not a group code, so the binary DXF file is damaged there. Ask for it again."
            );
        _nextStart = _at;
        switch (GroupCodes.Kind(_nextCode))
        {
            case GroupKind.Double or GroupKind.Long:
                _nextLength = 8;
                break;
            case GroupKind.Short:
                _nextLength = 2;
                break;
            case GroupKind.Int:
                _nextLength = 4;
                break;
            case GroupKind.Bool:
                _nextLength = 1;
                break;
            case GroupKind.Binary:
                if (!Need(1))
                    return false;
                _nextLength = _bytes[_at];
                _nextStart = ++_at;
                break;
            default:
                _nextLength = _bytes.AsSpan(_at).IndexOf((byte)0);
                if (_nextLength < 0)
                    return false;
                _at += _nextLength + 1;
                return true;
        }

        if (!Need(_nextLength))
            return false;
        _at += _nextLength;
        return true;
    }

    private bool Need(int count) => _at + count <= _bytes.Length;
}
