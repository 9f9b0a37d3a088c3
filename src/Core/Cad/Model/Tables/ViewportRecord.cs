using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A viewport of the model tab; the one in use is called <c>*Active</c>.</summary>
public sealed class ViewportRecord : SymbolRecord
{
    // The view turns with the coordinate system: a bit of the view mode in DXF, one of its own in DWG.
    private const int FollowsSystem = 8;

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

    /// <summary>Front and back clipping planes (43, 44).</summary>
    public (double Front, double Back) Clip { get; set; }

    /// <summary>How it is rendered (281).</summary>
    public int RenderMode { get; set; }

    /// <summary>How many sides a circle is drawn with (72), and whether zooms are fast (73).</summary>
    public (int Circle, bool Fast) Zoom { get; set; } = (1000, true);

    /// <summary>The mark of the coordinate system (74): 1 shown, 2 at its origin.</summary>
    public int Icon { get; set; } = 3;

    /// <summary>Whether the grid is shown (76), and from 2007 on its behaviour and how many lines lie between heavy ones (60,
    /// 61).</summary>
    public (bool On, int Flags, int Major) GridLines { get; set; } = (false, 0, 5);

    /// <summary>Whether points snap (75), how (77, 78) and in which direction, radians (50).</summary>
    public (bool On, int Style, int Pair, double Angle) Snap { get; set; }

    /// <summary>Whether the coordinate system belongs to the viewport (65).</summary>
    public bool OwnSystem { get; set; } = true;

    /// <summary>Light, background and coordinate system.</summary>
    public ViewSettings Settings { get; } = new();

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbViewportTableRecord", 0);
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
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
        Clip = (f.Double(43, Clip.Front), f.Double(44, Clip.Back));
        double angle = f.Angle(50, Snap.Angle);
        Twist = f.Angle(51, Twist);
        Mode = f.Short(71, Mode);
        Zoom = (f.Short(72, Zoom.Circle), f.Short(73, Zoom.Fast ? 1 : 0) != 0);
        Icon = f.Short(74, Icon);
        bool snaps = f.Short(75, Snap.On ? 1 : 0) != 0;
        GridLines = GridLines with { On = f.Short(76, GridLines.On ? 1 : 0) != 0 };
        Snap = (snaps, f.Short(77, Snap.Style), f.Short(78, Snap.Pair), angle);
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
        Clip = (d.Double(Clip.Front), d.Double(Clip.Back));
        Mode = ViewSettings.Mode(d, Mode);
        if (d.Since(CadVersion.AC1015))
            RenderMode = d.RawByte(RenderMode);
        if (d.Since(CadVersion.AC1021))
            Settings.ExchangeLight(d);
        Screen = (d.RawPoint(Screen.Low), d.RawPoint(Screen.High));
        Mode = d.Bit((Mode & FollowsSystem) != 0) ? Mode | FollowsSystem : Mode & ~FollowsSystem;
        Zoom = (d.Short(Zoom.Circle), d.Bit(Zoom.Fast));
        Icon = (d.Bit((Icon & 1) != 0) ? 1 : 0) | (d.Bit((Icon & 2) != 0) ? 2 : 0);
        bool grid = d.Bit(GridLines.On);
        var spacing = d.RawPoint(Grid.Grid);
        Snap = (d.Bit(Snap.On), d.Bit(Snap.Style != 0) ? 1 : 0, d.Short(Snap.Pair), d.Double(Snap.Angle));
        Grid = (d.RawPoint(Grid.Base), d.RawPoint(Grid.Snap), spacing);
        GridLines = GridLines with { On = grid };
        if (!d.Since(CadVersion.AC1015))
            return;
        d.Bit(false);
        OwnSystem = d.Bit(OwnSystem);
        Settings.ExchangeAxes(d);
        if (d.Since(CadVersion.AC1021))
        {
            GridLines = (grid, d.Short(GridLines.Flags), d.Short(GridLines.Major));
            Settings.ExchangeScene(d);
        }

        Settings.ExchangeSystems(d);
    }
}
