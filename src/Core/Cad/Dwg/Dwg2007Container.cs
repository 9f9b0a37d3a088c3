using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>The file of 2007: pages whose bytes are interleaved with Reed-Solomon checks, packed, found through a map of pages and a map of
/// sections (Open Design specification, chapter 5, from memory).</summary>
/// <remarks>The checks are left aside: a page that was damaged is read as it is.</remarks>
internal static class Dwg2007Container
{
    // A code word has 255 bytes; of pages that hold the file together 239 are data, of the others 251.
    private const int Word = 255,
        SystemData = 239,
        PageData = 251;
    private const int Head = 0x80,
        HeadWords = 3,
        HeadNumbers = 0x20,
        HeadSize = 34 * 8,
        FirstPage = 0x480;
    private const int MostPages = 1 << 20,
        SectionNumbers = 8 * 8,
        PageNumbers = 7 * 8,
        LargestName = 256;
    private const long MostUnpacked = 1L << 30,
        SmallestLimit = 16 << 20,
        MostRatio = 200;

    /// <summary>Finds and unpacks the sections.</summary>
    public static DwgSections Read(byte[] bytes, Drawing drawing)
    {
        var head = new Numbers(FileHead(bytes));
        var pages = PageMap(SystemPage(bytes, FirstPage + head[7], head[10], head[11], head[3], "the map of pages"));
        if (!pages.TryGetValue(head[24], out var sectionMap))
            throw new CadFormatException(
                "The drawing's map of sections is not where it should be: it is damaged. Ask for it again, or for DXF."
            );
        byte[] map = SystemPage(bytes, sectionMap.At, head[22], head[25], head[27], "the map of sections");
        var sections = Sections(map, bytes, pages, drawing);
        return new DwgSections(
            Part("AcDb:Header"),
            Part("AcDb:Classes"),
            Part("AcDb:Handles"),
            Part("AcDb:AcDbObjects"),
            Part("AcDb:Template"),
            []
        );

        byte[] Part(string name) => sections.GetValueOrDefault(name, []);
    }

    // 34 numbers of eight bytes, packed when that made them shorter.
    private static byte[] FileHead(byte[] bytes)
    {
        if (bytes.Length < FirstPage)
            throw new CadFormatException("The drawing ends within its first bytes. Ask for it again.");
        byte[] coded = Decode(bytes.AsSpan(Head), HeadWords, SystemData);
        int packed = BinaryPrimitives.ReadInt32LittleEndian(coded.AsSpan(24));
        if (packed > coded.Length - HeadNumbers)
            throw Damaged("head");
        byte[] head = new byte[HeadSize];
        if (packed > 0)
            Unpack(coded.AsSpan(HeadNumbers, packed), head, "head");
        else
            coded.AsSpan(HeadNumbers, HeadSize).CopyTo(head);
        return head;
    }

    // Pages follow each other from the first; the number of one that is free is negative.
    private static Dictionary<long, (long At, long Size)> PageMap(byte[] map)
    {
        var pages = new Dictionary<long, (long, long)>();
        long at = FirstPage;
        var numbers = new Numbers(map);
        for (int i = 0; i + 1 < numbers.Count && pages.Count < MostPages; i += 2)
        {
            if (numbers[i] < 0)
                break;
            pages[numbers[i + 1]] = (at, numbers[i]);
            at += numbers[i];
        }

        return pages;
    }

    private static Dictionary<string, byte[]> Sections(
        ReadOnlySpan<byte> map,
        byte[] bytes,
        Dictionary<long, (long At, long Size)> pages,
        Drawing drawing
    )
    {
        var sections = new Dictionary<string, byte[]>();
        long unpacked = 0;
        while (map.Length >= SectionNumbers)
        {
            var head = new Numbers(map[..SectionNumbers]);
            long size = head[0],
                locked = head[2],
                nameLength = head[4],
                pageCount = head[7];
            map = map[SectionNumbers..];
            if (nameLength is < 0 or > LargestName || nameLength > map.Length)
                throw Damaged("map of sections");
            string name = Encoding.Unicode.GetString(map[..(int)nameLength]).TrimEnd('\0');
            map = map[(int)nameLength..];
            if (pageCount < 0 || pageCount > map.Length / PageNumbers)
                pageCount = map.Length / PageNumbers;
            var list = map[..(int)(pageCount * PageNumbers)];
            map = map[list.Length..];
            if (size < 0 || (unpacked += size) > Math.Min(MostUnpacked, SmallestLimit + (MostRatio * bytes.Length)))
                throw new CadFormatException(
                    "The drawing would unpack to far more than its size: it is damaged or made to do harm. Ask for it again, or for DXF."
                );
            if (!DwgSections.Wanted.Contains(name))
                continue;
            if (locked == 1)
                drawing.Findings.Add(
                    new CadFinding("CAD-LOCKED", name, $"The section {name} is encrypted and was left out.")
                );
            else
                sections[name] = Section(list, size, bytes, pages, name, drawing);
        }

        return sections;
    }

