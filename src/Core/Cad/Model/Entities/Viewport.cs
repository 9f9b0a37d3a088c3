using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>VIEWPORT: a window of a layout into model space.</summary>
public sealed class Viewport : Entity
{
    /// <inheritdoc/>
    public override string Type => "VIEWPORT";

    /// <summary>Its middle on the paper (10).</summary>
    public Vec3 Centre { get; set; }

    /// <summary>Its size on the paper (40, 41).</summary>
    public (double Width, double Height) Size { get; set; }

    /// <summary>Its number in the layout; 1 is the paper itself (69). DWG goes by order.</summary>
    public int Id { get; set; } = 2;

    /// <summary>The order of viewports on the screen, 0 off (68).</summary>
    public int Order { get; set; } = 2;

    /// <summary>Middle of the view in its own plane (12).</summary>
    public Vec2 ViewCentre { get; set; }

    /// <summary>Snap base, snap and grid spacing (13, 14, 15).</summary>
    public (Vec2 Base, Vec2 Snap, Vec2 Grid) Grid { get; set; } = (default, new Vec2(10, 10), new Vec2(10, 10));

    /// <summary>From the target to the eye (16).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisZ;

    /// <summary>The point looked at (17).</summary>
    public Vec3 Target { get; set; }

    /// <summary>Height of model space that is seen, drawing units (45).</summary>
    public double ViewHeight { get; set; } = 1;

    /// <summary>Twist, radians (51).</summary>
    public double Twist { get; set; }

    /// <summary>Snap angle, radians (50).</summary>
    public double SnapAngle { get; set; }

    /// <summary>Lens length (42).</summary>
    public double Lens { get; set; } = 50;

    /// <summary>Clipping planes (43, 44).</summary>
    public (double Front, double Back) Clip { get; set; }

    /// <summary>Smoothness of circles (72).</summary>
    public int CircleZoom { get; set; } = 1000;

    /// <summary>Status bits: 0x20 UCS follows, 0x10000 clipped by an entity, 0x20000 off (90).</summary>
    public int Status { get; set; } = 0x8060;

    /// <summary>Layers that are frozen in it (331).</summary>
    public List<Handle> Frozen { get; } = [];

    /// <summary>The entity that clips it (340).</summary>
    public Handle Boundary { get; set; }

    /// <summary>The name of its plot style (1), and how it is rendered (281); in DXF these, shading and what follows stay groups.</summary>
    public (string Style, int Mode) Render { get; set; } = ("", 0);

    /// <summary>How it is shaded when plotted (170), and how many lines lie between heavy ones of the grid (61).</summary>
    public (int Shade, int Major) Plot { get; set; } = (0, 5);

    /// <summary>Whether the mark of the coordinate system is at its origin (74), and whether the system belongs to the viewport
    /// (71).</summary>
    public (bool IconAtOrigin, bool Own) Coordinates { get; set; } = (false, true);

    /// <summary>Visual style of shading and what lies behind (333).</summary>
    public Handle Shading { get; set; }

    /// <summary>Light, background and coordinate system.</summary>
    public ViewSettings Settings { get; } = new();

    /// <summary>Paper millimetres for a unit of model space: 0.01 is 1:100 where both are millimetres.</summary>
    public double Scale => ViewHeight == 0 ? 0 : Size.Height / ViewHeight;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbViewport");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Centre = f.Point(10, Centre);
        Size = (f.Double(40, Size.Width), f.Double(41, Size.Height));
        Order = f.Short(68, Order);
        Id = f.Short(69, Id);
        ViewCentre = f.Flat(12, ViewCentre);
        Grid = (f.Flat(13, Grid.Base), f.Flat(14, Grid.Snap), f.Flat(15, Grid.Grid));
        Direction = f.Point(16, Direction);
        Target = f.Point(17, Target);
        Lens = f.Double(42, Lens);
        Clip = (f.Double(43, Clip.Front), f.Double(44, Clip.Back));
        ViewHeight = f.Double(45, ViewHeight);
        SnapAngle = f.Angle(50, SnapAngle);
        Twist = f.Angle(51, Twist);
        CircleZoom = f.Short(72, CircleZoom);
        f.Items(Frozen, Frozen.Count, 331, h => f.Reference(331, h, HandleKind.SoftPointer));
        Status = f.Long(90, Status);
        Boundary = f.Reference(340, Boundary);
        f.Fixed(1, "");
        f.Fixed(281, 0L);
        f.Fixed(71, 1L);
        f.Fixed(74, 0L);
    }

    private void ExchangeDwg(DwgFields d)
    {
        Centre = d.Point(10, Centre);
        Size = (d.Double(Size.Width), d.Double(Size.Height));
        if (!d.Since(CadVersion.AC1015))
        {
            // What it looks at is in extended data (ViewportData); the handle is that of a header that lives only in the file.
            d.Handle(default, HandleKind.HardPointer);
            return;
        }

        Target = d.Point(17, Target);
        Direction = d.Point(16, Direction);
        Twist = d.Double(Twist);
        ViewHeight = d.Double(ViewHeight);
        Lens = d.Double(Lens);
        Clip = (d.Double(Clip.Front), d.Double(Clip.Back));
        SnapAngle = d.Double(SnapAngle);
        ViewCentre = d.RawPoint(ViewCentre);
        Grid = (d.RawPoint(Grid.Base), d.RawPoint(Grid.Snap), d.RawPoint(Grid.Grid));
        CircleZoom = d.Short(CircleZoom);
        int major = d.Since(CadVersion.AC1021) ? d.Short(Plot.Major) : Plot.Major;
        int frozen = d.Count(Frozen.Count);
        Status = d.Long(Status);
        Render = (d.Text(1, Render.Style), d.RawByte(Render.Mode));
        Coordinates = (d.Bit(Coordinates.IconAtOrigin), d.Bit(Coordinates.Own));
        Settings.ExchangeAxes(d);
        Plot = (d.Since(CadVersion.AC1018) ? d.Short(Plot.Shade) : Plot.Shade, major);
        if (d.Since(CadVersion.AC1021))
            Settings.ExchangeLight(d);
        d.Handles(Frozen, frozen, d.Since(CadVersion.AC1018) ? HandleKind.SoftPointer : HandleKind.HardPointer);
        Boundary = d.Handle(Boundary, HandleKind.HardPointer);
        if (!d.Since(CadVersion.AC1018))
            d.Handle(default, HandleKind.HardPointer);
        Settings.ExchangeSystems(d);
        if (!d.Since(CadVersion.AC1021))
            return;
        var (background, style) = (
            d.Handle(Settings.Scene.Background, HandleKind.SoftPointer),
            d.Handle(Settings.Scene.Style, HandleKind.HardPointer)
        );
        Shading = d.Handle(Shading, HandleKind.HardPointer);
        Settings.Scene = (background, style, d.Handle(Settings.Scene.Sun, HandleKind.HardOwner));
    }
}
