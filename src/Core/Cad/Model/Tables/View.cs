using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A named view.</summary>
public sealed class View : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "VIEW";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.View;

    /// <summary>Height seen, drawing units (40).</summary>
    public double Height { get; set; } = 1;

    /// <summary>Width seen (41).</summary>
    public double Width { get; set; } = 1;

    /// <summary>Middle of the view in its own plane (10).</summary>
    public Vec2 Centre { get; set; }

    /// <summary>The point looked at (12).</summary>
    public Vec3 Target { get; set; }

    /// <summary>From the target to the eye (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisZ;

    /// <summary>Twist in radians (50).</summary>
    public double Twist { get; set; }

    /// <summary>Lens length in millimetres (42).</summary>
    public double Lens { get; set; } = 50;

    /// <summary>Front clipping plane (43).</summary>
    public double Front { get; set; }

    /// <summary>Back clipping plane (44).</summary>
    public double Back { get; set; }

    /// <summary>1 perspective, 2 front clipping, 4 back clipping, 16 front clipping not at the eye (71).</summary>
    public int Mode { get; set; }

    /// <summary>How it is rendered (281).</summary>
    public int RenderMode { get; set; }

    /// <summary>Whether it is a view of a layout (70, bit 1).</summary>
    public bool OfPaper { get; set; }

    /// <summary>Light, background and coordinate system.</summary>
    public ViewSettings Settings { get; } = new();

    /// <summary>Whether it has a coordinate system of its own (72); in DXF its fields stay groups.</summary>
    public bool HasSystem { get; set; }

    /// <summary>Whether it can be plotted as a camera (73).</summary>
    public bool IsCamera { get; set; }

    /// <summary>The section it shows (334).</summary>
    public Handle Section { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        int flags = Start(f, "AcDbViewTableRecord", OfPaper ? 1 : 0);
        Height = f.Double(40, Height);
        Width = f.Double(41, Width);
        Centre = f.Flat(10, Centre);
        Target = f.Point(12, Target);
        Direction = f.Point(11, Direction);
        Twist = f.Angle(50, Twist);
        Lens = f.Double(42, Lens);
        Front = f.Double(43, Front);
        Back = f.Double(44, Back);
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        OfPaper = (flags & 1) != 0;
        Mode = f.Short(71, Mode);
        if (f.Since(CadVersion.AC1015))
            RenderMode = f.Byte(281, RenderMode);
        if (f.Since(CadVersion.AC1015))
            f.Fixed(72, 0L);
    }

    private void ExchangeDwg(DwgFields d)
    {
        Mode = ViewSettings.Mode(d, Mode);
        if (d.Since(CadVersion.AC1015))
            RenderMode = d.RawByte(RenderMode);
        if (d.Since(CadVersion.AC1021))
            Settings.ExchangeLight(d);
        OfPaper = d.Bit(OfPaper);
        if (!d.Since(CadVersion.AC1015))
            return;
        HasSystem = d.Bit(HasSystem);
        if (HasSystem)
            Settings.ExchangeAxes(d);
        if (d.Since(CadVersion.AC1021))
        {
            IsCamera = d.Bit(IsCamera);
            Settings.ExchangeScene(d);
        }

        if (HasSystem)
            Settings.ExchangeSystems(d);
        if (d.Since(CadVersion.AC1021))
            Section = d.Handle(Section, HandleKind.SoftOwner);
    }
}
