namespace SteadyLintel.Cad;

/// <summary>What all objects of DXF share: handle, owner, reactors, extension dictionary, the entity's layer and looks, extended data, and
/// what no field took.</summary>
internal sealed class DxfCommon(DxfInput input, Drawing drawing)
{
    /// <summary>Applications whose names were used before their table came.</summary>
    public HashSet<SymbolRecord> Made { get; } = [];

    private readonly List<(List<ExtendedData> Data, int At, SymbolRecord Application)> _early = [];

    /// <summary>Reads what comes before the fields of the kind; answers whether an entity says it lies on paper (67).</summary>
    public bool Start(CadObject item, DxfReadFields fields)
    {
        var entity = item as Entity;
        bool paper = false,
            started = false;
        for (int i = 0; i < input.Count; i++)
        {
            int code = input.Codes[i];
            if (code >= 1000)
                break;
            if (code == 102)
            {
                i = Braces(item, i);
                continue;
            }

            if (code == 100)
            {
                if (entity is null || started || !input.Bytes(i).SequenceEqual("AcDbEntity"u8))
                    break;
                started = true;
                Used(i);
                continue;
            }

            // Some objects name others under 5 behind their own handle.
            if (item.Handle.IsNull && (code == 5 || (code == 105 && item is DimensionStyle)))
                item.Handle = input.Handle(i);
            else if (code == 330 && item.Owner.IsNull)
                item.Owner = input.Handle(i);
            else if (entity is null || !Looks(entity, fields, i, code, ref paper))
                continue;
            Used(i);
        }

        return paper;
    }

    /// <summary>Reads extended data, and keeps what was not read.</summary>
    public void Rest(CadObject item)
    {
        // Records of release 12 have no markers to put their settings back under; it is not written.
        bool keep = item is not SymbolRecord || drawing.Version >= CadVersion.AC1012;
        int pending = -1;
        for (int i = 0; i < input.Count; i++)
        {
            int code = input.Codes[i];
            if (code >= 1000 && input.Code(i) == 1001)
            {
                Data(item, i);
                return;
            }

            if (code == 100 && item is OpaqueEntity or OpaqueObject)
                item.Extras.Unread.Add(new CadGroup(100, input.String(i)));
            else if (code == 100)
                pending = i;
            else if (code >= 0 && keep)
            {
                // A marker is kept where something under it is.
                if (pending >= 0)
                    item.Extras.Unread.Add(new CadGroup(100, input.String(pending)));
                pending = -1;
                item.Extras.Unread.Add(new CadGroup(code, input.Value(i)));
            }
        }
    }

    private bool Looks(Entity entity, DxfReadFields fields, int i, int code, ref bool paper)
    {
        switch (code)
        {
            case 8:
                entity.Layer = fields.Symbol(i, SymbolKind.Layer);
                return true;
            case 6:
                entity.LineType = fields.Symbol(i, SymbolKind.LineType);
                return true;
            case 62:
                entity.Colour = entity.Colour with { Index = (short)Math.Clamp(input.Long(i), 0, 257) };
                return true;
            case 420:
                entity.Colour = entity.Colour with { Rgb = (int)input.Long(i) & 0xFFFFFF };
                return true;
            case 430:
                entity.Colour = entity.Colour with { Name = input.String(i) };
                return true;
            case 370:
                entity.LineWeight = (short)input.Long(i);
                return true;
            case 48:
                entity.LineTypeScale = input.Double(i);
                return true;
            case 60:
                entity.Invisible = input.Long(i) != 0;
                return true;
            case 67:
                paper = input.Long(i) != 0;
                return true;
            case 410:
                return true;
            case 440:
                entity.Extras.Transparency = (int)input.Long(i);
                return true;
            case 347:
                entity.Extras.Material = input.Handle(i);
                return true;
            case 390:
                entity.Extras.PlotStyle = input.Handle(i);
                return true;
            case 284:
                entity.Extras.Shadow = (int)input.Long(i);
                return true;
            default:
                return false;
        }
    }

    private int Braces(CadObject item, int i)
    {
        bool reactors = input.Bytes(i).SequenceEqual("{ACAD_REACTORS"u8),
            dictionary = input.Bytes(i).SequenceEqual("{ACAD_XDICTIONARY"u8);
        int end = i + 1;
        while (end < input.Count && input.Codes[end] != 102)
        {
            if (reactors && input.Codes[end] == 330)
                item.Extras.Reactors.Add(input.Handle(end));
            if (dictionary && input.Codes[end] is 360)
                item.Extras.Dictionary = input.Handle(end);
            end++;
        }

        // Groups of other applications are kept as they are.
        for (int k = i; k <= end && k < input.Count; k++)
        {
            if (!reactors && !dictionary)
                item.Extras.Braced.Add(new CadGroup(input.Codes[k], input.Value(k)));
            Used(k);
        }

        return end;
    }

    private void Data(CadObject item, int from)
    {
        List<CadGroup>? groups = null;
        for (int i = from; i < input.Count; i++)
        {
            int code = input.Code(i);
            if (code == 1001)
            {
                groups = [];
                var application = Application(input.String(i));
                if (Made.Contains(application))
                    _early.Add((item.Extras.Data, item.Extras.Data.Count, application));
                item.Extras.Data.Add(new ExtendedData(application.Handle, groups));
            }
            else
                groups?.Add(new CadGroup(code, input.Value(i)));
        }
    }

    // Tables before that of applications may have extended data; its record comes later.
    private SymbolRecord Application(string name)
    {
        if (drawing.Applications[name] is { } known)
            return known;
        var made = drawing.AddApplication(name);
        Made.Add(made);
        return made;
    }

    /// <summary>Gives an application whose record has come the handle that the file gives it; what was read before names it by
    /// that.</summary>
    public void Settle(SymbolRecord application, Handle handle)
    {
        application.Handle = handle;
        foreach (var (data, at, _) in _early.Where(e => ReferenceEquals(e.Application, application)))
            data[at] = data[at] with { Application = handle };
    }

    private void Used(int index) => input.Codes[index] = (short)~input.Codes[index];
}
