using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>What views and viewports share in DWG.</summary>
internal static class ViewModes
{
    private static readonly int[] Bits = [1, 2, 4, 16];

    /// <summary>The view mode as four bits.</summary>
    public static int Exchange(DwgFields d, int mode)
    {
        foreach (int bit in Bits) mode = d.Bit((mode & bit) != 0) ? mode | bit : mode & ~bit;
        return mode;
    }

    /// <summary>Default lighting: on, two distant lights, no brightness or contrast, ambient colour.</summary>
    public static void Lighting(DwgFields d)
    {
        d.Bit(true);
        d.RawByte(1);
        d.Double(0);
        d.Double(0);
        d.Colour(63, new CadColour(250));
    }

    /// <summary>A coordinate system of its own: origin, axes, elevation, orthographic type.</summary>
    public static void Ucs(DwgFields d)
    {
        d.Point(110, Vec3.Zero);
        d.Point(111, Vec3.AxisX);
        d.Point(112, Vec3.AxisY);
        d.Double(0);
        d.Short(0);
    }

    /// <summary>Background, visual style and sun: none.</summary>
    public static void Scene(DwgFields d)
    {
        d.Handle(default, HandleKind.SoftPointer);
        d.Handle(default, HandleKind.HardPointer);
        d.Handle(default, HandleKind.HardOwner);
    }
}
