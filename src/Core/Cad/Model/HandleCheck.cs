namespace SteadyLintel.Cad;

/// <summary>Handles after reading: every object has one, none has another's, and the next to be given out lies above all.</summary>
internal static class HandleCheck
{
    public static void Run(Drawing drawing)
    {
        var seen = new HandleTable<bool>(
            drawing.Blocks.Sum(b => b.Entities.Count) + drawing.Objects.Count,
            drawing.Seed
        );
        ulong greatest = drawing.Seed.Value == 0 ? 0 : drawing.Seed.Value - 1;
        var twice = new List<CadObject>();
        foreach (var item in All(drawing))
        {
            if (item.Handle.IsNull || seen[item.Handle])
                twice.Add(item);
            seen[item.Handle] = true;
            greatest = Larger(greatest, item.Handle);
        }

        drawing.Seed = new Handle(greatest + 1);
        foreach (var item in twice)
        {
            if (!item.Handle.IsNull)
                drawing.Findings.Add(
                    new CadFinding(
                        "CAD-HANDLE-TWICE",
                        $"handle {item.Handle}",
                        $"Two objects have the handle {item.Handle}; the {item.Type} got a new one."
                    )
                );
            item.Handle = drawing.NextHandle();
        }
    }

    /// <summary>Lifts the next handle above one, for drawings whose handles are known to differ.</summary>
    public static void Raise(Drawing drawing, Handle greatest) =>
        drawing.Seed = new Handle(Larger(drawing.Seed.Value == 0 ? 0 : drawing.Seed.Value - 1, greatest) + 1);

    /// <summary>Whether handles can be given out above one: those near the end of all numbers leave no room behind them.</summary>
    public static bool LeavesRoom(Handle handle) => handle.Value < ulong.MaxValue - uint.MaxValue;

    private static ulong Larger(ulong greatest, Handle handle) =>
        LeavesRoom(handle) ? Math.Max(greatest, handle.Value) : greatest;

    /// <summary>The entities of all blocks.</summary>
    public static IEnumerable<Entity> Entities(Drawing drawing) => drawing.Blocks.SelectMany(b => b.Entities);

    /// <summary>Everything in a drawing: records, entities with their parts, objects.</summary>
    public static IEnumerable<CadObject> All(Drawing drawing)
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
        foreach (var record in drawing.Table(kind).All)
            yield return record;
        foreach (var entity in Entities(drawing))
        {
            yield return entity;
            if (entity is not CompoundEntity)
                continue;
            foreach (var part in entity.Parts)
                yield return part;
        }

        foreach (var item in drawing.Objects)
            yield return item;
    }
}
