namespace SteadyLintel.Cad;

/// <summary>The parts every drawing has: made where they are missing.</summary>
internal static class DrawingParts
{
    public static void Complete(Drawing drawing)
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
            if (drawing.Table(kind).Handle.IsNull)
                drawing.Table(kind).Handle = drawing.NextHandle();
        foreach (string name in (string[])["ByBlock", "ByLayer", "Continuous"])
            Record(drawing, drawing.LineTypes, name);
        Record(drawing, drawing.Layers, "0");
        Record(drawing, drawing.Styles, "Standard");
        Record(drawing, drawing.Applications, "ACAD");
        Record(drawing, drawing.DimensionStyles, "Standard");
        Record(drawing, drawing.Viewports, "*Active");
        foreach (var layer in drawing.Layers)
            if (layer.LineType.IsNull)
                layer.LineType = drawing.LineTypes["Continuous"]!.Handle;
        foreach (var style in drawing.DimensionStyles)
            if (((Handle)style["DIMTXSTY"]).IsNull)
                style["DIMTXSTY"] = drawing.Styles["Standard"]!.Handle;
        Record(drawing, drawing.Blocks, BlockRecord.ModelSpace);
        Record(drawing, drawing.Blocks, BlockRecord.PaperSpace);
        Dictionaries(drawing);
        var zero = drawing.Layers["0"]!.Handle;
        foreach (var block in drawing.Blocks)
        {
            if (block.Ends.Begin.IsNull)
                block.Ends = (drawing.NextHandle(), block.Ends.End);
            if (block.Ends.End.IsNull)
                block.Ends = (block.Ends.Begin, drawing.NextHandle());
            if (block.EndsLayer.IsNull)
                block.EndsLayer = zero;
        }
    }

    /// <summary>The dictionary of dictionaries.</summary>
    public static CadDictionary Root(Drawing drawing)
    {
        if (drawing.Objects is [CadDictionary first, ..])
            return first;
        var root = drawing.Objects.OfType<CadDictionary>().FirstOrDefault(d => d.Owner.IsNull)
            ?? new CadDictionary { Handle = drawing.NextHandle() };
        drawing.Objects.Remove(root);
        drawing.Objects.Insert(0, root);
        return root;
    }

    private static void Dictionaries(Drawing drawing)
    {
        var root = Root(drawing);
        Child(drawing, root, "ACAD_GROUP");
        var layouts = Child(drawing, root, "ACAD_LAYOUT");
        var lines = Child(drawing, root, "ACAD_MLINESTYLE");
        if (lines.Entries.Count == 0)
        {
            var style = new MultiLineStyle
            {
                Handle = drawing.NextHandle(),
                Owner = lines.Handle,
                Name = "Standard",
            };
            style.Elements.AddRange([new(0.5, CadColour.ByLayer, default), new(-0.5, CadColour.ByLayer, default)]);
            Put(drawing, lines, "Standard", style);
        }

        var named = root["ACAD_PLOTSTYLENAME"];
        if (drawing.Objects.TrueForAll(o => o.Handle != named))
        {
            root.Entries.RemoveAll(e => e.Name == "ACAD_PLOTSTYLENAME");
            var normal = new Placeholder { Handle = drawing.NextHandle() };
            var styles = new CadDictionary(true)
            {
                Handle = drawing.NextHandle(),
                Owner = root.Handle,
                Default = normal.Handle,
            };
            root.Entries.Add(("ACAD_PLOTSTYLENAME", styles.Handle));
            drawing.Objects.Add(styles);
            normal.Owner = styles.Handle;
            Put(drawing, styles, "Normal", normal);
        }

        if (drawing.Objects.FirstOrDefault(o => o.Handle == root["ACAD_PLOTSTYLENAME"]) is CadDictionary plot)
            foreach (var layer in drawing.Layers)
                if (layer.PlotStyle.IsNull)
                    layer.PlotStyle = plot["Normal"];
        int tab = drawing.Objects.OfType<Layout>().Select(l => l.Tab).DefaultIfEmpty(0).Max();
        var shown = drawing.Objects.OfType<Layout>().ToLookup(l => l.Block);
        foreach (var block in drawing.Blocks.Where(b => b.IsSpace).OrderByDescending(b => b.IsModel))
        {
            if (block.Layout.IsNull && shown[block.Handle].FirstOrDefault() is { } known)
                block.Layout = known.Handle;
            if (!block.Layout.IsNull && shown[block.Handle].Any())
                continue;
            int number = block.IsModel ? 0 : ++tab;
            var layout = new Layout
            {
                Handle = drawing.NextHandle(),
                Owner = layouts.Handle,
                Block = block.Handle,
                Tab = number,
                Name = number == 0 ? "Model" : "Layout" + number,
            };
            if (number == 0)
                layout.PlotFlags |= 1024;
            block.Layout = layout.Handle;
            Put(drawing, layouts, layout.Name, layout);
        }
    }

    private static CadDictionary Child(Drawing drawing, CadDictionary root, string name)
    {
        if (drawing.Objects.OfType<CadDictionary>().FirstOrDefault(d => d.Handle == root[name]) is { } known)
            return known;
        var child = new CadDictionary { Handle = drawing.NextHandle(), Owner = root.Handle };
        root.Entries.RemoveAll(e => e.Name == name);
        Put(drawing, root, name, child);
        return child;
    }

    private static void Put(Drawing drawing, CadDictionary dictionary, string name, CadObject item)
    {
        dictionary.Entries.Add((name, item.Handle));
        drawing.Objects.Add(item);
    }

    private static void Record(Drawing drawing, SymbolTable table, string name)
    {
        if (table.Named(name) is not null)
            return;
        var record = table.Make();
        (record.Name, record.Handle, record.Owner) = (name, drawing.NextHandle(), table.Handle);
        if (record is LineType { Name: "Continuous" } line)
            line.Description = "Solid line";
        table.Put(record);
    }
}
