using System.Runtime.InteropServices;

namespace SteadyLintel.Cad;

/// <summary>Writes DWG of 2000, 2004, 2010, 2013 and 2018, after the published Open Design specification, from memory; two independent
/// readers agree in tests/Outside.</summary>
public sealed class DwgWriter
{
    private const int MetricTemplate = 1,
        Stretch = 512;

    /// <summary>The versions that are written.</summary>
    public static readonly IReadOnlyList<CadVersion> Versions =
    [
        CadVersion.AC1015,
        CadVersion.AC1018,
        CadVersion.AC1024,
        CadVersion.AC1027,
        CadVersion.AC1032,
    ];

    private readonly Drawing _drawing;
    private readonly CadVersion _version;
    private readonly CancellationToken _cancel;
    private readonly List<CadFinding> _findings = [];
    private readonly List<CadClass> _classes;
    private readonly DwgObjectWriter _objects;
    private readonly CadText _text;

    private DwgWriter(Drawing drawing, CadVersion version, CancellationToken cancel)
    {
        (_drawing, _version, _cancel) = (drawing, version, cancel);
        _text = new CadText(CodePages.Encoding(drawing.Header.Text("$DWGCODEPAGE")));
        _classes = Classes(Gather());
        _objects = new DwgObjectWriter(drawing, version, _text, _classes);
    }

    /// <summary>Writes a drawing; the stream is left open.</summary>
    /// <param name="drawing">The drawing; what every drawing has is added where it is missing.</param>
    /// <param name="target">Where to.</param>
    /// <param name="version">One of <see cref="Versions"/>; the drawing's own when it is not given.</param>
    /// <param name="cancel">Stops the writing.</param>
    /// <returns>What was left behind: kinds without fields here that came from another format or version.</returns>
    /// <exception cref="ArgumentException">The version is not one of those written.</exception>
    public static IReadOnlyList<CadFinding> Write(
        Drawing drawing,
        Stream target,
        CadVersion? version = null,
        CancellationToken cancel = default
    )
    {
        var chosen = version ?? drawing.Version;
        if (!Versions.Contains(chosen))
            throw new ArgumentException(
                $"DWG is written as {string.Join(", ", Versions)}, not {chosen}.",
                nameof(version)
            );
        drawing.Complete();
        var writer = new DwgWriter(drawing, chosen, cancel);
        writer.Write(target);
        return writer._findings;
    }

    private void Write(Stream target)
    {
        // 2000 wants a control of viewport headers; it lives only in the file.
        var viewports = _version <= CadVersion.AC1015 ? _drawing.NextHandle() : default;
        Objects(viewports);
        if (_version > CadVersion.AC1015)
        {
            Dwg2004Container.Write(target, _version, CodePage, Sections());
            return;
        }

        var places = Places();
        byte[] Map(long at) => DwgMap.Write([.. places.Select(p => (p.Handle, p.Offset + at))]);
        Dwg2000Container.Write(
            target,
            _version,
            Header(viewports),
            DwgClasses.Write(_classes, _version, _text),
            Written(),
            Map,
            Template(),
            CodePage
        );
    }

    /// <summary>A file of release 13 or 14: it is read, and written for the tests only, that others can tell whether it is one.</summary>
    internal static void WriteOld(Drawing drawing, Stream target, CadVersion version)
    {
        drawing.Complete();
        new DwgWriter(drawing, version, default).Write(target);
    }

    /// <summary>The sections of a drawing, for a file of pages.</summary>
    internal static IReadOnlyList<(string Name, ReadOnlyMemory<byte> Data, bool Packed)> Sections(
        Drawing drawing,
        CadVersion version
    )
    {
        drawing.Complete();
        var writer = new DwgWriter(drawing, version, default);
        writer.Objects(default);
        return writer.Sections();
    }

