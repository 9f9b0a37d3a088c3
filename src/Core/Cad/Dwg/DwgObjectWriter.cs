namespace SteadyLintel.Cad;

/// <summary>Writes objects of DWG one after the other, and remembers where each began.</summary>
internal sealed class DwgObjectWriter
{
    private const int Spare = 1 << 16;
    private readonly Drawing _drawing;
    private readonly CadText _text;
    private readonly DwgWriteFields _fields;
    private readonly BitWriter _head = new();
    private readonly IReadOnlyDictionary<string, CadClass> _classes;
    private readonly Handle _byLayer,
        _byBlock,
        _continuous;

    public DwgObjectWriter(Drawing drawing, CadVersion version, CadText text, IEnumerable<CadClass> classes)
        : this(drawing, version, text, classes.GroupBy(c => c.DxfName).ToDictionary(g => g.Key, g => g.First()))
    {
        // 2004 and later begin with a number nobody has explained.
        if (version > CadVersion.AC1015)
            Output.Write([0xCA, 0x0D, 0, 0]);
    }

    private DwgObjectWriter(
        Drawing drawing,
        CadVersion version,
        CadText text,
        IReadOnlyDictionary<string, CadClass> classes
    )
    {
        (_drawing, _text, _classes) = (drawing, text, classes);
        _fields = new DwgWriteFields(version, text);
        (_byLayer, _byBlock, _continuous) = (
            drawing.LineTypes["ByLayer"]!.Handle,
            drawing.LineTypes["ByBlock"]!.Handle,
            drawing.LineTypes["Continuous"]!.Handle
        );
    }

    /// <summary>A writer of the same kind with nothing in it, for objects that are written at the same time.</summary>
    public DwgObjectWriter Beside() => new(_drawing, _fields.Version, _text, _classes);

    /// <summary>Takes out what was written, and begins again.</summary>
    public (byte[] Bytes, List<(Handle Handle, long Offset)> Places) Take()
    {
        var taken = (Output.ToArray(), new List<(Handle, long)>(Places));
        Output.SetLength(0);
        Places.Clear();
        return taken;
    }

    /// <summary>Adds what others wrote behind what is here.</summary>
    public void Append(IReadOnlyList<(byte[] Bytes, List<(Handle Handle, long Offset)> Places)> others)
    {
        // Grown once: a stream that doubles leaves as much behind as it holds.
        Output.Capacity = Math.Max(
            Output.Capacity,
            (int)Math.Min(Array.MaxLength, Output.Length + others.Sum(o => (long)o.Bytes.Length) + Spare)
        );
        foreach (var (bytes, places) in others)
        {
            long start = Output.Length;
            foreach (var (handle, offset) in places)
                Places.Add((handle, start + offset));
            Output.Write(bytes);
        }
    }

    /// <summary>The objects so far.</summary>
    public MemoryStream Output { get; } = new();

    /// <summary>Where objects begin.</summary>
    public List<(Handle Handle, long Offset)> Places { get; } = [];

    /// <summary>Writes a table's control object.</summary>
    public void Control(
        SymbolTable table,
        SymbolKind kind,
        IReadOnlyList<Handle> records,
        IReadOnlyList<Handle> special
    )
    {
        Begin(DwgTypes.Control(kind), table.Handle, null);
        Shared(null, default);
        _fields.Count(records.Count);
        if (kind == SymbolKind.DimensionStyle)
            _fields.RawByte(0);
        foreach (var handle in records)
            _fields.Handle(handle, HandleKind.SoftOwner);
        foreach (var handle in special)
            _fields.Handle(handle, HandleKind.HardOwner);
        End(table.Handle);
    }

    /// <summary>Writes an empty control of the viewport headers that 2000 asks for.</summary>
    public void ViewportHeaders(Handle handle)
    {
        Begin(DwgTypes.ViewportEntityControl, handle, null);
        Shared(null, default);
        _fields.Count(0);
        End(handle);
    }

    /// <summary>Writes a record or an object without a picture.</summary>
    public void Object(CadObject item)
    {
        if (OpaqueBits.Of(item) is { } bits)
        {
            Opaque(item.Handle, bits);
            return;
        }

        int type = item is SymbolRecord record ? DwgTypes.Control(record.Table) + 1 : DwgTypes.Number(item);
        Begin(type > 0 ? type : _classes[item.Type].Number, item.Handle, item);
        Shared(item, item.Owner);
        item.Exchange(_fields);
        End(item.Handle);
    }

