using System.Runtime.InteropServices;

namespace SteadyLintel.Cad;

/// <summary>Puts what was read from DWG together: records into tables, entities into blocks, parts to their polylines and
/// inserts.</summary>
internal sealed class DwgAssembly
{
    private const int Stretch = 256;
    private readonly Drawing _drawing;
    private readonly DwgObjects _objects;
    private readonly IReadOnlyList<Handle> _spaces;
    private readonly DwgReadState _beside;
    private readonly DwgHeader? _header;
    private readonly Dictionary<Handle, Handle> _marks;
    private readonly int[] _chains;
    private int _chain;

    /// <param name="drawing">The drawing.</param>
    /// <param name="objects">What was read.</param>
    /// <param name="spaces">Owners that mean the spaces: 1 paper, 2 model.</param>
    /// <param name="beside">What was gathered beside.</param>
    /// <param name="header">The header variables, null when they are lost.</param>
    public DwgAssembly(
        Drawing drawing,
        DwgObjects objects,
        IReadOnlyList<Handle> spaces,
        DwgReadState beside,
        DwgHeader? header
    )
    {
        (_drawing, _objects, _spaces, _beside, _header) = (drawing, objects, spaces, beside, header);
        _marks = new Dictionary<Handle, Handle>(beside.Marks.Count);
        foreach (var (mark, layer) in beside.Marks)
            _marks[mark] = layer;
        _chains = new int[drawing.Version < CadVersion.AC1018 ? objects.Count : 0];
    }

    /// <summary>Whether nothing could be read.</summary>
    public bool IsEmpty => Enumerable.Range(0, _objects.Count).All(i => _objects[i] is null);

    public void Run()
    {
        Tables();
        Spaces();
        Blocks();
        Left();
        foreach (var item in _beside.Extended)
            LayersByName(item.Extras);
        foreach (var item in _beside.Others)
            if (IsHere(item))
                _drawing.Objects.Add(item);
        foreach (var line in _beside.MultiLines)
            if (_objects[line.Style] is MultiLineStyle style)
                line.StyleName = style.Name;
        Root();
        foreach (var style in _drawing.DimensionStyles)
            style.Resolve(_drawing.Blocks);
        foreach (var (variable, handle) in _header?.Symbols ?? [])
            _drawing.Header.Set(
                variable.Name,
                variable.Code,
                _drawing.Table(Variables.Table(variable.Kind)).Of(handle)?.Name ?? ""
            );
    }

    // Of two objects with one handle only the later is there.
    private bool IsHere(CadObject item) => ReferenceEquals(_objects[item.Handle], item);

    private void Tables()
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
        {
            var table = _drawing.Table(kind);
            var (control, records) = _beside.Tables.GetValueOrDefault(kind, (default, []));
            table.Handle = control;
            foreach (var handle in records)
                if (
                    _objects[handle] is SymbolRecord record
                    && record.Table == kind
                    && _objects.Settle(_objects.Place(handle))
                )
                    table.Put(record);
        }

