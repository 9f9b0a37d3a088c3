using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A drawing: header variables, symbol tables, blocks with their entities, and the objects of its dictionaries.</summary>
/// <example>A drawing with a line, in millimetres:
/// <code>
/// var drawing = Drawing.Create(CadVersion.AC1027);
/// drawing.Units = 4;
/// var layer = drawing.AddLayer("A-WALL", 0x800000);
/// drawing.Add(new Line { Layer = layer.Handle, End = new Vec3(1000, 0, 0) });
/// DxfWriter.Write(drawing, stream);
/// </code></example>
public sealed class Drawing
{
    /// <summary>The version it came in, or is to be written in.</summary>
    public CadVersion Version { get; set; } = CadVersion.AC1027;

    /// <summary>The maintenance release of a DWG file, which decides over a detail of its layout.</summary>
    internal int Maintenance { get; init; }

    /// <summary>The header variables.</summary>
    public HeaderVariables Header { get; } = new();

    /// <summary>Block records, with the entities.</summary>
    public SymbolTable<BlockRecord> Blocks { get; } = new();

    /// <summary>Layers.</summary>
    public SymbolTable<Layer> Layers { get; } = new();

    /// <summary>Line types.</summary>
    public SymbolTable<LineType> LineTypes { get; } = new();

    /// <summary>Text styles and shape files.</summary>
    public SymbolTable<TextStyle> Styles { get; } = new();

    /// <summary>Named views.</summary>
    public SymbolTable<View> Views { get; } = new();

    /// <summary>Named user coordinate systems.</summary>
    public SymbolTable<UserCoordinateSystem> CoordinateSystems { get; } = new();

    /// <summary>Viewports of the model tab.</summary>
    public SymbolTable<ViewportRecord> Viewports { get; } = new();

    /// <summary>Applications with extended data.</summary>
    public SymbolTable<ApplicationId> Applications { get; } = new();

    /// <summary>Dimension styles.</summary>
    public SymbolTable<DimensionStyle> DimensionStyles { get; } = new();

    /// <summary>The classes of kinds the format does not number.</summary>
    public List<CadClass> Classes { get; } = [];

    /// <summary>Objects without a picture; the first is the dictionary of dictionaries.</summary>
    public List<CadObject> Objects { get; } = [];

    /// <summary>Sections of DXF that have no place here, such as a picture or bodies in a binary form: kept group by group, to be written
    /// in the same version.</summary>
    public List<(string Name, IReadOnlyList<CadGroup> Groups)> OtherSections { get; } = [];

    /// <summary>What DWG from 2013 on keeps apart from its objects and is no body of an entity that is known here: small pictures, bodies
    /// of other kinds.</summary>
    public List<StoredData> Stored { get; } = [];

    /// <summary>What was odd.</summary>
    public List<CadFinding> Findings { get; } = [];

    /// <summary>The next handle to be given out.</summary>
    public Handle Seed { get; set; } = new(1);

    /// <summary>$INSUNITS: 1 inch, 2 foot, 4 millimetre, 5 centimetre, 6 metre …; 0 when nothing is said.</summary>
    public int Units
    {
        get => (int)Header.Number("$INSUNITS");
        set => Header.Set("$INSUNITS", 70, value);
    }

    /// <summary>Model space.</summary>
    public BlockRecord Model =>
        Blocks[BlockRecord.ModelSpace]
        ?? throw new InvalidOperationException("The drawing has no model space yet: Complete() makes it.");

    /// <summary>The layouts in the order of their tabs, model space first.</summary>
    public IEnumerable<Layout> Layouts => Objects.OfType<Layout>().OrderBy(l => l.Tab);

    /// <summary>Gives a layout another name, which is also in the dictionary of layouts; readers go by either.</summary>
    public void Rename(Layout layout, string name)
    {
        layout.Name = name;
        if (Objects.OfType<CadDictionary>().FirstOrDefault(d => d.Handle == layout.Owner) is not { } names)
            return;
        int at = names.Entries.FindIndex(e => e.Object == layout.Handle);
        if (at >= 0)
            names.Entries[at] = (name, layout.Handle);
    }

