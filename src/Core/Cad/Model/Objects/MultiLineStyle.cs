namespace SteadyLintel.Cad;

/// <summary>MLINESTYLE: the lines of an MLINE.</summary>
public sealed class MultiLineStyle : CadObject
{
    /// <inheritdoc/>
    public override string Type => "MLINESTYLE";

    /// <summary>The name (2).</summary>
    public string Name { get; set; } = "STANDARD";

    /// <summary>What it is (3).</summary>
    public string Description { get; set; } = "";

    /// <summary>1 filled, 2 mitres shown, 16 … caps (70).</summary>
    public int Flags { get; set; }

    /// <summary>Fill colour (62).</summary>
    public CadColour Fill { get; set; } = CadColour.ByLayer;

    /// <summary>Angles of the ends, radians (51, 52).</summary>
    public (double Start, double End) Angles { get; set; } = (Math.PI / 2, Math.PI / 2);

    /// <summary>The lines.</summary>
    public List<MultiLineElement> Elements { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbMlineStyle");
        Name = f.Text(2, Name);
        if (f.Dwg is { } d)
        {
            Description = d.Text(3, Description);
            Flags = d.Short(Flags);
            Fill = d.Colour(62, Fill);
            Angles = (d.Double(Angles.Start), d.Double(Angles.End));
            int lines = d.RawByte(Elements.Count);
            // Up to 2013 the line type is a number of the table; 32767 by layer.
            d.Items(Elements, lines, 0, e => new MultiLineElement(
                d.Double(e.Offset),
                d.Colour(62, e.Colour),
                d.Since(CadVersion.AC1032)
                    ? d.Handle(e.LineType, HandleKind.HardPointer)
                    : Number(d.Short(32767), e.LineType)
            ));
            return;
        }

        Flags = f.Short(70, Flags);
        Description = f.Text(3, Description);
        Fill = f.Colour(62, Fill);
        Angles = (f.Angle(51, Angles.Start), f.Angle(52, Angles.End));
        int count = f.Short(71, Elements.Count);
        f.Items(Elements, count, 49, e => new MultiLineElement(
            f.Double(49, e.Offset),
            f.Colour(62, f.Reading ? CadColour.ByLayer : e.Colour),
            LineTypeOf(f, e.LineType)
        ));
    }

    private static Handle LineTypeOf(Fields f, Handle type)
    {
        if (f.Reading || !type.IsNull)
            return f.Symbol(6, type, SymbolKind.LineType);
        f.Text(6, "BYLAYER");
        return type;
    }

    private static Handle Number(int index, Handle known) => index < 0 ? default : known;
}
