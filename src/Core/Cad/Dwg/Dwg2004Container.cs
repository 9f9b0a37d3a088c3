using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>The file of 2004 and from 2010 on: pages, packed, found through a map of pages and a map of sections (Open Design
/// specification, chapter 4, from memory).</summary>
internal static partial class Dwg2004Container
{
    private const int Head = 0x100,
        Secret = 0x80,
        SecretSize = 0x6C,
        PageHead = 0x20,
        SystemHead = 0x14,
        PageMapType = 0x41630E3B,
        SectionMapType = 0x4163003B,
        DataType = 0x4163043B;
    private const int PageMask = 0x4164536B,
        MostPages = 1 << 20,
        NameSize = 64;
    private const int LargestPage = 1 << 20;
    private const long MostUnpacked = 1L << 30,
        SmallestLimit = 16 << 20,
        MostRatio = 200;

    /// <summary>Finds and unpacks the sections.</summary>
    public static DwgSections Read(byte[] bytes, Drawing drawing)
    {
        if (bytes.Length < Head)
            throw new CadFormatException("The drawing ends within its first bytes. Ask for it again.");
        byte[] secret = Masked(bytes.AsSpan(Secret, SecretSize));
        if (!secret.AsSpan().StartsWith("AcFssFcAJMB"u8))
            throw new CadFormatException(
                "The drawing's head cannot be read: it is damaged or locked with a password. Ask for it again without one, or for DXF."
            );
        long pageMapAt = BinaryPrimitives.ReadInt64LittleEndian(secret.AsSpan(0x54)) + Head;
        int sectionMapId = BinaryPrimitives.ReadInt32LittleEndian(secret.AsSpan(0x5C));
        var pages = PageMap(SystemPage(bytes, pageMapAt, PageMapType, drawing, "the map of pages"));
        if (!pages.TryGetValue(sectionMapId, out long sectionMapAt))
            throw new CadFormatException(
                "The drawing's map of sections is not where it should be: it is damaged. Ask for it again, or for DXF."
            );
        var sections = Sections(
            SystemPage(bytes, sectionMapAt, SectionMapType, drawing, "the map of sections"),
            bytes,
            pages,
            drawing
        );
        return new DwgSections(
            Part("AcDb:Header"),
            Part("AcDb:Classes"),
            Part("AcDb:Handles"),
            Part("AcDb:AcDbObjects"),
            Part("AcDb:Template"),
            Part(DwgSections.StoreName)
        );

        byte[] Part(string name) => sections.GetValueOrDefault(name, []);
    }

    private static Dictionary<int, long> PageMap(byte[] map)
    {
        var pages = new Dictionary<int, long>();
        long at = Head;
        for (int i = 0; i + 8 <= map.Length && pages.Count < MostPages; i += 8)
        {
            int id = BinaryPrimitives.ReadInt32LittleEndian(map.AsSpan(i)),
                size = BinaryPrimitives.ReadInt32LittleEndian(map.AsSpan(i + 4));
            if (size < 0)
                break;
            // A negative number is a gap, with four numbers of a tree behind it.
            if (id < 0)
                i += 16;
            else
                pages[id] = at;
            at += size;
        }

        return pages;
    }

    private static Dictionary<string, byte[]> Sections(
        byte[] map,
        byte[] bytes,
        Dictionary<int, long> pages,
        Drawing drawing
    )
    {
        var sections = new Dictionary<string, byte[]>();
        if (map.Length < 20)
            throw new CadFormatException(
                "The drawing's map of sections is empty: it is damaged. Ask for it again, or for DXF."
            );
        int count = BinaryPrimitives.ReadInt32LittleEndian(map),
            at = 20;
        long unpacked = 0;
        for (int i = 0; i < count && at + 32 + NameSize <= map.Length; i++)
        {
            var head = map.AsSpan(at);
            long size = BinaryPrimitives.ReadInt64LittleEndian(head);
            int pageCount = BinaryPrimitives.ReadInt32LittleEndian(head[8..]),
                pageSize = BinaryPrimitives.ReadInt32LittleEndian(head[12..]),
                packed = BinaryPrimitives.ReadInt32LittleEndian(head[20..]),
                locked = BinaryPrimitives.ReadInt32LittleEndian(head[28..]);
            string name = Encoding.Latin1.GetString(head.Slice(32, NameSize)).Split('\0')[0];
            at += 32 + NameSize;
            if (pageCount < 0 || pageCount > (map.Length - at) / 16)
                pageCount = (map.Length - at) / 16;
            if (size < 0 || (unpacked += size) > Math.Min(MostUnpacked, SmallestLimit + (MostRatio * bytes.Length)))
                throw new CadFormatException(
                    "The drawing would unpack to far more than its size: it is damaged or made to do harm. Ask for it again, or for DXF."
                );
            if (!DwgSections.Wanted.Contains(name))
            {
                at += 16 * pageCount;
                continue;
            }

            if (locked == 1)
                drawing.Findings.Add(
                    new CadFinding("CAD-LOCKED", name, $"The section {name} is encrypted and was left out.")
                );
            else
                sections[name] = Section(
                    map.AsSpan(at, 16 * pageCount),
                    size,
                    pageSize,
                    packed == 2,
                    bytes,
                    pages,
                    name,
                    drawing
                );
            at += 16 * pageCount;
        }

        return sections;
    }

    private static byte[] Section(
        ReadOnlySpan<byte> list,
        long size,
        int pageSize,
        bool packed,
        byte[] bytes,
        Dictionary<int, long> pages,
        string name,
        Drawing drawing
    )
    {
        // What a section says of its size is held against what its pages could hold.
        if (pageSize is <= 0 or > LargestPage)
            throw new CadFormatException(
                $"The pages of the drawing's section {name} have a size they cannot have: it is damaged. Ask for it again, or for DXF."
            );
        size = Math.Min(size, (long)pageSize * (list.Length / 16));
        // More pages than the section could fill are not looked at.
        list = list[..(int)Math.Min(list.Length, 16 * ((size / pageSize) + 1))];
        byte[] section = new byte[size];
        var entries = new (int Id, long Start)[list.Length / 16];
        for (int i = 0; i < entries.Length; i++)
            entries[i] = (
                BinaryPrimitives.ReadInt32LittleEndian(list[(16 * i)..]),
                BinaryPrimitives.ReadInt64LittleEndian(list[((16 * i) + 8)..])
            );
        var problems = new string?[entries.Length];
        // Pages do not depend on one another.
        Parallel.For(
            0,
            entries.Length,
            () => new byte[pageSize],
            (i, _, page) =>
            {
                var (id, start) = entries[i];
                try
                {
                    if (
                        !pages.TryGetValue(id, out long at)
                        || at + PageHead > bytes.Length
                        || start < 0
                        || start >= size
                    )
                        throw new CadFormatException("it is not where it should be");
                    Page(
                        bytes,
                        (int)at,
                        section.AsSpan((int)start, (int)Math.Min(pageSize, size - start)),
                        packed,
                        page
                    );
                }
                catch (CadFormatException e)
                {
                    problems[i] = e.Message;
                }

                return page;
            },
            _ => { }
        );
        for (int i = 0; i < problems.Length; i++)
            if (problems[i] is { } problem)
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-PAGE",
                        $"page {entries[i].Id}",
                        $"A page of the section {name} cannot be read ({problem}); what was on it is missing."
                    )
                );
        return section;
    }

    private static void Page(byte[] bytes, int at, Span<byte> target, bool packed, byte[] page)
    {
        uint mask = PageMask ^ (uint)at;
        Span<uint> head = stackalloc uint[8];
        for (int i = 0; i < 8; i++)
            head[i] = BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan(at + (4 * i))) ^ mask;
        if (head[0] != DataType)
            throw new CadFormatException("it is no page of data");
        if (head[2] > bytes.Length - at - PageHead)
            throw new CadFormatException("it continues beyond the end of the file");
        var data = bytes.AsSpan(at + PageHead, (int)head[2]);
        if (!packed)
        {
            data[..Math.Min(data.Length, target.Length)].CopyTo(target);
            return;
        }

        if (target.Length == page.Length)
        {
            DwgCompression.Decompress(data, target);
            return;
        }

        // The last page holds more than the section takes of it.
        Array.Clear(page);
        try
        {
            DwgCompression.Decompress(data, page);
        }
        finally
        {
            page.AsSpan(0, target.Length).CopyTo(target);
        }
    }

    private static byte[] SystemPage(byte[] bytes, long at, int type, Drawing drawing, string name)
    {
        if (at < 0 || at + SystemHead > bytes.Length)
            throw new CadFormatException(
                $"The drawing ends before {name}: it is damaged. Ask for it again, or for DXF."
            );
        var head = bytes.AsSpan((int)at, SystemHead);
        int unpacked = BinaryPrimitives.ReadInt32LittleEndian(head[4..]),
            packed = BinaryPrimitives.ReadInt32LittleEndian(head[8..]);
        if (
            BinaryPrimitives.ReadInt32LittleEndian(head) != type
            || unpacked < 0
            || unpacked > MostPages * 16
            || packed < 0
            || packed > bytes.Length - at - SystemHead
        )
            throw new CadFormatException(
                $"The drawing's head of {name} cannot be read: it is damaged. Ask for it again, or for DXF."
            );
        var data = bytes.AsSpan((int)at + SystemHead, packed);
        Span<byte> zeroed = stackalloc byte[SystemHead];
        head.CopyTo(zeroed);
        zeroed[16..].Clear();
        if (DwgCrc.Sum(data, DwgCrc.Sum(zeroed, 0)) != BinaryPrimitives.ReadUInt32LittleEndian(head[16..]))
            drawing.Findings.Add(
                new CadFinding(
                    "CAD-CRC",
                    name,
                    $"The check of {name} does not hold: it was damaged or written wrongly."
                )
            );
        byte[] page = new byte[unpacked];
        DwgCompression.Decompress(data, page);
        return page;
    }

    // The head is masked with numbers of a linear congruential generator.
    private static byte[] Masked(ReadOnlySpan<byte> data)
    {
        byte[] result = new byte[data.Length];
        uint seed = 1;
        for (int i = 0; i < data.Length; i++)
        {
            seed = (seed * 0x343FD) + 0x269EC3;
            result[i] = (byte)(data[i] ^ (seed >> 16));
        }

        return result;
    }
}
