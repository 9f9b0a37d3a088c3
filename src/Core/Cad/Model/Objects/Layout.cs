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
    public (string Setup, string Plotter, string Paper) Plot { get; set; } =
        ("", "none_device", "ISO_A3_(420.00_x_297.00_MM)");

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

    /// <summary>The view that is plotted (6).</summary>
    public string View { get; set; } = "";

    /// <summary>From the corner of the paper to what is plotted, millimetres (46, 47).</summary>
    public Vec2 PlotOffset { get; set; }

    /// <summary>The window that is plotted (48, 49, 140, 141).</summary>
    public (Vec2 Low, Vec2 High) PlotWindow { get; set; }

    /// <summary>The number of a usual scale and its factor (75, 147).</summary>
    public (int Number, double Factor) UsualScale { get; set; } = (16, 1);

    /// <summary>The origin of the picture of the paper (148, 149).</summary>
    public Vec2 ImageOrigin { get; set; }

    /// <summary>How it is shaded when plotted: mode, resolution, dots an inch, object (76, 77, 78, 333 of AcDbPlotSettings); in DXF these
    /// stay groups.</summary>
    public (int Mode, int Level, int Dots, Handle Object) Shade { get; set; } = (0, 2, 300, default);

    /// <summary>The visual style; DWG only, from 2007 on.</summary>
    public Handle VisualStyle { get; set; }

    /// <summary>Its coordinate system: origin, axes (13, 16, 17); in DXF these stay groups.</summary>
    public (Vec3 Origin, Vec3 X, Vec3 Y) Axes { get; set; } = (Vec3.Zero, Vec3.AxisX, Vec3.AxisY);

    /// <summary>Elevation of the coordinate system and which side it looks at (146, 76 of AcDbLayout).</summary>
    public (double Elevation, int Side) Plane { get; set; }

    /// <summary>The named coordinate system and the one it is based on (345, 346); in DXF they stay groups.</summary>
    public (Handle Base, Handle Named) Systems { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbPlotSettings");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Plot = (f.Text(1, Plot.Setup), f.Text(2, Plot.Plotter), f.Text(4, Plot.Paper));
        View = f.Text(6, View);
        Margins = (
            f.Double(40, Margins.Left),
            f.Double(41, Margins.Bottom),
            f.Double(42, Margins.Right),
            f.Double(43, Margins.Top)
        );
        Paper = (f.Double(44, Paper.Width), f.Double(45, Paper.Height));
        PlotOffset = new Vec2(f.Double(46, PlotOffset.X), f.Double(47, PlotOffset.Y));
        PlotWindow = (
            new Vec2(f.Double(48, PlotWindow.Low.X), f.Double(49, PlotWindow.Low.Y)),
            new Vec2(f.Double(140, PlotWindow.High.X), f.Double(141, PlotWindow.High.Y))
        );
        PlotScale = (f.Double(142, PlotScale.Paper), f.Double(143, PlotScale.Drawing));
        PlotFlags = f.Short(70, PlotFlags);
        PaperUnits = f.Short(72, PaperUnits);
        PlotRotation = f.Short(73, PlotRotation);
        PlotArea = f.Short(74, PlotArea);
        StyleSheet = f.Text(7, StyleSheet);
        UsualScale = (f.Short(75, UsualScale.Number), f.Double(147, UsualScale.Factor));
        ImageOrigin = new Vec2(f.Double(148, ImageOrigin.X), f.Double(149, ImageOrigin.Y));
        f.Subclass("AcDbLayout");
        Name = f.Text(1, Name);
        Flags = f.Short(70, Flags);
        Tab = f.Short(71, Tab);
        Limits = (f.Flat(10, Limits.Low), f.Flat(11, Limits.High));
        Base = f.Point(12, Base);
        Extents = (f.Point(14, Extents.Low), f.Point(15, Extents.High));
        Plane = (f.Double(146, Plane.Elevation), f.Short(76, Plane.Side));
        Block = f.Reference(330, Block, HandleKind.SoftPointer);
        ActiveViewport = f.Reference(331, ActiveViewport, HandleKind.SoftPointer);
    }

    private void ExchangeDwg(DwgFields d)
    {
        string setup = d.Text(1, Plot.Setup),
            plotter = d.Text(2, Plot.Plotter);
        PlotFlags = d.Short(PlotFlags);
        Margins = (d.Double(Margins.Left), d.Double(Margins.Bottom), d.Double(Margins.Right), d.Double(Margins.Top));
        Paper = (d.Double(Paper.Width), d.Double(Paper.Height));
        Plot = (setup, plotter, d.Text(4, Plot.Paper));
        PlotOffset = d.BitPoint(PlotOffset);
        PaperUnits = d.Short(PaperUnits);
        PlotRotation = d.Short(PlotRotation);
        PlotArea = d.Short(PlotArea);
        PlotWindow = (d.BitPoint(PlotWindow.Low), d.BitPoint(PlotWindow.High));
        if (!d.Since(CadVersion.AC1018))
            View = d.Text(6, View);
        PlotScale = (d.Double(PlotScale.Paper), d.Double(PlotScale.Drawing));
        StyleSheet = d.Text(7, StyleSheet);
        UsualScale = (d.Short(UsualScale.Number), d.Double(UsualScale.Factor));
        ImageOrigin = d.BitPoint(ImageOrigin);
        if (d.Since(CadVersion.AC1018))
            Shade = (
                d.Short(Shade.Mode),
                d.Short(Shade.Level),
                d.Short(Shade.Dots),
                d.Handle(Shade.Object, HandleKind.HardPointer)
            );
        if (d.Since(CadVersion.AC1021))
            VisualStyle = d.Handle(VisualStyle, HandleKind.SoftPointer);
        ExchangeSheet(d);
    }

    private void ExchangeSheet(DwgFields d)
    {
        Name = d.Text(1, Name);
        Tab = d.Long(Tab);
        Flags = d.Short(Flags);
        var origin = d.Point(13, Axes.Origin);
        Limits = (d.RawPoint(Limits.Low), d.RawPoint(Limits.High));
        Base = d.Point(12, Base);
        Axes = (origin, d.Point(16, Axes.X), d.Point(17, Axes.Y));
        Plane = (d.Double(Plane.Elevation), d.Short(Plane.Side));
        Extents = (d.Point(14, Extents.Low), d.Point(15, Extents.High));
        int viewports = d.Since(CadVersion.AC1018) ? d.Count(0) : 0;
        Block = d.Handle(Block, HandleKind.SoftPointer);
        ActiveViewport = d.Handle(ActiveViewport, HandleKind.SoftPointer);
        Systems = (d.Handle(Systems.Base, HandleKind.HardPointer), d.Handle(Systems.Named, HandleKind.HardPointer));
        d.Handles([], viewports, HandleKind.SoftPointer);
        // One reader looks for four more handles than the specification has.
        for (int i = 0; i < 4 && !d.Reading; i++)
            d.Handle(default, HandleKind.SoftPointer);
    }
}
