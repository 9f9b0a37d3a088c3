using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>
/// What a viewport looks at in drawings up to release 14: extended data of the application ACAD behind the word MVIEW, in a fixed order
/// (DXF reference of
/// release 12, VIEWPORT; an independent library has the same order). They become fields of the viewport.
/// </summary>
internal static class ViewportData
{
    private const string Application = "ACAD",
        Word = "MVIEW";
    private const int Points = 2,
        Doubles = 14,
        Shorts = 10;

    // Group 90 has these bits for what is in numbers of its own here: fast zoom, the mark of the coordinate system and its place, snap,
    // grid, isometric snap, hidden lines when plotted.
    private static readonly (int Index, int Has, int Status)[] StatusBits =
    [
        (3, 1, 0x80),
        (4, 1, 0x20),
        (4, 2, 0x40),
        (5, 1, 0x100),
        (6, 1, 0x200),
        (7, 1, 0x400),
        (9, 1, 0x800),
    ];

    /// <summary>Gives the viewports of a drawing what their extended data say; such that say too little keep their data.</summary>
    public static void Apply(Drawing drawing)
    {
        if (drawing.Applications[Application]?.Handle is not { } application)
            return;
        foreach (var viewport in drawing.Blocks.Where(b => b.IsSpace).SelectMany(b => b.Entities).OfType<Viewport>())
        {
            if (!viewport.HasExtras)
                continue;
            int at = viewport.Extras.Data.FindIndex(d =>
                d.Application == application && d.Groups.Count > 0 && d.Groups[0].Text == Word
            );
            if (at >= 0 && Take(viewport, viewport.Extras.Data[at].Groups, drawing))
                viewport.Extras.Data.RemoveAt(at);
        }
    }

    private static bool Take(Viewport viewport, List<CadGroup> groups, Drawing drawing)
    {
        var points = groups.Where(g => g.Code is 1010 or 1020 or 1030).Select(g => g.Number).ToArray();
        var doubles = groups.Where(g => g.Code == 1040).Select(g => g.Number).ToArray();
        var shorts = groups.Where(g => g.Code == 1070).Select(g => (int)g.Number).ToArray();
        if (points.Length < 3 * Points || doubles.Length < Doubles || shorts.Length < Shorts)
            return false;
        viewport.Target = new Vec3(points[0], points[1], points[2]);
        viewport.Direction = new Vec3(points[3], points[4], points[5]) is { Length: > 1e-12 } direction
            ? direction
            : Vec3.AxisZ;
        // In degrees, as another library writes and reads them; the reference says nothing.
        (viewport.Twist, viewport.ViewHeight, viewport.ViewCentre, viewport.Lens) = (
            Radians(doubles[0]),
            doubles[1],
            new Vec2(doubles[2], doubles[3]),
            doubles[4]
        );
        viewport.Clip = (doubles[5], doubles[6]);
        viewport.SnapAngle = Radians(doubles[7]);
        viewport.Grid = (
            new Vec2(doubles[8], doubles[9]),
            new Vec2(doubles[10], doubles[11]),
            new Vec2(doubles[12], doubles[13])
        );
        viewport.CircleZoom = shorts[2];
        viewport.Status = shorts[1] & 31;
        foreach (var (index, has, status) in StatusBits)
            if ((shorts[index] & has) != 0)
                viewport.Status |= status;
        viewport.Frozen.AddRange(
            groups
                .Where(g => g.Code == CadGroup.Layer)
                .Select(g => drawing.Layers[g.Text]?.Handle ?? default)
                .Where(h => !h.IsNull)
        );
        return true;
    }

    private static double Radians(double degrees) => degrees * (Math.PI / 180);
}
