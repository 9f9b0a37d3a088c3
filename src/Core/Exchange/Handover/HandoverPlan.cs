namespace SteadyLintel.Exchange;

/// <summary>What an order would do, without doing it: which elements go into which file, and why the rest stays.</summary>
public sealed class HandoverPlan
{
    private HandoverPlan(HandoverOrder order, IReadOnlyList<HandoverSource> sources, IReadOnlyList<IReadOnlyList<string?>> decisions) =>
        (Order, Sources, Decisions) = (order, sources, decisions);

    /// <summary>The order.</summary>
    public HandoverOrder Order { get; }

    /// <summary>What it is written into.</summary>
    public Target Target => field ??= Target.Of(Order);

    /// <summary>With drawings, the names of layers.</summary>
    internal DrawingLayerNames DrawingLayers => field ??= new DrawingLayerNames(Sources);

    /// <summary>The models.</summary>
    public IReadOnlyList<HandoverSource> Sources { get; }

    /// <summary>For every source and element, the reason it stays, or null when it goes.</summary>
    public IReadOnlyList<IReadOnlyList<string?>> Decisions { get; }

    /// <summary>How each source moves, metres; null for one that stays.</summary>
    public IReadOnlyList<Geometry.Frame?> Moves => field ??= Order.Frame.Moves([.. Sources.Select(s => s.Snapshot)]);

    /// <summary>Decides about every element.</summary>
    /// <exception cref="OrderException">The name template is wrong, or a source has no unit to change.</exception>
    public static HandoverPlan Of(HandoverOrder order, IReadOnlyList<HandoverSource> sources)
    {
        if (NameTemplate.Problem(order.NameTemplate) is { } problem) throw new OrderException(problem);
        if (Target.Of(order).Problem(order) is { } refusal) throw new OrderException(refusal);
        foreach (var source in sources)
        {
            if (order is { Unit: { } unit } && source.Snapshot.Units.Assignment < 0 && Math.Abs(unit.Metres - 1) > 1e-12)
                throw new OrderException($"{source.Label} declares no units, so it cannot be rewritten in {unit.Name}; hand it over in its own unit.");
        }

        return new HandoverPlan(order, sources, [.. sources.Select(s => order.Selection.Decide(s.Snapshot))]);
    }

    /// <summary>The elements of a source that go, grouped by storey when the order splits; the storey -1 holds those in none, or all when it does not split.</summary>
    public IEnumerable<(int Storey, IReadOnlyList<ModelElement> Elements)> Groups(int source)
    {
        var snapshot = Sources[source].Snapshot;
        // In a model, spatial structure goes with what stands on it.
        var going = snapshot.Elements.Where(e => Decisions[source][e.Number] is null && !(Target.CarriesStructure && snapshot.IsStructure(e.Index)));
        if (!Order.SplitByStorey) return [(-1, [.. going])];
        return going.GroupBy(e => e.Storey).OrderBy(g => g.Key).Select(g => (g.Key, (IReadOnlyList<ModelElement>)[.. g]));
    }
}