    private static byte[] Section(
        ReadOnlySpan<byte> list,
        long size,
        byte[] bytes,
        Dictionary<long, (long At, long Size)> pages,
        string name,
        Drawing drawing
    )
    {
        byte[] section = new byte[size];
        // Pages that give more than the section has are not looked at.
        long left = size;
        for (; list.Length >= PageNumbers && left > 0; list = list[PageNumbers..])
        {
            var page = new Numbers(list[..PageNumbers]);
            long start = page[0],
                id = page[2],
                unpacked = page[3],
                packed = page[4];
            left -= Math.Max(unpacked, 1);
            try
            {
                if (packed > unpacked)
                    throw new CadFormatException("it has a size it cannot have");
                if (!pages.TryGetValue(id, out var place) || start < 0 || start >= size)
                    throw new CadFormatException("it is not where it should be");
                var target = section.AsSpan((int)start, (int)Math.Clamp(unpacked, 0, size - start));
                Open(Coded(bytes, place.At, packed, 1, PageData), packed, target, unpacked);
            }
            catch (CadFormatException e)
            {
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-PAGE",
                        $"page {id}",
                        $"A page of the section {name} cannot be read ({e.Message}); what was on it is missing."
                    )
                );
            }
        }

        return section;
    }

    private static byte[] SystemPage(byte[] bytes, long at, long packed, long unpacked, long copies, string name)
    {
        try
        {
            if (unpacked is < 0 or > MostPages * 16)
                throw new CadFormatException("it has a size it cannot have");
            byte[] page = new byte[unpacked];
            Open(Coded(bytes, at, packed, copies, SystemData), packed, page, unpacked);
            return page;
        }
        catch (CadFormatException e)
        {
            throw new CadFormatException(
                $"The drawing's {name[4..]} cannot be read ({e.Message}). Ask for it again, or for DXF."
            );
        }
    }

    // Pages that compression would enlarge are stored uncompressed.
    private static void Open(byte[] data, long packed, Span<byte> target, long unpacked)
    {
        if (packed < unpacked)
            Dwg2007Compression.Decompress(data.AsSpan(0, (int)packed), target);
        else
            data.AsSpan(0, Math.Min(data.Length, target.Length)).CopyTo(target);
    }

    // A page's data, said so many times over, fills as many code words as it needs.
    private static byte[] Coded(byte[] bytes, long at, long packed, long copies, int data)
    {
        if (packed <= 0 || packed > bytes.Length || copies is <= 0 or > MostPages)
            throw new CadFormatException("it has a size it cannot have");
        long words = ((((packed + 7) & ~7) * copies) + data - 1) / data;
        if (at < 0 || at > bytes.Length || words > (bytes.Length - at) / Word)
            throw new CadFormatException("it continues beyond the end of the file");
        return Decode(bytes.AsSpan((int)at, (int)words * Word), (int)words, data);
    }

    // Byte by byte the words take turns.
    private static byte[] Decode(ReadOnlySpan<byte> coded, int words, int data)
    {
        byte[] plain = new byte[words * data];
        for (int word = 0; word < words; word++)
        for (int i = 0; i < data; i++)
            plain[(word * data) + i] = coded[(i * words) + word];
        return plain;
    }

    private static void Unpack(ReadOnlySpan<byte> packed, Span<byte> target, string name)
    {
        try
        {
            Dwg2007Compression.Decompress(packed, target);
        }
        catch (CadFormatException)
        {
            throw Damaged(name);
        }
    }

    private static CadFormatException Damaged(string name) =>
        new($"The drawing's {name} cannot be read: it is damaged. Ask for it again, or for DXF.");

    // Numbers of eight bytes.
    private readonly ref struct Numbers(ReadOnlySpan<byte> bytes)
    {
        private readonly ReadOnlySpan<byte> _bytes = bytes;

        public int Count => _bytes.Length / 8;

        public long this[int i] => BinaryPrimitives.ReadInt64LittleEndian(_bytes[(8 * i)..]);
    }
}
