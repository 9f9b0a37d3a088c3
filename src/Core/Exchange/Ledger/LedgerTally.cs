namespace SteadyLintel.Exchange;

/// <summary>Sums accounts into lines, kind by kind.</summary>
internal sealed class LedgerTally
{
    private const int MaxExamples = 8;
    private readonly Dictionary<string, Line> _lines = new(StringComparer.Ordinal);

    /// <summary>Counts one thing.</summary>
    /// <param name="kind">Its line.</param>
    /// <param name="account">Where it ends.</param>
    /// <param name="rule">The rule or reason; empty for what is the same or unaccounted.</param>
    /// <param name="thing">Its name, asked for only when it becomes an example.</param>
    public void Add(string kind, LedgerAccount account, string rule, Func<string> thing) =>
        Of(kind).Add(account, rule, thing, true);

    /// <summary>Counts things that were found and are in no source.</summary>
    public void AddUnexpected(string kind, Func<string> thing) =>
        Of(kind).Add(LedgerAccount.Unaccounted, "", thing, false);

    /// <summary>Counts many things that are the same.</summary>
    public void AddSame(string kind, int count)
    {
        if (count > 0)
            Of(kind).AddSame(count);
    }

    /// <summary>The lines, in the order of their kinds: entities, then facts.</summary>
    public IReadOnlyList<LedgerLine> Lines() =>
        [
            .. _lines
                .OrderBy(l => !l.Key.StartsWith("Ifc", StringComparison.Ordinal))
                .ThenBy(l => l.Key, StringComparer.Ordinal)
                .Select(l => l.Value.ToLine(l.Key)),
        ];

    private Line Of(string kind) => _lines.TryGetValue(kind, out var line) ? line : _lines[kind] = new Line();

    private sealed class Line
    {
        private readonly SortedDictionary<string, int>[] _rules =
        [
            new(StringComparer.Ordinal),
            new(StringComparer.Ordinal),
            new(StringComparer.Ordinal),
            new(StringComparer.Ordinal),
            new(StringComparer.Ordinal),
        ];
        private readonly List<LedgerExample> _examples = [];
        private readonly int[] _shown = new int[5];
        private int _things,
            _same,
            _unaccounted;

        public void AddSame(int count)
        {
            _things += count;
            _same += count;
        }

        public void Add(LedgerAccount account, string rule, Func<string> thing, bool known)
        {
            if (known)
                _things++;
            if (account == LedgerAccount.Same)
            {
                _same++;
                return;
            }

            if (account == LedgerAccount.Unaccounted)
                _unaccounted++;
            else
                _rules[(int)account][rule] = _rules[(int)account].GetValueOrDefault(rule) + 1;
            if (_shown[(int)account]++ < MaxExamples)
                _examples.Add(new LedgerExample(account, rule, thing()));
        }

        public LedgerLine ToLine(string kind) =>
            new(
                kind,
                _things,
                _same,
                _rules[(int)LedgerAccount.Changed],
                _rules[(int)LedgerAccount.LeftOut],
                _rules[(int)LedgerAccount.NotCarried],
                _unaccounted
            )
            {
                Examples = _examples,
            };
    }
}