    /// <summary>The line type ByBlock.</summary>
    public Handle ByBlock => LineTypes["ByBlock"]?.Handle ?? default;

    /// <summary>A drawing with the tables and dictionaries every drawing has.</summary>
    public static Drawing Create(CadVersion version)
    {
        var drawing = new Drawing { Version = version };
        drawing.Complete();
        return drawing;
    }

    /// <summary>The table of a kind.</summary>
    public SymbolTable Table(SymbolKind kind) =>
        kind switch
        {
            SymbolKind.Block => Blocks,
            SymbolKind.Layer => Layers,
            SymbolKind.Style => Styles,
            SymbolKind.LineType => LineTypes,
            SymbolKind.View => Views,
            SymbolKind.Ucs => CoordinateSystems,
            SymbolKind.Viewport => Viewports,
            SymbolKind.Application => Applications,
            _ => DimensionStyles,
        };

    /// <summary>Gives out a handle.</summary>
    public Handle NextHandle()
    {
        var handle = Seed;
        Seed = new Handle(handle.Value + 1);
        return handle;
    }

    /// <summary>Adds what every drawing has and this one lacks: standard records, model space and a layout, the dictionaries.</summary>
    public void Complete() => DrawingParts.Complete(this);

    /// <summary>The layer of a name, made when it is missing.</summary>
    /// <param name="name">A name as <see cref="LayerNames"/> allows it.</param>
    /// <param name="rgb">True colour of a new layer.</param>
    /// <param name="lineType">The line type of a new layer; null for a continuous one.</param>
    public Layer AddLayer(string name, int? rgb = null, LineType? lineType = null)
    {
        if (Layers[name] is { } known)
            return known;
        var layer = new Layer
        {
            Name = name,
            Handle = NextHandle(),
            Owner = Layers.Handle,
            LineType = (lineType ?? LineTypes["Continuous"])?.Handle ?? default,
        };
        if (rgb is { } colour)
            layer.Colour = CadColour.True(colour);
        Layers.Add(layer);
        return layer;
    }

    /// <summary>A block, made when it is missing.</summary>
    public BlockRecord AddBlock(string name)
    {
        if (Blocks[name] is { } known)
            return known;
        var block = new BlockRecord
        {
            Name = name,
            Handle = NextHandle(),
            Owner = Blocks.Handle,
            Ends = (NextHandle(), NextHandle()),
            Units = Units,
        };
        Blocks.Add(block);
        return block;
    }

    /// <summary>The record of an application, made when it is missing.</summary>
    public ApplicationId AddApplication(string name)
    {
        if (Applications[name] is { } known)
            return known;
        var application = new ApplicationId
        {
            Name = name,
            Handle = NextHandle(),
            Owner = Applications.Handle,
        };
        Applications.Add(application);
        return application;
    }

    /// <summary>Puts an entity into a block, model space when none is given, with new handles for it and its parts where they have
    /// none.</summary>
    public void Add(Entity entity, BlockRecord? block = null)
    {
        block ??= Model;
        entity.Owner = block.Handle;
        Name(entity);
        block.Entities.Add(entity);
    }

    /// <summary>The name of a layer; <c>0</c> for a handle that points nowhere.</summary>
    public string LayerName(Handle layer) => Layers[layer]?.Name ?? "0";

    /// <summary>The box of what has coordinates in model space, in drawing units.</summary>
    public Box Extents() => EntityExtents.Of(this, Model);

    /// <summary>The boxes of entities in the coordinates of their block, in the same order.</summary>
    public IEnumerable<Box> ExtentsOf(IEnumerable<Entity> entities) => EntityExtents.Of(this, entities);

    private void Name(Entity entity)
    {
        if (entity.Handle.IsNull)
            entity.Handle = NextHandle();
        if (entity.Layer.IsNull)
            entity.Layer = AddLayer("0").Handle;
        foreach (var part in entity.Parts)
        {
            part.Owner = entity.Handle;
            Name(part);
        }

        if (entity is CompoundEntity { End.IsNull: true, Parts.Count: > 0 } compound)
            compound.End = NextHandle();
    }
}
