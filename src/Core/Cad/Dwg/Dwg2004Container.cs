using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>The file of 2004 and from 2010 on: pages, packed, found through a map of pages and a map of sections (Open Design
/// specification, chapter 4, from memory).</summary>
internal static class Dwg2004Container
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

    /// <summary>Writes a file of named sections.</summary>
    public static void Write(
        Stream target,
        CadVersion version,
        int codePage,
        IReadOnlyList<(string Name, ReadOnlyMemory<byte> Data, bool Packed)> sections
    )
    {
        var file = new MemoryStream(Head + sections.Sum(s => s.Data.Length));
        file.Write(new byte[Head]);
        var pages = new List<(int Id, int Size)>();
        var map = new MemoryStream();
        Numbers(map, sections.Count, 2, DataPageSize, 0, sections.Count);
        for (int i = 0; i < sections.Count; i++)
            Section(file, map, pages, sections[i], i + 1);
        int sectionMapId = pages.Count + 1,
            pageMapId = pages.Count + 2;
        Append(file, pages, sectionMapId, System(SectionMapType, map.ToArray()));
        int pageMapAt = (int)file.Length;
        // The map of pages names itself, and its packed size may depend on that: it is written with room to spare.
        byte[] pageMap = PageMap(pages, pageMapId);
        Append(file, pages, pageMapId, pageMap);
        byte[] head = FileHead(version, codePage);
        byte[] secret = Masked(SecretHead(pages, pageMapAt, sectionMapId, pageMapId, (int)file.Length));
        secret.CopyTo(head, Secret);
        Masked(new byte[SecretSize + SystemHead]).AsSpan(SecretSize).CopyTo(head.AsSpan(Secret + SecretSize));
        file.Write(secret);
        file.Position = 0;
        file.Write(head);
        file.WriteTo(target);
    }

    private const int DataPageSize = 0x7400;

    // The sections around the drawing have pages of their own sizes (Open Design specification, 4.3, from memory); a reader that
    // reserves just that much refuses larger ones.
    private static int PageSizeOf(string name) =>
        name switch
        {
            "AcDb:SummaryInfo" => 0x100,
            "AcDb:AppInfo" => 0x80,
            "AcDb:Preview" => 0x400,
            _ => DataPageSize,
        };

    private static void Section(
        MemoryStream file,
        MemoryStream map,
        List<(int Id, int Size)> pages,
        (string Name, ReadOnlyMemory<byte> Data, bool Packed) section,
        int number
    )
    {
        int pageSize = PageSizeOf(section.Name),
            count = (section.Data.Length + pageSize - 1) / pageSize;
        Span<byte> size = stackalloc byte[8];
        BinaryPrimitives.WriteInt64LittleEndian(size, section.Data.Length);
        map.Write(size);
        Numbers(map, count, pageSize, 1, section.Packed ? 2 : 1, number, 0);
        byte[] name = new byte[NameSize];
        Encoding.ASCII.GetBytes(section.Name, name);
        map.Write(name);
        // Pages are packed side by side.
        byte[][] packed = new byte[count][];
        Parallel.For(
            0,
            count,
            () => (Page: new byte[pageSize], Packed: new DwgCompression.Packed()),
            (i, _, own) =>
            {
                var data = section.Data.Span[(i * pageSize)..];
                data[..Math.Min(pageSize, data.Length)].CopyTo(own.Page);
                own.Page.AsSpan(Math.Min(pageSize, data.Length)).Clear();
                packed[i] = section.Packed ? DwgCompression.Compress(own.Page, own.Packed) : own.Page.ToArray();
                return own;
            },
            _ => { }
        );
        for (int i = 0; i < count; i++)
        {
            int from = i * pageSize,
                id = pages.Count + 1;
            Append(file, pages, id, PageHeadOf(packed[i], pageSize, number, from, (int)file.Length), packed[i]);
            Numbers(map, id, packed[i].Length);
            BinaryPrimitives.WriteInt64LittleEndian(size, from);
            map.Write(size);
        }
    }

    private static byte[] PageHeadOf(byte[] data, int pageSize, int section, int start, int at)
    {
        byte[] page = new byte[PageHead];
        uint[] head =
        [
            DataType,
            (uint)section,
            (uint)data.Length,
            (uint)pageSize,
            (uint)start,
            0,
            0,
            DwgCrc.Sum(data, 0),
        ];
        Put(head);
        head[6] = DwgCrc.Sum(page, head[7]);
        uint mask = PageMask ^ (uint)at;
        Put([.. head.Select(h => h ^ mask)]);
        return page;

        void Put(uint[] numbers)
        {
            for (int i = 0; i < 8; i++)
                BinaryPrimitives.WriteUInt32LittleEndian(page.AsSpan(4 * i), numbers[i]);
        }
    }

    private static byte[] System(int type, byte[] data)
    {
        byte[] packed = DwgCompression.Compress(data);
        byte[] page = new byte[SystemHead + packed.Length];
        int[] head = [type, data.Length, packed.Length, 2, 0];
        for (int i = 0; i < 5; i++)
            BinaryPrimitives.WriteInt32LittleEndian(page.AsSpan(4 * i), head[i]);
        BinaryPrimitives.WriteUInt32LittleEndian(
            page.AsSpan(16),
            DwgCrc.Sum(packed, DwgCrc.Sum(page.AsSpan(0, SystemHead), 0))
        );
        packed.CopyTo(page, SystemHead);
        return page;
    }

    private static byte[] PageMap(List<(int Id, int Size)> pages, int own)
    {
        int reserved = Round(SystemHead + (8 * (pages.Count + 1) * 2) + 64);
        var map = new MemoryStream();
        foreach (var (id, size) in pages)
            Numbers(map, id, size);
        Numbers(map, own, reserved);
        byte[] page = System(PageMapType, map.ToArray());
        Array.Resize(ref page, reserved);
        return page;
    }

    private static void Append(
        MemoryStream file,
        List<(int Id, int Size)> pages,
        int id,
        byte[] page,
        byte[]? data = null
    )
    {
        file.Write(page);
        file.Write(data);
        int length = page.Length + (data?.Length ?? 0),
            size = Round(length);
        file.Write(new byte[size - length]);
        pages.Add((id, size));
    }

    private static int Round(int size) => (size + 31) & ~31;

    private static byte[] FileHead(CadVersion version, int codePage)
    {
        byte[] head = new byte[Head];
        Encoding.ASCII.GetBytes(version.ToString(), head);
        // Readers differ over which of the two is the maintenance release.
        head[0x0B] = head[0x12] = (byte)DwgFrame.Maintenance(version);
        head[0x0C] = 1;
        head[0x11] = (byte)DwgSmallSections.Number(version);
        BinaryPrimitives.WriteUInt16LittleEndian(head.AsSpan(0x13), (ushort)codePage);
        BinaryPrimitives.WriteInt32LittleEndian(head.AsSpan(0x28), 0x80);
        return head;
    }

    private static byte[] SecretHead(
        List<(int Id, int Size)> pages,
        int pageMapAt,
        int sectionMapId,
        int pageMapId,
        int end
    )
    {
        byte[] secret = new byte[SecretSize];
        "AcFssFcAJMB"u8.CopyTo(secret);
        int[] numbers = [0, SecretSize, 4, 0, 0, 0, 1, pageMapId];
        for (int i = 0; i < numbers.Length; i++)
            BinaryPrimitives.WriteInt32LittleEndian(secret.AsSpan(0x0C + (4 * i)), numbers[i]);
        BinaryPrimitives.WriteInt64LittleEndian(secret.AsSpan(0x2C), end - Head);
        BinaryPrimitives.WriteInt64LittleEndian(secret.AsSpan(0x34), end);
        int[] more = [0, pages.Count, 0x20, 0x80, 0x40, pageMapId];
        for (int i = 0; i < more.Length; i++)
            BinaryPrimitives.WriteInt32LittleEndian(secret.AsSpan(0x3C + (4 * i)), more[i]);
        BinaryPrimitives.WriteInt64LittleEndian(secret.AsSpan(0x54), pageMapAt - Head);
        BinaryPrimitives.WriteInt32LittleEndian(secret.AsSpan(0x5C), sectionMapId);
        BinaryPrimitives.WriteInt32LittleEndian(secret.AsSpan(0x60), pages.Count);
        BinaryPrimitives.WriteUInt32LittleEndian(secret.AsSpan(0x68), DwgCrc.Crc32(secret));
        return secret;
    }

    private static void Numbers(MemoryStream target, params ReadOnlySpan<int> numbers)
    {
        Span<byte> bytes = stackalloc byte[4];
        foreach (int number in numbers)
        {
            BinaryPrimitives.WriteInt32LittleEndian(bytes, number);
            target.Write(bytes);
        }
    }
}