        // Records that no control names still belong to the drawing.
        foreach (var record in _beside.Records)
            if (IsHere(record) && _objects.Settle(_objects.Place(record.Handle)))
                _drawing.Table(record.Table).Put(record);
        var byLayer = _drawing.LineTypes["ByLayer"]?.Handle ?? default;
        foreach (var item in _beside.Styled)
            if (item.LineType == byLayer)
                item.LineType = default;
    }

    // Entities of model space and of the layout in use say only which of the two, and were given the owners that the header names.
    private void Spaces()
    {
        var spaces = new[]
        {
            default,
            _drawing.Blocks[BlockRecord.PaperSpace],
            _drawing.Blocks[BlockRecord.ModelSpace],
        };
        for (int mode = 1; mode <= 2; mode++)
        {
            if (spaces[mode] is not { } space || space.Handle == _spaces[mode])
                continue;
            for (int i = 0; i < _objects.Count; i++)
                if (_objects.Owner(i) == _spaces[mode])
                    _objects.Own(i, space.Handle);
        }
    }

    // Where lists name all entities, blocks are put together side by side. Who is in the list of a block and says it belongs elsewhere
    // may be in two: such blocks wait, so that the first of them gets it.
    private void Blocks()
    {
        var blocks = _drawing.Blocks;
        var waiting = new bool[blocks.Count];
        if (_drawing.Version < CadVersion.AC1018)
            Array.Fill(waiting, true);
        else
        {
            Parallel.For(0, (blocks.Count + Stretch - 1) / Stretch, s =>
            {
                for (int i = s * Stretch; i < Math.Min(blocks.Count, (s + 1) * Stretch); i++)
                {
                    waiting[i] = !IsAlone(blocks[i]);
                    if (!waiting[i])
                        Block(blocks[i]);
                }
            });
        }

        for (int i = 0; i < blocks.Count; i++)
            if (waiting[i])
                Block(blocks[i]);
    }

    // Whether all that the lists of a block and of its entities name belongs to them.
    private bool IsAlone(BlockRecord block)
    {
        foreach (var handle in block.Owned)
        {
            int place = _objects.Place(handle);
            if (place < 0)
                continue;
            if (_objects.Owner(place) != block.Handle)
                return false;
            if (!_objects.IsCompound(place))
                continue;
            var compound = (CompoundEntity)_objects.Entity(place)!;
            foreach (var part in compound.Owned)
                if (_objects.Place(part) is >= 0 and var at && _objects.Owner(at) != compound.Handle)
                    return false;
        }

        return true;
    }

    private void Block(BlockRecord block)
    {
        block.EndsLayer = _marks.GetValueOrDefault(block.Ends.Begin);
        block.Entities.EnsureCapacity(block.Entities.Count + block.Owned.Count);
        foreach (int place in Chain(block.Owned, block.Handle))
            if (_objects.Entity(place) is { } entity && _objects.Settle(place))
                Put(place, entity, block);
        block.Owned.Clear();
        if (!block.IsSpace)
            return;
        // DXF numbers the viewports of a layout; here they follow one another.
        int number = 0;
        foreach (var viewport in block.Entities.OfType<Viewport>())
            viewport.Id = viewport.Order = ++number;
    }

    private void Put(int place, Entity entity, BlockRecord block)
    {
        _objects.Own(place, block.Handle);
        // Add would look at the entity for its kind, and fetching it is most of what this costs.
        CollectionsMarshal.SetCount(block.Entities, block.Entities.Count + 1);
        CollectionsMarshal.AsSpan(block.Entities)[^1] = entity;
        if (!_objects.IsCompound(place))
            return;
        var compound = (CompoundEntity)entity;
        compound.EndLayer = _marks.GetValueOrDefault(compound.End);
        foreach (int part in Chain(compound.Owned, compound.Handle))
        {
            if (_objects.Entity(part) is not { } item || !_objects.Settle(part))
                continue;
            _objects.Own(part, compound.Handle);
            compound.Adopt(item);
        }

        compound.Owned.Clear();
    }

    // Places of what belongs to an owner. From 2004 on all are named; before, the first and the last of a chain.
    private IEnumerable<int> Chain(List<Handle> owned, Handle owner)
    {
        if (_drawing.Version >= CadVersion.AC1018)
        {
            foreach (var handle in owned)
                if (_objects.Place(handle) is >= 0 and var place)
                    yield return place;
            yield break;
        }

        if (owned.Count < 2 || owned[0].IsNull)
            yield break;
        // Links go over parts and their ends. A chain that comes back to itself ends there.
        int own = ++_chain,
            last = _objects.Place(owned[1]);
        for (int at = _objects.Place(owned[0]); at >= 0 && _chains[at] != own; at = _objects.Following(at))
        {
            _chains[at] = own;
            if (_objects.Owner(at) == owner)
                yield return at;
            if (at == last)
                yield break;
        }
    }

    // Entities that no chain or list reached go where they say they belong.
    private void Left()
    {
        int left = 0,
            lost = 0;
        for (int i = 0; i < _objects.Count; i++)
        {
            if (
                _objects.IsSettled(i)
                || _objects.Entity(i) is not { } entity
                || _drawing.Blocks[_objects.Owner(i)] is not { } block
            )
                continue;
            _objects.Settle(i);
            Put(i, entity, block);
            left++;
        }

        for (int i = 0; i < _objects.Count; i++)
            lost += !_objects.IsSettled(i) && _objects.Entity(i) is not null ? 1 : 0;
        if (left > 0)
            _drawing.Findings.Add(
                new CadFinding(
                    "CAD-CHAIN",
                    "blocks",
                    $"{left} entities are not in the lists of their blocks; they were put at the end."
                )
            );
        if (lost > 0)
            _drawing.Findings.Add(
                new CadFinding("CAD-OWNER", "entities", $"{lost} entities belong to no block and were left out.")
            );
    }

    private void Root()
    {
        var root = _header?.Known.GetValueOrDefault("@ROOT") ?? default;
        int at = _drawing.Objects.FindIndex(o => o.Handle == root && o is CadDictionary);
        if (at <= 0)
            return;
        var dictionary = _drawing.Objects[at];
        _drawing.Objects.RemoveAt(at);
        _drawing.Objects.Insert(0, dictionary);
    }

    // Extended data name layers by handle in DWG, by name in DXF and here.
    private void LayersByName(ObjectExtras extras)
    {
        foreach (var data in extras.Data)
            for (int i = 0; i < data.Groups.Count; i++)
                if (data.Groups[i] is { Code: CadGroup.Layer, Value: Handle layer })
                    data.Groups[i] = new CadGroup(CadGroup.Layer, _drawing.LayerName(layer));
    }
}
