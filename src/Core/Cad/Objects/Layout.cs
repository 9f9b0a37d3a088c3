using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>LAYOUT: a sheet of paper with viewports; also one for model space.</summary>
public sealed class Layout : CadObject
{
    /// <inheritdoc/>
    public override string Type => "LAYOUT";

    /// <summary>The name on its tab (1).</summary>
    public string Name { get; set; } = "";

    /// <summary>Its place among the tabs; 0 is model space (71).</summary>
    public int Tab { get; set; }

    /// <summary>1 line types scaled for paper, 2 limits checked (70 of AcDbLayout).</summary>
    public int Flags { get; set; } = 1;

    /// <summary>The block with what is on it (330).</summary>
    public Handle Block { get; set; }

    /// <summary>The viewport used last (331).</summary>
    public Handle ActiveViewport { get; set; }

    /// <summary>Limits (10, 11).</summary>
    public (Vec2 Low, Vec2 High) Limits { get; set; } = (default, new Vec2(420, 297));

    /// <summary>Extents (14, 15).</summary>
    public (Vec3 Low, Vec3 High) Extents { get; set; }

    /// <summary>Insertion base (12).</summary>
    public Vec3 Base { get; set; }

    /// <summary>The page setup's name, the plotter, the paper (1, 2, 4 of AcDbPlotSettings).</summary>
    public (string Setup, string Plotter, string Paper) Plot { get; set; } = ("", "none_device", "ISO_A3_(420.00_x_297.00_MM)");

    /// <summary>Paper width and height in millimetres (44, 45).</summary>
    public (double Width, double Height) Paper { get; set; } = (420, 297);

    /// <summary>Unprinted margins in millimetres: left, bottom, right, top (40–43).</summary>
    public (double Left, double Bottom, double Right, double Top) Margins { get; set; }

    /// <summary>Plot scale: so many millimetres or inches for so many drawing units (142, 143).</summary>
    public (double Paper, double Drawing) PlotScale { get; set; } = (1, 1);

    /// <summary>0 inches, 1 millimetres, 2 pixels (72).</summary>
    public int PaperUnits { get; set; } = 1;

    /// <summary>Plot flags (70 of AcDbPlotSettings); 1024 for model space.</summary>
    public int PlotFlags { get; set; } = 688;

    /// <summary>Quarter turns (73).</summary>
    public int PlotRotation { get; set; }

    /// <summary>What is plotted; 5 the layout (74).</summary>
    public int PlotArea { get; set; } = 5;

    /// <summary>The plot style table (7).</summary>
    public string StyleSheet { get; set; } = "";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbPlotSettings");
        if (f.Dwg is { } d) ExchangeDwg(d);
        else ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Plot = (f.Text(1, Plot.Setup), f.Text(2, Plot.Plotter), f.Text(4, Plot.Paper));
        f.Fixed(6, "");
        Margins = (f.Double(40, Margins.Left), f.Double(41, Margins.Bottom), f.Double(42, Margins.Right), f.Double(43, Margins.Top));
        Paper = (f.Double(44, Paper.Width), f.Double(45, Paper.Height));
        foreach (int code in (int[])[46, 47, 48, 49, 140, 141]) f.Fixed(code, 0.0);
        PlotScale = (f.Double(142, PlotScale.Paper), f.Double(143, PlotScale.Drawing));
        PlotFlags = f.Short(70, PlotFlags);
        PaperUnits = f.Short(72, PaperUnits);
        PlotRotation = f.Short(73, PlotRotation);
        PlotArea = f.Short(74, PlotArea);
        StyleSheet = f.Text(7, StyleSheet);
        f.Fixed(75, 16L);
        f.Fixed(147, 1.0);
        f.Fixed(148, 0.0);
        f.Fixed(149, 0.0);
        f.Subclass("AcDbLayout");
        Name = f.Text(1, Name);
        Flags = f.Short(70, Flags);
        Tab = f.Short(71, Tab);
        Limits = (f.Flat(10, Limits.Low), f.Flat(11, Limits.High));
        Base = f.Point(12, Base);
        Extents = (f.Point(14, Extents.Low), f.Point(15, Extents.High));
        f.Fixed(146, 0.0);
        f.Fixed(76, 0L);
        Block = f.Reference(330, Block, HandleKind.SoftPointer);
        ActiveViewport = f.Reference(331, ActiveViewport, HandleKind.SoftPointer);
    }

    private void ExchangeDwg(DwgFields d)
    {
        string setup = d.Text(1, Plot.Setup), plotter = d.Text(2, Plot.Plotter);
        PlotFlags = d.Short(PlotFlags);
        Margins = (d.Double(Margins.Left), d.Double(Margins.Bottom), d.Double(Margins.Right), d.Double(Margins.Top));
        Paper = (d.Double(Paper.Width), d.Double(Paper.Height));
        Plot = (setup, plotter, d.Text(4, Plot.Paper));
        d.BitPoint(default(Vec2));
        PaperUnits = d.Short(PaperUnits);
        PlotRotation = d.Short(PlotRotation);
        PlotArea = d.Short(PlotArea);
        d.BitPoint(default(Vec2));
        d.BitPoint(default(Vec2));
        if (!d.Since(CadVersion.AC1018)) d.Text(6, "");
        PlotScale = (d.Double(PlotScale.Paper), d.Double(PlotScale.Drawing));
        StyleSheet = d.Text(7, StyleSheet);
        d.Short(16);
        d.Double(1);
        d.BitPoint(default(Vec2));
        if (d.Since(CadVersion.AC1018))
        {
            d.Short(0);
            d.Short(2);
            d.Short(300);
            d.Handle(default, HandleKind.HardPointer);
        }

        if (d.Since(CadVersion.AC1021)) d.Handle(default, HandleKind.SoftPointer);
        ExchangeSheet(d);
    }

    private void ExchangeSheet(DwgFields d)
    {
        Name = d.Text(1, Name);
        Tab = d.Long(Tab);
        Flags = d.Short(Flags);
        d.Point(13, Vec3.Zero);
        Limits = (d.RawPoint(Limits.Low), d.RawPoint(Limits.High));
        Base = d.Point(12, Base);
        d.Point(16, Vec3.AxisX);
        d.Point(17, Vec3.AxisY);
        d.Double(0);
        d.Short(0);
        Extents = (d.Point(14, Extents.Low), d.Point(15, Extents.High));
        int viewports = d.Since(CadVersion.AC1018) ? d.Count(0) : 0;
        Block = d.Handle(Block, HandleKind.SoftPointer);
        ActiveViewport = d.Handle(ActiveViewport, HandleKind.SoftPointer);
        d.Handle(default, HandleKind.HardPointer);
        d.Handle(default, HandleKind.HardPointer);
        d.Handles([], viewports, HandleKind.SoftPointer);
        // One reader looks for four more handles than the specification has.
        for (int i = 0; i < 4 && !d.Reading; i++) d.Handle(default, HandleKind.SoftPointer);
    }
}
