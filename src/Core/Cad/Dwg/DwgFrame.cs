using System.Buffers.Binary;

namespace SteadyLintel.Cad;

/// <summary>The frame around header variables and classes: sentinel, size, from 2007 on the size in bits, data, CRC, sentinel.</summary>
internal static class DwgFrame
{
    /// <summary>Opens a section; null with a finding when it is not one.</summary>
    public static DwgReadFields? Open(
        byte[] section,
        ReadOnlySpan<byte> sentinel,
        Drawing drawing,
        CadText text,
        string name
    )
    {
        if (section.Length < 22 || !section.AsSpan().StartsWith(sentinel))
        {
            drawing.Findings.Add(
                new CadFinding(
                    "CAD-SECTION",
                    name,
                    $"The section of {name} does not begin as it should and was left out."
                )
            );
            return null;
        }

        int size = BinaryPrimitives.ReadInt32LittleEndian(section.AsSpan(16)),
            start = 20;
        if (LongSize(drawing.Version, drawing.Maintenance))
            start += 4;
        if (size < 0 || size > section.Length - start)
        {
            drawing.Findings.Add(
                new CadFinding(
                    "CAD-SECTION",
                    name,
                    $"The section of {name} is shorter than it says; what is there was read."
                )
            );
            size = section.Length - start;
        }
        else if (
            start + size + 2 <= section.Length
            && DwgCrc.Crc16(section.AsSpan(16, start - 16 + size))
                != BinaryPrimitives.ReadUInt16LittleEndian(section.AsSpan(start + size))
        )
            drawing.Findings.Add(
                new CadFinding(
                    "CAD-CRC",
                    name,
                    $"The check of the section of {name} does not hold: it was damaged or written wrongly."
                )
            );

        var fields = new DwgReadFields(section, drawing.Version, text);
        long begin = start * 8L,
            end = begin + (size * 8L);
        if (fields.Since(CadVersion.AC1021))
        {
            fields.Data.Position = begin;
            long bits = (uint)fields.Data.RawLong();
            fields.Open(begin + 32, Math.Min(begin + bits, end), end);
            return fields;
        }

        fields.Open(begin, end, end);
        fields.HandlesAmongData();
        return fields;
    }

    /// <summary>Closes a section.</summary>
    public static byte[] Close(DwgWriteFields fields, ReadOnlySpan<byte> sentinel)
    {
        long handles = fields.Close();
        var data = fields.Data.Written;
        bool bits = fields.Since(CadVersion.AC1021);
        int size = data.Length + (bits ? 4 : 0),
            head = LongSize(fields.Version, Maintenance(fields.Version)) ? 8 : 4;
        byte[] section = new byte[16 + head + size + 2 + 16];
        sentinel.CopyTo(section);
        BinaryPrimitives.WriteInt32LittleEndian(section.AsSpan(16), size);
        int at = 16 + head;
        if (bits)
        {
            // The size in bits counts its own four bytes.
            BinaryPrimitives.WriteInt32LittleEndian(section.AsSpan(at), (int)handles + 32);
            at += 4;
        }

        data.CopyTo(section.AsSpan(at));
        at += data.Length;
        BinaryPrimitives.WriteUInt16LittleEndian(section.AsSpan(at), DwgCrc.Crc16(section.AsSpan(16, at - 16)));
        DwgSections.End(sentinel).CopyTo(section, at + 2);
        return section;
    }

    /// <summary>The maintenance release that is written. Readers differ over how the first releases of 2010 and 2013 lay out their
    /// sections, so a later one is named.</summary>
    public static int Maintenance(CadVersion version) => version is CadVersion.AC1024 or CadVersion.AC1027 ? 8 : 0;

    // 2018 has the size in eight bytes, 2010 and 2013 from their fourth maintenance release on.
    private static bool LongSize(CadVersion version, int maintenance) =>
        version >= CadVersion.AC1032 || (version >= CadVersion.AC1024 && maintenance > 3);
}
