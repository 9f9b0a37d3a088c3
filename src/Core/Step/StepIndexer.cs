using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace SteadyLintel.Step;

/// <summary>The single pass that finds every instance of an exchange structure.</summary>
/// <remarks>
/// Only <c>;</c>, <c>'</c>, <c>/</c>, <c>=</c> and line feeds matter between the start of an instance and its end. <see cref="StepMarks"/>
/// finds
/// them, some thousand bytes at a time, and the pass visits them: two marks an instance, <c>=</c> and <c>;</c>, whose order the processor
/// learns.
/// A second <c>=</c> in an instance means that its semicolon is missing; a line that starts with <c>#n=</c> inside a string means that its
/// apostrophe is.
/// </remarks>
/// <param name="bytes">The file, up to where this pass ends.</param>
/// <param name="from">Where this pass begins: 0, or the <c>#</c> of an instance.</param>
/// <param name="columns">Where instances go.</param>
/// <param name="limits">What to refuse.</param>
/// <param name="cancel">Stops the pass within a chunk.</param>
internal ref struct StepIndexer(
    ReadOnlySpan<byte> bytes,
    int from,
    StepColumns columns,
    StepLimits limits,
    CancellationToken cancel
)
{
    private const int Word = sizeof(ulong);
    private const ulong NotDecimals = ulong.MaxValue;
    private readonly ReadOnlySpan<byte> _bytes = bytes;
    private StepColumnWriter _columns = new(columns, limits.MaxInstances);
    private int _start = from;
    private int _equals = -1;

    public readonly StepColumns Columns => columns;

    public readonly StepTypeTable Types { get; } = new();

    public readonly List<StepProblem> Problems { get; } = [];

    public StepHeader Header { get; private set; } = new();

    public int ProblemCount { get; private set; }

    /// <summary>Whether END-ISO-10303-21 was reached.</summary>
    public bool Ended { get; private set; }

    /// <summary>Whether the pass stopped between two statements, with nothing but white space behind the last.</summary>
    public bool StoppedBetween { get; private set; }

    public void Run()
    {
        if (_start == 0)
            Begin();
        int[] marks = new int[StepMarks.Room];
        // Visiting may move the pass: behind a comment, or back to where a damaged instance ends.
        int next = _start,
            chunk = StepMarks.Chunk;
        bool inString = false;
        while (next < _bytes.Length)
        {
            cancel.ThrowIfCancellationRequested();
            int end = (int)Math.Min(next + (long)chunk, _bytes.Length);
            int count = StepMarks.Find(_bytes, next, end, marks, ref inString);
            int moved = Visit(marks.AsSpan(0, count));
            if (moved >= 0)
                inString = false;
            next = moved >= 0 ? moved : end;
            // What was found behind the place it moved to is found again, so where comments are thick little is looked through at once.
            chunk = moved >= 0 ? StepMarks.Block : Math.Min(StepMarks.Chunk, chunk * 2);
        }

        StoppedBetween = !inString && _bytes[_start..].Trim(" \t\r\n"u8).IsEmpty;
        _columns.Close();
    }

    // Returns where the pass goes on outside a string, or -1 to go on as it was. Called some times a file, so the runtime would not see
    // early that it is hot.
    [MethodImpl(MethodImplOptions.AggressiveOptimization | MethodImplOptions.NoInlining)]
    private int Visit(ReadOnlySpan<int> marks)
    {
        int i = 0;
        while (i < marks.Length)
        {
            int at = marks[i];
            byte mark = _bytes[at];
            if (mark == '=' && _equals < 0)
            {
                if (i + 1 < marks.Length && _bytes[marks[i + 1]] == ';' && Usual(at, marks[i + 1]))
                {
                    _start = marks[i + 1] + 1;
                    i += 2;
                    continue;
                }

                _equals = at;
            }
            else if (mark == ';')
            {
                End(at);
                _start = at + 1;
                _equals = -1;
            }
            else if (Unusual(at, mark) is >= 0 and var moved)
                return moved;

            i++;
        }

        return -1;
    }

    /// <summary>Reports what is missing at the end of the file.</summary>
    /// <param name="ended">Whether the file said that it ends.</param>
    public void Finish(bool ended)
    {
        int rest = StepScan.SkipSpace(_bytes, _start);
        if (rest < _bytes.Length && _bytes[rest] == '#')
            Report(StepProblemKind.DamagedInstance, rest, $"The last instance is cut off: {Snippet(rest)}");
        if (!ended)
            Report(
                StepProblemKind.Truncated,
                _bytes.Length,
                "The file ends before END-ISO-10303-21; it was probably cut off on the way."
            );
    }

    private void Begin()
    {
        if (_bytes.StartsWith("\uFEFF"u8))
            _start = 3;
        int first = StepScan.SkipSpace(_bytes, _start);
        if (!_bytes[first..].StartsWith("ISO-10303-21"u8))
            Report(StepProblemKind.NotAnExchangeStructure, first, "The file does not start with ISO-10303-21.");
    }

    // Comments, and what a missing semicolon or apostrophe looks like. Returns where the pass goes on outside a string, or -1 to go on as
    // it was.
    private int Unusual(int at, byte mark)
    {
        if (mark == '/')
            return at + 1 < _bytes.Length && _bytes[at + 1] == '*' ? StepScan.SkipComment(_bytes, at) : -1;
        // The string has run into the next instance: its apostrophe is missing.
        if (mark == '\n')
            return StartsInstance(at + 1) ? Abandon(at + 1) : -1;
        int begin = StepScan.SkipSpace(_bytes, _start);
        int hash = _bytes[(_equals + 1)..at].LastIndexOf((byte)'#');
        return begin < at && _bytes[begin] == '#' && hash >= 0 ? Abandon(_equals + 1 + hash) : -1;
    }

    private int Abandon(int next)
    {
        int begin = StepScan.SkipSpace(_bytes, _start);
        Report(
            StepProblemKind.DamagedInstance,
            begin,
            $"An instance is not closed before the next one begins: {Snippet(begin)}"
        );
        _start = next;
        _equals = -1;
        return next;
    }

    // A statement reaches from _start to the semicolon.
    private void End(int semicolon)
    {
        int begin = StepScan.SkipSpace(_bytes, _start);
        if (begin < semicolon && _bytes[begin] == '#')
            Instance(begin, semicolon);
        else
            Statement(begin, semicolon);
    }

    private void Statement(int begin, int semicolon)
    {
        var text = _bytes[Math.Min(begin, semicolon)..semicolon].TrimEnd(" \t\r\n"u8);
        int n = 0;
        while (n < text.Length && StepScan.IsKeyword(text[n]))
            n++;
        if (n == 0)
        {
            Report(StepProblemKind.DamagedInstance, begin, "Expected an instance or a section here.");
            return;
        }

        string keyword = System.Text.Encoding.ASCII.GetString(text[..n]);
        int open = text.IndexOf((byte)'(');
        if (open >= 0 && text[^1] == ')')
            Header = Header.With(keyword, new StepRecord(text[(open + 1)..^1]));
        Ended |= keyword == "END-ISO-10303-21";
    }

    // Nearly always "\n#12=KEYWORD(…);" or "\n#12 = KEYWORD(…);" with a keyword seen before. Whether the instance was that, and is taken.
    // Checked first: eight bytes are before the '=' and a vector behind it, so that nothing below reads beyond the file.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private bool Usual(int equals, int semicolon)
    {
        if (equals <= Word || equals >= _bytes.Length - 1 - Vector256<byte>.Count)
            return false;
        ref byte bytes = ref MemoryMarshal.GetReference(_bytes);
        int begin = _start;
        while (Unsafe.Add(ref bytes, begin) is (byte)'\n' or (byte)'\r' or (byte)' ')
            begin++;
        int name = Unsafe.Add(ref bytes, equals - 1) == ' ' ? equals - 1 : equals;
        int digits = name - begin - 1;
        if (Unsafe.Add(ref bytes, begin) != '#' || (uint)(digits - 1) >= Word)
            return false;
        ulong decimals = Decimals(Unsafe.ReadUnaligned<ulong>(ref Unsafe.Add(ref bytes, name - Word)), digits);
        int keyword = Unsafe.Add(ref bytes, equals + 1) == ' ' ? equals + 2 : equals + 1;
        var next = Vector256.LoadUnsafe(ref bytes, (nuint)keyword);
        uint found = Vector256.Equals(next, Vector256.Create((byte)'(')).ExtractMostSignificantBits();
        int length = BitOperations.TrailingZeroCount(found),
            open = keyword + length;
        if (decimals == NotDecimals || found == 0 || open >= semicolon)
            return false;
        ulong tail = Unsafe.ReadUnaligned<ulong>(ref Unsafe.Add(ref bytes, open - Word));
        int type = Types.Known(StepTypeTable.First(next, length), StepTypeTable.Slot(tail, length));
        if (type < 0)
            return false;
        _columns.Add(Number(decimals), (ushort)type, begin, open - begin, semicolon + 1 - begin);
        return true;
    }

    // The digits of a name are the last bytes of a word of eight; zeroes take the place of what is before them.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static ulong Decimals(ulong word, int digits)
    {
        int before = 64 - (8 * digits);
        word = ((word ^ 0x3030303030303030) >> before) << before;
        return ((word | (word + 0x7676767676767676)) & 0x8080808080808080) == 0 ? word : NotDecimals;
    }

    // Pairs, fours, eights: the usual reduction of eight decimal digits in a word.
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static int Number(ulong decimals)
    {
        decimals = (decimals * 10) + (decimals >> 8);
        return (int)(
            (
                ((decimals & 0x000000FF000000FF) * 0x000F424000000064)
                + (((decimals >> 16) & 0x000000FF000000FF) * 0x0000271000000001)
            ) >> 32
        );
    }

    private void Instance(int begin, int semicolon)
    {
        if (!Name(begin + 1, out long id, out int digits))
            return;
        int keyword = StepScan.SkipSpace(_bytes, _equals + 1);
        var (type, open) = Keyword(keyword, semicolon);
        if (open >= semicolon || _bytes[open] != '(')
            Report(StepProblemKind.DamagedInstance, begin, $"Instance #{id} has no parameter list.");
        else if (id > int.MaxValue || digits > 10)
            Report(StepProblemKind.IdOutOfRange, begin, "An instance name is above 2147483647.");
        else if (type >= 0)
            _columns.Add((int)id, (ushort)type, begin, open - begin, semicolon + 1 - begin);
    }

    // The instance name behind '#', and where its '=' is. Reports what is none.
    private bool Name(int from, out long id, out int count)
    {
        id = 0;
        int p = from;
        for (uint digit; (digit = (uint)(_bytes[p] - '0')) <= 9 && p - from < 12; p++)
            id = (id * 10) + digit;
        count = p - from;
        if (_bytes[p] != '=')
            p = StepScan.SkipSpace(_bytes, p);
        if (_bytes[p] == '=' && count > 0)
        {
            _equals = p;
            return true;
        }

        Report(StepProblemKind.DamagedInstance, from - 1, "An instance name is not followed by '='.");
        return false;
    }

    private readonly (int Type, int Open) Keyword(int keyword, int semicolon)
    {
        int open = keyword + Math.Max(0, _bytes[keyword..semicolon].IndexOf((byte)'('));
        int type = Types.Intern(_bytes[keyword..open]);
        if (type != StepTypeTable.NotAKeyword)
        {
            Types.Remember(_bytes, keyword, open, type);
            return (type, open);
        }

        // Space or a comment before the parenthesis.
        open = keyword + KeywordLength(_bytes[keyword..semicolon]);
        type = Types.Intern(_bytes[keyword..open]);
        return (type, StepScan.SkipSpace(_bytes, open));
    }

    private static int KeywordLength(ReadOnlySpan<byte> text)
    {
        int n = 0;
        while (n < text.Length && StepScan.IsKeyword(text[n]))
            n++;
        return n;
    }

    private readonly bool StartsInstance(int at)
    {
        if (at >= _bytes.Length || _bytes[at] != '#')
            return false;
        int p = at + 1;
        while (p < _bytes.Length && (uint)(_bytes[p] - '0') <= 9)
            p++;
        int digits = p - at - 1;
        while (p < _bytes.Length && _bytes[p] == ' ')
            p++;
        return digits > 0 && p < _bytes.Length && _bytes[p] == '=';
    }

    private readonly string Snippet(int at) =>
        System
            .Text.Encoding.ASCII.GetString(_bytes.Slice(at, Math.Min(40, _bytes.Length - at)))
            .ReplaceLineEndings(" ");

    private void Report(StepProblemKind kind, int offset, string message)
    {
        if (ProblemCount++ < limits.MaxProblems)
            Problems.Add(new StepProblem(kind, offset, StepScan.LineOf(_bytes, offset), message));
    }
}
