namespace SteadyLintel.Cad;

/// <summary>Reads one object of DWG at a time, for one thread: type, handle, extended data, what all share, then the fields of the
/// kind.</summary>
internal sealed class DwgObjectReader
{
    private const int MostExtended = 1 << 20;
    private readonly Drawing _drawing;
    private readonly byte[] _objects;
    private readonly CadText _text;
    private readonly DwgReadState _beside;
    private readonly DwgReadFields _fields;
    private readonly Dictionary<int, CadClass> _classes;

    // Begins and ends of blocks and of lists of parts are no objects of the drawing; one object serves to read them all.
    private readonly OpaqueEntity _mark = new("MARK");

    public DwgObjectReader(Drawing drawing, byte[] objects, CadText text, DwgReadState beside)
    {
        (_drawing, _objects, _text, _beside) = (drawing, objects, text, beside);
        _fields = new DwgReadFields(objects, drawing.Version, text);
        _classes = [];
        foreach (var item in drawing.Classes)
            _classes.TryAdd(item.Number, item);
    }

    private CadVersion Version => _drawing.Version;

    // The size of the data in bits: 2000 to 2007 in front of the handle, up to release 14 behind the extended data and the picture; from
    // 2010 on the size of the handles is given.
    private bool HasSizeInFront => _fields.Since(CadVersion.AC1015) && !_fields.Since(CadVersion.AC1024);

    /// <summary>Reads the object at a byte; null for what is no object of the drawing: controls, ends of blocks.</summary>
    /// <exception cref="CadFormatException">The bits make no object.</exception>
    public CadObject? Read(Handle handle, long offset)
    {
        var data = _fields.Data;
        Next = default;
        if (offset < 0 || offset >= _objects.Length - 4)
            throw new CadFormatException("it is outside the file");
        (data.Position, data.End) = (offset * 8, _objects.Length * 8L);
        int size = data.ModularShort();
        long handleBits = _fields.Since(CadVersion.AC1024) ? (long)data.UnsignedModularChar() : 0,
            start = data.Position,
            end = start + (size * 8L);
        if (size <= 0 || end > _objects.Length * 8L)
            throw new CadFormatException("it is longer than the file");
        Check(handle, offset, (int)(end / 8));
        data.End = end;
        int type = Type(data);
        long handles = end - handleBits;
        if (HasSizeInFront)
            handles = start + (uint)data.RawLong();
        long body = data.Position;
        _fields.Open(body, handles, end);
        var own = new Handle(data.Handle().Value);
        if (own != handle)
            throw new CadFormatException($"the object there has the handle {own}");
        _fields.Own = own;
        long behind = data.Position;
        CadObject? item;
        try
        {
            item = One(type, own, start, handles, end, asBits: false);
        }
        catch (CadFormatException) when (DwgTypes.IsBody(type) || _classes.ContainsKey(type))
        {
            // A kind whose fields are not as they are known here is kept as it came.
            _fields.Open(body, handles, end);
            data.Position = behind;
            item = One(type, own, start, handles, end, asBits: true);
        }

        if (item is not null)
            _beside.Note(item);
        return item;
    }

    private CadObject? One(int type, Handle own, long start, long handles, long end, bool asBits)
    {
        var extended = Extended();
        if (type >= DwgTypes.FirstClass && !_classes.ContainsKey(type))
            throw new CadFormatException($"its class {type} is not among the classes");
        var known = type >= DwgTypes.FirstClass ? _classes[type] : null;
        var made =
            IsMark(type) ? _mark
            : known is null ? DwgTypes.Entity(type, asBits)
            : known.IsEntity
                ? asBits ? new OpaqueEntity(known.DxfName)
                    : ObjectKinds.Entity(known.DxfName, 0, null)
            : null;
        if (made is not null)
            return Entity(made, type, own, extended, start, handles, end);
        var table = DwgTypes.Symbol(type);
        bool control = table is { } named && DwgTypes.Control(named) == type;
        CadObject item =
            table is { } kind && !control
                ? _drawing.Table(kind).Make()
                : DwgTypes.Object(type)
                    ?? (asBits ? new OpaqueObject(known!.DxfName) : ObjectKinds.Object(known?.DxfName ?? "DWG" + type));
        item.Handle = own;
        if (extended is not null)
            item.Extras.Data.AddRange(extended);
        Sized(start);
        Shared(item);
        if (control)
        {
            Control(table!.Value, own);
            return null;
        }

        if (type is DwgTypes.ViewportEntity or DwgTypes.ViewportEntityControl)
            return null;
        if (item is OpaqueObject opaque)
            opaque.Bits = Bits(type, start, handles, end);
        else
            item.Exchange(_fields);
        return item;
    }

