using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Reads DXF, ASCII and binary, from release 12 to 2018. Group codes after the published DXF reference.</summary>
/// <remarks>
/// Lenient: what is missing gets its default, what is not known is kept, what is odd is a finding of the drawing that names the line. Only
/// a file whose groups cannot be
/// distinguished is refused.
/// </remarks>
public sealed class DxfReader
{
    private const int MostBytes = 1 << 30;
    private readonly DxfInput _in;
    private readonly Drawing _drawing;
    private readonly DxfCommon _common;
    private readonly CancellationToken _cancel;
    private DxfReadFields _fields;

    private DxfReader(byte[] bytes, CancellationToken cancel)
    {
        _in = new DxfInput(bytes);
        _drawing = new Drawing { Version = CadVersion.AC1009 };
        _fields = new DxfReadFields(_in, _drawing);
        _common = new DxfCommon(_in, _drawing);
        _cancel = cancel;
    }

    /// <summary>Whether bytes begin like DXF: the binary sentinel, or a group code 0 or 999 alone in a line.</summary>
    public static bool Looks(ReadOnlySpan<byte> head)
    {
        if (head.StartsWith("AutoCAD Binary DXF"u8))
            return true;
        if (head.StartsWith((ReadOnlySpan<byte>)[0xEF, 0xBB, 0xBF]))
            head = head[3..];
        int end = head.IndexOf((byte)'\n');
        return end > 0 && head[..end].Trim(" \t\r"u8) is [(byte)'0'] or [(byte)'9', (byte)'9', (byte)'9'];
    }

    /// <summary>Reads a drawing.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <exception cref="CadFormatException">The file is no DXF or is damaged so that groups cannot be distinguished; the message names the
    /// line.</exception>
    public static Drawing Read(byte[] bytes, CancellationToken cancel = default)
    {
        if (bytes.Length > MostBytes)
            throw new CadFormatException("The drawing is larger than 1 GB. Ask for it in parts.");
        return new DxfReader(bytes, cancel).Read();
    }

    /// <summary>Reads a drawing from a stream, which is read to its end and left open.</summary>
    /// <exception cref="CadFormatException">As for bytes.</exception>
    public static Drawing Read(Stream source, CancellationToken cancel = default)
    {
        using var memory = new MemoryStream();
        source.CopyTo(memory);
        return Read(memory.Length == memory.GetBuffer().Length ? memory.GetBuffer() : memory.ToArray(), cancel);
    }

    private Drawing Read()
    {
        bool more = _in.ReadObject();
        if (!more || _in.Kind != "SECTION")
            throw new CadFormatException(
                "Line 1: the file does not start with a section, so it is no DXF drawing. Ask for it to be sent again."
            );
        while (more)
        {
            string section = _in.Kind == "SECTION" && _in.Count > 0 ? _in.String(0).Trim() : "";
            switch (section)
            {
                case "HEADER":
                    Header();
                    more = _in.ReadObject();
                    break;
                case "CLASSES":
                    more = Each(Class);
                    break;
                case "TABLES":
                    more = Each(Table);
                    break;
                case "BLOCKS":
                    more = Blocks();
                    break;
                case "ENTITIES":
                    more = Entities(null);
                    break;
                case "OBJECTS":
                    more = Each(Object);
                    break;
                case "":
                    more = _in.ReadObject();
                    break;
                default:
                    more = Other(section);
                    break;
            }
        }

        if (_in.Torn)
            Find("CAD-TORN", "the end", "The drawing ends before EOF; what came before was read. Ask for it again.");
        Finish();
        return _drawing;
    }

    private bool Other(string name)
    {
        var groups = new List<CadGroup>();
        for (int i = 1; i < _in.Count; i++)
            groups.Add(new CadGroup(_in.Codes[i], _in.Value(i)));
        bool more = Each(() =>
        {
            groups.Add(new CadGroup(0, _in.Kind));
            for (int i = 0; i < _in.Count; i++)
                groups.Add(new CadGroup(_in.Codes[i], _in.Value(i)));
        });
        _drawing.OtherSections.Add((name, groups));
        return more;
    }

    private bool Each(Action read)
    {
        bool more;
        while ((more = _in.ReadObject()) && _in.Kind is not ("ENDSEC" or "SECTION"))
        {
            _cancel.ThrowIfCancellationRequested();
            read();
        }

        return more;
    }