    private void Objects(Handle viewports)
    {
        Tables();
        if (!viewports.IsNull)
            _objects.ViewportHeaders(viewports);
        foreach (var block in _drawing.Blocks)
        {
            Block(block);
            block.Owned.Clear();
        }

        foreach (var item in _drawing.Objects)
        {
            _cancel.ThrowIfCancellationRequested();
            if (CanWrite(item))
                _objects.Object(item);
        }

        if (_version <= ModelerEntity.LastText && _drawing.Stored.Count > 0)
            _findings.Add(
                new CadFinding(
                    "CAD-SECTION-LEFT",
                    DwgSections.StoreName,
                    $"DWG {_version} has no store for data apart from their objects; the {_drawing.Stored.Count} records there were left behind."
                )
            );
        foreach (var (name, _) in _drawing.OtherSections.Where(DxfStore.Matters))
            _findings.Add(
                new CadFinding(
                    "CAD-SECTION-LEFT",
                    name,
                    $"The section {name} of DXF has no form here in DWG and was left behind."
                )
            );
    }

    private IReadOnlyList<(string Name, ReadOnlyMemory<byte> Data, bool Packed)> Sections()
    {
        var places = Places();
        byte[] header = Header(default);
        return
        [
            .. Small(places.Count),
            .. Store(),
            ("AcDb:AcDbObjects", Written(), true),
            ("AcDb:Template", Template(), true),
            ("AcDb:Handles", DwgMap.Write(places), true),
            ("AcDb:Classes", DwgClasses.Write(_classes, _version, _text), true),
            ("AcDb:Header", header, true),
        ];
    }

    private IEnumerable<(string Name, ReadOnlyMemory<byte> Data, bool Packed)> Store()
    {
        var stored = _bodies
            .Select(b => new StoredData(b.Handle, StoredData.Bodies, b.BinaryForm()))
            .Concat(_drawing.Stored)
            .ToList();
        return _version > ModelerEntity.LastText && stored.Count > 0
            ? [(DwgSections.StoreName, DwgStoreWriter.Write(stored), true)]
            : [];
    }

    private ReadOnlyMemory<byte> Written() => _objects.Output.GetBuffer().AsMemory(0, (int)_objects.Output.Length);

    // In the order of handles, in which most drawings are written anyway.
    private List<(Handle Handle, long Offset)> Places()
    {
        var places = _objects.Places;
        bool rising = true;
        for (int i = 1; i < places.Count && rising; i++)
            rising = places[i - 1].Handle.CompareTo(places[i].Handle) <= 0;
        if (rising)
            return places;
        // By numbers, without a call for each comparison.
        ulong[] handles = new ulong[places.Count];
        for (int i = 0; i < handles.Length; i++)
            handles[i] = places[i].Handle.Value;
        handles.AsSpan().Sort(CollectionsMarshal.AsSpan(places));
        return places;
    }

    private byte[] Template() =>
        [0, 0, (byte)_drawing.Header.Number("$MEASUREMENT", _drawing.Units is 1 or 2 ? 0 : MetricTemplate), 0];

    private int CodePage => CodePages.Number(_drawing.Header.Text("$DWGCODEPAGE"));

    private IEnumerable<(string Name, ReadOnlyMemory<byte> Data, bool Packed)> Small(int objects) =>
        [
            ("AcDb:SummaryInfo", DwgSmallSections.Summary(_drawing, _version), true),
            ("AcDb:Preview", DwgSmallSections.Preview(), true),
            ("AcDb:AppInfo", DwgSmallSections.Application(_version), true),
            ("AcDb:FileDepList", DwgSmallSections.Dependencies(), true),
            ("AcDb:RevHistory", DwgSmallSections.History(), true),
            ("AcDb:ObjFreeSpace", DwgSmallSections.FreeSpace(_drawing, objects), true),
            ("AcDb:AuxHeader", DwgSmallSections.AuxHeader(_drawing, _version), true),
        ];