    private Entity? Entity(
        Entity entity,
        int type,
        Handle own,
        List<ExtendedData>? extended,
        long start,
        long handles,
        long end
    )
    {
        entity.Handle = own;
        if (IsMark(type))
        {
            Look(entity, start);
            _beside.Marks.Add((own, entity.Layer));
            return null;
        }

        if (extended is not null)
            entity.Extras.Data.AddRange(extended);
        Look(entity, start);

        if (entity is OpaqueEntity opaque)
            opaque.Bits = Bits(type, start, handles, end);
        else
            entity.Exchange(_fields);
        if (entity is Table table)
            table.Bits = Bits(type, start, handles, end);
        else if (entity is AttributeEntity { Paragraphs.Length: > 0 } attribute)
            attribute.Bits = Bits(type, start, handles, end);
        return entity;
    }

    private static bool IsMark(int type) => type is DwgTypes.Block or DwgTypes.EndBlock or DwgTypes.SeqEnd;

    private OpaqueBits Bits(int type, long start, long handles, long end) =>
        new(
            Version,
            type < DwgTypes.FirstClass ? type : 0,
            _objects.AsSpan((int)(start / 8), (int)((end - start) / 8)).ToArray(),
            handles - start
        );

    private int Type(BitReader data)
    {
        if (!_fields.Since(CadVersion.AC1024))
            return data.Short();
        return data.Bits(2) switch
        {
            0 => data.Byte(),
            1 => data.Byte() + 0x1F0,
            _ => (short)data.RawShort(),
        };
    }

    private List<ExtendedData>? Extended()
    {
        List<ExtendedData>? all = null;
        for (int size = _fields.Short(0); size > 0; size = _fields.Short(0))
        {
            var application = new Handle(_fields.Data.Handle().Value);
            if (size > MostExtended)
                throw new CadFormatException("its extended data have no end");
            var groups = new List<CadGroup>();
            DwgGroups.ReadExtended(_fields.Data.Bytes(size), groups, Version, _text);
            (all ??= []).Add(new ExtendedData(application, groups));
        }

        return all;
    }

    // What objects without a picture share.
    private void Shared(CadObject item)
    {
        int reactors = _fields.Count(0);
        bool none = _fields.Since(CadVersion.AC1018) && _fields.Bit(false);
        if (_fields.Since(CadVersion.AC1027))
            _fields.Bit(false);
        item.Owner = _fields.Handle(default, HandleKind.SoftPointer);
        Held(item, reactors, none);
    }

    private void Held(CadObject item, int reactors, bool none)
    {
        if (reactors > 0)
            _fields.Handles(item.Extras.Reactors, reactors, HandleKind.SoftPointer);
        if (none)
            return;
        var dictionary = _fields.Handle(default, HandleKind.HardOwner);
        if (!dictionary.IsNull)
            item.Extras.Dictionary = dictionary;
    }

    private void Control(SymbolKind kind, Handle own)
    {
        int count = _fields.Count(0);
        int more =
            kind == SymbolKind.DimensionStyle ? _fields.RawByte(0)
            : kind is SymbolKind.Block or SymbolKind.LineType ? 2
            : 0;
        var records = new List<Handle>();
        _fields.Handles(records, count, HandleKind.SoftOwner);
        if (kind != SymbolKind.DimensionStyle)
            _fields.Handles(records, more, HandleKind.HardOwner);
        _beside.Tables[kind] = (own, records);
    }

    private void Sized(long start)
    {
        if (!_fields.Since(CadVersion.AC1015))
            _fields.HandlesAt(start + (uint)_fields.Data.RawLong());
    }

