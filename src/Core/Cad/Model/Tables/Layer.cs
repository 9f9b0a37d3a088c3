namespace SteadyLintel.Cad;

/// <summary>A layer.</summary>
public sealed class Layer : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "LAYER";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Layer;

    /// <summary>The colour; never by layer or by block.</summary>
    public CadColour Colour { get; set; } = new(7);

    /// <summary>Whether it is on (62 not negative).</summary>
    public bool On { get; set; } = true;

    /// <summary>Whether it is frozen (70, bit 1).</summary>
    public bool Frozen { get; set; }

    /// <summary>Whether it is frozen in new viewports (70, bit 2).</summary>
    public bool FrozenInNew { get; set; }

    /// <summary>Whether it is locked (70, bit 4).</summary>
    public bool Locked { get; set; }

    /// <summary>Whether it is plotted (290).</summary>
    public bool Plot { get; set; } = true;

    /// <summary>The line weight in 1/100 mm (370).</summary>
    public short LineWeight { get; set; } = LineWeights.Default;

    /// <summary>The line type (6).</summary>
    public Handle LineType { get; set; }

    /// <summary>The plot style (390).</summary>
    public Handle PlotStyle { get; set; }

    /// <summary>The material (347).</summary>
    public Handle Material { get; set; }

    /// <summary>The visual style (348); in DXF it stays a group.</summary>
    public Handle VisualStyle { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        int flags = Start(f, "AcDbLayerTableRecord", (Frozen ? 1 : 0) | (FrozenInNew ? 2 : 0) | (Locked ? 4 : 0));
        if (f.Dwg is { } d)
        {
            DwgFlags(d);
            Colour = d.Colour(62, Colour);
            if (d.Since(CadVersion.AC1015))
                PlotStyle = d.Handle(PlotStyle, HandleKind.HardPointer);
            if (d.Since(CadVersion.AC1021))
                Material = d.Handle(Material, HandleKind.HardPointer);
            LineType = d.Handle(LineType, HandleKind.HardPointer);
            if (d.Since(CadVersion.AC1027))
                VisualStyle = d.Handle(VisualStyle, HandleKind.HardPointer);
            return;
        }

        Frozen = (flags & 1) != 0;
        FrozenInNew = (flags & 2) != 0;
        Locked = (flags & 4) != 0;
        // A layer that is off has its colour's number negative.
        var colour = f.Colour(62, On ? Colour : Colour with { Index = (short)-Colour.Index });
        On = colour.Index >= 0;
        Colour = colour with { Index = Math.Abs(colour.Index) };
        LineType = f.Symbol(6, LineType, SymbolKind.LineType);
        Plot = f.Bit(290, Plot, true);
        if (!f.Since(CadVersion.AC1015) && !f.Reading)
            return;
        LineWeight = (short)f.Short(370, LineWeight);
        PlotStyle = f.Reference(390, PlotStyle);
        Material = f.Reference(347, Material);
    }

    private void DwgFlags(DwgFields d)
    {
        if (!d.Since(CadVersion.AC1015))
        {
            // The same four, in the same order, as the lowest bits from 2000 on; that the second means off is taken from there, for no
            // reader at hand uses it.
            Frozen = d.Bit(Frozen);
            On = !d.Bit(!On);
            FrozenInNew = d.Bit(FrozenInNew);
            Locked = d.Bit(Locked);
            return;
        }

        int bits = d.Short(
            (Frozen ? 1 : 0)
                | (On ? 0 : 2)
                | (FrozenInNew ? 4 : 0)
                | (Locked ? 8 : 0)
                | (Plot ? 16 : 0)
                | (LineWeights.ToNumber(LineWeight) << 5)
        );
        Frozen = (bits & 1) != 0;
        On = (bits & 2) == 0;
        FrozenInNew = (bits & 4) != 0;
        Locked = (bits & 8) != 0;
        Plot = (bits & 16) != 0;
        LineWeight = LineWeights.FromNumber((bits >> 5) & 31);
    }
}
