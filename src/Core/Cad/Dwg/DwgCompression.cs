using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace SteadyLintel.Cad;

/// <summary>The compression of pages from 2004 on: runs of literal bytes and copies of what came before (Open Design specification 4.7,
/// from memory).</summary>
internal static class DwgCompression
{
    private const int Near = 0x400,
        Middle = 0x4000,
        Far = 0xBFFF,
        HashBits = 12,
        Shortest = 4,
        Patience = 3;

    /// <summary>Unpacks a page; one that says more than it may gives what fits, or the reason.</summary>
    /// <exception cref="CadFormatException">The page copies from before its start, or ends too early.</exception>
    public static void Decompress(ReadOnlySpan<byte> source, Span<byte> target)
    {
        int from = 0,
            to = 0;
        int opcode = Next(source, ref from);
        if ((opcode & 0xF0) == 0)
        {
            Literals(source, target, ref from, ref to, LiteralLength(source, ref from, opcode));
            opcode = Next(source, ref from);
        }

        while (opcode != 0x11)
        {
            int length,
                offset,
                literals;
            if (opcode >= 0x40)
            {
                length = (opcode >> 4) - 1;
                offset = (((opcode >> 2) & 3) | (Next(source, ref from) << 2)) + 1;
                literals = opcode & 3;
            }
            else if (opcode >= 0x10)
            {
                bool far = opcode < 0x20;
                length = Length(source, ref from, opcode, far ? 7 : 31);
                offset = far ? (opcode & 8) << 11 : 0;
                int low = Next(source, ref from);
                offset |= (low >> 2) | (Next(source, ref from) << 6);
                offset += far ? Middle : 1;
                literals = low & 3;
            }
            else
                throw new CadFormatException("a packed page has a code it cannot have");

            if (offset > to)
                throw new CadFormatException("a packed page copies from before its start");
            if (length > target.Length - to)
                throw new CadFormatException("a packed page holds more than it says");
            if (length <= offset)
            {
                Copy(target[(to - offset)..], target[to..], length);
                to += length;
            }
            else
                for (int i = 0; i < length; i++, to++)
                    target[to] = target[to - offset];

            if (literals > 0)
                Literals(source, target, ref from, ref to, literals);
            opcode = Next(source, ref from);
            if (literals > 0 || (opcode & 0xF0) != 0)
                continue;
            Literals(source, target, ref from, ref to, LiteralLength(source, ref from, opcode));
            opcode = Next(source, ref from);
        }
    }

    /// <summary>Packs a page.</summary>
    public static byte[] Compress(ReadOnlySpan<byte> source) => Compress(source, new Packed());

    /// <summary>Bytes of a page as they are packed; may serve for many.</summary>
    public sealed class Packed
    {
        // The longest run of literals has a byte for each 255 before it.
        private const int Spare = 64;
        private byte[] _bytes = [];

        /// <summary>How many there are.</summary>
        public int Count { get; private set; }

        /// <summary>Begins again, with room for what a page can become at worst.</summary>
        public void Begin(int page)
        {
            Count = 0;
            if (_bytes.Length < page + (page / 16) + Spare)
                _bytes = new byte[page + (page / 16) + Spare];
        }

        /// <summary>Adds a byte.</summary>
        public void Add(int value) => _bytes[Count++] = (byte)value;

        /// <summary>Adds bytes.</summary>
        public void Add(ReadOnlySpan<byte> values)
        {
            values.CopyTo(_bytes.AsSpan(Count));
            Count += values.Length;
        }

        /// <summary>Sets bits of a byte that is there.</summary>
        public void Mark(int at, int bits) => _bytes[at] |= (byte)bits;

        /// <summary>What is there.</summary>
        public byte[] ToArray() => _bytes[..Count];
    }

