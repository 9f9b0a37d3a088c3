using System.Buffers.Binary;

namespace SteadyLintel.Cad;

/// <summary>Writes the bit codes of DWG.</summary>
internal sealed class BitWriter
{
    private byte[] _data = new byte[256];
    private ulong _pending;
    private int _count,
        _bytes;

    /// <summary>How many bits were written.</summary>
    public long Position => (8L * _bytes) + _count;

    /// <summary>Begins again.</summary>
    public void Clear() => (_pending, _count, _bytes) = (0, 0, 0);

    /// <summary>B.</summary>
    public void Bit(bool value) => Bits(value ? 1u : 0, 1);

    /// <summary>Up to 32 bits.</summary>
    public void Bits(uint value, int count)
    {
        _pending = (_pending << count) | (count == 32 ? value : value & ((1u << count) - 1));
        _count += count;
        if (_bytes + 8 > _data.Length)
            Array.Resize(ref _data, 2 * _data.Length);
        while (_count >= 8)
        {
            _count -= 8;
            _data[_bytes++] = (byte)(_pending >> _count);
        }
    }

    /// <summary>RC.</summary>
    public void Byte(int value) => Bits((byte)value, 8);

    /// <summary>RS.</summary>
    public void RawShort(int value) => Bits(BinaryPrimitives.ReverseEndianness((ushort)value), 16);

    /// <summary>RL.</summary>
    public void RawLong(int value) => Bits(BinaryPrimitives.ReverseEndianness(unchecked((uint)value)), 32);

    /// <summary>RD.</summary>
    public void RawDouble(double value)
    {
        ulong bits = BitConverter.DoubleToUInt64Bits(value);
        Bits(BinaryPrimitives.ReverseEndianness((uint)bits), 32);
        Bits(BinaryPrimitives.ReverseEndianness((uint)(bits >> 32)), 32);
    }

    /// <summary>BS.</summary>
    public void Short(int value)
    {
        value = (short)value;
        if (value == 0)
            Bits(2, 2);
        else if (value == 256)
            Bits(3, 2);
        else if (value is > 0 and < 256)
        {
            Bits(1, 2);
            Byte(value);
        }
        else
        {
            Bits(0, 2);
            RawShort(value);
        }
    }

    /// <summary>BL.</summary>
    public void Long(int value)
    {
        if (value == 0)
            Bits(2, 2);
        else if (value is > 0 and < 256)
        {
            Bits(1, 2);
            Byte(value);
        }
        else
        {
            Bits(0, 2);
            RawLong(value);
        }
    }

    /// <summary>BLL.</summary>
    public void LongLong(long value)
    {
        int count = 0;
        while (count < 7 && value >> (8 * count) != 0)
            count++;
        Bits((uint)count, 3);
        for (int i = 0; i < count; i++)
            Byte((int)(value >> (8 * i)));
    }

    /// <summary>BD.</summary>
    public void Double(double value)
    {
        if (BitConverter.DoubleToUInt64Bits(value) == 0)
            Bits(2, 2);
        else if (value == 1)
            Bits(1, 2);
        else
        {
            Bits(0, 2);
            RawDouble(value);
        }
    }

    /// <summary>DD.</summary>
    public void Default(double value, double other)
    {
        ulong bits = BitConverter.DoubleToUInt64Bits(value),
            apart = bits ^ BitConverter.DoubleToUInt64Bits(other);
        if (apart == 0)
            Bits(0, 2);
        else if (apart >> 32 == 0)
        {
            Bits(1, 2);
            RawLong((int)bits);
        }
        else if (apart >> 48 == 0)
        {
            Bits(2, 2);
            RawShort((int)(bits >> 32));
            RawLong((int)bits);
        }
        else
        {
            Bits(3, 2);
            RawDouble(value);
        }
    }

    /// <summary>H.</summary>
    public void Handle(HandleKind kind, Handle handle)
    {
        int count = 0;
        while (count < 8 && handle.Value >> (8 * count) != 0)
            count++;
        Bits((uint)(((int)kind << 4) | count), 8);
        for (int i = count - 1; i >= 0; i--)
            Byte((int)(handle.Value >> (8 * i)));
    }

    /// <summary>MC with a sign.</summary>
    public void ModularChar(long value)
    {
        ulong rest = (ulong)Math.Abs(value);
        while (rest >= 0x40)
        {
            Byte((int)(rest & 0x7F) | 0x80);
            rest >>= 7;
        }

        Byte((int)rest | (value < 0 ? 0x40 : 0));
    }

    /// <summary>MC without a sign.</summary>
    public void UnsignedModularChar(ulong value)
    {
        while (value >= 0x80)
        {
            Byte((int)(value & 0x7F) | 0x80);
            value >>= 7;
        }

        Byte((int)value);
    }

    /// <summary>MS.</summary>
    public void ModularShort(int value)
    {
        if (value < 0x8000)
        {
            RawShort(value);
            return;
        }

        RawShort((value & 0x7FFF) | 0x8000);
        RawShort(value >> 15);
    }

    /// <summary>Bytes.</summary>
    public void Bytes(ReadOnlySpan<byte> bytes)
    {
        if (_count == 0)
        {
            while (_bytes + bytes.Length + 8 > _data.Length)
                Array.Resize(ref _data, 2 * _data.Length);
            bytes.CopyTo(_data.AsSpan(_bytes));
            _bytes += bytes.Length;
            return;
        }

        foreach (byte b in bytes)
            Bits(b, 8);
    }

    /// <summary>What another wrote.</summary>
    public void Append(BitWriter other)
    {
        Bytes(other._data.AsSpan(0, other._bytes));
        if (other._count > 0)
            Bits((uint)(other._pending & ((1u << other._count) - 1)), other._count);
    }

    /// <summary>Fills up to a whole byte.</summary>
    public void Align()
    {
        if (_count > 0)
            Bits(0, 8 - _count);
    }

    /// <summary>Puts a number of four bytes where one was written before, at a bit.</summary>
    public void PatchLong(long position, int value)
    {
        // Whole bytes first; what lies in a byte that is not whole yet is put in bit by bit.
        uint bits = BinaryPrimitives.ReverseEndianness(unchecked((uint)value));
        int skew = (int)(position & 7),
            first = (int)(position >> 3);
        if (first + 8 <= _bytes)
        {
            var five = _data.AsSpan(first, 8);
            ulong mask = 0xFFFFFFFFul << (32 - skew),
                word = BinaryPrimitives.ReadUInt64BigEndian(five);
            BinaryPrimitives.WriteUInt64BigEndian(five, (word & ~mask) | ((ulong)bits << (32 - skew)));
            return;
        }

        for (int i = 0; i < 32; i++)
        {
            long at = position + i;
            bool bit = ((bits >> (31 - i)) & 1) != 0;
            byte mask = (byte)(0x80 >> (int)(at & 7));
            if (at >> 3 >= _bytes)
            {
                ulong own = 1UL << (_count - 1 - (int)(at - (8L * _bytes)));
                _pending = bit ? _pending | own : _pending & ~own;
            }
            else
                _data[at >> 3] = (byte)(bit ? _data[at >> 3] | mask : _data[at >> 3] & ~mask);
        }
    }

    /// <summary>The whole bytes.</summary>
    public ReadOnlySpan<byte> Written => _data.AsSpan(0, _bytes);
}
