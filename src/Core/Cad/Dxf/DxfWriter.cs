namespace SteadyLintel.Cad;

/// <summary>Writes DXF, ASCII and binary, 2000 to 2018. Group codes after the published DXF reference.</summary>
/// <remarks>Numbers are printed so that they read back the same; text is UTF-8 from 2007 on, and in the drawing's code page with \U+XXXX
/// before.</remarks>
public sealed class DxfWriter
{
    private static readonly (SymbolKind Kind, string Name)[] Tables =
    [
        (SymbolKind.Viewport, "VPORT"),
        (SymbolKind.LineType, "LTYPE"),
        (SymbolKind.Layer, "LAYER"),
        (SymbolKind.Style, "STYLE"),
        (SymbolKind.View, "VIEW"),
        (SymbolKind.Ucs, "UCS"),
        (SymbolKind.Application, "APPID"),
        (SymbolKind.DimensionStyle, "DIMSTYLE"),
        (SymbolKind.Block, "BLOCK_RECORD"),
    ];

    private readonly Drawing _drawing;
    private readonly DxfOutput _out;
    private readonly DxfWriteFields _fields;
    private readonly CadVersion _version;
    private readonly CancellationToken _cancel;
    private readonly List<CadFinding> _findings = [];

    private DxfWriter(Drawing drawing, Stream target, CadVersion version, bool binary, CancellationToken cancel)
    {
        (_drawing, _version, _cancel) = (drawing, version, cancel);
        _out = new DxfOutput(target, binary, CadText.For(version, drawing.Header.Text("$DWGCODEPAGE")));
        _fields = new DxfWriteFields(_out, drawing, version);
    }

    /// <summary>Writes a drawing; the stream is left open.</summary>
    /// <param name="drawing">The drawing; what every drawing has is added where it is missing.</param>
    /// <param name="target">Where to.</param>
    /// <param name="version">AC1015 or later; the drawing's own when it is not given.</param>
    /// <param name="binary">Whether to write the binary form.</param>
    /// <param name="cancel">Stops the writing.</param>
    /// <returns>What was left behind: kinds without fields here that came from DWG.</returns>
    /// <exception cref="ArgumentException">The version is older than AC1015.</exception>
    public static IReadOnlyList<CadFinding> Write(
        Drawing drawing,
        Stream target,
        CadVersion? version = null,
        bool binary = false,
        CancellationToken cancel = default
    )
    {
        var chosen = version ?? drawing.Version;
        if (chosen < CadVersion.AC1015)
            throw new ArgumentException($"DXF is written as AC1015 or later, not {chosen}.", nameof(version));
        drawing.Complete();
        var writer = new DxfWriter(drawing, target, chosen, binary, cancel);
        writer.Write();
        return writer._findings;
    }

    private void Write()
    {
        _out.Begin();
        Header();
        Classes();
        Section("TABLES");
        foreach (var (kind, name) in Tables)
            Table(_drawing.Table(kind), name);
        _out.Write(0, "ENDSEC");
        Section("BLOCKS");
        foreach (var block in _drawing.Blocks)
            Block(block);
        _out.Write(0, "ENDSEC");
        Section("ENTITIES");
        foreach (var block in _drawing.Blocks.Where(InEntities))
        foreach (var entity in block.Entities)
            Entity(entity, block);
        _out.Write(0, "ENDSEC");
        Section("OBJECTS");
        foreach (var item in _drawing.Objects.Where(CanWrite))
            Object(item);
        _out.Write(0, "ENDSEC");
        foreach (
            var (name, groups) in _drawing.OtherSections.Where(s =>
                _version <= ModelerEntity.LastText ? DxfStore.Matters(s) : s.Name != DxfStore.Section
            )
        )
            Other(name, groups);
        Store();
        _out.Write(0, "EOF");
        _out.Flush();
    }

    private void Store()
    {
        if (_version <= ModelerEntity.LastText)
            return;
        var bodies = HandleCheck.Entities(_drawing).OfType<ModelerEntity>().Where(b => b.IsIn(_version)).ToList();
        var groups = DxfStore.Groups(_drawing, bodies);
        if (groups.Count > 0)
            Put(DxfStore.Section, groups);
    }

    private void Put(string name, IEnumerable<CadGroup> groups)
    {
        Section(name);
        foreach (var group in groups)
            _out.Write(group);
        _out.Write(0, "ENDSEC");
    }

    private void Other(string name, IReadOnlyList<CadGroup> groups)
    {
        if (_version != _drawing.Version)
        {
            _findings.Add(
                new CadFinding(
                    "CAD-SECTION-LEFT",
                    name,
                    $"The section {name} of {_drawing.Version} has no form here in {_version} and was left behind."
                )
            );
            return;
        }

        Put(name, groups);
    }

