using System.Buffers.Binary;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

namespace SteadyLintel.Cad;

/// <summary>The checks of DWG: a CRC of sixteen bits, one of thirty-two, and the sum of pages. From memory.</summary>
internal static class DwgCrc
{
    /// <summary>What the CRC of sections, objects and the map begins with.</summary>
    public const ushort Seed = 0xC0C1;

    // Row r of 256 tells what a byte becomes with r more bytes behind it, so that eight are taken at a time.
    private static readonly ushort[] Table16 = Rows16();
    private static readonly uint[] Table32 = [.. Enumerable.Range(0, 256).Select(i => Step32((uint)i))];

    /// <summary>CRC-16 with the polynomial 0xA001.</summary>
    public static ushort Crc16(ReadOnlySpan<byte> data, ushort seed = Seed)
    {
        uint crc = seed;
        ref ushort table = ref MemoryMarshal.GetArrayDataReference(Table16);
        for (; data.Length >= 8; data = data[8..])
        {
            ulong word = BinaryPrimitives.ReadUInt64LittleEndian(data) ^ crc;
            crc = (uint)(
                Row(ref table, 7, word)
                ^ Row(ref table, 6, word >> 8)
                ^ Row(ref table, 5, word >> 16)
                ^ Row(ref table, 4, word >> 24)
                ^ Row(ref table, 3, word >> 32)
                ^ Row(ref table, 2, word >> 40)
                ^ Row(ref table, 1, word >> 48)
                ^ Row(ref table, 0, word >> 56)
            );
        }

        foreach (byte b in data)
            crc = (crc >> 8) ^ Row(ref table, 0, crc ^ b);
        return (ushort)crc;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static uint Row(ref ushort table, int row, ulong value) => Unsafe.Add(ref table, (row << 8) | (byte)value);

    private static ushort[] Rows16()
    {
        ushort[] rows = new ushort[8 * 256];
        for (int i = 0; i < rows.Length; i++)
            rows[i] = i < 256 ? Step16((ushort)i) : (ushort)((rows[i - 256] >> 8) ^ rows[rows[i - 256] & 255]);
        return rows;
    }

    /// <summary>CRC-32 as in IEEE 802.3.</summary>
    public static uint Crc32(ReadOnlySpan<byte> data, uint seed = 0)
    {
        uint crc = ~seed;
        foreach (byte b in data)
            crc = (crc >> 8) ^ Table32[(crc ^ b) & 255];
        return ~crc;
    }

    /// <summary>The sum of a page: two sums modulo 65521, as in RFC 1950.</summary>
    public static uint Sum(ReadOnlySpan<byte> data, uint seed)
    {
        uint a = seed & 0xFFFF,
            b = seed >> 16;
        while (data.Length > 0)
        {
            var chunk = data[..Math.Min(data.Length, 0x15B0)];
            foreach (byte x in chunk)
                b += a += x;
            (a, b) = (a % 0xFFF1, b % 0xFFF1);
            data = data[chunk.Length..];
        }

        return (b << 16) | (a & 0xFFFF);
    }

    private static ushort Step16(ushort crc)
    {
        for (int i = 0; i < 8; i++)
            crc = (ushort)((crc & 1) != 0 ? (crc >> 1) ^ 0xA001 : crc >> 1);
        return crc;
    }

    private static uint Step32(uint crc)
    {
        for (int i = 0; i < 8; i++)
            crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
        return crc;
    }
}
