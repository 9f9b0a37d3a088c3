using System.Buffers.Binary;
using System.Text;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>Makes files of 2007 for the reader, which no library here writes, with the checks by which another reader corrects errors. Sums
/// over pages are left zero.</summary>
internal static class CodedDwg
{
    private const int Head = 0x80,
        FirstPage = 0x480,
        Word = 255,
        SystemData = 239,
        PageData = 251,
        LargestPage = 0xF800;

    // Some readers go by these numbers of the sections' names (Open Design specification, chapter 5, from memory).
    private static readonly Dictionary<string, long> Hashes = new()
    {
        ["AcDb:SummaryInfo"] = 0x717a060f,
        ["AcDb:Preview"] = 0x40aa0473,
        ["AcDb:AppInfo"] = 0x3fa0043e,
        ["AcDb:FileDepList"] = 0x6c4205ca,
        ["AcDb:RevHistory"] = 0x60a205b3,
        ["AcDb:ObjFreeSpace"] = 0x77e2061f,
        ["AcDb:AuxHeader"] = 0x54f0050a,
        ["AcDb:AcDbObjects"] = 0x674c05a9,
        ["AcDb:Template"] = 0x4a1404ce,
        ["AcDb:Handles"] = 0x3f6e0450,
        ["AcDb:Classes"] = 0x3f54045f,
        ["AcDb:Header"] = 0x32b803d9,
    };

