using System.Buffers.Binary;
using System.Runtime.CompilerServices;

namespace SteadyLintel.Cad;

/// <summary>Reads the bit codes of DWG. Names as in the Open Design specification, chapter 2 (from memory).</summary>
internal sealed class BitReader(byte[] data)
{
    private readonly byte[] _data = data;

    /// <summary>The next bit.</summary>
    public long Position { get; set; }

    /// <summary>The first bit that is not to be read.</summary>
    public long End { get; set; } = data.Length * 8L;

    /// <summary>How many bits are left.</summary>
    public long Left => End - Position;

    /// <summary>B.</summary>
    public bool Bit()
    {
        long position = Position;
        if (position >= End)
            throw Early();
        Position = position + 1;
        return (_data[position >> 3] & (0x80 >> (int)(position & 7))) != 0;
    }

    /// <summary>Up to 32 bits.</summary>
    public uint Bits(int count)
    {
        ulong window = Window();
        Pass(count);
        return (uint)(window >> (64 - count));
    }

    // The next 57 bits or more, at the upper end; zeros behind the last byte.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private ulong Window()
    {
        byte[] data = _data;
        int at = (int)(Position >> 3),
            shift = (int)(Position & 7);
        return at <= data.Length - 8
            ? BinaryPrimitives.ReverseEndianness(Unsafe.ReadUnaligned<ulong>(ref data[at])) << shift
            : Last(at) << shift;
    }