    /// <summary>Writes an entity.</summary>
    /// <param name="entity">The entity.</param>
    /// <param name="owner">Its block, or the entity it is a part of.</param>
    /// <param name="mode">0 owned by a handle, 1 in the layout in use, 2 in model space.</param>
    /// <param name="before">The entity before it in a chain.</param>
    /// <param name="after">The entity behind it.</param>
    public void Entity(Entity entity, Handle owner, int mode, Handle before, Handle after)
    {
        if (OpaqueBits.Of(entity) is { } bits && bits.Version == _fields.Version)
        {
            Opaque(entity.Handle, bits);
            return;
        }

        int type = DwgTypes.Number(entity);
        Begin(type > 0 ? type : _classes[entity.Type].Number, entity.Handle, entity);
        Look(entity, entity.Layer, owner, mode, before, after);
        entity.Exchange(_fields);
        End(entity.Handle);
    }

    /// <summary>Writes the begin or end of a block, or the end of a compound entity.</summary>
    public void Mark(int type, Handle handle, Handle layer, Handle owner, int mode, string? name)
    {
        Begin(type, handle, null);
        Look(null, layer, owner, mode, default, default);
        if (name is not null)
            _fields.Text(2, name);
        End(handle);
    }

    private void Begin(int type, Handle handle, CadObject? item)
    {
        _fields.Clear();
        _head.Clear();
        var data = _fields.Data;
        if (!_fields.Since(CadVersion.AC1024))
            data.Short(type);
        else if (type < 256)
        {
            data.Bits(0, 2);
            data.Byte(type);
        }
        else if (type < 0x1F0 + 256 && type >= 0x1F0)
        {
            data.Bits(1, 2);
            data.Byte(type - 0x1F0);
        }
        else
        {
            data.Bits(2, 2);
            data.RawShort(type);
        }

        if (_fields.Since(CadVersion.AC1015))
            Sized();
        data.Handle(HandleKind.Plain, handle);
        if (item is { HasExtras: true })
            Extended(item.Extras);
        _fields.Short(0);
    }

    // Where the size in bits goes; as in DwgObjectReader.
    private void Sized()
    {
        _sizeAt = _fields.Data.Position;
        if (!_fields.Since(CadVersion.AC1024))
            _fields.Data.RawLong(0);
    }

    private long _sizeAt;

    private void End(Handle handle)
    {
        long handles = _fields.Close();
        if (!_fields.Since(CadVersion.AC1024))
            _fields.Data.PatchLong(_sizeAt, (int)handles);
        Put(handle, _fields.Data.Written, handles);
    }

    private void Opaque(Handle handle, OpaqueBits bits) => Put(handle, bits.Data, bits.BitSize);

    private void Put(Handle handle, ReadOnlySpan<byte> data, long handles)
    {
        Places.Add((handle, Output.Length));
        _head.Clear();
        _head.ModularShort(data.Length);
        if (_fields.Since(CadVersion.AC1024))
            _head.UnsignedModularChar((ulong)((data.Length * 8L) - handles));
        var head = _head.Written;
        ushort crc = DwgCrc.Crc16(data, DwgCrc.Crc16(head));
        Output.Write(head);
        Output.Write(data);
        Output.Write([(byte)crc, (byte)(crc >> 8)]);
    }

    private void Extended(ObjectExtras extras)
    {
        foreach (var data in extras.Data)
        {
            if (_drawing.Applications[data.Application] is null)
                continue;
            byte[] bytes = DwgGroups.WriteExtended([.. data.Groups.Select(ByHandle)], _fields.Version, _text);
            if (bytes.Length == 0 || bytes.Length > short.MaxValue)
                continue;
            _fields.Short(bytes.Length);
            _fields.Data.Handle(HandleKind.HardPointer, data.Application);
            _fields.Data.Bytes(bytes);
        }
    }

    private CadGroup ByHandle(CadGroup group) =>
        group is { Code: 1003, Value: string layer }
            ? new CadGroup(1003, _drawing.Layers[layer]?.Handle ?? default)
            : group;

    private void Shared(CadObject? item, Handle owner)
    {
        var extras = item is { HasExtras: true } ? item.Extras : null;
        int reactors = extras?.Reactors.Count ?? 0;
        if (!_fields.Since(CadVersion.AC1015))
            Sized();
        _fields.Count(reactors);
        bool none = extras is null || extras.Dictionary.IsNull;
        if (_fields.Since(CadVersion.AC1018))
            _fields.Bit(none);
        if (_fields.Since(CadVersion.AC1027))
            _fields.Bit(false);
        _fields.Handle(owner, HandleKind.SoftPointer);
        Held(extras, none);
    }