    // What entities share.
    private void Look(Entity entity, long start)
    {
        if (_fields.Bit(false))
        {
            long size = _fields.Since(CadVersion.AC1024) ? _fields.LongLong(0) : _fields.RawLong(0);
            if (size is < 0 or > int.MaxValue)
                throw new CadFormatException("its picture has no end");
            entity.Extras.Preview = _fields.Bytes([], (int)size);
        }

        Sized(start);
        int mode = _fields.TwoBits(0),
            reactors = _fields.Count(0);
        bool none = _fields.Since(CadVersion.AC1018) && _fields.Bit(false);
        _fields.HasStoredData = _fields.Since(CadVersion.AC1027) && _fields.Bit(false);
        bool old = !_fields.Since(CadVersion.AC1015),
            byLayer = old && _fields.Bit(false);
        bool unlinked = _fields.Since(CadVersion.AC1018) || _fields.Bit(false);
        bool book = Colour(entity);
        entity.LineTypeScale = _fields.Double(0);
        // Line type, plot style, material, shadow, three visual styles: fields of fixed width, one behind the other, read at once.
        int width =
            _fields.Since(CadVersion.AC1024) ? 17
            : _fields.Since(CadVersion.AC1021) ? 14
            : old ? 0
            : 4;
        uint looks = width == 0 ? 0 : _fields.Data.Bits(width) << (17 - width);
        int lineType = (int)(looks >> 15),
            plotStyle = (int)(looks >> 13) & 3,
            material = (int)(looks >> 11) & 3,
            styles = System.Numerics.BitOperations.PopCount(looks & 7);
        if ((byte)(looks >> 3) is var shadow and not 0)
            entity.Extras.Shadow = shadow;
        entity.Invisible = (_fields.Short(0) & 1) != 0;
        if (!old)
            entity.LineWeight = LineWeights.FromNumber(_fields.RawByte(0));

        entity.Owner = mode == 0 ? _fields.Handle(default, HandleKind.SoftPointer) : Spaces[mode];
        Held(entity, reactors, none);
        if (old)
        {
            entity.Layer = _fields.Handle(default, HandleKind.HardPointer);
            entity.LineType = byLayer ? default : _fields.Handle(default, HandleKind.HardPointer);
        }

        if (!_fields.Since(CadVersion.AC1018))
            Next = Link(entity.Handle, unlinked);
        if (book)
            _fields.Handle(default, HandleKind.HardPointer);
        if (old)
            return;
        entity.Layer = _fields.Handle(default, HandleKind.HardPointer);
        entity.LineType = lineType switch
        {
            0 => default,
            1 => ByBlock,
            2 => Continuous,
            _ => _fields.Handle(default, HandleKind.HardPointer),
        };
        if (material == 3)
            entity.Extras.Material = _fields.Handle(default, HandleKind.HardPointer);
        if (plotStyle == 3)
            entity.Extras.PlotStyle = _fields.Handle(default, HandleKind.HardPointer);
        for (int i = 0; i < styles; i++)
            _fields.Handle(default, HandleKind.HardPointer);
    }

    /// <summary>Handles of the line types that have no handle in an entity; from the header.</summary>
    public Handle ByBlock { get; set; }

    /// <summary>The continuous line type; from the header.</summary>
    public Handle Continuous { get; set; }

    /// <summary>Owners of entities that say only which space they are in: 1 paper, 2 model.</summary>
    public required IReadOnlyList<Handle> Spaces { get; init; }

    /// <summary>Up to 2000: the entity behind the one read last.</summary>
    public Handle Next { get; private set; }

    // The links are one behind the other when they are not those of the handles before and after.
    private Handle Link(Handle own, bool unlinked)
    {
        if (unlinked)
            return new Handle(own.Value + 1);
        _fields.Handle(default, HandleKind.SoftPointer);
        return _fields.Handle(default, HandleKind.SoftPointer);
    }

    private bool Colour(Entity entity)
    {
        if (!_fields.Since(CadVersion.AC1018))
        {
            entity.Colour = new CadColour((short)Math.Clamp(_fields.Short(0), 0, 257));
            return false;
        }

        int packed = _fields.Short(0) & 0xFFFF;
        bool book = (packed & 0x4000) != 0;
        entity.Colour = new CadColour((short)(packed & 0x1FF));
        if ((packed & 0x8000) != 0)
        {
            var given = CadColour.FromPacked(unchecked((uint)_fields.Long(0)), null);
            // The number for readers without true colours is stored beside it; some writers leave it out.
            entity.Colour =
                given.Rgb is not null && (packed & 0x1FF) is > 0 and < 256
                    ? given with
                    {
                        Index = (short)(packed & 0x1FF),
                    }
                    : given;
        }

        if ((packed & 0x2000) != 0)
            entity.Extras.Transparency = _fields.Long(0);
        return book;
    }

    private void Check(Handle handle, long offset, int end)
    {
        if (end + 2 > _objects.Length)
            return;
        ushort said = (ushort)(_objects[end] | (_objects[end + 1] << 8));
        if (DwgCrc.Crc16(_objects.AsSpan((int)offset, end - (int)offset)) != said)
            _beside.Damage(handle);
    }
}
