using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A viewport of the model tab; the one in use is called <c>*Active</c>.</summary>
public sealed class ViewportRecord : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "VPORT";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Viewport;

    /// <summary>Its place on the screen, 0 to 1 (10, 11).</summary>
    public (Vec2 Low, Vec2 High) Screen { get; set; } = (default, new Vec2(1, 1));

    /// <summary>Middle of the view (12).</summary>
    public Vec2 Centre { get; set; }

    /// <summary>Height seen, drawing units (40).</summary>
    public double Height { get; set; } = 1;

    /// <summary>Width to height (41).</summary>
    public double Aspect { get; set; } = 1.6;

    /// <summary>The point looked at (17).</summary>
    public Vec3 Target { get; set; }

    /// <summary>From the target to the eye (16).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisZ;

    /// <summary>Twist in radians (51).</summary>
    public double Twist { get; set; }

    /// <summary>Lens length in millimetres (42).</summary>
    public double Lens { get; set; } = 50;

    /// <summary>The view mode (71).</summary>
    public int Mode { get; set; }

    /// <summary>Snap base, snap spacing and grid spacing (13, 14, 15).</summary>
    public (Vec2 Base, Vec2 Snap, Vec2 Grid) Grid { get; set; } = (default, new Vec2(10, 10), new Vec2(10, 10));

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbViewportTableRecord", 0);
        if (f.Dwg is { } d) ExchangeDwg(d);
        else ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Screen = (f.Flat(10, Screen.Low), f.Flat(11, Screen.High));
        Centre = f.Flat(12, Centre);
        Grid = (f.Flat(13, Grid.Base), f.Flat(14, Grid.Snap), f.Flat(15, Grid.Grid));
        Direction = f.Point(16, Direction);
        Target = f.Point(17, Target);
        Height = f.Double(40, Height);
        Aspect = f.Double(41, Aspect);
        Lens = f.Double(42, Lens);
        f.Fixed(43, 0.0);
        f.Fixed(44, 0.0);
        f.Fixed(50, 0.0);
        Twist = f.Angle(51, Twist);
        Mode = f.Short(71, Mode);
        f.Fixed(72, 1000L);
        f.Fixed(73, 1L);
        f.Fixed(74, 3L);
        f.Fixed(75, 0L);
        f.Fixed(76, 0L);
        f.Fixed(77, 0L);
        f.Fixed(78, 0L);
    }

    private void ExchangeDwg(DwgFields d)
    {
        Height = d.Double(Height);
        double width = d.Double(Aspect * Height);
        Aspect = Height == 0 ? 1 : width / Height;
        Centre = d.RawPoint(Centre);
        Target = d.Point(17, Target);
        Direction = d.Point(16, Direction);
        Twist = d.Double(Twist);
        Lens = d.Double(Lens);
        d.Double(0);
        d.Double(0);
        Mode = ViewModes.Exchange(d, Mode);
        if (d.Since(CadVersion.AC1015)) d.RawByte(0);
        if (d.Since(CadVersion.AC1021)) ViewModes.Lighting(d);
        Screen = (d.RawPoint(Screen.Low), d.RawPoint(Screen.High));
        d.Bit(false);
        d.Short(1000);
        d.Bit(true);
        d.Bit(true);
        d.Bit(true);
        d.Bit(false);
        var spacing = d.RawPoint(Grid.Grid);
        d.Bit(false);
        d.Bit(false);
        d.Short(0);
        d.Double(0);
        Grid = (d.RawPoint(Grid.Base), d.RawPoint(Grid.Snap), spacing);
        if (!d.Since(CadVersion.AC1015)) return;
        d.Bit(false);
        d.Bit(true);
        ViewModes.Ucs(d);
        if (d.Since(CadVersion.AC1021))
        {
            d.Short(0);
            d.Short(5);
            ViewModes.Scene(d);
        }

        d.Handle(default, HandleKind.HardPointer);
        d.Handle(default, HandleKind.HardPointer);
    }
}
