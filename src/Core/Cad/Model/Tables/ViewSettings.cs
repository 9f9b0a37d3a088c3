using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>How a view is lit, what is behind it and which coordinate system it has of its own. In DXF these stay groups; DWG has them
/// among the fields.</summary>
public sealed class ViewSettings
{
    private static readonly int[] ModeBits = [1, 2, 4, 16];

    /// <summary>Whether the usual lights shine (292), and which (282).</summary>
    public (bool On, int Kind) Lights { get; set; } = (true, 1);

    /// <summary>Brightness and contrast (141, 142).</summary>
    public (double Brightness, double Contrast) Tone { get; set; }

    /// <summary>The colour of what no light reaches (63).</summary>
    public CadColour Ambient { get; set; } = new(250);

    /// <summary>Background, visual style and sun (332, 348, 361).</summary>
    public (Handle Background, Handle Style, Handle Sun) Scene { get; set; }

    /// <summary>Origin and axes of the coordinate system (110, 111, 112).</summary>
    public (Vec3 Origin, Vec3 X, Vec3 Y) Axes { get; set; } = (Vec3.Zero, Vec3.AxisX, Vec3.AxisY);

    /// <summary>Its elevation (146), and which side it looks at when it is orthographic (79).</summary>
    public (double Elevation, int Side) Plane { get; set; }

    /// <summary>The named coordinate system and the one it is based on (345, 346).</summary>
    public (Handle Named, Handle Base) Systems { get; set; }

    /// <summary>The view mode as four bits.</summary>
    internal static int Mode(DwgFields d, int mode)
    {
        foreach (int bit in ModeBits)
            mode = d.Bit((mode & bit) != 0) ? mode | bit : mode & ~bit;
        return mode;
    }

    /// <summary>The fields of light.</summary>
    internal void ExchangeLight(DwgFields d)
    {
        Lights = (d.Bit(Lights.On), d.RawByte(Lights.Kind));
        Tone = (d.Double(Tone.Brightness), d.Double(Tone.Contrast));
        Ambient = d.Colour(63, Ambient);
    }

    /// <summary>The fields of the coordinate system.</summary>
    internal void ExchangeAxes(DwgFields d)
    {
        Axes = (d.Point(110, Axes.Origin), d.Point(111, Axes.X), d.Point(112, Axes.Y));
        Plane = (d.Double(Plane.Elevation), d.Short(Plane.Side));
    }

    /// <summary>The handles of background, visual style and sun.</summary>
    internal void ExchangeScene(DwgFields d) =>
        Scene = (
            d.Handle(Scene.Background, HandleKind.SoftPointer),
            d.Handle(Scene.Style, HandleKind.HardPointer),
            d.Handle(Scene.Sun, HandleKind.HardOwner)
        );

    /// <summary>The handles of the coordinate systems.</summary>
    internal void ExchangeSystems(DwgFields d) =>
        Systems = (d.Handle(Systems.Named, HandleKind.HardPointer), d.Handle(Systems.Base, HandleKind.HardPointer));
}
