using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The sheets of a hand-over.</summary>
internal static class SheetSet
{
    private const string Name = "sheets",
        Party = "Party",
        LayerPrefix = "REFERENCE-";

    /// <summary>The sheet of a drawing; none where the order has none.</summary>
    /// <param name="plan">The order.</param>
    /// <param name="values">What the file shows.</param>
    /// <param name="file">The file's name.</param>
    /// <param name="timeStamp">When the newest of what it rests on came, ISO 8601.</param>
    /// <param name="drawing">The drawing.</param>
    /// <param name="unit">Its unit.</param>
    /// <exception cref="OrderException">It does not fit on the paper.</exception>
    public static IReadOnlyList<DrawnSheet> Of(
        HandoverPlan plan,
        NameValues values,
        string file,
        string timeStamp,
        Drawing drawing,
        LengthUnit unit
    )
    {
        if (plan.Order.Sheet is not { } order)
            return [];
        string shown =
            values.Section.Length > 0
                ? $"{values.Section}{(values.Storey == FileGroups.All ? "" : $" {values.Storey}")}"
                : values.Storey;
        (string, string)[] title =
        [
            ("Job", plan.Job),
            (Party, values.Party),
            (values.Section.Length > 0 ? "Section" : "Storey", shown),
            ("Scale", FormattableString.Invariant($"1:{order.Scale}")),
            ("Revision", values.Revision),
            ("Transmittal", plan.Transmittal),
            ("For", plan.Order.To),
            ("File", file),
            ("State of", timeStamp.Split('T')[0]),
        ];
        string tab = LayerNames.Clean(
            string.Join(" ", new[] { shown, values.Class, values.Group, values.Value }.Where(w => w.Length > 0))
        );
        var sheet = new DrawnSheet(tab, order, title, drawing.Extents(), order.References ? file : "");
        sheet.Check(unit.Metres);
        return [sheet];
    }

    /// <summary>Writes a file with all sheets, to which the files they show are attached as references.</summary>
    public static WrittenFile Write(
        HandoverPlan plan,
        List<DrawnSheet> sheets,
        FileNames names,
        IFileSet files,
        LengthUnit unit,
        CancellationToken cancel
    )
    {
        var drawing = Drawing.Create(plan.Order.Form.Version);
        drawing.Units = unit.DxfUnits;
        var layers = new List<Layer>();
        for (int n = 0; n < sheets.Count; n++)
        {
            // Two sheets of one storey are distinguished by a number.
            int again = sheets.Take(n).Count(s => s.Name.Equals(sheets[n].Name, StringComparison.OrdinalIgnoreCase));
            if (again > 0)
                sheets[n] = sheets[n] with { Name = FormattableString.Invariant($"{sheets[n].Name} ({n + 1})") };
            // What a name of a block cannot hold may be all that tells two files apart.
            string name = LayerNames.Clean(Path.GetFileNameWithoutExtension(sheets[n].File));
            var block = drawing.AddBlock(
                drawing.Blocks[name] is null ? name : FormattableString.Invariant($"{name}-{n + 1}")
            );
            (block.IsXref, block.Path) = (true, sheets[n].File);
            // Each reference is on a layer of its own, which the viewports of the other sheets freeze.
            layers.Add(drawing.AddLayer(LayerPrefix + block.Name));
            drawing.Add(new Insert { Block = block.Handle, Layer = layers[n].Handle });
        }

        for (int n = 0; n < sheets.Count; n++)
            sheets[n].Put(drawing, unit.Metres, layers.Where(l => l != layers[n]).Select(l => l.Handle));
        string file = names.Next(
            new NameValues(
                string.Join(
                    "+",
                    sheets.SelectMany(s => s.Title.First(t => t.Label == Party).Value.Split('+')).Distinct()
                ),
                Name,
                Name
            )
            {
                Section = Name,
            },
            plan.Order.Form.Extension
        );
        using (var stream = files.Create(file))
            CadFile.Write(drawing, stream, plan.Order.Form, cancel);
        return new WrittenFile(file, [], [], new MadeInstances()) { Drawn = new DrawnFile([], null, sheets) };
    }
}