    private byte[] Header(Handle viewports)
    {
        var fields = new DwgWriteFields(_version, _text);
        if (!fields.Since(CadVersion.AC1021))
            fields.HandlesAmongData();
        var root = (CadDictionary)_drawing.Objects[0];
        var known = new Dictionary<string, Handle>
        {
            ["@SEED"] = _drawing.Seed,
            ["@MLINESTYLE"] = _drawing.Objects.OfType<MultiLineStyle>().FirstOrDefault()?.Handle ?? default,
            ["@BLOCK"] = _drawing.Blocks.Handle,
            ["@LAYER"] = _drawing.Layers.Handle,
            ["@STYLE"] = _drawing.Styles.Handle,
            ["@LTYPE"] = _drawing.LineTypes.Handle,
            ["@VIEW"] = _drawing.Views.Handle,
            ["@UCS"] = _drawing.CoordinateSystems.Handle,
            ["@VPORT"] = _drawing.Viewports.Handle,
            ["@APPID"] = _drawing.Applications.Handle,
            ["@DIMSTYLES"] = _drawing.DimensionStyles.Handle,
            ["@VPENTCONTROL"] = viewports,
            ["@ROOT"] = root.Handle,
            ["@PS"] = _drawing.Blocks[BlockRecord.PaperSpace]!.Handle,
            ["@MS"] = _drawing.Model.Handle,
            ["@BYLAYER"] = _drawing.LineTypes["ByLayer"]!.Handle,
            ["@BYBLOCK"] = _drawing.LineTypes["ByBlock"]!.Handle,
            ["@CONTINUOUS"] = _drawing.LineTypes["Continuous"]!.Handle,
        };
        foreach (var (name, item) in root.Entries)
            known["@" + name] = item;
        if (!_drawing.Header.Has("$EXTMIN") && _drawing.Extents() is { IsEmpty: false } box)
        {
            _drawing.Header.Set("$EXTMIN", box.Min);
            _drawing.Header.Set("$EXTMAX", box.Max);
        }

        new DwgHeader(_drawing, fields).Exchange(known);
        return DwgFrame.Close(fields, DwgSections.HeaderStart);
    }

    private void Tables()
    {
        foreach (var kind in Enum.GetValues<SymbolKind>())
        {
            var table = _drawing.Table(kind);
            Handle[] special = kind switch
            {
                SymbolKind.Block => [_drawing.Model.Handle, _drawing.Blocks[BlockRecord.PaperSpace]!.Handle],
                SymbolKind.LineType => [_drawing.LineTypes["ByLayer"]!.Handle, _drawing.LineTypes["ByBlock"]!.Handle],
                _ => [],
            };
            _objects.Control(table, kind, [.. table.All.Select(r => r.Handle).Except(special)], special);
            foreach (var record in table.All)
            {
                record.Owner = table.Handle;
                _objects.Object(record);
            }
        }
    }

    private void Block(BlockRecord block)
    {
        int mode =
            block.IsModel ? 2
            : block.Name.Equals(BlockRecord.PaperSpace, StringComparison.OrdinalIgnoreCase) ? 1
            : 0;
        _objects.Mark(DwgTypes.Block, block.Ends.Begin, block.EndsLayer, block.Handle, mode, block.Name);
        Entities(_entities[block], block.Handle, mode);
        _objects.Mark(DwgTypes.EndBlock, block.Ends.End, block.EndsLayer, block.Handle, mode, null);
    }

    // Entities do not depend on one another, so stretches of them are written side by side.
    private void Entities(List<Entity> entities, Handle block, int mode)
    {
        if (entities.Count <= Stretch)
        {
            Entities(_objects, entities, 0, entities.Count, block, mode);
            return;
        }

        var stretches = new (byte[] Bytes, List<(Handle Handle, long Offset)> Places)[
            (entities.Count + Stretch - 1) / Stretch
        ];
        Parallel.For(
            0,
            stretches.Length,
            new ParallelOptions { CancellationToken = _cancel },
            _objects.Beside,
            (s, _, writer) =>
            {
                Entities(writer, entities, s * Stretch, Math.Min(entities.Count, (s + 1) * Stretch), block, mode);
                stretches[s] = writer.Take();
                return writer;
            },
            _ => { }
        );
        _objects.Append(stretches);
    }

    private void Entities(DwgObjectWriter objects, List<Entity> entities, int from, int to, Handle block, int mode)
    {
        for (int i = from; i < to; i++)
        {
            _cancel.ThrowIfCancellationRequested();
            objects.Entity(
                entities[i],
                block,
                mode,
                i > 0 ? entities[i - 1].Handle : default,
                i + 1 < entities.Count ? entities[i + 1].Handle : default
            );
            Parts(objects, entities[i]);
        }
    }

