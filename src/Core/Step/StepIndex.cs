namespace SteadyLintel.Step;

/// <summary>The index of a whole file: large files are cut at instances and their parts indexed side by side.</summary>
/// <remarks>
/// A part may only begin where the pass before it stopped between two statements. When it did not (a comment or a damaged instance reaches
/// over the
/// cut), or a header is in a later part, the file is indexed again in one pass, so the result never depends on the cuts.
/// </remarks>
internal sealed record StepIndex(
    StepColumns Columns,
    IReadOnlyList<string> Types,
    StepHeader Header,
    List<StepProblem> Problems,
    int ProblemCount
)
{
    private const int SmallestPart = 4 << 20;

    /// <summary>Indexes a file with at most <paramref name="degree"/> threads.</summary>
    public static StepIndex Read(ReadOnlyMemory<byte> bytes, StepLimits limits, int degree, CancellationToken cancel)
    {
        var cuts = Cuts(bytes.Span, Math.Min(degree, bytes.Length / SmallestPart));
        var parts = new Part[cuts.Count - 1];
        if (parts.Length > 1)
        {
            var regions = StepColumns.For(cuts);
            var options = new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = degree };
            try
            {
                Parallel.For(0, parts.Length, options, i =>
                    parts[i] = Pass(bytes, cuts[i], cuts[i + 1], regions[i], limits, cancel)
                );
                if (Fit(parts))
                    return Join(bytes, parts, limits);
            }
            catch (AggregateException e) when (e.InnerException is StepFormatException inner)
            {
                throw inner;
            }
        }

        return Whole(bytes, limits, cancel);
    }

    private static StepIndex Whole(ReadOnlyMemory<byte> bytes, StepLimits limits, CancellationToken cancel)
    {
        var indexer = new StepIndexer(bytes.Span, 0, StepColumns.For(bytes.Length), limits, cancel);
        indexer.Run();
        indexer.Finish(indexer.Ended);
        return new StepIndex(
            indexer.Columns,
            indexer.Types.Names,
            indexer.Header,
            indexer.Problems,
            indexer.ProblemCount
        );
    }

    // Where the parts begin, and the end of the file. A part begins at the '#' of a line that starts an instance.
    private static List<int> Cuts(ReadOnlySpan<byte> bytes, int parts)
    {
        var cuts = new List<int> { 0 };
        for (int i = 1; i < parts; i++)
        {
            int from = (int)((long)bytes.Length * i / parts);
            int line = bytes[from..].IndexOf("\n#"u8);
            if (line >= 0 && from + line + 1 > cuts[^1])
                cuts.Add(from + line + 1);
        }

        cuts.Add(bytes.Length);
        return cuts;
    }

    private static Part Pass(
        ReadOnlyMemory<byte> bytes,
        int from,
        int to,
        StepColumns region,
        StepLimits limits,
        CancellationToken cancel
    )
    {
        var indexer = new StepIndexer(bytes.Span[..to], from, region, limits, cancel);
        indexer.Run();
        if (to == bytes.Length)
            indexer.Finish(indexer.Ended);
        bool plain = indexer.Header == new StepHeader();
        var index = new StepIndex(
            indexer.Columns,
            indexer.Types.Names,
            indexer.Header,
            indexer.Problems,
            indexer.ProblemCount
        );
        return new Part(index, to == bytes.Length || (indexer.StoppedBetween && !indexer.Ended), from == 0 || plain);
    }

    private static bool Fit(Part[] parts) => parts.All(p => p.StoppedBetween && p.HeaderInPlace);

    private static StepIndex Join(ReadOnlyMemory<byte> bytes, Part[] parts, StepLimits limits)
    {
        if (parts.Sum(p => (long)p.Index.Columns.Count) > limits.MaxInstances)
            throw new StepFormatException($"The file has more than {limits.MaxInstances} instances.");
        var names = new List<string>();
        var numbered = parts
            .Select(p => (p.Index.Columns, p.Index.Types.Select(t => Number(names, t)).ToArray()))
            .ToList();
        var problems = parts.SelectMany(p => p.Index.Problems).Take(limits.MaxProblems).ToList();
        return new StepIndex(
            StepColumns.Join(numbered),
            names,
            parts[0].Index.Header,
            problems,
            parts.Sum(p => p.Index.ProblemCount)
        );
    }

    private static ushort Number(List<string> names, string name)
    {
        int known = names.IndexOf(name);
        if (known >= 0)
            return (ushort)known;
        names.Add(name);
        return (ushort)(names.Count - 1);
    }

    private sealed record Part(StepIndex Index, bool StoppedBetween, bool HeaderInPlace);
}
