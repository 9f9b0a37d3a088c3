namespace SteadyLintel.Cad;

/// <summary>Handles after reading: every object has one, none has another's, and the next to be given out lies above all.</summary>
internal static class HandleCheck
{
    public static void Run(Drawing drawing)
    {
        var seen = new HandleTable<bool>(drawing.Blocks.Sum(b => b.Entities.Count) + drawing.Objects.Count, drawing.Seed);
        ulong greatest = drawing.Seed.Value == 0 ? 0 : drawing.Seed.Value - 1;
        var twice = new List<CadObject>();
        foreach (var item in All(drawing))
        {
            if (item.Handle.IsNull || seen[item.Handle]) twice.Add(item);
            seen[item.Handle] = true;
            if (item.Handle.Value < ulong.MaxValue - uint.MaxValue) greatest = Math.Max(greatest, item.Handle.Value);
        }

        drawing.Seed = new Handle(greatest + 1);
        foreach (var item in twice)
        {
            if (!item.Handle.IsNull) drawing.Findings.Add(new CadFinding("CAD-HANDLE-TWICE", $"handle {item.Handle}", $"Two objects have the handle {item.Handle}; the {item.Type} got a new one."));
            item.Handle = drawing.NextHandle();
        }
    }

    /// <summary>Everything in a drawing: records, entities with their parts, objects.</summary>
    public static IEnumerable<CadObject> All(Drawing drawing)
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
            foreach (var record in drawing.Table(kind).All) yield return record;
        foreach (var block in drawing.Blocks)
            foreach (var entity in block.Entities)
            {
                yield return entity;
                foreach (var part in entity.Parts) yield return part;
            }

        foreach (var item in drawing.Objects) yield return item;
    }
}
