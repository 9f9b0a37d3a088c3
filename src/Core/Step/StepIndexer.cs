using System.Buffers;

namespace SteadyLintel.Step;

/// <summary>The single pass that finds every instance of an exchange structure.</summary>
/// <remarks>
/// Only <c>;</c>, <c>'</c>, <c>/</c> and <c>=</c> matter between the start of an instance and its end, so the pass jumps from one
/// of these to the next with a vectorised search. An <c>=</c> inside an instance means that its semicolon is missing; a line
/// that starts with <c>#n=</c> inside a string means that its apostrophe is.
/// </remarks>
internal ref struct StepIndexer(ReadOnlySpan<byte> bytes, StepLimits limits, CancellationToken cancel)
{
    private static readonly SearchValues<byte> Marks = SearchValues.Create(";'/="u8);

    private readonly ReadOnlySpan<byte> _bytes = bytes;
    private int _at;

    public readonly StepColumns Columns { get; } = new(bytes.Length);

    public readonly StepTypeTable Types { get; } = new();

    public readonly List<StepProblem> Problems { get; } = [];

    public StepHeader Header { get; private set; } = new();

    public int ProblemCount { get; private set; }

    public void Run()
    {
        if (_bytes.StartsWith("\uFEFF"u8)) _at = 3;
        _at = StepScan.SkipSpace(_bytes, _at);
        if (!_bytes[_at..].StartsWith("ISO-10303-21"u8))
            Report(StepProblemKind.NotAnExchangeStructure, _at, "The file does not begin with ISO-10303-21.");
        bool ended = false;
        int checkedAt = 0;
        while (true)
        {
            _at = StepScan.SkipSpace(_bytes, _at);
            if (_at >= _bytes.Length) break;
            if (_bytes[_at] == '#') Instance();
            else ended |= Statement();
            if (_at - checkedAt > 1 << 22)
            {
                cancel.ThrowIfCancellationRequested();
                checkedAt = _at;
            }
        }

        if (!ended) Report(StepProblemKind.Truncated, _bytes.Length, "The file ends before END-ISO-10303-21; it was probably cut off on the way.");
    }

    // A header entity or a section keyword. True for the end of the exchange structure.
    private bool Statement()
    {
        int start = _at;
        if (!FindEnd(start, allowEquals: true)) return false;
        var text = _bytes[start.._at];
        _at++;
        int n = 0;
        while (n < text.Length && StepScan.IsKeyword(text[n])) n++;
        if (n == 0)
        {
            Report(StepProblemKind.DamagedInstance, start, "Expected an instance or a section here.");
            return false;
        }

        string keyword = System.Text.Encoding.ASCII.GetString(text[..n]);
        int open = text.IndexOf((byte)'(');
        if (open >= 0 && text[^1] == ')') Header = Header.With(keyword, new StepRecord(text[(open + 1)..^1]));
        return keyword == "END-ISO-10303-21";
    }

    private void Instance()
    {
        int start = _at, p = _at + 1;
        while (p < _bytes.Length && (uint)(_bytes[p] - '0') <= 9) p++;
        bool named = StepValue.TryId(_bytes[(start + 1)..p], out int id);
        p = StepScan.SkipSpace(_bytes, p);
        if (p >= _bytes.Length || _bytes[p] != '=')
        {
            _at = start + 1;
            if (FindEnd(_at, allowEquals: false)) _at++;
            Report(StepProblemKind.DamagedInstance, start, "An instance name is not followed by '='.");
            return;
        }

        p = StepScan.SkipSpace(_bytes, p + 1);
        int keyword = p;
        while (p < _bytes.Length && StepScan.IsKeyword(_bytes[p])) p++;
        int type = Types.Intern(_bytes[keyword..p]);
        _at = p;
        if (!FindEnd(p, allowEquals: false))
        {
            Report(StepProblemKind.DamagedInstance, start, $"Instance #{id} is cut off or not closed.");
            return;
        }

        int last = _at - 1;
        while (last > p && _bytes[last] <= ' ') last--;
        _at++;
        int open = StepScan.SkipSpace(_bytes, p);
        if (open > last || _bytes[open] != '(') Report(StepProblemKind.DamagedInstance, start, $"Instance #{id} has no parameter list.");
        else if (!named) Report(StepProblemKind.IdOutOfRange, start, "An instance name is above 2147483647.");
        else if (type >= 0)
        {
            if (Columns.Count >= limits.MaxInstances) throw new StepFormatException($"The file has more than {limits.MaxInstances} instances.");
            Columns.Add(id, (ushort)type, start, keyword - start, _at - start);
        }
    }

    // Moves _at to the semicolon that ends the statement begun at `from`. False when there is none: _at then stands where reading may go on.
    private bool FindEnd(int from, bool allowEquals)
    {
        int at = from;
        while (true)
        {
            int step = _bytes[at..].IndexOfAny(Marks);
            if (step < 0)
            {
                _at = _bytes.Length;
                return false;
            }

            at += step;
            switch (_bytes[at])
            {
                case (byte)';':
                    _at = at;
                    return true;
                case (byte)'\'':
                    if (!SkipString(ref at)) return false;
                    break;
                case (byte)'/':
                    at = at + 1 < _bytes.Length && _bytes[at + 1] == '*' ? StepScan.SkipComment(_bytes, at) : at + 1;
                    break;
                default:
                    if (!allowEquals)
                    {
                        int hash = _bytes[from..at].LastIndexOf((byte)'#');
                        _at = hash < 0 ? at + 1 : from + hash;
                        return false;
                    }

                    at++;
                    break;
            }
        }
    }

    private bool SkipString(ref int at)
    {
        for (at++; at < _bytes.Length;)
        {
            int step = _bytes[at..].IndexOfAny((byte)'\'', (byte)'\n');
            if (step < 0) break;
            at += step;
            if (_bytes[at] == '\'')
            {
                at++;
                if (at >= _bytes.Length || _bytes[at] != '\'') return true;
                at++;
            }
            else if (StartsInstance(at + 1))
            {
                _at = at + 1;
                return false;
            }
            else at++;
        }

        _at = _bytes.Length;
        return false;
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

    private void Report(StepProblemKind kind, int offset, string message)
    {
        if (ProblemCount++ < limits.MaxProblems) Problems.Add(new StepProblem(kind, offset, StepScan.LineOf(_bytes, offset), message));
    }
}