    private ulong Last(int at)
    {
        ulong window = 0;
        for (int i = 0; i < 8; i++)
            window = (window << 8) | (at + i < _data.Length ? _data[at + i] : 0UL);
        return window;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void Pass(int count)
    {
        long position = Position + count;
        if (position > End)
            throw Early();
        Position = position;
    }

    /// <summary>RC.</summary>
    public int Byte() => (int)Bits(8);

    /// <summary>RS.</summary>
    public int RawShort() => BinaryPrimitives.ReverseEndianness((ushort)Bits(16));

    /// <summary>RL.</summary>
    public int RawLong() => unchecked((int)BinaryPrimitives.ReverseEndianness(Bits(32)));

    /// <summary>RD.</summary>
    public double RawDouble()
    {
        int at = (int)(Position >> 3),
            shift = (int)(Position & 7);
        if (at + 9 > _data.Length)
        {
            ulong low = BinaryPrimitives.ReverseEndianness(Bits(32)),
                high = BinaryPrimitives.ReverseEndianness(Bits(32));
            return Finite(BitConverter.UInt64BitsToDouble(low | (high << 32)));
        }

        Pass(64);
        ulong bits =
            (BinaryPrimitives.ReadUInt64BigEndian(_data.AsSpan(at)) << shift) | ((uint)_data[at + 8] >> (8 - shift));
        return Finite(BitConverter.UInt64BitsToDouble(BinaryPrimitives.ReverseEndianness(bits)));
    }

    /// <summary>BS.</summary>
    public int Short()
    {
        ulong window = Window();
        switch (window >> 62)
        {
            case 0:
                Pass(18);
                return (short)BinaryPrimitives.ReverseEndianness((ushort)(window >> 46));
            case 1:
                Pass(10);
                return (byte)(window >> 54);
            default:
                Pass(2);
                return window >> 62 == 2 ? 0 : 256;
        }
    }

    /// <summary>BL.</summary>
    public int Long()
    {
        ulong window = Window();
        switch (window >> 62)
        {
            case 0:
                Pass(34);
                return (int)BinaryPrimitives.ReverseEndianness((uint)(window >> 30));
            case 1:
                Pass(10);
                return (byte)(window >> 54);
            default:
                Pass(2);
                return 0;
        }
    }

    /// <summary>BLL.</summary>
    public long LongLong()
    {
        int count = (int)Bits(3);
        long value = 0;
        for (int i = 0; i < count; i++)
            value |= (long)Byte() << (8 * i);
        return value;
    }

    /// <summary>BD.</summary>
    public double Double() =>
        Bits(2) switch
        {
            0 => RawDouble(),
            1 => 1,
            _ => 0,
        };

    /// <summary>DD.</summary>
    public double Default(double other)
    {
        uint form = Bits(2);
        if (form == 0)
            return other;
        if (form == 3)
            return RawDouble();
        ulong bits = BitConverter.DoubleToUInt64Bits(other);
        if (form == 2)
            bits = (bits & 0xFFFF0000FFFFFFFF) | ((ulong)RawShort() << 32);
        bits = (bits & 0xFFFFFFFF00000000) | BinaryPrimitives.ReverseEndianness(Bits(32));
        return Finite(BitConverter.UInt64BitsToDouble(bits));
    }

    /// <summary>H: the code and the number as written.</summary>
    public (int Code, ulong Value) Handle()
    {
        ulong window = Window(),
            value = 0;
        int code = (int)(window >> 60),
            count = (int)(window >> 56) & 15;
        if (count is > 0 and <= 6)
        {
            Pass(8 + (8 * count));
            return (code, (window << 8) >> (64 - (8 * count)));
        }

        if (count > 8)
            throw new CadFormatException($"a handle of {count} bytes");
        Pass(8);
        for (int i = 0; i < count; i++)
            value = (value << 8) | (uint)Byte();
        return (code, value);
    }

    /// <summary>MC with a sign in its last byte.</summary>
    public long ModularChar()
    {
        var (value, last, bits) = Modular();
        // The sign takes the place of the highest bit of the last byte.
        long size = (long)(value & ~(0x40UL << (bits - 7)));
        return (last & 0x40) != 0 ? -size : size;
    }

    /// <summary>MC without a sign.</summary>
    public ulong UnsignedModularChar() => Modular().Value;

    // Seven bits a byte, the lowest first; the highest bit says that another byte follows. A window holds seven bytes.
    private (ulong Value, int Last, int Bits) Modular()
    {
        ulong value = 0,
            window = Window();
        for (int taken = 0, at = 0; taken < 64; taken += 7)
        {
            if (at == 7)
            {
                Pass(56);
                (window, at) = (Window(), 0);
            }

            int b = (byte)(window >> (56 - (8 * at++)));
            value |= (ulong)(b & 0x7F) << taken;
            if ((b & 0x80) != 0)
                continue;
            Pass(8 * at);
            return (value, b, taken + 7);
        }

        throw new CadFormatException("a number without end");
    }

    /// <summary>MS.</summary>
    public int ModularShort()
    {
        int low = RawShort();
        if ((low & 0x8000) == 0)
            return low;
        return (low & 0x7FFF) | (RawShort() << 15);
    }

    /// <summary>Bytes, wherever they begin.</summary>
    public byte[] Bytes(int count)
    {
        if (count < 0 || count > Left / 8)
            throw new CadFormatException($"{count} bytes where {Left / 8} are left");
        byte[] bytes = new byte[count];
        Bytes(bytes);
        return bytes;
    }

    /// <summary>Bytes, as many as the target has.</summary>
    public void Bytes(Span<byte> target)
    {
        if (target.Length > Left / 8)
            throw new CadFormatException($"{target.Length} bytes where {Left / 8} are left");
        int at = (int)(Position >> 3),
            shift = (int)(Position & 7);
        Position += 8L * target.Length;
        if (shift == 0)
        {
            _data.AsSpan(at, target.Length).CopyTo(target);
            return;
        }

        // Eight at a time while a ninth byte is there to fill up from.
        int i = 0;
        for (; i + 8 <= target.Length && at + i + 9 <= _data.Length; i += 8)
        {
            ulong word =
                (BinaryPrimitives.ReadUInt64BigEndian(_data.AsSpan(at + i)) << shift)
                | ((uint)_data[at + i + 8] >> (8 - shift));
            BinaryPrimitives.WriteUInt64BigEndian(target[i..], word);
        }

        for (; i < target.Length; i++)
            target[i] = (byte)((_data[at + i] << shift) | (_data[at + i + 1] >> (8 - shift)));
    }

    /// <summary>Goes on at the next whole byte.</summary>
    public void Align() => Position = (Position + 7) & ~7L;

    private static double Finite(double value) => double.IsFinite(value) ? value : 0;

    private static CadFormatException Early() => new("the data end too early");
}