    /// <summary>Packs a page by way of bytes that may have served before.</summary>
    public static byte[] Compress(ReadOnlySpan<byte> source, Packed packed)
    {
        packed.Begin(source.Length);
        Span<int> heads = stackalloc int[1 << HashBits];
        heads.Fill(-1);
        // The first bytes are always literal: the format begins with at least four.
        int at = Math.Min(4, source.Length),
            open = 0,
            slot = -1,
            misses = 0;
        ref byte first = ref MemoryMarshal.GetReference(source);
        for (int last = source.Length - Shortest; at <= last; )
        {
            uint word = Unsafe.ReadUnaligned<uint>(ref Unsafe.Add(ref first, at));
            int hash = (int)((word * 2654435761u) >> (32 - HashBits)),
                known = heads[hash];
            heads[hash] = at;
            if (known < 0 || at - known > Far || Unsafe.ReadUnaligned<uint>(ref Unsafe.Add(ref first, known)) != word)
            {
                // Numbers that nothing resembles are passed in longer and longer steps.
                at += 1 + (misses++ >> Patience);
                continue;
            }

            misses = 0;
            int length = Shortest + source[(at + Shortest)..].CommonPrefixLength(source[(known + Shortest)..]);
            Flush(packed, source[open..at], slot);
            slot = Copy(packed, length, at - known);
            at += length;
            open = at;
        }

        Flush(packed, source[open..], slot);
        packed.Add([0x11, 0, 0]);
        return packed.ToArray();
    }

    // Writes a copy; answers where its two bits for one to three literals are.
    private static int Copy(Packed packed, int length, int offset)
    {
        if (length <= 14 && offset <= Near)
        {
            packed.Add(((length + 1) << 4) | (((offset - 1) & 3) << 2));
            packed.Add((offset - 1) >> 2);
            return packed.Count - 2;
        }

        bool far = offset > Middle;
        int rest = far ? offset - Middle : offset - 1,
            most = far ? 7 : 31,
            code = far ? 0x10 | ((rest >> 11) & 8) : 0x20;
        if (length - 2 <= most)
            packed.Add(code | (length - 2));
        else
        {
            packed.Add(code);
            Run(packed, length - 2 - most);
        }

        packed.Add((rest & 0x3F) << 2);
        packed.Add((rest >> 6) & 0xFF);
        return packed.Count - 2;
    }

    private static void Flush(Packed packed, ReadOnlySpan<byte> literals, int slot)
    {
        if (literals.Length == 0)
            return;
        if (literals.Length <= 3 && slot >= 0)
            packed.Mark(slot, literals.Length);
        else if (literals.Length <= 18)
            packed.Add(literals.Length - 3);
        else
        {
            packed.Add(0);
            Run(packed, literals.Length - 18);
        }

        packed.Add(literals);
    }

    private static void Run(Packed packed, int count)
    {
        for (; count > 255; count -= 255)
            packed.Add(0);
        packed.Add(count);
    }

    private static int Length(ReadOnlySpan<byte> source, ref int from, int opcode, int bits)
    {
        int length = opcode & bits;
        return (length != 0 ? length : bits + Long(source, ref from)) + 2;
    }

    private static int LiteralLength(ReadOnlySpan<byte> source, ref int from, int opcode) =>
        (opcode != 0 ? opcode : 15 + Long(source, ref from)) + 3;

    private static int Long(ReadOnlySpan<byte> source, ref int from)
    {
        int length = 0,
            last;
        while ((last = Next(source, ref from)) == 0)
            length += 255;
        return length + last;
    }

    private static void Literals(ReadOnlySpan<byte> source, Span<byte> target, ref int from, ref int to, int count)
    {
        if (count > source.Length - from || count > target.Length - to)
            throw new CadFormatException("a packed page holds more than it says");
        Copy(source[from..], target[to..], count);
        from += count;
        to += count;
    }

    // Nearly all runs are shorter than a vector; what is copied too much is written over by what follows.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static void Copy(ReadOnlySpan<byte> source, Span<byte> target, int count)
    {
        if (
            count <= Vector128<byte>.Count
            && source.Length >= Vector128<byte>.Count
            && target.Length >= Vector128<byte>.Count
        )
            Vector128
                .LoadUnsafe(ref MemoryMarshal.GetReference(source))
                .StoreUnsafe(ref MemoryMarshal.GetReference(target));
        else
            source[..count].CopyTo(target);
    }

    private static int Next(ReadOnlySpan<byte> source, ref int from) =>
        from < source.Length ? source[from++] : throw new CadFormatException("a packed page ends too early");
}
