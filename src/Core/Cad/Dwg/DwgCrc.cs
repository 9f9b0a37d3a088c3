namespace SteadyLintel.Cad;

/// <summary>The checks of DWG: a CRC of sixteen bits, one of thirty-two, and the sum of pages. From memory.</summary>
internal static class DwgCrc
{
    /// <summary>What the CRC of sections, objects and the map begins with.</summary>
    public const ushort Seed = 0xC0C1;

    // Row r tells what a byte becomes with r more bytes behind it, so that eight are taken at a time.
    private static readonly ushort[][] Tables16 = Rows16();
    private static readonly uint[] Table32 = [.. Enumerable.Range(0, 256).Select(i => Step32((uint)i))];

    /// <summary>CRC-16 with the polynomial 0xA001.</summary>
    public static ushort Crc16(ReadOnlySpan<byte> data, ushort seed = Seed)
    {
        for (; data.Length >= 8; data = data[8..])
        {
            seed = (ushort)(Tables16[7][(data[0] ^ seed) & 255] ^ Tables16[6][data[1] ^ (seed >> 8)] ^ Tables16[5][data[2]] ^ Tables16[4][data[3]]
                ^ Tables16[3][data[4]] ^ Tables16[2][data[5]] ^ Tables16[1][data[6]] ^ Tables16[0][data[7]]);
        }

        foreach (byte b in data) seed = (ushort)((seed >> 8) ^ Tables16[0][(seed ^ b) & 255]);
        return seed;
    }

    private static ushort[][] Rows16()
    {
        var rows = new ushort[8][];
        rows[0] = [.. Enumerable.Range(0, 256).Select(i => Step16((ushort)i))];
        for (int r = 1; r < 8; r++) rows[r] = [.. rows[r - 1].Select(crc => (ushort)((crc >> 8) ^ rows[0][crc & 255]))];
        return rows;
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
