namespace SteadyLintel.Cad;

/// <summary>Puts what was read from DWG together: records into tables, entities into blocks, parts to their polylines and inserts.</summary>
internal sealed class DwgAssembly
{
    private readonly Drawing _drawing;
    private readonly List<CadObject> _all;
    private readonly HandleTable<CadObject> _objects;
    private readonly HandleTable<Handle> _next;
    private readonly HandleTable<bool> _placed;
    private readonly HandleTable<int> _chains;
    private readonly DwgBeside _beside;
    private readonly DwgHeader? _header;
    private int _chain;

    /// <param name="drawing">The drawing.</param>
    /// <param name="count">How many objects the map names.</param>
    /// <param name="greatest">The greatest handle of the map.</param>
    /// <param name="objects">What was read, in the order of the map.</param>
    /// <param name="beside">What was gathered beside.</param>
    /// <param name="header">The header variables, null when they are lost.</param>
    public DwgAssembly(Drawing drawing, int count, Handle greatest, CadObject?[] objects, DwgBeside beside, DwgHeader? header)
    {
        (_drawing, _beside, _header) = (drawing, beside, header);
        (_objects, _next, _placed, _chains) = (new(count, greatest), new(beside.Chain.Count, greatest), new(count, greatest), new(beside.Chain.Count, greatest));
        foreach (var item in objects)
            if (item is not null) _objects[item.Handle] = item;
        // Of two with one handle the later counts.
        _all = [.. objects.Where(o => o is not null && ReferenceEquals(_objects[o.Handle], o)).Select(o => o!)];
        foreach (var (entity, next) in beside.Chain) _next[entity] = next;
    }

    /// <summary>Whether nothing could be read.</summary>
    public bool IsEmpty => _all.Count == 0;

    public void Run()
    {
        Tables();
        Spaces();
        foreach (var block in _drawing.Blocks) Block(block);
        Left();
        foreach (var item in _all)
        {
            if (item.HasExtras) LayersByName(item.Extras);
            if (item is not (SymbolRecord or Entity)) _drawing.Objects.Add(item);
            if (item is MultiLine line && _objects[line.Style] is MultiLineStyle style) line.StyleName = style.Name;
        }

        Root();
        foreach (var (variable, handle) in _header?.Symbols ?? [])
            _drawing.Header.Set(variable.Name, variable.Code, _drawing.Table(Variables.Table(variable.Kind)).Of(handle)?.Name ?? "");
    }

    private void Tables()
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
        {
            var table = _drawing.Table(kind);
            var (control, records) = _beside.Tables.GetValueOrDefault(kind, (default, []));
            table.Handle = control;
            foreach (var handle in records)
                if (_objects[handle] is SymbolRecord record && record.Table == kind && Place(handle)) table.Put(record);
        }

        // Records that no control names still belong to the _drawing.
        foreach (var record in _all.OfType<SymbolRecord>())
            if (Place(record.Handle)) _drawing.Table(record.Table).Put(record);
        foreach (var any in _all)
            if (any is Entity item && !item.LineType.IsNull && _drawing.LineTypes[item.LineType]?.Name.Equals("ByLayer", StringComparison.OrdinalIgnoreCase) == true) item.LineType = default;
    }

    // Entities of model space and of the layout in use say only which of the two.
    private void Spaces()
    {
        var spaces = new[] { default, _drawing.Blocks[BlockRecord.PaperSpace], _drawing.Blocks[BlockRecord.ModelSpace], default };
        foreach (var (entity, mode) in _beside.Modes)
            if (spaces[mode] is { } space) entity.Owner = space.Handle;
    }

    private void Block(BlockRecord block)
    {
        block.EndsLayer = _beside.Marks.GetValueOrDefault(block.Ends.Begin);
        foreach (var handle in Chain(block.Owned, block.Handle))
            if (_objects[handle] is Entity entity && Place(handle)) Put(entity, block);
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
        compound.EndLayer = _beside.Marks.GetValueOrDefault(compound.End);
        foreach (var handle in Chain(compound.Owned, compound.Handle))
        {
            if (_objects[handle] is not Entity part || !Place(handle)) continue;
            part.Owner = compound.Handle;
            compound.Adopt(part);
        }

        compound.Owned.Clear();
    }

    // From 2004 on all are named; before, the first and the last of a chain.
    private IEnumerable<Handle> Chain(List<Handle> owned, Handle owner)
    {
        if (_drawing.Version >= CadVersion.AC1018)
        {
            foreach (var handle in owned) yield return handle;
            yield break;
        }

        if (owned.Count < 2 || owned[0].IsNull) yield break;
        // A chain that comes back to itself ends there.
        int own = ++_chain;
        for (var at = owned[0]; !at.IsNull && _chains[at] != own;)
        {
            _chains[at] = own;
            if (_objects[at] is Entity entity && entity.Owner == owner) yield return at;
            if (at == owned[1]) yield break;
            at = Following(at);
        }
    }

    // Links to the next handle go over parts and their ends.
    private Handle Following(Handle at)
    {
        var next = _next[at];
        return _objects[next] is not null || _beside.Marks.ContainsKey(next) ? next : default;
    }

    // Whether it had no place before.
    private bool Place(Handle handle) => !_placed[handle] && (_placed[handle] = true);

    // Entities that no chain or list reached go where they say they belong.
    private void Left()
    {
        int left = 0;
        foreach (var item in _all)
        {
            if (item is not Entity entity || _placed[entity.Handle]) continue;
            if (_drawing.Blocks[entity.Owner] is { } block && Place(entity.Handle))
            {
                Put(entity, block);
                left++;
            }
        }

        int lost = _all.Count(o => o is Entity && !_placed[o.Handle]);
        if (left > 0) _drawing.Findings.Add(new CadFinding("CAD-CHAIN", "blocks", $"{left} entities are not in the lists of their blocks; they were put at the end."));
        if (lost > 0) _drawing.Findings.Add(new CadFinding("CAD-OWNER", "entities", $"{lost} entities belong to no block and were left out."));
    }

    private void Root()
    {
        var root = _header?.Known.GetValueOrDefault("@ROOT") ?? default;
        int at = _drawing.Objects.FindIndex(o => o.Handle == root && o is CadDictionary);
        if (at <= 0) return;
        var dictionary = _drawing.Objects[at];
        _drawing.Objects.RemoveAt(at);
        _drawing.Objects.Insert(0, dictionary);
    }

    // Extended data name layers by handle in DWG, by name in DXF and here.
    private void LayersByName(ObjectExtras extras)
    {
        foreach (var data in extras.Data)
            for (int i = 0; i < data.Groups.Count; i++)
                if (data.Groups[i] is { Code: 1003, Value: Handle layer }) data.Groups[i] = new CadGroup(1003, _drawing.LayerName(layer));
    }
}
