namespace SteadyLintel.Cad;

/// <summary>The compression of the pages of 2007: runs of literal bytes, whose words are in another order, and copies of what came before
/// (Open Design specification, chapter 5, from memory).</summary>
internal static class Dwg2007Compression
{
    private const int LiteralBase = 8,
        LongLiteral = 0x17;

    /// <summary>Unpacks a page.</summary>
    /// <returns>How many bytes it gave.</returns>
    /// <exception cref="CadFormatException">It copies from before its start, or says more than it may.</exception>
    public static int Decompress(ReadOnlySpan<byte> source, Span<byte> target)
    {
        int from = 0,
            to = 0,
            literals = 0;
        int opcode = Next(source, ref from);
        if (opcode >> 4 == 2)
        {
            from += 2;
            literals = Next(source, ref from) & 7;
        }

        while (from < source.Length)
        {
            if (literals == 0)
                literals = LiteralLength(source, ref from, opcode);
            Take(source, target, ref from, ref to, literals);
            if (from >= source.Length)
                break;
            opcode = Next(source, ref from);
            do
            {
                Copy(target, ref to, Instruction(source, ref from, ref opcode));
                literals = opcode & 7;
                if (literals != 0 || from >= source.Length)
                    break;
                opcode = Next(source, ref from);
                if (opcode >> 4 == 15)
                    opcode &= 15;
                else if (opcode >> 4 == 0)
                    break;
            } while (true);
        }

        return to;
    }

    /// <summary>Where in a run of literals the byte is that comes out at a place: whole words of 32 bytes come with their eights turned
    /// round, the rest by its own order.</summary>
    /// <param name="count">How many literals the run has.</param>
    public static int[] Order(int count)
    {
        var order = new List<int>(count);
        int start = 0;
        for (; count - start >= 32; start += 32)
        for (int eight = 24; eight >= 0; eight -= 8)
            order.AddRange(Enumerable.Range(start + eight, 8));
        foreach (var (first, length) in Rest(count - start))
            order.AddRange(Enumerable.Range(start + first, length));
        return [.. order];
    }

    // The last one to thirty-one bytes of a run: stretches in the order in which they come out.
    private static (int First, int Length)[] Rest(int count) =>
        count switch
        {
            0 => [],
            1 => [(0, 1)],
            2 => [(1, 1), (0, 1)],
            3 => [(2, 1), (1, 1), (0, 1)],
            4 => [(0, 4)],
            5 => [(4, 1), (0, 4)],
            6 => [(5, 1), (1, 4), (0, 1)],
            7 => [(6, 1), (5, 1), (1, 4), (0, 1)],
            8 => [(0, 8)],
            9 => [(8, 1), (0, 8)],
            10 => [(9, 1), (1, 8), (0, 1)],
            11 => [(10, 1), (9, 1), (1, 8), (0, 1)],
            12 => [(8, 4), (0, 8)],
            13 => [(12, 1), (8, 4), (0, 8)],
            14 => [(13, 1), (9, 4), (1, 8), (0, 1)],
            15 => [(14, 1), (13, 1), (9, 4), (1, 8), (0, 1)],
            16 => [(8, 8), (0, 8)],
            17 => [(9, 8), (8, 1), (0, 8)],
            18 => [(17, 1), (9, 8), (1, 8), (0, 1)],
            19 => [(18, 1), (17, 1), (16, 1), (8, 8), (0, 8)],
            20 => [(16, 4), (8, 8), (0, 8)],
            21 => [(20, 1), (16, 4), (8, 8), (0, 8)],
            22 => [(21, 1), (20, 1), (16, 4), (8, 8), (0, 8)],
            23 => [(22, 1), (21, 1), (20, 1), (16, 4), (8, 8), (0, 8)],
            24 => [(16, 8), (8, 8), (0, 8)],
            25 => [(17, 8), (16, 1), (8, 8), (0, 8)],
            26 => [(25, 1), (17, 8), (16, 1), (8, 8), (0, 8)],
            27 => [(26, 1), (25, 1), (17, 8), (16, 1), (8, 8), (0, 8)],
            28 => [(24, 4), (16, 8), (8, 8), (0, 8)],
            29 => [(28, 1), (24, 4), (16, 8), (8, 8), (0, 8)],
            30 => [(29, 1), (28, 1), (24, 4), (16, 8), (8, 8), (0, 8)],
            _ => [(30, 1), (26, 4), (18, 8), (10, 8), (2, 8), (1, 1), (0, 1)],
        };

    private static readonly int[][] Orders = [.. Enumerable.Range(0, 33).Select(Order)];

    private static int LiteralLength(ReadOnlySpan<byte> source, ref int from, int opcode)
    {
        int length = opcode + LiteralBase;
        if (length != LongLiteral)
            return length;
        int more = Next(source, ref from);
        length += more;
        if (more != 0xFF)
            return length;
        do
        {
            more = Next(source, ref from);
            more |= Next(source, ref from) << 8;
            length += more;
        } while (more == 0xFFFF);
        return length;
    }

    private static void Take(ReadOnlySpan<byte> source, Span<byte> target, ref int from, ref int to, int count)
    {
        if (count > source.Length - from || count > target.Length - to)
            throw new CadFormatException("a packed page holds more than it says");
        for (; count > 0; )
        {
            int piece = Math.Min(count, 32);
            int[] order = Orders[piece];
            for (int i = 0; i < piece; i++)
                target[to + i] = source[from + order[i]];
            (from, to, count) = (from + piece, to + piece, count - piece);
        }
    }

    private static void Copy(Span<byte> target, ref int to, (int Length, int Offset) copy)
    {
        if (copy.Offset > to)
            throw new CadFormatException("a packed page copies from before its start");
        if (copy.Length > target.Length - to)
            throw new CadFormatException("a packed page holds more than it says");
        for (int i = 0; i < copy.Length; i++, to++)
            target[to] = target[to - copy.Offset];
    }

    // The three low bits of the last byte of an instruction are literals that follow; it is left in the opcode.
    private static (int Length, int Offset) Instruction(ReadOnlySpan<byte> source, ref int from, ref int opcode)
    {
        int length,
            offset,
            code = opcode;
        switch (code >> 4)
        {
            case 0:
                offset = Next(source, ref from);
                opcode = Next(source, ref from);
                return ((code & 15) + 0x13 + ((opcode >> 3) & 0x10), offset + ((opcode & 0x78) << 5) + 1);
            case 1:
                offset = Next(source, ref from);
                opcode = Next(source, ref from);
                return ((code & 15) + 3, offset + ((opcode & 0xF8) << 5) + 1);
            case 2:
                offset = Next(source, ref from);
                offset |= Next(source, ref from) << 8;
                length = code & 7;
                if ((code & 8) == 0)
                {
                    opcode = Next(source, ref from);
                    return (length + (opcode & 0xF8), offset);
                }

                length += Next(source, ref from) << 3;
                opcode = Next(source, ref from);
                return (length + ((opcode & 0xF8) << 8) + 0x100, offset + 1);
            default:
                opcode = Next(source, ref from);
                return (code >> 4, (code & 15) + ((opcode & 0xF8) << 1) + 1);
        }
    }

    private static int Next(ReadOnlySpan<byte> source, ref int from) =>
        from < source.Length ? source[from++] : throw new CadFormatException("a packed page ends too early");
}
