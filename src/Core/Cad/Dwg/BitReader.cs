using System.Buffers.Binary;

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
        Need(1);
        bool bit = (_data[Position >> 3] & (0x80 >> (int)(Position & 7))) != 0;
        Position++;
        return bit;
    }

    /// <summary>Up to 32 bits.</summary>
    public uint Bits(int count)
    {
        Need(count);
        int at = (int)(Position >> 3), shift = (int)(Position & 7);
        ulong window;
        if (at + 8 <= _data.Length) window = BinaryPrimitives.ReadUInt64BigEndian(_data.AsSpan(at));
        else
        {
            window = 0;
            for (int i = 0; i < 8; i++) window = (window << 8) | (at + i < _data.Length ? _data[at + i] : 0UL);
        }

        Position += count;
        return (uint)((window << shift) >> (64 - count));
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
        int at = (int)(Position >> 3), shift = (int)(Position & 7);
        if (at + 9 > _data.Length)
        {
            ulong low = BinaryPrimitives.ReverseEndianness(Bits(32)), high = BinaryPrimitives.ReverseEndianness(Bits(32));
            return Finite(BitConverter.UInt64BitsToDouble(low | (high << 32)));
        }

        Need(64);
        Position += 64;
        ulong bits = (BinaryPrimitives.ReadUInt64BigEndian(_data.AsSpan(at)) << shift) | ((uint)_data[at + 8] >> (8 - shift));
        return Finite(BitConverter.UInt64BitsToDouble(BinaryPrimitives.ReverseEndianness(bits)));
    }

    /// <summary>BS.</summary>
    public int Short() => Bits(2) switch { 0 => (short)RawShort(), 1 => Byte(), 2 => 0, _ => 256 };

    /// <summary>BL.</summary>
    public int Long() => Bits(2) switch { 0 => RawLong(), 1 => Byte(), _ => 0 };

    /// <summary>BLL.</summary>
    public long LongLong()
    {
        int count = (int)Bits(3);
        long value = 0;
        for (int i = 0; i < count; i++) value |= (long)Byte() << (8 * i);
        return value;
    }

    /// <summary>BD.</summary>
    public double Double() => Bits(2) switch { 0 => RawDouble(), 1 => 1, _ => 0 };

    /// <summary>DD.</summary>
    public double Default(double other)
    {
        uint form = Bits(2);
        if (form == 0) return other;
        if (form == 3) return RawDouble();
        ulong bits = BitConverter.DoubleToUInt64Bits(other);
        if (form == 2) bits = (bits & 0xFFFF0000FFFFFFFF) | ((ulong)RawShort() << 32);
        bits = (bits & 0xFFFFFFFF00000000) | BinaryPrimitives.ReverseEndianness(Bits(32));
        return Finite(BitConverter.UInt64BitsToDouble(bits));
    }

    /// <summary>H: the code and the number as written.</summary>
    public (int Code, ulong Value) Handle()
    {
        int code = (int)Bits(4), count = (int)Bits(4);
        if (count > 8) throw new CadFormatException($"a handle of {count} bytes");
        ulong value = 0;
        for (int i = 0; i < count; i++) value = (value << 8) | (uint)Byte();
        return (code, value);
    }

    /// <summary>MC with a sign in its last byte.</summary>
    public long ModularChar()
    {
        ulong value = 0;
        for (int shift = 0; shift < 64; shift += 7)
        {
            int b = Byte();
            if ((b & 0x80) != 0)
            {
                value |= (ulong)(b & 0x7F) << shift;
                continue;
            }

            value |= (ulong)(b & 0x3F) << shift;
            return (b & 0x40) != 0 ? -(long)value : (long)value;
        }

        throw new CadFormatException("a number without end");
    }

    /// <summary>MC without a sign.</summary>
    public ulong UnsignedModularChar()
    {
        ulong value = 0;
        for (int shift = 0; shift < 64; shift += 7)
        {
            int b = Byte();
            value |= (ulong)(b & 0x7F) << shift;
            if ((b & 0x80) == 0) return value;
        }

        throw new CadFormatException("a number without end");
    }

    /// <summary>MS.</summary>
    public int ModularShort()
    {
        int low = RawShort();
        if ((low & 0x8000) == 0) return low;
        return (low & 0x7FFF) | (RawShort() << 15);
    }

    /// <summary>Bytes, wherever they begin.</summary>
    public byte[] Bytes(int count)
    {
        if (count < 0 || count > Left / 8) throw new CadFormatException($"{count} bytes where {Left / 8} are left");
        byte[] bytes = new byte[count];
        Bytes(bytes);
        return bytes;
    }

    /// <summary>Bytes, as many as the target has.</summary>
    public void Bytes(Span<byte> target)
    {
        if (target.Length > Left / 8) throw new CadFormatException($"{target.Length} bytes where {Left / 8} are left");
        int at = (int)(Position >> 3), shift = (int)(Position & 7);
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
            ulong word = (BinaryPrimitives.ReadUInt64BigEndian(_data.AsSpan(at + i)) << shift) | ((uint)_data[at + i + 8] >> (8 - shift));
            BinaryPrimitives.WriteUInt64BigEndian(target[i..], word);
        }

        for (; i < target.Length; i++) target[i] = (byte)((_data[at + i] << shift) | (_data[at + i + 1] >> (8 - shift)));
    }

    /// <summary>Goes on at the next whole byte.</summary>
    public void Align() => Position = (Position + 7) & ~7L;

    private static double Finite(double value) => double.IsFinite(value) ? value : 0;

    private void Need(int count)
    {
        if (Position + count > End) throw new CadFormatException("the data end too early");
    }
}
