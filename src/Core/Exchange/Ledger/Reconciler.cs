namespace SteadyLintel.Exchange;

/// <summary>Balances a hand-over: has the written files read back, and counts elements by storey and class.</summary>
internal sealed class Reconciler
{
    private const int MaxDifferences = 100;
    private readonly HandoverPlan _plan;
    private readonly ILedger _ledger;
    private readonly string?[][] _reasons;
    private readonly int[][] _written;
    private readonly int[][] _found;
    private readonly Dictionary<(string Storey, string Class), int> _unexpected = [];
    private readonly List<string> _differences = [];

    public Reconciler(HandoverPlan plan, ILedger ledger)
    {
        _plan = plan;
        _ledger = ledger;
        _reasons = [.. plan.Decisions.Select(d => d.ToArray())];
        _written = [.. plan.Sources.Select(s => new int[s.Snapshot.Elements.Count])];
        _found = [.. plan.Sources.Select(s => new int[s.Snapshot.Elements.Count])];
    }

    /// <summary>Names the reason why an element that was chosen could not go.</summary>
    public void LeaveOut(int source, ModelElement element, string reason) => _reasons[source][element.Number] = reason;

    /// <summary>The reason an element is left out, null when it goes.</summary>
    public string? ReasonOf(int source, ModelElement element) => _reasons[source][element.Number];

    /// <summary>Reads a written file.</summary>
    public void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, CancellationToken cancel)
    {
        foreach (var written in file.Elements)
            _written[written.Source][written.Element.Number]++;
        _ledger.Read(file, bytes, this, cancel);
    }

    /// <summary>Counts an element that was found as it was to be.</summary>
    public void Find(int source, ModelElement element) => _found[source][element.Number]++;

    /// <summary>Counts spatial structure, which goes with what is on it into several files and is one thing.</summary>
    public void FindOnce(int source, ModelElement element, bool sound)
    {
        _written[source][element.Number] = 1;
        _found[source][element.Number] = sound ? 1 : 0;
    }

    /// <summary>Counts an element that was found and not asked for.</summary>
    public void AddUnexpected(string storey, string name, string sentence)
    {
        _unexpected[(storey, name)] = _unexpected.GetValueOrDefault((storey, name)) + 1;
        Differ(sentence);
    }

    /// <summary>Keeps a difference, if there are not too many already.</summary>
    public void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences)
            _differences.Add(sentence);
    }

    /// <summary>The balance sheet, storeys from the highest.</summary>
    public Reconciliation Balance()
    {
        var rows = new Dictionary<(string Storey, string Class), RowTally>();
        var levels = new Dictionary<string, double>();
        for (int s = 0; s < _plan.Sources.Count; s++)
        {
            var snapshot = _plan.Sources[s].Snapshot;
            foreach (var storey in snapshot.Structure.Storeys)
                levels.TryAdd(storey.Name, storey.Level);
            foreach (var element in snapshot.Elements)
                Row(snapshot.StoreyName(element.Storey), element.Class)
                    .Add(Reason(s, element), _written[s][element.Number] > 0, Found(s, element.Number));
        }

        foreach (var (key, count) in _unexpected)
            Row(key.Storey, key.Class).Unexpected += count;
        var ordered = rows.OrderByDescending(r => levels.GetValueOrDefault(r.Key.Storey, double.NegativeInfinity))
            .ThenBy(r => r.Key.Storey, StringComparer.Ordinal)
            .ThenBy(r => r.Key.Class, StringComparer.Ordinal);
        var lines = _ledger.Lines();
        return new Reconciliation(
            [.. ordered.Select(r => r.Value.ToRow(r.Key.Storey, r.Key.Class))],
            [.. _ledger.Checks],
            [.. _ledger.Differences, .. _differences]
        )
        {
            Ledger = lines,
            Confirmed = Confirmed(),
            Unruled = [.. Unruled().Take(Reconciliation.MostUnruled)],
        };

        RowTally Row(string storey, string name)
        {
            if (!rows.TryGetValue((storey, name), out var row))
                rows[(storey, name)] = row = new RowTally();
            return row;
        }
    }

    private KindCounts? Confirmed()
    {
        if (_plan.Sources.Any(s => s.Bodiless is null))
            return null;
        var counts = default(KindCounts);
        for (int s = 0; s < _plan.Sources.Count; s++)
        {
            foreach (var element in _plan.Sources[s].Snapshot.Elements)
            {
                if (Reason(s, element) is not null || Found(s, element.Number) == 0)
                    continue;
                counts = counts.With(element.Class, !_plan.Sources[s].Bodiless!.Contains(element.Number), 1);
            }
        }

        return counts;
    }

    private IEnumerable<string> Unruled()
    {
        for (int s = 0; s < _plan.Sources.Count; s++)
            foreach (var element in _plan.Sources[s].Snapshot.Elements)
                if (
                    Reason(s, element) is { } reason
                    && (
                        _plan.Decisions[s][element.Number] is null || reason is HandoverPlan.Small or ClassTable.NotSent
                    )
                )
                    yield return element.GlobalId;
    }

    // An element that several files show, as sections do, is one thing: found where all of them have it.
    private int Found(int source, int number) =>
        Math.Max(0, _found[source][number] - Math.Max(0, _written[source][number] - 1));

    private string? Reason(int source, ModelElement element)
    {
        if (!_plan.Order.CarriesStructure || !_plan.Sources[source].Snapshot.IsStructure(element.Index))
            return _reasons[source][element.Number];
        return _written[source][element.Number] > 0 ? null : ModelLedger.Empty;
    }
}
