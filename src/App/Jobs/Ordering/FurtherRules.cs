using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Jobs;

/// <summary>What an order asks of elements beside its rules: the rows of its class table and, of a coarse model, the size of parts; as
/// rules
/// behind the order's own, so that one query answers all.</summary>
/// <remarks>What they mean is Core's: <see cref="HandoverPlan"/> decides by the same rows and the same rule.</remarks>
internal sealed class FurtherRules
{
    private readonly Selection _own;
    private readonly List<(ClassRow Row, int First, int Count)> _rows = [];
    private readonly int _small = -1;

    /// <param name="order">The order.</param>
    /// <param name="own">Its rules, with the storeys of the job's schedule.</param>
    public FurtherRules(HandoverOrder order, Selection own)
    {
        _own = own;
        var all = own.Rules.ToList();
        if (order.Detail == DetailLevel.Coarse)
        {
            _small = all.Count;
            all.Add(HandoverOrder.SmallParts);
        }

        foreach (var row in order.Classes?.Rows ?? [])
        {
            var rules = row.When.Rules();
            _rows.Add((row, all.Count, rules.Count));
            all.AddRange(rules);
        }

        All = new Selection(all);
    }

    /// <summary>The order's rules and those behind them.</summary>
    public Selection All { get; }

    /// <summary>What becomes of elements that are alike in which rules match them.</summary>
    /// <param name="matches">Whether a rule of <see cref="All"/> matches, by its number.</param>
    /// <param name="type">Their class.</param>
    /// <param name="schema">The schema that the class is of.</param>
    public Verdict Judge(Func<int, bool> matches, string type, IfcSchema schema)
    {
        var verdict = _own.Judge(matches);
        if (verdict.Reason is not null)
            return verdict;
        if (_small >= 0 && !IsStructure(type, schema) && matches(_small))
            return verdict with { Reason = HandoverPlan.Small };
        foreach (var (row, first, count) in _rows)
        {
            if (!Enumerable.Range(first, count).All(matches))
                continue;
            return row.To is null ? verdict with { Reason = ClassTable.NotSent } : verdict;
        }

        return verdict;
    }

    // Sites and what else is above elements are not left out for their size (ModelSnapshot.IsStructure).
    private static bool IsStructure(string type, IfcSchema schema) =>
        schema.Find(type.ToUpperInvariant()) is { } entity
        && entity.Is("IfcSpatialStructureElement")
        && !entity.Is("IfcSpace");
}
