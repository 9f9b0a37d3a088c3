using System.Buffers.Binary;
using System.Buffers.Text;
using System.Globalization;

namespace SteadyLintel.Cad;

/// <summary>Writes groups of DXF, ASCII or binary, to a stream. Doubles read back the same.</summary>
internal sealed class DxfOutput(Stream target, bool binary, CadText text)
{
    private readonly byte[] _buffer = new byte[1 << 16];
    private int _used;

    /// <summary>The sentinel of a binary file.</summary>
    public void Begin()
    {
        if (binary)
            Raw("AutoCAD Binary DXF\r\n\u001a\0"u8);
    }

    /// <summary>A text.</summary>
    public void Write(int code, string value)
    {
        if (value.AsSpan().ContainsAny('\r', '\n'))
            value = value.ReplaceLineEndings("^J");
        Code(code);
        Raw(text.Encode(value));
        Raw(binary ? "\0"u8 : "\r\n"u8);
    }

    /// <summary>A double.</summary>
    public void Write(int code, double value)
    {
        Code(code);
        var room = Room(40);
        if (binary)
        {
            BinaryPrimitives.WriteDoubleLittleEndian(room, value);
            _used += 8;
            return;
        }

        if (!double.IsFinite(value))
            value = 0;
        value.TryFormat(room, out int length, "R", CultureInfo.InvariantCulture);
        if (room[..length].IndexOfAny((byte)'.', (byte)'E') < 0)
        {
            room[length++] = (byte)'.';
            room[length++] = (byte)'0';
        }

        room[length++] = (byte)'\r';
        room[length++] = (byte)'\n';
        _used += length;
    }

    /// <summary>A whole number, of the size its code announces.</summary>
    public void Write(int code, long value)
    {
        Code(code);
        var room = Room(32);
        if (binary)
        {
            switch (GroupCodes.Kind(code))
            {
                case GroupKind.Bool:
                    room[0] = (byte)value;
                    _used += 1;
                    break;
                case GroupKind.Int:
                    BinaryPrimitives.WriteInt32LittleEndian(room, unchecked((int)value));
                    _used += 4;
                    break;
                case GroupKind.Long:
                    BinaryPrimitives.WriteInt64LittleEndian(room, value);
                    _used += 8;
                    break;
                default:
                    BinaryPrimitives.WriteInt16LittleEndian(room, unchecked((short)value));
                    _used += 2;
                    break;
            }

            return;
        }

        Utf8Formatter.TryFormat(value, room, out int length);
        End(room, length);
    }

    /// <summary>A handle.</summary>
    public void Write(int code, Handle value)
    {
        Code(code);
        var room = Room(32);
        Utf8Formatter.TryFormat(value.Value, room, out int length, 'X');
        if (!binary)
            End(room, length);
        else
        {
            room[length] = 0;
            _used += length + 1;
        }
    }

    /// <summary>Bytes, in pieces of 127.</summary>
    public void Write(int code, ReadOnlySpan<byte> value)
    {
        do
        {
            var piece = value[..Math.Min(value.Length, 127)];
            value = value[piece.Length..];
            Code(code);
            if (!binary)
                Raw(System.Text.Encoding.ASCII.GetBytes(Convert.ToHexString(piece) + "\r\n"));
            else
            {
                Raw([(byte)piece.Length]);
                Raw(piece);
            }
        } while (value.Length > 0);
    }

    /// <summary>A group of whatever kind.</summary>
    public void Write(CadGroup group)
    {
        switch (GroupCodes.Kind(group.Code))
        {
            case GroupKind.Double:
                Write(group.Code, group.Number);
                break;
            case GroupKind.Handle:
                Write(group.Code, group.Value is Handle h ? h : default);
                break;
            case GroupKind.Binary:
                Write(group.Code, group.Value as byte[] ?? []);
                break;
            case GroupKind.Text:
                Write(group.Code, group.Text);
                break;
            default:
                Write(group.Code, (long)group.Number);
                break;
        }
    }

    /// <summary>Sends what is left.</summary>
    public void Flush()
    {
        target.Write(_buffer, 0, _used);
        _used = 0;
    }

    private void End(Span<byte> room, int length)
    {
        room[length] = (byte)'\r';
        room[length + 1] = (byte)'\n';
        _used += length + 2;
    }

    private void Code(int code)
    {
        var room = Room(8);
        if (binary)
        {
            BinaryPrimitives.WriteInt16LittleEndian(room, (short)code);
            _used += 2;
            return;
        }

        int pad =
            code < 10 ? 2
            : code < 100 ? 1
            : 0;
        room[..pad].Fill((byte)' ');
        Utf8Formatter.TryFormat(code, room[pad..], out int length);
        End(room, pad + length);
    }

    private void Raw(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length > _buffer.Length - _used)
            Flush();
        if (bytes.Length > _buffer.Length)
        {
            target.Write(bytes);
            return;
        }

        bytes.CopyTo(_buffer.AsSpan(_used));
        _used += bytes.Length;
    }

    private Span<byte> Room(int count)
    {
        if (_buffer.Length - _used < count)
            Flush();
        return _buffer.AsSpan(_used);
    }
}