    // Bits of DWG have no form in DXF.
    private bool CanWrite(CadObject item)
    {
        bool homeless = item is ModelerEntity body && !body.IsInDxf(_version);
        if (!homeless && item is not (OpaqueEntity { Bits: not null } or OpaqueObject { Bits: not null }))
            return true;
        _findings.Add(
            new CadFinding(
                "CAD-LEFT-BEHIND",
                $"handle {item.Handle}",
                $"The {item.Type} {item.Handle} has no form here in DXF and was left behind."
            )
        );
        return false;
    }

    // Model space and the layout in use are in ENTITIES, other layouts in their blocks.
    private static bool InEntities(BlockRecord block) =>
        block.IsModel || block.Name.Equals(BlockRecord.PaperSpace, StringComparison.OrdinalIgnoreCase);

    private void Header()
    {
        var header = new HeaderVariables();
        header.Set("$ACADVER", 1, _version.ToString());
        header.Set(
            "$DWGCODEPAGE",
            3,
            _drawing.Header.Text("$DWGCODEPAGE") is { Length: > 0 } page ? page : "ANSI_1252"
        );
        foreach (var (name, groups) in _drawing.Header)
            if (!header.Has(name))
                header[name] = groups;
        var box = _drawing.Extents();
        if (!header.Has("$INSUNITS"))
            header.Set("$INSUNITS", 70, 0L);
        if (!header.Has("$MEASUREMENT"))
            header.Set("$MEASUREMENT", 70, _drawing.Units is 1 or 2 ? 0L : 1L);
        if (!header.Has("$EXTMIN") && !box.IsEmpty)
        {
            header.Set("$EXTMIN", box.Min);
            header.Set("$EXTMAX", box.Max);
        }

        header.Set("$HANDSEED", 5, _drawing.Seed);
        Section("HEADER");
        foreach (var (name, groups) in header)
        {
            if (_version < CadVersion.AC1018 && name is "$REQUIREDVERSIONS")
                continue;
            _out.Write(9, name);
            foreach (var group in groups)
                _out.Write(group);
        }

        _out.Write(0, "ENDSEC");
    }

    private void Classes()
    {
        Section("CLASSES");
        var counts = HandleCheck.All(_drawing).Where(o => o is not SymbolRecord).CountBy(o => o.Type).ToDictionary();
        var known = _drawing.Classes.Select(c => c.DxfName).ToHashSet();
        var needed = counts
            .Keys.Where(k => !known.Contains(k) && ObjectKinds.Classes.ContainsKey(k))
            .Order(StringComparer.Ordinal)
            .Select(k => ObjectKinds.Classes[k]);
        foreach (var item in _drawing.Classes.Concat(needed))
        {
            _out.Write(0, "CLASS");
            _out.Write(1, item.DxfName);
            _out.Write(2, item.ClassName);
            _out.Write(3, item.Application);
            _out.Write(90, (long)item.ProxyFlags);
            if (_version >= CadVersion.AC1018)
                _out.Write(91, (long)counts.GetValueOrDefault(item.DxfName));
            _out.Write(280, item.WasProxy ? 1L : 0);
            _out.Write(281, item.IsEntity ? 1L : 0);
        }

        _out.Write(0, "ENDSEC");
    }

    private void Table(SymbolTable table, string name)
    {
        _out.Write(0, "TABLE");
        _out.Write(2, name);
        _out.Write(5, table.Handle);
        _out.Write(330, default(Handle));
        _out.Write(100, "AcDbSymbolTable");
        _out.Write(70, (long)table.Count);
        if (name == "DIMSTYLE")
            _out.Write(100, "AcDbDimStyleTable");
        foreach (var record in table.All)
        {
            _out.Write(0, name);
            Common(record, name == "DIMSTYLE" ? 105 : 5, table.Handle);
            _fields.Begin(record);
            record.Exchange(_fields);
            Finish(record);
        }

        _out.Write(0, "ENDTAB");
    }