    private static void Parts(DwgObjectWriter objects, Entity entity)
    {
        if (entity is not CompoundEntity compound || (compound.Parts.Count == 0 && entity is Insert))
            return;
        for (int i = 0; i < compound.Parts.Count; i++)
            objects.Entity(
                compound.Parts[i],
                entity.Handle,
                0,
                i > 0 ? compound.Parts[i - 1].Handle : default,
                i + 1 < compound.Parts.Count ? compound.Parts[i + 1].Handle : default
            );
        objects.Mark(
            DwgTypes.SeqEnd,
            compound.End,
            compound.EndLayer.IsNull ? entity.Layer : compound.EndLayer,
            entity.Handle,
            0,
            null
        );
    }

    private bool CanWrite(CadObject item)
    {
        bool has = item switch
        {
            OpaqueEntity or OpaqueObject or Table => OpaqueBits.Of(item)?.Version == _version,
            ModelerEntity body => body.IsIn(_version),
            Layout or Placeholder or CadDictionary { HasDefault: true } => _version >= CadVersion.AC1015,
            _ => true,
        };
        if (has)
            return true;
        if (_left.Add(item.Handle))
            _findings.Add(
                new CadFinding(
                    "CAD-LEFT-BEHIND",
                    $"handle {item.Handle}",
                    $"The {item.Type} {item.Handle} has no form here in DWG {_version} and was left behind."
                )
            );
        return false;
    }

    private readonly HashSet<Handle> _left = [];

    private readonly List<ModelerEntity> _bodies = [];

    private readonly Dictionary<BlockRecord, List<Entity>> _entities = [];

    // The entities of each block that can be written, named in the block's record; and how many there are of kinds that need a class. One
    // pass, for fetching entities is most of its cost.
    private Dictionary<string, int> Gather()
    {
        var counts = new Dictionary<string, int>();
        foreach (var block in _drawing.Blocks)
        {
            var entities = new List<Entity>(block.Entities.Count);
            block.Owned.Clear();
            foreach (var entity in block.Entities)
            {
                if (DwgTypes.Number(entity) == 0)
                    counts[entity.Type] = counts.GetValueOrDefault(entity.Type) + 1;
                if (!CanWrite(entity))
                    continue;
                if (entity is CompoundEntity { End.IsNull: true, Parts.Count: > 0 } compound)
                    compound.End = _drawing.NextHandle();
                else if (entity is Polyline { End.IsNull: true } line)
                    line.End = _drawing.NextHandle();
                if (entity is ModelerEntity body)
                    _bodies.Add(body);
                entities.Add(entity);
                block.Owned.Add(entity.Handle);
            }

            _entities[block] = entities;
        }

        foreach (var item in _drawing.Objects)
            if (DwgTypes.Number(item) == 0)
                counts[item.Type] = counts.GetValueOrDefault(item.Type) + 1;
        return counts;
    }

    // Classes the drawing brought keep their numbers, for opaque bits name them; kinds that need one and have none get the next.
    private List<CadClass> Classes(Dictionary<string, int> counts)
    {
        var classes = _drawing.Classes.Where(c => c.Number >= DwgTypes.FirstClass).ToList();
        int next = classes.Count > 0 ? classes.Max(c => c.Number) + 1 : DwgTypes.FirstClass;
        foreach (
            string kind in counts
                .Keys.Where(k => ObjectKinds.Classes.ContainsKey(k) && !classes.Exists(c => c.DxfName == k))
                .Order(StringComparer.Ordinal)
        )
        {
            var known = ObjectKinds.Classes[kind];
            classes.Add(
                new CadClass
                {
                    Number = next++,
                    DxfName = kind,
                    ClassName = known.ClassName,
                    Application = known.Application,
                    IsEntity = known.IsEntity,
                }
            );
        }

        foreach (var item in classes)
            item.Instances = counts.GetValueOrDefault(item.DxfName);
        return classes;
    }
}
