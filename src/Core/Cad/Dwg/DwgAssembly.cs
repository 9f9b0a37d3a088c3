namespace SteadyLintel.Cad;

/// <summary>Puts what was read from DWG together: records into tables, entities into blocks, parts to their polylines and inserts.</summary>
internal sealed class DwgAssembly(Drawing drawing, Dictionary<Handle, CadObject> objects, DwgObjectReader reader, DwgHeader? header)
{
    private readonly HashSet<Handle> _placed = new(objects.Count);

    public void Run()
    {
        Tables();
        Spaces();
        foreach (var block in drawing.Blocks) Block(block);
        Left();
        foreach (var item in objects.Values)
        {
            if (item.HasExtras) LayersByName(item.Extras);
            if (item is not (SymbolRecord or Entity)) drawing.Objects.Add(item);
            if (item is MultiLine line && objects.GetValueOrDefault(line.Style) is MultiLineStyle style) line.StyleName = style.Name;
        }

        Root();
        foreach (var (variable, handle) in header?.Symbols ?? [])
            drawing.Header.Set(variable.Name, variable.Code, drawing.Table(Variables.Table(variable.Kind)).Of(handle)?.Name ?? "");
    }

    private void Tables()
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
        {
            var table = drawing.Table(kind);
            var (control, records) = reader.Tables.GetValueOrDefault(kind, (default, []));
            table.Handle = control;
            foreach (var handle in records)
                if (objects.GetValueOrDefault(handle) is SymbolRecord record && record.Table == kind && _placed.Add(handle)) table.Put(record);
        }

        // Records that no control names still belong to the drawing.
        foreach (var record in objects.Values.OfType<SymbolRecord>())
            if (_placed.Add(record.Handle)) drawing.Table(record.Table).Put(record);
        foreach (var item in objects.Values.OfType<Entity>())
            if (!item.LineType.IsNull && drawing.LineTypes[item.LineType]?.Name.Equals("ByLayer", StringComparison.OrdinalIgnoreCase) == true) item.LineType = default;
    }

    // Entities of model space and of the layout in use say only which of the two.
    private void Spaces()
    {
        var spaces = new[] { default, drawing.Blocks[BlockRecord.PaperSpace], drawing.Blocks[BlockRecord.ModelSpace], default };
        foreach (var (handle, mode) in reader.Modes)
            if (spaces[mode] is { } space && objects.GetValueOrDefault(handle) is { } entity) entity.Owner = space.Handle;
    }

    private void Block(BlockRecord block)
    {
        block.EndsLayer = reader.Marks.GetValueOrDefault(block.Ends.Begin);
        foreach (var handle in Chain(block.Owned, block.Handle))
            if (objects.GetValueOrDefault(handle) is Entity entity && _placed.Add(handle)) Put(entity, block);
        block.Owned.Clear();
        // DXF numbers the viewports of a layout; here they follow one another.
        int number = 0;
        foreach (var viewport in block.Entities.OfType<Viewport>()) viewport.Id = viewport.Order = ++number;
    }

    private void Put(Entity entity, BlockRecord block)
    {
        entity.Owner = block.Handle;
        block.Entities.Add(entity);
        if (entity is not CompoundEntity compound) return;
        compound.EndLayer = reader.Marks.GetValueOrDefault(compound.End);
        foreach (var handle in Chain(compound.Owned, compound.Handle))
        {
            if (objects.GetValueOrDefault(handle) is not Entity part || !_placed.Add(handle)) continue;
            part.Owner = compound.Handle;
            compound.Adopt(part);
        }

        compound.Owned.Clear();
    }

    // From 2004 on all are named; before, the first and the last of a chain.
    private IEnumerable<Handle> Chain(List<Handle> owned, Handle owner)
    {
        if (drawing.Version >= CadVersion.AC1018)
        {
            foreach (var handle in owned) yield return handle;
            yield break;
        }

        if (owned.Count < 2 || owned[0].IsNull) yield break;
        var seen = new HashSet<Handle>();
        for (var at = owned[0]; !at.IsNull && seen.Add(at);)
        {
            if (objects.GetValueOrDefault(at) is Entity entity && entity.Owner == owner) yield return at;
            if (at == owned[1]) yield break;
            at = Following(at);
        }
    }

    // Links to the next handle go over parts and their ends.
    private Handle Following(Handle at)
    {
        var next = reader.Next.GetValueOrDefault(at);
        return objects.ContainsKey(next) || reader.Marks.ContainsKey(next) ? next : default;
    }

    // Entities that no chain or list reached go where they say they belong.
    private void Left()
    {
        int left = 0;
        foreach (var entity in objects.Values.OfType<Entity>())
        {
            if (_placed.Contains(entity.Handle)) continue;
            if (drawing.Blocks[entity.Owner] is { } block && _placed.Add(entity.Handle))
            {
                Put(entity, block);
                left++;
            }
        }

        int lost = objects.Values.OfType<Entity>().Count(e => !_placed.Contains(e.Handle));
        if (left > 0) drawing.Findings.Add(new CadFinding("CAD-CHAIN", "blocks", $"{left} entities are not in the lists of their blocks; they were put at the end."));
        if (lost > 0) drawing.Findings.Add(new CadFinding("CAD-OWNER", "entities", $"{lost} entities belong to no block and were left out."));
    }

    private void Root()
    {
        var root = header?.Known.GetValueOrDefault("@ROOT") ?? default;
        int at = drawing.Objects.FindIndex(o => o.Handle == root && o is CadDictionary);
        if (at <= 0) return;
        var dictionary = drawing.Objects[at];
        drawing.Objects.RemoveAt(at);
        drawing.Objects.Insert(0, dictionary);
    }

    // Extended data name layers by handle in DWG, by name in DXF and here.
    private void LayersByName(ObjectExtras extras)
    {
        foreach (var data in extras.Data)
            for (int i = 0; i < data.Groups.Count; i++)
                if (data.Groups[i] is { Code: 1003, Value: Handle layer }) data.Groups[i] = new CadGroup(1003, drawing.LayerName(layer));
    }
}
