using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

// Writing: pages are packed, listed in the map of their section and in the map of pages, and the head says where the maps are.
internal static partial class Dwg2004Container
{
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
