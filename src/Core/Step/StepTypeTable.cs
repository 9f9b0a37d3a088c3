using System.Buffers.Binary;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using System.Text;

namespace SteadyLintel.Step;

/// <summary>Gives each entity keyword of a file a small number, so that the index needs two bytes for it.</summary>
internal sealed class StepTypeTable
{
    /// <summary>What <see cref="Intern"/> gives for bytes that cannot be a keyword.</summary>
    public const int NotAKeyword = -2;

    private readonly List<string> _names = [];
    private readonly List<byte[]> _keys = [];
    private int[] _slots = new int[1024];

    public IReadOnlyList<string> Names => _names;

    /// <summary>The number of a keyword, or -1 when a file has more than 65 000 different ones.</summary>
    /// <param name="keyword">In capital letters.</param>
    public int Intern(ReadOnlySpan<byte> keyword)
    {
        uint hash = StepHash.Of(keyword);
        int mask = _slots.Length - 1;
        for (int slot = (int)(hash & (uint)mask); ; slot = (slot + 1) & mask)
        {
            int entry = _slots[slot];
            if (entry == 0)
                return Add(keyword, slot);
            if (keyword.SequenceEqual(_keys[entry - 1]))
                return Alias(entry - 1);
        }
    }

    /// <summary>The number of a keyword of at most 31 bytes that is known already; -1 when it is not.</summary>
    /// <param name="keyword">The keyword, zeroes behind it.</param>
    /// <param name="slot">Its <see cref="Slot"/>.</param>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public int Known(Vector256<byte> keyword, int slot)
    {
        ref var entry = ref _short[slot];
        return entry.Keyword == keyword ? entry.Number - 1 : -1;
    }

    /// <summary>Makes a keyword known to <see cref="Known"/>; another may lose its place to it.</summary>
    /// <param name="bytes">Of the file.</param>
    /// <param name="keyword">Where the keyword begins.</param>
    /// <param name="open">Where its parenthesis is.</param>
    /// <param name="number">What it is called.</param>
    public void Remember(ReadOnlySpan<byte> bytes, int keyword, int open, int number)
    {
        int length = open - keyword;
        if (open < sizeof(ulong) || length >= Vector256<byte>.Count || bytes.Length - keyword < Vector256<byte>.Count)
            return;
        _short[Slot(BinaryPrimitives.ReadUInt64LittleEndian(bytes[(open - sizeof(ulong))..]), length)] = (
            First(Vector256.LoadUnsafe(ref MemoryMarshal.GetReference(bytes), (nuint)keyword), length),
            number + 1
        );
    }

    /// <summary>The first bytes, 31 at most, zeroes behind them.</summary>
    /// <param name="bytes">Of the file.</param>
    /// <param name="length">How many count.</param>
    public static Vector256<byte> First(Vector256<byte> bytes, int length) =>
        bytes & Vector256.LoadUnsafe(ref MemoryMarshal.GetReference(Ones), (nuint)(32 - length));

    /// <summary>Where a keyword is remembered, by its last eight bytes and its length: entities seldom share both.</summary>
    /// <param name="tail">The eight bytes before the parenthesis.</param>
    /// <param name="length">How long the keyword is.</param>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static int Slot(ulong tail, int length)
    {
        tail >>= Math.Max(0, 64 - (8 * length));
        return (int)(((tail ^ (uint)length) * 0x9E3779B97F4A7C15) >> 54);
    }

    // 32 bytes of ones, then zeroes: the mask of a length begins that much before their end.
    private static ReadOnlySpan<byte> Ones =>
        [
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            255,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
        ];

    private readonly (Vector256<byte> Keyword, int Number)[] _short = new (Vector256<byte>, int)[1024];
    private readonly List<int> _alias = [];

    private int Alias(int entry) => _alias[entry];

    private int Add(ReadOnlySpan<byte> keyword, int slot)
    {
        foreach (byte c in keyword)
            if (!StepScan.IsKeyword(c))
                return NotAKeyword;
        if (_keys.Count >= 65_000)
            return -1;
        string name = Encoding.ASCII.GetString(keyword).ToUpperInvariant();
        int known = _names.IndexOf(name);
        if (known < 0)
        {
            known = _names.Count;
            _names.Add(name);
        }

        _keys.Add(keyword.ToArray());
        _alias.Add(known);
        _slots[slot] = _keys.Count;
        if (_keys.Count * 2 > _slots.Length)
            Grow();
        return known;
    }

    private void Grow()
    {
        _slots = new int[_slots.Length * 4];
        int mask = _slots.Length - 1;
        for (int i = 0; i < _keys.Count; i++)
        {
            int slot = (int)(StepHash.Of(_keys[i]) & (uint)mask);
            while (_slots[slot] != 0)
                slot = (slot + 1) & mask;
            _slots[slot] = i + 1;
        }
    }
}
