namespace SteadyLintel.Exchange;

/// <summary>What an order would do, without doing it: which elements go into which file, and why the rest stays.</summary>
public sealed class HandoverPlan
{
    private HandoverPlan(
        HandoverOrder order,
        Selection selection,
        IReadOnlyList<HandoverSource> sources,
        LevelSchedule levels,
        IReadOnlyList<IReadOnlyList<string?>> decisions
    ) => (Order, Selection, Sources, Levels, Decisions) = (order, selection, sources, levels, decisions);

    /// <summary>The order.</summary>
    public HandoverOrder Order { get; }

    /// <summary>The order's rules, with the storeys of the schedule in place of their names.</summary>
    public Selection Selection { get; }

    /// <summary>The models.</summary>
    public IReadOnlyList<HandoverSource> Sources { get; }

    /// <summary>The level schedule; the source numbers are those of <see cref="Sources"/>.</summary>
    public LevelSchedule Levels { get; }

    /// <summary>For every source and element, the reason it stays, or null when it goes.</summary>
    public IReadOnlyList<IReadOnlyList<string?>> Decisions { get; }

    /// <summary>How each source moves, metres; null for one that stays.</summary>
    public IReadOnlyList<Geometry.Frame?> Moves => field ??= Order.Frame.Moves(Sources);

    /// <summary>The job's code, for title blocks; empty where none is known.</summary>
    public string Job { get; init; } = "";

    /// <summary>What the transmittal is called, for title blocks; empty for none.</summary>
    public string Transmittal { get; init; } = "";

    /// <summary>Decides about every element.</summary>
    /// <param name="order">The order.</param>
    /// <param name="sources">The models.</param>
    /// <param name="levels">The job's level schedule; null to match the storeys of these sources.</param>
    /// <param name="job">The job's code; may be empty.</param>
    /// <param name="transmittal">What the transmittal is called; may be empty.</param>
    /// <exception cref="OrderException">The name template is wrong, a source has no unit to change, or a rule or change names what no
    /// source has.</exception>
    public static HandoverPlan Of(
        HandoverOrder order,
        IReadOnlyList<HandoverSource> sources,
        LevelSchedule? levels = null,
        string job = "",
        string transmittal = ""
    )
    {
        if (NameTemplate.Problem(order.NameTemplate) is { } problem)
            throw new OrderException(problem);
        if (order.Problem() is { } refusal)
            throw new OrderException(refusal);
        foreach (var source in sources)
        {
            if (
                order is { Unit: { } unit }
                && source.Snapshot.Units.Assignment < 0
                && Math.Abs(unit.Metres - 1) > 1e-12
            )
                throw new OrderException(
                    $"{source.Label} declares no units, so it cannot be rewritten in {unit.Name}; hand it over in its own unit."
                );
        }

        OrderNames.Check(order, sources, levels);
        levels ??= LevelSchedule.Of(sources);
        var selection = order.Selection.On(
            levels,
            LevelSchedule.StoreysOf([.. sources.Select(s => s.Snapshot)]),
            sources.Count
        );
        string?[][] decisions =
        [
            .. sources.Select((s, n) => selection.Decide(s.Snapshot, n, s.Party, s.Label, s.SettingOut).ToArray()),
        ];
        for (int s = 0; s < sources.Count; s++)
            LeaveAmended(sources[s], decisions[s]);
        if (order.Detail == DetailLevel.Coarse)
            for (int s = 0; s < sources.Count; s++)
                LeaveSmall(sources[s].Snapshot, decisions[s]);
        var plan = new HandoverPlan(order, selection, sources, levels, decisions)
        {
            Job = job,
            Transmittal = transmittal,
            Classes = [.. sources.Select((s, n) => Reclass(order.Classes, s, decisions[n]))],
        };
        // A frame that cannot be had is refused before anything is written.
        _ = plan.Moves;
        return plan;
    }

    /// <summary>The elements of a source that go.</summary>
    public IEnumerable<ModelElement> Going(int source)
    {
        var snapshot = Sources[source].Snapshot;
        // In a model, spatial structure goes with what is on it.
        return snapshot.Elements.Where(e =>
            Decisions[source][e.Number] is null && !(Order.CarriesStructure && snapshot.IsStructure(e.Index))
        );
    }

    /// <summary>For every source the elements that get another class by the class table, by their instance.</summary>
    public IReadOnlyList<IReadOnlyDictionary<int, ClassRow>> Classes { get; private init; } = [];

    /// <summary>The reason of the balance for elements that a coarse model leaves out.</summary>
    public const string Small = "small part, left out of a coarse model";

    private static void LeaveAmended(HandoverSource source, string?[] decisions)
    {
        if (source.LeftOut.Count == 0)
            return;
        foreach (var element in source.Snapshot.Elements)
            if (decisions[element.Number] is null && source.LeftOut.TryGetValue(element.GlobalId, out string? reason))
                decisions[element.Number] = reason;
    }

    private static void LeaveSmall(ModelSnapshot snapshot, string?[] decisions)
    {
        foreach (var element in snapshot.Elements)
        {
            if (
                decisions[element.Number] is not null
                || snapshot.IsStructure(element.Index)
                || !HandoverOrder.SmallParts.Matches(SelectionSubject.Of(snapshot, element, new HashSet<RuleField>()))
            )
                continue;
            decisions[element.Number] = Small;
        }
    }

    // The class table acts on what the rules let go: it sends some of it as another class, and some not at all.
    private static IReadOnlyDictionary<int, ClassRow> Reclass(
        ClassTable? table,
        HandoverSource source,
        string?[] decisions
    )
    {
        var changed = new Dictionary<int, ClassRow>();
        if (table is null)
            return changed;
        var needed = new HashSet<RuleField> { RuleField.Class, RuleField.Property };
        foreach (var element in source.Snapshot.Elements)
        {
            if (
                decisions[element.Number] is not null
                || table.Find(SelectionSubject.Of(source.Snapshot, element, needed)) is not { } row
            )
                continue;
            if (row.To is null)
                decisions[element.Number] = ClassTable.NotSent;
            else
                changed[element.Index] = row;
        }

        return changed;
    }
}
