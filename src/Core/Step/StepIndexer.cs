using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;
using System.Runtime.Intrinsics.X86;

namespace SteadyLintel.Step;

/// <summary>The single pass that finds every instance of an exchange structure.</summary>
/// <remarks>
/// Only <c>;</c>, <c>'</c>, <c>/</c>, <c>=</c> and line feeds matter between the start of an instance and its end. The pass compares 64 bytes at
/// a time with these five, strikes out with a prefix sum of the apostrophes what lies in strings, and visits the rest: two marks an instance. A second <c>=</c> in an instance means that its semicolon is missing; a line that starts
/// with <c>#n=</c> inside a string means that its apostrophe is.
/// </remarks>
/// <param name="bytes">The file, up to where this pass ends.</param>
/// <param name="from">Where this pass begins: 0, or the <c>#</c> of an instance.</param>
/// <param name="columns">Where instances go.</param>
/// <param name="limits">What to refuse.</param>
/// <param name="cancel">Stops the pass within four million bytes.</param>
internal ref struct StepIndexer(ReadOnlySpan<byte> bytes, int from, StepColumns columns, StepLimits limits, CancellationToken cancel)
{
    private const int Block = 64;
    private readonly ReadOnlySpan<byte> _bytes = bytes;
    private int _start = from;
    private int _equals = -1;

    public readonly StepColumns Columns { get; } = columns;

    public readonly StepTypeTable Types { get; } = new();

    public readonly List<StepProblem> Problems { get; } = [];

    public StepHeader Header { get; private set; } = new();

    public int ProblemCount { get; private set; }

    /// <summary>Whether END-ISO-10303-21 was reached.</summary>
    public bool Ended { get; private set; }

    /// <summary>Whether the pass stopped between two statements, with nothing but white space behind the last.</summary>
    public bool StoppedBetween { get; private set; }

    // Called once or twice a file, so the runtime would not see that it is hot.
    [MethodImpl(MethodImplOptions.AggressiveOptimization)]
    public void Run()
    {
        if (_start == 0) Begin();
        // Visiting may move the pass: behind a comment, or back to where a damaged instance ends.
        int next = _start;
        bool inString = false;
        long check = 0;
        while (next < _bytes.Length)
        {
            int block = next;
            if (block >= check)
            {
                cancel.ThrowIfCancellationRequested();
                check = block + (1L << 22);
            }

            next = block + Block;
            for (ulong marks = Marks(block, ref inString); marks != 0; marks &= marks - 1)
            {
                int at = block + BitOperations.TrailingZeroCount(marks);
                byte mark = _bytes[at];
                if (mark == ';')
                {
                    End(at);
                    _start = at + 1;
                    _equals = -1;
                }
                else if (mark == '=' && _equals < 0) _equals = at;
                else if (Unusual(at, mark) is >= 0 and var moved)
                {
                    next = moved;
                    inString = false;
                    break;
                }
            }
        }

        StoppedBetween = !inString && _bytes[_start..].Trim(" \t\r\n"u8).IsEmpty;
    }

    /// <summary>Reports what is missing at the end of the file.</summary>
    public void Finish(bool ended)
    {
        int rest = StepScan.SkipSpace(_bytes, _start);
        if (rest < _bytes.Length && _bytes[rest] == '#') Report(StepProblemKind.DamagedInstance, rest, $"The last instance is cut off: {Snippet(rest)}");
        if (!ended) Report(StepProblemKind.Truncated, _bytes.Length, "The file ends before END-ISO-10303-21; it was probably cut off on the way.");
    }

    private void Begin()
    {
        if (_bytes.StartsWith("\uFEFF"u8)) _start = 3;
        int first = StepScan.SkipSpace(_bytes, _start);
        if (!_bytes[first..].StartsWith("ISO-10303-21"u8))
            Report(StepProblemKind.NotAnExchangeStructure, first, "The file does not begin with ISO-10303-21.");
    }

    // One bit for each of the next 64 bytes that is a mark and means something: semicolons, equals and slashes outside strings, line feeds inside.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private readonly ulong Marks(int block, ref bool inString)
    {
        ulong quotes, outside, feeds;
        if (_bytes.Length - block >= Block)
        {
            ref byte at = ref Unsafe.Add(ref MemoryMarshal.GetReference(_bytes), block);
            Vector256<byte> low = Vector256.LoadUnsafe(ref at), high = Vector256.LoadUnsafe(ref at, (nuint)Vector256<byte>.Count);
            quotes = Equal(low, high, (byte)'\'');
            outside = Bits(Outside(low), Outside(high));
            feeds = Equal(low, high, (byte)'\n');
        }
        else
        {
            (quotes, outside, feeds) = (0, 0, 0);
            for (int i = block; i < _bytes.Length; i++)
            {
                ulong bit = 1ul << (i - block);
                if (_bytes[i] == '\'') quotes |= bit;
                else if (_bytes[i] is (byte)';' or (byte)'=' or (byte)'/') outside |= bit;
                else if (_bytes[i] == '\n') feeds |= bit;
            }
        }

        // Each apostrophe turns the state of all bytes behind it; a doubled one turns it twice.
        ulong inside = quotes == 0 ? 0 : TurnedBehind(quotes);
        if (inString) inside = ~inside;
        inString = inside >> 63 != 0;
        return (outside & ~inside) | (feeds & inside);
    }

    private static Vector256<byte> Outside(Vector256<byte> v) =>
        Vector256.Equals(v, Vector256.Create((byte)';')) | Vector256.Equals(v, Vector256.Create((byte)'=')) | Vector256.Equals(v, Vector256.Create((byte)'/'));

    private static ulong Equal(Vector256<byte> low, Vector256<byte> high, byte to) => Bits(Vector256.Equals(low, Vector256.Create(to)), Vector256.Equals(high, Vector256.Create(to)));

    private static ulong Bits(Vector256<byte> low, Vector256<byte> high) => low.ExtractMostSignificantBits() | ((ulong)high.ExtractMostSignificantBits() << 32);

    // The sum of all bits before and at each one, without carry: a product with all ones.
    private static ulong TurnedBehind(ulong bits)
    {
        if (Pclmulqdq.IsSupported) return Pclmulqdq.CarrylessMultiply(Vector128.CreateScalar(bits), Vector128.Create(ulong.MaxValue), 0)[0];
        for (int by = 1; by < 64; by *= 2) bits ^= bits << by;
        return bits;
    }

    // Comments, and what a missing semicolon or apostrophe looks like. Returns where the pass goes on outside a string, or -1 to go on as it was.
    private int Unusual(int at, byte mark)
    {
        if (mark == '/') return at + 1 < _bytes.Length && _bytes[at + 1] == '*' ? StepScan.SkipComment(_bytes, at) : -1;
        // The string has run into the next instance: its apostrophe is missing.
        if (mark == '\n') return StartsInstance(at + 1) ? Abandon(at + 1) : -1;
        int begin = StepScan.SkipSpace(_bytes, _start);
        int hash = _bytes[(_equals + 1)..at].LastIndexOf((byte)'#');
        return begin < at && _bytes[begin] == '#' && hash >= 0 ? Abandon(_equals + 1 + hash) : -1;
    }

    private int Abandon(int next)
    {
        int begin = StepScan.SkipSpace(_bytes, _start);
        Report(StepProblemKind.DamagedInstance, begin, $"An instance is not closed before the next one begins: {Snippet(begin)}");
        _start = next;
        _equals = -1;
        return next;
    }

    // A statement reaches from _start to the semicolon.
    private void End(int semicolon)
    {
        int begin = _start;
        while (_bytes[begin] is (byte)'\n' or (byte)'\r' or (byte)' ') begin++;
        if (_bytes[begin] != '#')
        {
            begin = StepScan.SkipSpace(_bytes, begin);
            if (begin >= semicolon || _bytes[begin] != '#')
            {
                Statement(begin, semicolon);
                return;
            }
        }

        Instance(begin, semicolon);
    }

    private void Statement(int begin, int semicolon)
    {
        var text = _bytes[Math.Min(begin, semicolon)..semicolon].TrimEnd(" \t\r\n"u8);
        int n = 0;
        while (n < text.Length && StepScan.IsKeyword(text[n])) n++;
        if (n == 0)
        {
            Report(StepProblemKind.DamagedInstance, begin, "Expected an instance or a section here.");
            return;
        }

        string keyword = System.Text.Encoding.ASCII.GetString(text[..n]);
        int open = text.IndexOf((byte)'(');
        if (open >= 0 && text[^1] == ')') Header = Header.With(keyword, new StepRecord(text[(open + 1)..^1]));
        Ended |= keyword == "END-ISO-10303-21";
    }

    private void Instance(int begin, int semicolon)
    {
        // Nearly always "#12=KEYWORD(": the mark of '=' is known and at most eight digits stand before it.
        if (!Digits(begin + 1, _equals, out long id, out int digits)) return;
        int keyword = _equals + 1;
        if (_bytes[keyword] <= ' ' || _bytes[keyword] == '/') keyword = StepScan.SkipSpace(_bytes, keyword);
        var (type, open) = Keyword(keyword, semicolon);
        if (open >= semicolon || _bytes[open] != '(') Report(StepProblemKind.DamagedInstance, begin, $"Instance #{id} has no parameter list.");
        else if (id > int.MaxValue || digits > 10) Report(StepProblemKind.IdOutOfRange, begin, "An instance name is above 2147483647.");
        else if (type >= 0)
        {
            if (Columns.Count >= limits.MaxInstances) throw new StepFormatException($"The file has more than {limits.MaxInstances} instances.");
            Columns.Add((int)id, (ushort)type, begin, open - begin, semicolon + 1 - begin);
        }
    }

    // The instance name between '#' and '='. Reports what is none.
    private bool Digits(int from, int equals, out long id, out int count)
    {
        count = equals - from;
        if (count is > 0 and <= 8 && equals >= 8)
        {
            // The digits are the last bytes of a word of eight; zeroes take the place of what stands before them.
            const ulong Zeroes = 0x3030303030303030;
            int before = 64 - (8 * count);
            ulong word = System.Buffers.Binary.BinaryPrimitives.ReadUInt64LittleEndian(_bytes[(equals - 8)..]);
            word = (before == 0 ? word : (word >> before << before) | (Zeroes >> (64 - before))) ^ Zeroes;
            if (((word | (word + 0x7676767676767676)) & 0x8080808080808080) == 0)
            {
                // Pairs, fours, eights: the usual reduction of eight decimal digits in a word.
                word = (word * 10) + (word >> 8);
                id = (long)((((word & 0x000000FF000000FF) * 0x000F424000000064) + (((word >> 16) & 0x000000FF000000FF) * 0x0000271000000001)) >> 32);
                return true;
            }
        }

        return DigitsSlowly(from, out id, out count);
    }

    private bool DigitsSlowly(int from, out long id, out int count)
    {
        id = 0;
        int p = from;
        for (uint digit; (digit = (uint)(_bytes[p] - '0')) <= 9 && p - from < 12; p++) id = (id * 10) + digit;
        count = p - from;
        if (_bytes[p] != '=') p = StepScan.SkipSpace(_bytes, p);
        if (_bytes[p] == '=' && count > 0)
        {
            _equals = p;
            return true;
        }

        Report(StepProblemKind.DamagedInstance, from - 1, "An instance name is not followed by '='.");
        return false;
    }

    // One load finds the parenthesis, and tells the keyword when it was seen before.
    private readonly (int Type, int Open) Keyword(int keyword, int semicolon)
    {
        if (_bytes.Length - keyword < Vector256<byte>.Count) return KeywordSlowly(keyword, semicolon);
        var next = Vector256.LoadUnsafe(ref MemoryMarshal.GetReference(_bytes), (nuint)keyword);
        uint found = Vector256.Equals(next, Vector256.Create((byte)'(')).ExtractMostSignificantBits();
        int length = BitOperations.TrailingZeroCount(found);
        if (found == 0 || keyword + length >= semicolon) return KeywordSlowly(keyword, semicolon);
        var word = next & Vector256.LoadUnsafe(ref MemoryMarshal.GetReference(Mask), (nuint)(32 - length));
        int type = Types.Known(word);
        if (type >= 0) return (type, keyword + length);
        var slowly = KeywordSlowly(keyword, semicolon);
        if (slowly.Type >= 0 && slowly.Open == keyword + length && StepScan.IsKeyword(_bytes[slowly.Open - 1])) Types.Remember(word, slowly.Type);
        return slowly;
    }

    // 32 bytes of ones, then zeroes: the mask of a length begins that much before their end.
    private static ReadOnlySpan<byte> Mask =>
    [
        255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255, 255,
        0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0,
    ];

    private readonly (int Type, int Open) KeywordSlowly(int keyword, int semicolon)
    {
        int open = keyword + Math.Max(0, _bytes[keyword..semicolon].IndexOf((byte)'('));
        int type = Types.Intern(_bytes[keyword..open]);
        if (type != StepTypeTable.NotAKeyword) return (type, open);
        // Space or a comment before the parenthesis.
        open = keyword + KeywordLength(_bytes[keyword..semicolon]);
        type = Types.Intern(_bytes[keyword..open]);
        return (type, StepScan.SkipSpace(_bytes, open));
    }

    private static int KeywordLength(ReadOnlySpan<byte> text)
    {
        int n = 0;
        while (n < text.Length && StepScan.IsKeyword(text[n])) n++;
        return n;
    }

    private readonly bool StartsInstance(int at)
    {
        if (at >= _bytes.Length || _bytes[at] != '#') return false;
        int p = at + 1;
        while (p < _bytes.Length && (uint)(_bytes[p] - '0') <= 9) p++;
        int digits = p - at - 1;
        while (p < _bytes.Length && _bytes[p] == ' ') p++;
        return digits > 0 && p < _bytes.Length && _bytes[p] == '=';
    }

    private readonly string Snippet(int at) => System.Text.Encoding.ASCII.GetString(_bytes.Slice(at, Math.Min(40, _bytes.Length - at))).ReplaceLineEndings(" ");

    private void Report(StepProblemKind kind, int offset, string message)
    {
        if (ProblemCount++ < limits.MaxProblems) Problems.Add(new StepProblem(kind, offset, StepScan.LineOf(_bytes, offset), message));
    }
}
