namespace SteadyLintel.Cad;

/// <summary>The checks of DWG: a CRC of sixteen bits, one of thirty-two, and the sum of pages. From memory.</summary>
internal static class DwgCrc
{
    /// <summary>What the CRC of sections, objects and the map begins with.</summary>
    public const ushort Seed = 0xC0C1;

    private static readonly ushort[] Table16 = [.. Enumerable.Range(0, 256).Select(i => Step16((ushort)i))];
    private static readonly uint[] Table32 = [.. Enumerable.Range(0, 256).Select(i => Step32((uint)i))];

    /// <summary>CRC-16 with the polynomial 0xA001.</summary>
    public static ushort Crc16(ReadOnlySpan<byte> data, ushort seed = Seed)
    {
        foreach (byte b in data) seed = (ushort)((seed >> 8) ^ Table16[(seed ^ b) & 255]);
        return seed;
    }

    /// <summary>CRC-32 as in IEEE 802.3.</summary>
    public static uint Crc32(ReadOnlySpan<byte> data, uint seed = 0)
    {
        uint crc = ~seed;
        foreach (byte b in data) crc = (crc >> 8) ^ Table32[(crc ^ b) & 255];
        return ~crc;
    }

    /// <summary>The sum of a page: two sums modulo 65521, as in RFC 1950.</summary>
    public static uint Sum(ReadOnlySpan<byte> data, uint seed)
    {
        uint a = seed & 0xFFFF, b = seed >> 16;
        while (data.Length > 0)
        {
            var chunk = data[..Math.Min(data.Length, 0x15B0)];
            foreach (byte x in chunk) b += a += x;
            (a, b) = (a % 0xFFF1, b % 0xFFF1);
            data = data[chunk.Length..];
        }

        return (b << 16) | (a & 0xFFFF);
    }

    private static ushort Step16(ushort crc)
    {
        for (int i = 0; i < 8; i++) crc = (ushort)((crc & 1) != 0 ? (crc >> 1) ^ 0xA001 : crc >> 1);
        return crc;
    }

    private static uint Step32(uint crc)
    {
        for (int i = 0; i < 8; i++) crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
        return crc;
    }
}
