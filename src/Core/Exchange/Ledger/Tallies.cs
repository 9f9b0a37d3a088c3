namespace SteadyLintel.Exchange;

/// <summary>Counts one row of the balance sheet.</summary>
internal sealed class RowTally
{
    private readonly SortedDictionary<string, int> _reasons = new(StringComparer.Ordinal);
    private int _in,
        _written,
        _found;

    public int Unexpected { get; set; }

    public void Add(string? reason, bool written, int found)
    {
        _in++;
        if (reason is not null)
            _reasons[reason] = _reasons.GetValueOrDefault(reason) + 1;
        _written += written ? 1 : 0;
        _found += found;
    }

    public ReconciliationRow ToRow(string storey, string name) =>
        new(storey, name, _in, _reasons.Values.Sum(), _written, _found, Unexpected, _reasons);
}

/// <summary>Counts one comparison.</summary>
internal sealed class CheckTally(string name)
{
    private int _same,
        _differ;
    private double _largest;

    public bool Any => _same + _differ > 0;

    public void Add(bool same, double deviation)
    {
        if (same)
            _same++;
        else
            _differ++;
        if (deviation > _largest)
            _largest = deviation;
    }

    public ReconciliationCheck ToCheck() => new(name, _same, _differ, _largest);
}