    private void Header()
    {
        // What bytes mean depends on two variables of the header itself; both are plain ASCII.
        string Early(string name)
        {
            for (int i = 1; i + 1 < _in.Count; i++)
                if (_in.Codes[i] == 9 && _in.Codes[i + 1] != 9 && _in.String(i) == name)
                    return _in.String(i + 1).Trim();
            return "";
        }

        _in.Text = CadText.For(
            Enum.TryParse(Early("$ACADVER"), out CadVersion said) ? said : CadVersion.AC1009,
            Early("$DWGCODEPAGE")
        );
        for (int i = 1; i < _in.Count; )
        {
            if (_in.Codes[i] != 9)
            {
                i++;
                continue;
            }

            string name = _in.String(i++);
            var groups = new List<CadGroup>();
            for (; i < _in.Count && _in.Codes[i] != 9; i++)
                groups.Add(new CadGroup(_in.Codes[i], _in.Value(i)));
            _drawing.Header[name] = groups;
        }

        string version = _drawing.Header.Text("$ACADVER").Trim();
        if (!Enum.TryParse(version, out CadVersion known) || !Enum.IsDefined(known))
        {
            known = string.CompareOrdinal(version, "AC1032") > 0 ? CadVersion.AC1032 : CadVersion.AC1009;
            if (version.Length > 0)
                Find("CAD-VERSION", "$ACADVER", $"The version {version} is not known; the drawing is read as {known}.");
        }

        _drawing.Version = known;
        _in.Text = CadText.For(known, _drawing.Header.Text("$DWGCODEPAGE"));
        ulong seed = _drawing.Header["$HANDSEED"] is [{ Value: Handle h }, ..] ? h.Value : 0;
        ulong greatest = seed > 1 ? 0 : _in.GreatestHandle();
        _drawing.Seed = new Handle(Math.Max(seed, Math.Min(greatest, ulong.MaxValue - uint.MaxValue) + 1));
        _fields = new DxfReadFields(_in, _drawing);
    }

    private void Class()
    {
        _fields.Begin();
        _drawing.Classes.Add(
            new CadClass
            {
                DxfName = _fields.Text(1, ""),
                ClassName = _fields.Text(2, ""),
                Application = _fields.Text(3, ""),
                ProxyFlags = _fields.Long(90, 0),
                Instances = _fields.Long(91, 0),
                WasProxy = _fields.Bit(280, false),
                IsEntity = _fields.Bit(281, false),
            }
        );
    }

    private SymbolTable? _table;

    private void Table()
    {
        _fields.Begin();
        if (_in.Kind == "TABLE")
        {
            _table = _fields.Text(2, "").Trim() switch
            {
                "BLOCK_RECORD" => _drawing.Blocks,
                "LAYER" => _drawing.Layers,
                "LTYPE" => _drawing.LineTypes,
                "STYLE" => _drawing.Styles,
                "VIEW" => _drawing.Views,
                "UCS" => _drawing.CoordinateSystems,
                "VPORT" => _drawing.Viewports,
                "APPID" => _drawing.Applications,
                "DIMSTYLE" => _drawing.DimensionStyles,
                _ => null,
            };
            if (_table is not null)
                _table.Handle = _fields.Reference(5, default);
            return;
        }

        if (_in.Kind == "ENDTAB" || _table is null)
            return;
        Record(_table);
    }

    private void Record(SymbolTable table)
    {
        _fields.Begin();
        var record = table.Make();
        _common.Start(record, _fields);
        // A name that was used before its table came has a record already, which this one fills.
        if (table.Named(Name()) is { } early && (_fields.Made.Remove(early) || _common.Made.Remove(early)))
        {
            if (!record.Handle.IsNull)
            {
                table.Alias(record.Handle, early);
                if (early is ApplicationId)
                    _common.Settle(early, record.Handle);
            }

            _drawing.Findings.RemoveAll(f =>
                f.Code == "CAD-RECORD-MISSING" && f.Message.Contains($"'{early.Name}'", StringComparison.Ordinal)
            );
            early.Exchange(_fields);
            _common.Rest(early);
            return;
        }

        if (record.Handle.IsNull)
            record.Handle = _drawing.NextHandle();
        if (record.Owner.IsNull)
            record.Owner = table.Handle;
        record.Exchange(_fields);
        _common.Rest(record);
        table.Put(record);
    }

    private string Name()
    {
        for (int i = 0; i < _in.Count; i++)
            if (_in.Codes[i] == 2)
                return _in.String(i);
        return "";
    }

    private bool Blocks()
    {
        bool more = _in.ReadObject();
        while (more && _in.Kind is not ("ENDSEC" or "SECTION"))
        {
            if (_in.Kind != "BLOCK")
            {
                more = _in.ReadObject();
                continue;
            }

            var block = Block();
            more = Entities(block);
        }

        return more;
    }

