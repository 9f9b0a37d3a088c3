using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What an order would do, without doing it: which elements go into which file, and why the rest stays.</summary>
public sealed class HandoverPlan
{
    /// <summary>The reason an element without a shape stays when drawings are made.</summary>
    public const string NoShape = "no shape";

    /// <summary>Whether a form can hold an element: a model all, a plan what has a body or lines, other drawings what has a body.</summary>
    /// <param name="format">The form.</param>
    /// <param name="shaped">Whether the element has a body.</param>
    /// <param name="drawn">Whether it has lines in a plan.</param>
    public static bool CanHold(HandoverFormat format, bool shaped, bool drawn) => format == HandoverFormat.Ifc || shaped || (drawn && format == HandoverFormat.DrawingPlan);

    private HandoverPlan(HandoverOrder order, IReadOnlyList<HandoverSource> sources, IReadOnlyList<IReadOnlyList<string?>> decisions) =>
        (Order, Sources, Decisions) = (order, sources, decisions);

    /// <summary>The order.</summary>
    public HandoverOrder Order { get; }

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
        if (order.Solids && order.Format != HandoverFormat.DrawingMeshes) throw new OrderException("Solids go with drawings of bodies, not with IFC or plans.");
        foreach (var source in sources)
        {
            if (order is { Format: HandoverFormat.Ifc, Unit: { } unit } && source.Snapshot.Units.Assignment < 0 && Math.Abs(unit.Metres - 1) > 1e-12)
                throw new OrderException($"{source.Label} declares no units, so it cannot be rewritten in {unit.Name}; hand it over in its own unit.");
        }

        return new HandoverPlan(order, sources, [.. sources.Select(s => order.Selection.Decide(s.Snapshot))]);
    }

    /// <summary>The elements of a source that go, grouped by storey when the order splits; the storey -1 holds those in none, or all when it does not split.</summary>
    public IEnumerable<(int Storey, IReadOnlyList<ModelElement> Elements)> Groups(int source)
    {
        var snapshot = Sources[source].Snapshot;
        // In a model, spatial structure goes with what stands on it.
        var going = snapshot.Elements.Where(e => Decisions[source][e.Number] is null && !(Order.Format == HandoverFormat.Ifc && snapshot.IsStructure(e.Index)));
        if (!Order.SplitByStorey) return [(-1, [.. going])];
        return going.GroupBy(e => e.Storey).OrderBy(g => g.Key).Select(g => (g.Key, (IReadOnlyList<ModelElement>)[.. g]));
    }
}
