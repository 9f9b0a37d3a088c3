namespace SteadyLintel.Step;

/// <summary>An exchange structure (ISO 10303-21) over bytes that stay where they are.</summary>
/// <remarks>
/// <see cref="Read"/> makes one pass and keeps an index in columns; attributes are parsed when asked for. Instances are addressed by
/// their position in the file, 0 … <see cref="Count"/> - 1; <see cref="IndexOf"/> translates an instance name (<c>#12</c> → 12).
/// Safe for concurrent reading.
/// </remarks>
public sealed class StepFile
{
    private readonly ReadOnlyMemory<byte> _bytes;
    private readonly StepColumns _columns;
    private readonly StepIdMap _map;

    private StepFile(
        ReadOnlyMemory<byte> bytes,
        StepColumns columns,
        StepIdMap map,
        StepHeader header,
        IReadOnlyList<string> types,
        IReadOnlyList<StepProblem> problems,
        int problemCount
    )
    {
        (_bytes, _columns, _map, Header, TypeNames, Problems, ProblemCount) = (
            bytes,
            columns,
            map,
            header,
            types,
            problems,
            problemCount
        );
    }

    /// <summary>The header section.</summary>
    public StepHeader Header { get; }

    /// <summary>The entity keywords of the file, in capitals, in order of first use; a complex instance has the empty keyword.</summary>
    public IReadOnlyList<string> TypeNames { get; }

    /// <summary>Damage found on the way, the first <see cref="StepLimits.MaxProblems"/> of it.</summary>
    public IReadOnlyList<StepProblem> Problems { get; }

    /// <summary>How many problems there are in all.</summary>
    public int ProblemCount { get; }

    /// <summary>How many instances were indexed.</summary>
    public int Count => _columns.Count;

    /// <summary>The whole file.</summary>
    public ReadOnlyMemory<byte> Bytes => _bytes;

    /// <summary>Indexes an exchange structure. Every damaged instance becomes a problem and the rest is read.</summary>
    /// <param name="bytes">The whole file.</param>
    /// <param name="limits">What a file may ask for; null for the usual.</param>
    /// <param name="cancel">Stops between instances.</param>
    /// <exception cref="StepFormatException">A limit is exceeded, or there is neither a header nor an instance.</exception>
    /// <exception cref="OperationCanceledException">When asked to stop.</exception>
    public static StepFile Read(
        ReadOnlyMemory<byte> bytes,
        StepLimits? limits = null,
        CancellationToken cancel = default
    )
    {
        limits ??= StepLimits.Default;
        if (bytes.Length > limits.MaxBytes)
            throw new StepFormatException($"The file is longer than {limits.MaxBytes} bytes.");
        var index = StepIndex.Read(bytes, limits, limits.Threads, cancel);
        if (index.Columns.Count == 0 && index.Problems.Any(p => p.Kind == StepProblemKind.NotAnExchangeStructure))
            throw new StepFormatException(
                "This is not an ISO 10303-21 file: it does not start with ISO-10303-21 and holds no instance."
            );
        var problems = index.Problems;
        int count = index.ProblemCount;
        var map = StepIdMap.Build(index.Columns, (id, offset) =>
        {
            if (count++ < limits.MaxProblems)
                problems.Add(
                    new StepProblem(
                        StepProblemKind.DuplicateId,
                        offset,
                        StepScan.LineOf(bytes.Span, offset),
                        $"Instance #{id} is there twice; the first is used."
                    )
                );
        });
        return new StepFile(bytes, index.Columns, map, index.Header, index.Types, problems, count);
    }

    /// <summary>The position of the instance with a name, or -1.</summary>
    /// <param name="id">The number behind <c>#</c>.</param>
    public int IndexOf(int id) => _map.IndexOf(id);

    /// <summary>The name of an instance.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public int Id(int index) => _columns.Ids[index];

    /// <summary>The largest instance name, 0 in an empty file.</summary>
    public int MaxId => _map.MaxId;

    /// <summary>The instance's entry in <see cref="TypeNames"/>.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public int TypeOf(int index) => _columns.Types[index];

    /// <summary>The byte offset of the instance's <c>#</c>.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public int Offset(int index) => _columns.Offsets[index];

    /// <summary>The one-based line of an instance; counts from the start, so for reports only.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public int Line(int index) => StepScan.LineOf(_bytes.Span, _columns.Offsets[index]);

    /// <summary>The instance as it is in the file, from its <c>#</c> to its semicolon.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public ReadOnlySpan<byte> Raw(int index) => _bytes.Span.Slice(_columns.Offsets[index], _columns.Lengths[index]);

    /// <summary>The attributes of a simple instance; for a complex instance use <see cref="Part"/>.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public StepRecord Record(int index) => new(Inside(index));

    /// <summary>The attributes that a complex instance has for one of its entities; none when it lacks that part. A simple instance answers
    /// for its own keyword.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    /// <param name="keyword">The entity, in capital letters.</param>
    public StepRecord Part(int index, string keyword)
    {
        if (TypeNames[TypeOf(index)].Length > 0)
            return TypeNames[TypeOf(index)] == keyword ? Record(index) : default;
        foreach (var (name, from, to) in Parts(index))
            if (name == keyword)
                return new StepRecord(_bytes.Span[from..to]);
        return default;
    }

    /// <summary>The keywords of a complex instance, in file order.</summary>
    /// <param name="index">The position of the instance, from 0.</param>
    public IReadOnlyList<string> PartNames(int index) => [.. Parts(index).Select(p => p.Name)];

    private ReadOnlySpan<byte> Inside(int index)
    {
        var raw = Raw(index);
        int open = _columns.Heads[index];
        if (open == 255)
            open = FindOpen(raw);
        int close = raw.Length - 2;
        while (close > open && raw[close] <= ' ')
            close--;
        if (raw[close] != ')')
        {
            // A comment is before the semicolon.
            for (close = open + 1; close < raw.Length && raw[close] != ')'; )
                close = StepScan.SkipParameter(raw, raw[close] == ',' ? close + 1 : close);
        }

        return close > open ? raw[(open + 1)..Math.Min(close, raw.Length)] : default;
    }

    private static int FindOpen(ReadOnlySpan<byte> raw)
    {
        int at = StepScan.SkipSpace(raw, 1);
        while (raw[at] != '=')
            at = raw[at] == '/' ? StepScan.SkipComment(raw, at) : at + 1;
        for (at = StepScan.SkipSpace(raw, at + 1); StepScan.IsKeyword(raw[at]); )
            at++;
        return StepScan.SkipSpace(raw, at);
    }

    private List<(string Name, int From, int To)> Parts(int index)
    {
        var parts = new List<(string, int, int)>();
        var inside = Inside(index);
        int start = _columns.Offsets[index] + Raw(index).IndexOf(inside);
        for (int at = StepScan.SkipSpace(inside, 0); at < inside.Length; at = StepScan.SkipSpace(inside, at))
        {
            int name = at;
            while (at < inside.Length && StepScan.IsKeyword(inside[at]))
                at++;
            int open = StepScan.SkipSpace(inside, at);
            if (at == name || open >= inside.Length || inside[open] != '(')
                break;
            int close = open + 1;
            while (close < inside.Length && inside[close] != ')')
                close = StepScan.SkipParameter(inside, inside[close] == ',' ? close + 1 : close);
            parts.Add(
                (
                    System.Text.Encoding.ASCII.GetString(inside[name..at]).ToUpperInvariant(),
                    start + open + 1,
                    start + close
                )
            );
            at = close + 1;
        }

        return parts;
    }
}
