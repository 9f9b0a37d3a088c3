namespace SteadyLintel.Cad;

/// <summary>A text style, or a file of shapes.</summary>
public sealed class TextStyle : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "STYLE";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Style;

    /// <summary>1 a shape file, 4 vertical text (70).</summary>
    public int Flags { get; set; }

    /// <summary>A fixed height in drawing units, or 0 (40).</summary>
    public double Height { get; set; }

    /// <summary>Width factor (41).</summary>
    public double Width { get; set; } = 1;

    /// <summary>Slant in radians (50).</summary>
    public double Slant { get; set; }

    /// <summary>2 mirrored in x, 4 mirrored in y (71).</summary>
    public int Generation { get; set; }

    /// <summary>The height last used (42).</summary>
    public double LastHeight { get; set; } = 2.5;

    /// <summary>The font file (3).</summary>
    public string Font { get; set; } = "txt";

    /// <summary>The font file of large character sets (4).</summary>
    public string BigFont { get; set; } = "";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Flags = Start(f, "AcDbTextStyleTableRecord", Flags);
        if (f.Dwg is { } d)
        {
            Flags = Flag(d, Flags, 1);
            Flags = Flag(d, Flags, 4);
        }

        Height = f.Double(40, Height);
        Width = f.Double(41, Width);
        Slant = f.Angle(50, Slant);
        Generation = f.Byte(71, Generation);
        LastHeight = f.Double(42, LastHeight);
        Font = f.Text(3, Font);
        BigFont = f.Text(4, BigFont);
    }
}
