using System.Buffers.Binary;

namespace SteadyLintel.Cad;

/// <summary>The map of handles to places: pieces of at most 2032 bytes, each with its size and CRC, most significant byte first.</summary>
internal static class DwgMap
{
    private const int Piece = 2032;

    /// <summary>The handles with their places; a damaged piece ends the reading with a finding.</summary>
    public static List<(Handle Handle, long Offset)> Read(byte[] map, Drawing drawing)
    {
        // An entry has two bytes at least.
        var entries = new List<(Handle, long)>(map.Length / 2);
        int at = 0;
        while (at + 2 <= map.Length)
        {
            int size = BinaryPrimitives.ReadUInt16BigEndian(map.AsSpan(at));
            if (size <= 2)
                break;
            if (size > map.Length - at)
            {
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-MAP",
                        $"byte {at} of the map",
                        "The map of objects ends too early; what it names before was read."
                    )
                );
                break;
            }

            if (
                at + size + 2 <= map.Length
                && DwgCrc.Crc16(map.AsSpan(at, size)) != BinaryPrimitives.ReadUInt16BigEndian(map.AsSpan(at + size))
            )
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-CRC",
                        $"byte {at} of the map",
                        "The check of a piece of the map of objects does not hold."
                    )
                );
            try
            {
                ulong handle = 0;
                long offset = 0;
                var data = new BitReader(map) { Position = (at + 2) * 8L, End = (at + size) * 8L };
                while (data.Left >= 16)
                {
                    handle += data.UnsignedModularChar();
                    offset += data.ModularChar();
                    entries.Add((new Handle(handle), offset));
                }
            }
            catch (CadFormatException)
            {
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-MAP",
                        $"byte {at} of the map",
                        "A piece of the map of objects cannot be read to its end."
                    )
                );
            }

            at += size + 2;
        }

        return entries;
    }

    /// <summary>The map of handles in rising order.</summary>
    public static byte[] Write(IReadOnlyList<(Handle Handle, long Offset)> entries)
    {
        var map = new MemoryStream();
        var bits = new BitWriter();
        int next = 0;
        do
        {
            bits.Clear();
            ulong handle = 0;
            long offset = 0;
            // An entry has at most twenty bytes.
            while (next < entries.Count && bits.Position / 8 < Piece - 22)
            {
                bits.UnsignedModularChar(entries[next].Handle.Value - handle);
                bits.ModularChar(entries[next].Offset - offset);
                (handle, offset) = (entries[next].Handle.Value, entries[next].Offset);
                next++;
            }

            Put(map, bits.Written);
        } while (next < entries.Count);
        if (bits.Position > 0)
            Put(map, []);
        return map.ToArray();
    }

    private static void Put(MemoryStream map, ReadOnlySpan<byte> data)
    {
        byte[] piece = new byte[data.Length + 4];
        BinaryPrimitives.WriteUInt16BigEndian(piece, (ushort)(data.Length + 2));
        data.CopyTo(piece.AsSpan(2));
        BinaryPrimitives.WriteUInt16BigEndian(
            piece.AsSpan(piece.Length - 2),
            DwgCrc.Crc16(piece.AsSpan(0, piece.Length - 2))
        );
        map.Write(piece);
    }
}
