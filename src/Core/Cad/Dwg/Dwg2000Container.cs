using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>The file up to 2000: a head with the places of the sections, which follow one another (Open Design specification, chapter 3,
/// from memory).</summary>
internal static class Dwg2000Container
{
    private const int Records = 0x15,
        RecordSize = 9,
        Count = 5;
    private static ReadOnlySpan<byte> HeadEnd =>
        [0x95, 0xA0, 0x4E, 0x28, 0x99, 0x82, 0x1A, 0xE5, 0x5E, 0x41, 0xE0, 0x5F, 0x9D, 0x3A, 0x4D, 0x00];

    /// <summary>Finds the sections.</summary>
    public static DwgSections Read(byte[] bytes, Drawing drawing)
    {
        int count = BinaryPrimitives.ReadInt32LittleEndian(bytes.AsSpan(Records));
        if (count is < 3 or > 20 || bytes.Length < Records + 4 + (count * RecordSize) + 2)
            throw new CadFormatException(
                "The places of the drawing's sections cannot be read: it is damaged. Ask for it again, or for DXF."
            );
        int end = Records + 4 + (count * RecordSize);
        if (DwgCrc.Crc16(bytes.AsSpan(0, end)) != BinaryPrimitives.ReadUInt16LittleEndian(bytes.AsSpan(end)))
            drawing.Findings.Add(
                new CadFinding(
                    "CAD-CRC",
                    "the head",
                    "The check of the file's head does not hold: it was damaged or written wrongly."
                )
            );
        var parts = new Dictionary<int, byte[]>();
        for (int i = 0; i < count; i++)
        {
            var record = bytes.AsSpan(Records + 4 + (i * RecordSize), RecordSize);
            long at = BinaryPrimitives.ReadUInt32LittleEndian(record[1..]),
                size = BinaryPrimitives.ReadUInt32LittleEndian(record[5..]);
            if (at <= bytes.Length && size <= bytes.Length - at)
                parts[record[0]] = bytes.AsSpan((int)at, (int)size).ToArray();
            else
                drawing.Findings.Add(
                    new CadFinding("CAD-SECTION", $"section {record[0]}", $"Section {record[0]} is outside the file.")
                );
        }

        return new DwgSections(Part(0), Part(1), Part(2), bytes, Part(4), []);

        byte[] Part(int number) => parts.GetValueOrDefault(number, []);
    }

    /// <summary>Writes the file. Places of the objects count from the start of the file, so the objects come first behind the
    /// classes.</summary>
    /// <param name="target">Where to.</param>
    /// <param name="version">The version.</param>
    /// <param name="header">The section of header variables.</param>
    /// <param name="classes">The section of classes.</param>
    /// <param name="objects">The objects.</param>
    /// <param name="map">Makes the map for objects that begin at a byte.</param>
    /// <param name="template">The template.</param>
    /// <param name="codePage">The number of the code page.</param>
    public static void Write(
        Stream target,
        CadVersion version,
        byte[] header,
        byte[] classes,
        ReadOnlyMemory<byte> objects,
        Func<long, byte[]> map,
        byte[] template,
        int codePage
    )
    {
        const int head = Records + 4 + (Count * RecordSize) + 2 + 16;
        int classesAt = head + header.Length,
            objectsAt = classesAt + classes.Length;
        byte[] places = map(objectsAt);
        int mapAt = objectsAt + objects.Length,
            templateAt = mapAt + places.Length;
        byte[] first = new byte[head];
        Encoding.ASCII.GetBytes(version.ToString()).CopyTo(first, 0);
        first[0x0B] = 6;
        first[0x0C] = 1;
        BinaryPrimitives.WriteUInt16LittleEndian(first.AsSpan(0x13), (ushort)codePage);
        BinaryPrimitives.WriteInt32LittleEndian(first.AsSpan(Records), Count);
        Record(0, head, header.Length);
        Record(1, classesAt, classes.Length);
        Record(2, mapAt, places.Length);
        Record(3, 0, 0);
        Record(4, templateAt, template.Length);
        int end = Records + 4 + (Count * RecordSize);
        BinaryPrimitives.WriteUInt16LittleEndian(first.AsSpan(end), DwgCrc.Crc16(first.AsSpan(0, end)));
        HeadEnd.CopyTo(first.AsSpan(end + 2));
        target.Write(first);
        target.Write(header);
        target.Write(classes);
        target.Write(objects.Span);
        target.Write(places);
        target.Write(template);

        void Record(int number, int at, int size)
        {
            var record = first.AsSpan(Records + 4 + (number * RecordSize), RecordSize);
            record[0] = (byte)number;
            BinaryPrimitives.WriteInt32LittleEndian(record[1..], at);
            BinaryPrimitives.WriteInt32LittleEndian(record[5..], size);
        }
    }
}