    private void Held(ObjectExtras? extras, bool none)
    {
        if (extras is not null)
            foreach (var reactor in extras.Reactors)
                _fields.Handle(reactor, HandleKind.SoftPointer);
        if (!none || !_fields.Since(CadVersion.AC1018))
            _fields.Handle(extras?.Dictionary ?? default, HandleKind.HardOwner);
    }

    private void Look(Entity? entity, Handle layer, Handle owner, int mode, Handle before, Handle after)
    {
        var extras = entity is { HasExtras: true } ? entity.Extras : null;
        Preview(extras?.Preview);
        bool old = !_fields.Since(CadVersion.AC1015);
        if (old)
            Sized();
        _fields.TwoBits(mode);
        _fields.Count(extras?.Reactors.Count ?? 0);
        bool none = extras is null || extras.Dictionary.IsNull,
            links = !_fields.Since(CadVersion.AC1018);
        if (!links)
            _fields.Bit(none);
        if (_fields.Since(CadVersion.AC1027))
            _fields.Bit(entity is ModelerEntity);
        var lineType = entity?.LineType ?? default;
        bool byLayer = lineType.IsNull || lineType == _byLayer;
        if (old)
            _fields.Bit(byLayer);
        if (links)
            _fields.Bit(false);
        Colour(entity?.Colour ?? CadColour.ByLayer, extras?.Transparency ?? 0);
        _fields.Double(entity?.LineTypeScale ?? 1);
        int form =
            byLayer ? 0
            : lineType == _byBlock ? 1
            : lineType == _continuous ? 2
            : 3;
        if (!old)
            _fields.TwoBits(form);
        bool plotStyle = extras is { PlotStyle.IsNull: false },
            material = extras is { Material.IsNull: false };
        if (!old)
            _fields.TwoBits(plotStyle ? 3 : 0);
        if (_fields.Since(CadVersion.AC1021))
        {
            _fields.TwoBits(material ? 3 : 0);
            _fields.RawByte(extras?.Shadow ?? 0);
        }

        if (_fields.Since(CadVersion.AC1024))
            for (int i = 0; i < 3; i++)
                _fields.Bit(false);
        _fields.Short(entity?.Invisible == true ? 1 : 0);
        if (!old)
            _fields.RawByte(LineWeights.ToNumber(entity?.LineWeight ?? LineWeights.ByLayer));

        if (mode == 0)
            _fields.Handle(owner, HandleKind.SoftPointer);
        Held(extras, none);
        if (old)
            LayerAndLineType(layer, byLayer ? default : lineType);
        if (links)
        {
            _fields.Handle(before, HandleKind.SoftPointer);
            _fields.Handle(after, HandleKind.SoftPointer);
        }

        if (old)
            return;
        LayerAndLineType(layer, form == 3 ? lineType : default);
        if (_fields.Since(CadVersion.AC1021) && material)
            _fields.Handle(extras!.Material, HandleKind.HardPointer);
        if (plotStyle)
            _fields.Handle(extras!.PlotStyle, HandleKind.HardPointer);
    }

    private void LayerAndLineType(Handle layer, Handle lineType)
    {
        _fields.Handle(layer, HandleKind.HardPointer);
        if (!lineType.IsNull)
            _fields.Handle(lineType, HandleKind.HardPointer);
    }

    private void Preview(byte[]? picture)
    {
        _fields.Bit(picture is { Length: > 0 });
        if (picture is not { Length: > 0 })
            return;
        if (_fields.Since(CadVersion.AC1024))
            _fields.LongLong(picture.Length);
        else
            _fields.RawLong(picture.Length);
        _fields.Bytes(picture, picture.Length);
    }

    private void Colour(CadColour colour, int transparency)
    {
        if (!_fields.Since(CadVersion.AC1018))
        {
            _fields.Short(colour.Index);
            return;
        }

        int flags = (colour.Rgb is null ? 0 : 0x8000) | (transparency == 0 ? 0 : 0x2000);
        _fields.Short((short)(flags | (colour.Index & 0x1FF)));
        if (colour.Rgb is not null)
            _fields.Long(unchecked((int)colour.Packed()));
        if (transparency != 0)
            _fields.Long(transparency);
    }
}
