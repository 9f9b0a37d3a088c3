using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>MTEXT: paragraphs of text with formatting codes.</summary>
public sealed class MText : Entity
{
    /// <inheritdoc/>
    public override string Type => "MTEXT";

    /// <summary>Where it is attached, in world coordinates (10).</summary>
    public Vec3 Insertion { get; set; }

    /// <summary>Direction of its lines, in world coordinates (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>Height of capitals (40).</summary>
    public double Height { get; set; } = 2.5;

    /// <summary>Width at which lines break, 0 for none (41).</summary>
    public double Width { get; set; }

    /// <summary>The defined height (46).</summary>
    public double DefinedHeight { get; set; }

    /// <summary>1 top left … 9 bottom right (71).</summary>
    public int Attachment { get; set; } = 1;

    /// <summary>1 left to right, 3 top to bottom, 5 by style (72).</summary>
    public int Flow { get; set; } = 5;

    /// <summary>Line spacing: 1 at least, 2 exactly; and its factor (73, 44).</summary>
    public (int Style, double Factor) Spacing { get; set; } = (1, 1);

    /// <summary>What is seen of it, width and height (42, 43).</summary>
    public (double Width, double Height) Seen { get; set; }

    /// <summary>The text with its codes (3, 1); <see cref="PlainText.Of"/> takes them away.</summary>
    public string Value { get; set; } = "";

    /// <summary>The text style (7).</summary>
    public Handle Style { get; set; }

    /// <summary>Background: 1 a colour, 2 the window's, 16 a frame (90).</summary>
    public int Background { get; set; }

    /// <summary>How far the background reaches, its colour and transparency (45, 63, 441).</summary>
    public (double Scale, CadColour Colour, int Transparency) Fill { get; set; } = (1.5, new CadColour(7), 0);

    /// <summary>Its columns in DWG of 2018, null for none; in DXF they stay groups.</summary>
    public MTextColumns? Columns { get; set; }

    /// <summary>The application a text of 2018 names.</summary>
    public Handle Application { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbMText");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Insertion = f.Point(10, Insertion);
        Height = f.Double(40, Height);
        Width = f.Double(41, Width);
        if (f.Since(CadVersion.AC1021) || f.Reading)
            DefinedHeight = f.Double(46, DefinedHeight, 0);
        Attachment = f.Short(71, Attachment);
        Flow = f.Short(72, Flow);
        Value = f.Pieces(3, 1, Value);
        Style = f.Symbol(7, Style, SymbolKind.Style);
        Normal = f.Normal(Normal);
        double angle = f.Reading ? f.Angle(50, double.NaN) : 0;
        Direction = f.Point(
            11,
            double.IsNaN(angle) || angle == 0 ? Direction : new Vec3(Math.Cos(angle), Math.Sin(angle), 0)
        );
        Seen = (f.Double(42, Seen.Width, 0), f.Double(43, Seen.Height, 0));
        if (f.Since(CadVersion.AC1015) || f.Reading)
            Spacing = (f.Short(73, Spacing.Style), f.Double(44, Spacing.Factor));
        if (f.Since(CadVersion.AC1018) || f.Reading)
            Background = f.Long(90, Background, 0);
        if (Background != 0 && (f.Since(CadVersion.AC1018) || f.Reading))
            Fill = (f.Double(45, Fill.Scale), f.Colour(63, Fill.Colour), f.Long(441, Fill.Transparency));
        var embedded = f.Embedded(f.Reading ? [] : ColumnGroups());
        if (f.Reading)
            Columns = ColumnsOf(embedded);
    }

    // The object that a text of 2018 embeds; its codes are from an independent reader, named beside the check.
    private List<CadGroup> ColumnGroups()
    {
        if (Columns is not { } columns)
            return [];
        List<CadGroup> groups =
        [
            new(70, 1L),
            new(10, Direction.X),
            new(20, Direction.Y),
            new(30, Direction.Z),
            new(11, Insertion.X),
            new(21, Insertion.Y),
            new(31, Insertion.Z),
            new(40, Width),
            new(41, DefinedHeight),
            new(42, Seen.Width),
            new(43, Seen.Height),
            new(71, (long)columns.Kind),
            new(72, (long)columns.Count),
            new(44, columns.Width),
            new(45, columns.Gutter),
            new(73, columns.AutoHeight ? 1L : 0L),
            new(74, columns.Reversed ? 1L : 0L),
        ];
        groups.AddRange(columns.Heights.Select(h => new CadGroup(46, h)));
        return groups;
    }

    private static MTextColumns? ColumnsOf(IReadOnlyList<CadGroup> groups)
    {
        double Number(int code) =>
            groups.FirstOrDefault(g => g.Code == code) is { Value: not null } group ? group.Number : 0;
        int kind = (int)Number(71);
        if (kind is not (1 or 2))
            return null;
        var columns = new MTextColumns(kind, (int)Number(72), Number(44), Number(45), Number(73) != 0, Number(74) != 0);
        columns.Heights.AddRange(groups.Where(g => g.Code == 46).Select(g => g.Number));
        return columns;
    }

    private void ExchangeDwg(DwgFields d)
    {
        Insertion = d.Point(10, Insertion);
        Normal = d.Point(210, Normal);
        Direction = d.Point(11, Direction);
        Width = d.Double(Width);
        if (d.Since(CadVersion.AC1021))
            DefinedHeight = d.Double(DefinedHeight);
        Height = d.Double(Height);
        Attachment = d.Short(Attachment);
        Flow = d.Short(Flow);
        double seen = d.Double(Seen.Height);
        Seen = (d.Double(Seen.Width), seen);
        Value = d.Text(1, Value);
        if (d.Since(CadVersion.AC1015))
        {
            Spacing = (d.Short(Spacing.Style), d.Double(Spacing.Factor));
            d.Bit(false);
        }

        if (d.Since(CadVersion.AC1018))
        {
            Background = d.Long(Background);
            bool filled = (Background & 1) != 0 || (d.Since(CadVersion.AC1032) && (Background & 16) != 0);
            if (filled)
                Fill = (d.Double(Fill.Scale), d.Colour(63, Fill.Colour), d.Long(Fill.Transparency));
        }

        Style = d.Handle(Style, HandleKind.HardPointer);
        if (d.Since(CadVersion.AC1032))
            ExchangeColumns(d);
    }

    // 2018 repeats the place for texts that are not annotative, and adds columns.
    private void ExchangeColumns(DwgFields d)
    {
        if (!d.Bit(true))
            return;
        d.Short(0);
        d.Bit(true);
        Application = d.Handle(Application, HandleKind.HardPointer);
        Attachment = d.Long(Attachment);
        Direction = d.Point(11, Direction);
        Insertion = d.Point(10, Insertion);
        d.Double(Width);
        d.Double(DefinedHeight);
        d.Double(Seen.Width);
        d.Double(Seen.Height);
        int kind = d.Short(Columns?.Kind ?? 0);
        if (kind == 0)
            return;
        int count = d.Count(Columns?.Count ?? 0);
        var columns = new MTextColumns(
            kind,
            count,
            d.Double(Columns?.Width ?? 0),
            d.Double(Columns?.Gutter ?? 0),
            d.Bit(Columns?.AutoHeight ?? true),
            d.Bit(Columns?.Reversed ?? false)
        );
        if (!columns.AutoHeight)
            for (int i = 0; i < count; i++)
                columns.Heights.Add(d.Double(Columns?.Heights.ElementAtOrDefault(i) ?? 0));
        Columns = columns;
    }
}