    private void Block(BlockRecord block)
    {
        var layer = _drawing.LayerName(block.EndsLayer);
        int flags =
            (block.IsAnonymous ? 1 : 0)
            | (block.Entities.Exists(e => e is AttributeDefinition) ? 2 : 0)
            | (block.IsXref ? 4 : 0)
            | (block.IsOverlay ? 8 : 0)
            | (block.IsXref && block.IsLoaded ? 32 : 0);
        End("BLOCK", block.Ends.Begin, "AcDbBlockBegin");
        _out.Write(2, block.Name);
        _out.Write(70, (long)flags);
        _fields.Point(10, block.Base);
        _out.Write(3, block.Name);
        _out.Write(1, block.Path);
        if (block.Description.Length > 0)
            _out.Write(4, block.Description);
        if (!InEntities(block))
            foreach (var entity in block.Entities)
                Entity(entity, block);
        End("ENDBLK", block.Ends.End, "AcDbBlockEnd");

        void End(string type, Handle handle, string subclass)
        {
            _out.Write(0, type);
            _out.Write(5, handle);
            _out.Write(330, block.Handle);
            _out.Write(100, "AcDbEntity");
            if (block.IsPaper)
                _out.Write(67, 1L);
            _out.Write(8, layer);
            _out.Write(100, subclass);
        }
    }

    private void Entity(Entity entity, BlockRecord block)
    {
        _cancel.ThrowIfCancellationRequested();
        if (!CanWrite(entity))
            return;
        One(entity, block.Handle, block.IsPaper);
        if (entity is not CompoundEntity compound || (compound.Parts.Count == 0 && entity is Insert))
            return;
        foreach (var part in compound.Parts)
            One(part, entity.Handle, block.IsPaper);
        if (compound.End.IsNull)
            compound.End = _drawing.NextHandle();
        _out.Write(0, "SEQEND");
        _out.Write(5, compound.End);
        _out.Write(330, entity.Handle);
        _out.Write(100, "AcDbEntity");
        if (block.IsPaper)
            _out.Write(67, 1L);
        _out.Write(8, _drawing.LayerName(compound.EndLayer.IsNull ? entity.Layer : compound.EndLayer));
    }

    private void One(Entity entity, Handle owner, bool paper)
    {
        _out.Write(0, entity.Type);
        Common(entity, 5, owner);
        _out.Write(100, "AcDbEntity");
        if (paper)
            _out.Write(67, 1L);
        _out.Write(8, _drawing.LayerName(entity.Layer));
        if (!entity.LineType.IsNull)
            _fields.Symbol(6, entity.LineType, SymbolKind.LineType);
        if (entity.HasExtras && !entity.Extras.Material.IsNull && _version >= CadVersion.AC1021)
            _out.Write(347, entity.Extras.Material);
        if (entity.Colour != CadColour.ByLayer)
            _fields.Colour(62, entity.Colour);
        if (entity.LineWeight != LineWeights.ByLayer)
            _out.Write(370, (long)entity.LineWeight);
        if (entity.LineTypeScale != 1)
            _out.Write(48, entity.LineTypeScale);
        if (entity.Invisible)
            _out.Write(60, 1L);
        if (entity.HasExtras)
            Rare(entity.Extras);
        _fields.Begin(entity);
        entity.Exchange(_fields);
        Finish(entity);
    }

    private void Rare(ObjectExtras extras)
    {
        if (extras.Transparency != 0 && _version >= CadVersion.AC1018)
            _out.Write(440, (long)extras.Transparency);
        if (!extras.PlotStyle.IsNull)
            _out.Write(390, extras.PlotStyle);
        if (extras.Shadow != 0 && _version >= CadVersion.AC1021)
            _out.Write(284, (long)extras.Shadow);
    }

    private void Object(CadObject item)
    {
        _out.Write(0, item.Type);
        Common(item, 5, item.Owner);
        _fields.Begin(item);
        item.Exchange(_fields);
        Finish(item);
    }

    private void Common(CadObject item, int code, Handle owner)
    {
        _out.Write(code, item.Handle);
        if (item.HasExtras)
        {
            if (item.Extras.Reactors.Count > 0)
            {
                _out.Write(102, "{ACAD_REACTORS");
                foreach (var reactor in item.Extras.Reactors)
                    _out.Write(330, reactor);
                _out.Write(102, "}");
            }

            if (!item.Extras.Dictionary.IsNull)
            {
                _out.Write(102, "{ACAD_XDICTIONARY");
                _out.Write(360, item.Extras.Dictionary);
                _out.Write(102, "}");
            }

            foreach (var group in item.Extras.Braced)
                _out.Write(group);
        }

        _out.Write(330, owner);
    }

    private void Finish(CadObject item)
    {
        _fields.End();
        if (!item.HasExtras)
            return;
        foreach (var data in item.Extras.Data)
        {
            if (_drawing.Applications[data.Application] is not { } application)
                continue;
            _out.Write(1001, application.Name);
            foreach (var group in data.Groups)
                _out.Write(group);
        }
    }

    private void Section(string name)
    {
        _out.Write(0, "SECTION");
        _out.Write(2, name);
    }
}