    private BlockRecord Block()
    {
        string name = Name();
        if (_drawing.Blocks[name] is not { } block)
        {
            block = new BlockRecord { Name = name.Length > 0 ? name : "*U" + _in.Line, Handle = _drawing.NextHandle() };
            _drawing.Blocks.Add(block);
        }

        _fields.Begin();
        block.Ends = (_fields.Reference(5, default), default);
        block.EndsLayer = _fields.Symbol(8, default, SymbolKind.Layer);
        block.Base = _fields.Point(10, Vec3.Zero);
        int flags = _fields.Short(70, 0);
        (block.IsXref, block.IsOverlay) = ((flags & 4) != 0, (flags & 8) != 0);
        block.Path = _fields.Text(1, "");
        block.Description = _fields.Text(4, "");
        // 32 says that the reference could be found; writers before 2000 leave it out.
        block.IsLoaded = !block.IsXref || (flags & 32) != 0;
        return block;
    }

    // Entities up to the end of the section or the block.
    private bool Entities(BlockRecord? block)
    {
        Entity? open = null;
        bool more;
        while ((more = _in.ReadObject()) && _in.Kind is not ("ENDSEC" or "SECTION" or "BLOCK"))
        {
            _cancel.ThrowIfCancellationRequested();
            if (_in.Kind == "ENDBLK")
            {
                _fields.Begin();
                if (block is not null)
                    block.Ends = (block.Ends.Begin, _fields.Reference(5, default));
                return _in.ReadObject();
            }

            if (_in.Kind == "SEQEND")
            {
                _fields.Begin();
                if (open is CompoundEntity compound)
                    (compound.End, compound.EndLayer) = (
                        _fields.Reference(5, default),
                        _fields.Symbol(8, default, SymbolKind.Layer)
                    );
                open = null;
                continue;
            }

            var entity = One(open, out bool paper);
            if (open is not null && open.Adopt(entity))
            {
                entity.Owner = open.Handle;
                continue;
            }

            Put(entity, block, paper);
            open = entity is CompoundEntity ? entity : null;
        }

        return more;
    }

    private Entity One(Entity? open, out bool paper)
    {
        _fields.Begin();
        int flags = 0;
        if (_in.Kind is "POLYLINE" or "VERTEX" or "DIMENSION")
            flags = Flags();
        var entity = ObjectKinds.Entity(_in.Kind, flags, open as Polyline);
        paper = _common.Start(entity, _fields);
        entity.Exchange(_fields);
        _common.Rest(entity);
        if (entity is Table table)
            table.Grid = TableGroups.Read(table.Extras.Unread, name => _drawing.Styles[name]?.Handle ?? default);
        if (entity.Handle.IsNull)
            entity.Handle = _drawing.NextHandle();
        return entity;
    }

    private int Flags()
    {
        for (int i = 0; i < _in.Count; i++)
            if (_in.Codes[i] == 70)
                return (int)_in.Long(i);
        return 0;
    }

    private void Put(Entity entity, BlockRecord? block, bool paper)
    {
        block ??= _drawing.Blocks[entity.Owner] is { IsSpace: true } owner
            ? owner
            : Space(paper ? BlockRecord.PaperSpace : BlockRecord.ModelSpace);
        entity.Owner = block.Handle;
        block.Entities.Add(entity);
    }

    private BlockRecord Space(string name)
    {
        if (_drawing.Blocks[name] is { } known)
            return known;
        var block = new BlockRecord { Name = name, Handle = _drawing.NextHandle() };
        _drawing.Blocks.Add(block);
        return block;
    }

    private void Object()
    {
        _fields.Begin();
        var item = ObjectKinds.Object(_in.Kind);
        _common.Start(item, _fields);
        item.Exchange(_fields);
        _common.Rest(item);
        if (item.Handle.IsNull)
            item.Handle = _drawing.NextHandle();
        _drawing.Objects.Add(item);
    }

    private void Finish()
    {
        foreach (var table in Enum.GetValues<SymbolKind>().Select(_drawing.Table))
        {
            if (table.Handle.IsNull)
                table.Handle = _drawing.NextHandle();
            foreach (var record in table.All)
                if (record.Owner.IsNull)
                    record.Owner = table.Handle;
        }

        if (_drawing.Version < CadVersion.AC1015)
            ViewportData.Apply(_drawing);
        DxfStore.Take(_drawing);
        HandleCheck.Run(_drawing);
        _drawing.Complete();
    }

    private void Find(string code, string place, string message) =>
        _drawing.Findings.Add(new CadFinding(code, place, message));
}