    public static byte[] Write(Drawing drawing)
    {
        var file = new MemoryStream();
        file.Write(new byte[FirstPage]);
        var pages = new List<(long Size, long Id)>();
        var map = new MemoryStream();
        var sections = DwgWriter.Sections(drawing, CadVersion.AC1021);
        foreach (var (name, data, _) in sections)
        {
            byte[] title = Encoding.Unicode.GetBytes(name + "\0");
            int count = (data.Length + LargestPage - 1) / LargestPage;
            Numbers(map, data.Length, LargestPage, 0, Hashes[name], title.Length, 0, 4, count);
            map.Write(title);
            for (int from = 0; from < data.Length; from += LargestPage)
            {
                byte[] plain = data[from..Math.Min(data.Length, from + LargestPage)].ToArray(),
                    packed = Pack(plain);
                long id = Append(file, pages, Code(packed.Length < plain.Length ? packed : plain, PageData));
                Numbers(map, from, pages[^1].Size, id, plain.Length, Math.Min(packed.Length, plain.Length), 0, 0);
            }
        }

        byte[] sectionMap = map.ToArray(),
            packedSections = Pack(sectionMap);
        long sectionMapId = Append(file, pages, Code(packedSections, SystemData)),
            sectionMapCopy = Append(file, pages, Code(packedSections, SystemData));
        var list = new MemoryStream();
        long pageMapId = pages.Count + 1,
            pageMapAt = file.Length - FirstPage;
        foreach (var (size, id) in pages)
            Numbers(list, size, id);
        Numbers(list, 0x400, pageMapId, 0x400, pageMapId + 1);
        byte[] pageMap = list.ToArray(),
            packedPages = Pack(pageMap);
        for (int i = 0; i < 2; i++)
        {
            byte[] page = Code(packedPages, SystemData);
            Array.Resize(ref page, Math.Max(0x400, page.Length));
            file.Write(page);
        }

        var head = new MemoryStream();
        Numbers(
            head,
            0x70,
            file.Length,
            0,
            1,
            0,
            pageMapAt + 0x400,
            pageMapId + 1,
            pageMapAt,
            pageMapId,
            file.Length,
            packedPages.Length,
            pageMap.Length,
            pages.Count + 2,
            pages.Count + 2,
            0x20,
            0x40,
            0,
            0xF800,
            4,
            1,
            sections.Count + 1,
            0,
            packedSections.Length,
            sectionMapCopy,
            sectionMapId,
            sectionMap.Length,
            0,
            1,
            0,
            0x60100,
            0,
            0,
            0,
            0
        );
        byte[] bytes = file.ToArray();
        FileHead(head.ToArray()).CopyTo(bytes, Head);
        Encoding.ASCII.GetBytes("AC1021").CopyTo(bytes, 0);
        (bytes[0x0C], bytes[0x11]) = (1, 0x1B);
        BinaryPrimitives.WriteUInt16LittleEndian(
            bytes.AsSpan(0x13),
            (ushort)CodePages.Number(drawing.Header.Text("$DWGCODEPAGE"))
        );
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(0x28), 0x80);
        return bytes;
    }

    private static byte[] FileHead(byte[] head)
    {
        byte[] packed = Pack(head),
            plain = new byte[0x20 + packed.Length];
        BinaryPrimitives.WriteInt32LittleEndian(plain.AsSpan(24), packed.Length);
        packed.CopyTo(plain, 0x20);
        return Code(plain, SystemData, 3);
    }

    private static long Append(MemoryStream file, List<(long Size, long Id)> pages, byte[] page)
    {
        file.Write(page);
        file.Write(new byte[-page.Length & 31]);
        pages.Add(((page.Length + 31) & ~31, pages.Count + 1));
        return pages.Count;
    }

    private static void Numbers(Stream target, params ReadOnlySpan<long> numbers)
    {
        Span<byte> bytes = stackalloc byte[8];
        foreach (long number in numbers)
        {
            BinaryPrimitives.WriteInt64LittleEndian(bytes, number);
            target.Write(bytes);
        }
    }

    // Code words take turns, byte by byte.
    private static byte[] Code(byte[] data, int share, int words = 0)
    {
        if (words == 0)
            words = (((data.Length + 7) & ~7) + share - 1) / share;
        byte[] coded = new byte[words * Word];
        byte[] word = new byte[Word];
        for (int w = 0; w < words; w++)
        {
            Array.Clear(word);
            data.AsSpan(Math.Min(w * share, data.Length), Math.Clamp(data.Length - (w * share), 0, share)).CopyTo(word);
            Check(word, share);
            for (int i = 0; i < Word; i++)
                coded[(i * words) + w] = word[i];
        }

        return coded;
    }

    // Reed and Solomon: data are the high coefficients of a polynomial over GF(256), checks the low ones, such that the first powers of the
    // primitive element are its roots.
    // The fields are those of x⁸+x⁶+x⁵+x³+1 for pages that hold the file together and x⁸+x⁴+x³+x²+1 for the others.
    private static void Check(Span<byte> word, int share)
    {
        int field = share == SystemData ? 0x169 : 0x11D,
            checks = Word - share;
        byte[] generator = [1];
        for (int i = 0, root = 2; i < checks; i++, root = Times(root, 2, field))
        {
            byte[] longer = new byte[generator.Length + 1];
            for (int k = 0; k < generator.Length; k++)
            {
                longer[k + 1] ^= generator[k];
                longer[k] ^= (byte)Times(generator[k], root, field);
            }

            generator = longer;
        }

        byte[] rest = new byte[checks];
        for (int i = share - 1; i >= 0; i--)
        {
            int lead = word[i] ^ rest[^1];
            for (int k = checks - 1; k > 0; k--)
                rest[k] = (byte)(rest[k - 1] ^ Times(lead, generator[k], field));
            rest[0] = (byte)Times(lead, generator[0], field);
        }

        rest.CopyTo(word[share..]);
    }

    private static int Times(int a, int b, int field)
    {
        int product = 0;
        for (; b > 0; b >>= 1, a = (a << 1) > 255 ? (a << 1) ^ field : a << 1)
            if ((b & 1) != 0)
                product ^= a;
        return product;
    }

    /// <summary>Packs bytes as <see cref="Dwg2007Compression"/> unpacks them.</summary>
    public static byte[] Pack(ReadOnlySpan<byte> source)
    {
        var packed = new List<byte>();
        var heads = new Dictionary<uint, int>();
        int open = 0,
            at = Math.Min(8, source.Length),
            slot = -1;
        while (at + 4 <= source.Length)
        {
            uint word = BinaryPrimitives.ReadUInt32LittleEndian(source[at..]);
            bool found = heads.TryGetValue(word, out int known) && at - known <= 0xFFFF;
            heads[word] = at;
            // One to seven literals fit behind a copy; there is no way to say none at the start.
            if (!found)
            {
                at++;
                continue;
            }

            int length = 4,
                offset = at - known;
            while (at + length < source.Length && length < 2000 && source[known + length] == source[at + length])
                length++;
            Literals(packed, source[open..at], slot);
            slot = Copy(packed, length, offset, after: at == open);
            at += length;
            open = at;
        }

        Literals(packed, source[open..], slot);
        return [.. packed];
    }

    private static void Literals(List<byte> packed, ReadOnlySpan<byte> literals, int slot)
    {
        if (literals.Length == 0)
            return;
        if (literals.Length < 8 && slot >= 0)
            packed[slot] |= (byte)literals.Length;
        else if (literals.Length < 8)
            packed.AddRange([0x20, 0, 0, (byte)literals.Length]);
        else if (literals.Length < 0x17)
            packed.Add((byte)(literals.Length - 8));
        else
        {
            packed.Add(0x0F);
            int rest = literals.Length - 0x17;
            packed.Add((byte)Math.Min(rest, 0xFF));
            if (rest >= 0xFF)
            {
                for (rest -= 0xFF; rest >= 0xFFFF; rest -= 0xFFFF)
                    packed.AddRange([0xFF, 0xFF]);
                packed.AddRange([(byte)rest, (byte)(rest >> 8)]);
            }
        }

        byte[] run = new byte[literals.Length];
        int[] order = Dwg2007Compression.Order(literals.Length);
        for (int i = 0; i < run.Length; i++)
            run[order[i]] = literals[i];
        packed.AddRange(run);
    }

    // Answers where its three bits for literals are. All five forms are used, so that the reader meets each.
    private static int Copy(List<byte> packed, int length, int offset, bool after)
    {
        int back = offset - 1;
        if (length <= 14 && back < 512)
            packed.AddRange([(byte)((length << 4) | (back & 15)), (byte)((back >> 1) & 0xF8)]);
        else if (length <= 18 && back < 8192)
            packed.AddRange([(byte)(0x10 | (length - 3)), (byte)back, (byte)((back >> 5) & 0xF8)]);
        else if (length is >= 19 and <= 50 && back < 4096)
        {
            int more = length - 0x13;
            packed.AddRange([
                (byte)((after ? 0xF0 : 0) | (more & 15)),
                (byte)back,
                (byte)(((back >> 5) & 0x78) | ((more & 16) << 3)),
            ]);
        }
        else if (length < 0x100)
            packed.AddRange([(byte)(0x20 | (length & 7)), (byte)offset, (byte)(offset >> 8), (byte)(length & 0xF8)]);
        else
        {
            int more = length - 0x100;
            packed.AddRange([
                (byte)(0x28 | (more & 7)),
                (byte)back,
                (byte)(back >> 8),
                (byte)(more >> 3),
                (byte)((more >> 8) & 0xF8),
            ]);
        }

        return packed.Count - 1;
    }
}
