using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Writes a drawing in another form and reads it back.</summary>
public static class DrawingConverter
{
    private const int MostDifferences = 100;

    /// <summary>Converts a drawing.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="form">The form to write.</param>
    /// <param name="selection">Which entities go, those of blocks included; null for all. Classes are kinds of entities.</param>
    /// <param name="explode">Whether inserts are exploded.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="preparation">The steps that prepare it, before anything else; null for none.</param>
    /// <param name="references">The drawings that references are bound to, by <see cref="DrawingReferences.NameOf"/>; null to keep
    /// references.</param>
    /// <param name="place">Where it goes, after the steps; null for where it is.</param>
    /// <exception cref="OrderException">A rule names what the drawing does not have.</exception>
    /// <exception cref="CadFormatException">The file is no drawing or damaged beyond reading.</exception>
    public static ConversionResult Convert(
        byte[] bytes,
        CadForm form,
        Selection? selection = null,
        bool explode = false,
        CancellationToken cancel = default,
        PreparationDocument? preparation = null,
        OutgoingPlace? place = null,
        IReadOnlyDictionary<string, byte[]>? references = null
    )
    {
        var (drawing, from) = CadFile.Read(bytes, cancel);
        int alone = Entities(drawing).Count();
        var (bound, open) = references is null ? (0, []) : DrawingReferences.Bind(drawing, references, cancel);
        // What the other files have, and what came along, less what has no form in DXF and is named.
        int missing = bound - (Entities(drawing).Count() - alone) - open.Count(f => f.Code == "CAD-LEFT-BEHIND");
        var original = Entities(drawing).ToDictionary(e => e, e => Key(drawing, e));
        var prepared = DrawingPreparation.Run(drawing, preparation ?? new PreparationDocument(), cancel);
        var test = place is null ? null : new PlaceTest(drawing, place.Map);
        var placed = DrawingPlacement.Apply(drawing, place?.Map ?? InsertTransform.Identity, cancel);
        if (place?.Unit is { } unit)
            drawing.Units = unit.DxfUnits;
        Entity Was(Entity e) => prepared.OriginalOf(placed.OriginalOf(e));
        // Whatever is still there counts under its kind and layer of now, by which it is looked for.
        var now = Entities(drawing).Where(e => original.ContainsKey(Was(e))).ToDictionary(Was);
        var came = original.ToDictionary(
            o => now.GetValueOrDefault(o.Key, o.Key),
            o => now.TryGetValue(o.Key, out var e) ? Key(drawing, e) : o.Value
        );
        var dropped = came.Where(c => prepared.Dropped.ContainsKey(Was(c.Key))).CountBy(c => c.Value).ToDictionary();
        var before = came.Values.CountBy(k => k).ToDictionary();
        var pictures = form.Dwg ? TablePictures.Replace(drawing, form.Version) : [];
        var whole = explode ? BlockExploder.Explode(drawing, cancel) : [];
        var ledger = new DrawingLedger(from, form);
        var present = Entities(drawing).ToHashSet();
        foreach (var entity in came.Keys.Where(e => !present.Contains(e)))
            if (prepared.Dropped.TryGetValue(Was(entity), out string? step))
                ledger.Put(entity, LedgerAccount.LeftOut, step);
            else
                ledger.Put(
                    entity,
                    LedgerAccount.Changed,
                    entity is Table ? "written as an insert of its picture" : "exploded"
                );
        var stayed = present.Where(came.ContainsKey).CountBy(e => Key(drawing, e)).ToDictionary();
        var made = present.Where(e => !came.ContainsKey(e)).ToHashSet<CadObject>();
        var madeCounts = made.CountBy(e => Key(drawing, (Entity)e)).ToDictionary();
        var gone = new HashSet<Handle>();
        foreach (var (entity, reason) in selection is null ? [] : LeaveOut(drawing, selection))
        {
            gone.Add(entity.Handle);
            if (came.ContainsKey(entity))
                ledger.Put(entity, LedgerAccount.LeftOut, reason);
        }

        var kept = Count(drawing);
        using var stream = new MemoryStream();
        var left = CadFile.Write(drawing, stream, form, cancel);
        var handles = left.Where(f => f.Code == "CAD-LEFT-BEHIND").Select(f => f.Place).ToHashSet();
        var lost = Entities(drawing)
            .Where(e => handles.Contains($"handle {e.Handle}"))
            .CountBy(e => Key(drawing, e))
            .ToDictionary();
        byte[] written = stream.ToArray();
        var read = CadFile.Read(written, cancel).Drawing;
        var again = Count(read);
        var behind = CadFacts
            .Objects(drawing)
            .Where(o => handles.Contains($"handle {o.Handle}"))
            .DistinctBy(o => o.Handle)
            .ToDictionary(o => o.Handle, o => $"{o.Type} has no form in {form.Version}");
        var changed = prepared.Changed.ToDictionary(c => c.Key, c => c.Value);
        foreach (var item in placed.Changed)
            changed[item] = place!.Rule;
        ledger.Compare(drawing, read, made.Union(placed.Made).ToHashSet(), behind, changed);
        var differences = ledger.Differences.ToList();
        var check = test?.Compare(read, gone, differences.Add);
        var rows = before
            .Keys.Union(madeCounts.Keys)
            .Union(again.Keys)
            .Order()
            .Select(k =>
            {
                int there = stayed.GetValueOrDefault(k) + madeCounts.GetValueOrDefault(k);
                int gone = dropped.GetValueOrDefault(k);
                return new ConversionRow(
                    k.Type,
                    k.Layer,
                    before.GetValueOrDefault(k),
                    gone + there - kept.GetValueOrDefault(k),
                    lost.GetValueOrDefault(k),
                    again.GetValueOrDefault(k),
                    before.GetValueOrDefault(k) - stayed.GetValueOrDefault(k) - gone,
                    madeCounts.GetValueOrDefault(k)
                );
            });
        return new ConversionResult(
            written,
            [.. rows],
            [.. drawing.Findings, .. open, .. prepared.Findings, .. pictures, .. whole, .. left]
        )
        {
            Steps = prepared.Steps,
            Ledger = ledger.Lines(),
            Differences = [.. differences.Take(MostDifferences)],
            Checks =
            [
                .. check is null ? [] : (ReconciliationCheck[])[check],
                .. bound == 0
                    ? []
                    : (ReconciliationCheck[])
                        [new("entities of references", bound - Math.Abs(missing), Math.Abs(missing), 0)],
            ],
        };
    }

    private static Dictionary<(string Type, string Layer), int> Count(Drawing drawing) =>
        Entities(drawing).CountBy(e => Key(drawing, e)).ToDictionary();

    private static IEnumerable<Entity> Entities(Drawing drawing) => drawing.Blocks.SelectMany(b => b.Entities);

    private static (string Type, string Layer) Key(Drawing drawing, Entity entity) =>
        (entity.Type, drawing.LayerName(entity.Layer));

    private static Dictionary<Entity, string> LeaveOut(Drawing drawing, Selection selection)
    {
        var snapshot = new DrawingSnapshot(drawing);
        OrderNames.Check(selection, snapshot);
        var left = snapshot
            .Items.Zip(selection.Decide(snapshot))
            // The viewport of the paper itself belongs to the layout, not to a layer.
            .Where(p => p.Second is not null && p.First.Entity is not Viewport)
            .ToDictionary(p => p.First.Entity, p => p.Second!);
        foreach (var block in drawing.Blocks)
            block.Entities.RemoveAll(left.ContainsKey);
        return left;
    }
}
