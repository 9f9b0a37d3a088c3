using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using System.Runtime.Intrinsics.X86;

namespace SteadyLintel.Step;

/// <summary>Finds the bytes that a pass over an exchange structure must look at: semicolons, equals and slashes outside strings, line feeds
/// inside.</summary>
/// <remarks>
/// 64 bytes are compared at a time, and what lies in strings is recognised by a prefix sum of the apostrophes. Positions are written four
/// at a
/// time whether
/// there are as many or not, so that the processor has no count of marks to guess.
/// </remarks>
internal static class StepMarks
{
    /// <summary>The most bytes to look through in one call, a multiple of 64; what is found stays in the first cache.</summary>
    public const int Chunk = 8192;

    /// <summary>How many positions a call may write.</summary>
    public const int Room = Chunk + Four;

    /// <summary>How many bytes are compared at once.</summary>
    public const int Block = 64;

    private const int Four = 4;
    private const int Ahead = 2048;

    /// <summary>Writes the positions of the marks between <paramref name="from"/> and <paramref name="to"/>, rising, and returns how many
    /// there are.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="from">The first byte to look at.</param>
    /// <param name="to">The byte behind the last: a multiple of 64 behind <paramref name="from"/>, or the end of the file.</param>
    /// <param name="marks">At least <see cref="Room"/> places.</param>
    /// <param name="inString">Whether <paramref name="from"/> lies in a string; then whether <paramref name="to"/> does.</param>
    [MethodImpl(MethodImplOptions.AggressiveOptimization | MethodImplOptions.NoInlining)]
    public static int Find(ReadOnlySpan<byte> bytes, int from, int to, Span<int> marks, ref bool inString)
    {
        bool inside = inString;
        int count = 0;
        for (int block = from; block < to; block += Block)
        {
            // The next page is fetched early; the processor by itself stops at the end of this one.
            if (Sse.IsSupported && block + Ahead < bytes.Length)
                Fetch(bytes[block + Ahead]);
            ulong bits =
                to - block >= Block ? Whole(bytes.Slice(block, Block), ref inside) : Rest(bytes[block..to], ref inside);
            int more = BitOperations.PopCount(bits);
            int at = count;
            count += more;
            do
            {
                bits = Write(bits, block, marks.Slice(at, Four));
                at += Four;
            } while (at < count);
        }

        inString = inside;
        return count;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static unsafe void Fetch(in byte at) => Sse.Prefetch0(Unsafe.AsPointer(ref Unsafe.AsRef(in at)));

    // The first four positions; those beyond the last bit are overwritten by the next.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Write(ulong bits, int block, Span<int> marks)
    {
        marks[0] = block + BitOperations.TrailingZeroCount(bits);
        bits &= bits - 1;
        marks[1] = block + BitOperations.TrailingZeroCount(bits);
        bits &= bits - 1;
        marks[2] = block + BitOperations.TrailingZeroCount(bits);
        bits &= bits - 1;
        marks[3] = block + BitOperations.TrailingZeroCount(bits);
        return bits & (bits - 1);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Whole(ReadOnlySpan<byte> block, ref bool inString)
    {
        // Where the processor compares 64 bytes in one instruction, this is one load and five comparisons.
        ref byte first = ref MemoryMarshal.GetReference(block);
        var bytes = Vector512.LoadUnsafe(ref first);
        return Marks(
            Equal(bytes, (byte)'\''),
            Equal(bytes, (byte)';') | Equal(bytes, (byte)'=') | Equal(bytes, (byte)'/'),
            Equal(bytes, (byte)'\n'),
            ref inString
        );
    }

    // The last bytes of a file, fewer than 64. The state behind them is that of the last.
    private static ulong Rest(ReadOnlySpan<byte> block, ref bool inString)
    {
        ulong quotes = 0,
            outside = 0,
            feeds = 0;
        for (int i = 0; i < block.Length; i++)
        {
            ulong bit = 1ul << i;
            if (block[i] == '\'')
                quotes |= bit;
            else if (block[i] is (byte)';' or (byte)'=' or (byte)'/')
                outside |= bit;
            else if (block[i] == '\n')
                feeds |= bit;
        }

        return Marks(quotes, outside, feeds, ref inString);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Marks(ulong quotes, ulong outside, ulong feeds, ref bool inString)
    {
        // Each apostrophe turns the state of all bytes behind it; a doubled one turns it twice.
        ulong inside = TurnedBehind(quotes) ^ (inString ? ulong.MaxValue : 0);
        inString = inside >> 63 != 0;
        return (outside & ~inside) | (feeds & inside);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Equal(Vector512<byte> bytes, byte to) =>
        Vector512.Equals(bytes, Vector512.Create(to)).ExtractMostSignificantBits();

    // The sum of all bits before and at each one, without carry: a product with all ones.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong TurnedBehind(ulong bits)
    {
        if (Pclmulqdq.IsSupported)
            return Pclmulqdq.CarrylessMultiply(Vector128.CreateScalar(bits), Vector128.Create(ulong.MaxValue), 0)[0];
        for (int by = 1; by < 64; by *= 2)
            bits ^= bits << by;
        return bits;
    }
}
