using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Where grid lines cross (IfcGridPlacement, IfcVirtualGridIntersection), in the frame of the grid's own parent.</summary>
internal sealed class GridPlacements(IfcModel model, IfcPlacements placements, CurveReader curves, IfcUnits units)
{
    private const int MostDeep = 200;
    private readonly Lazy<Dictionary<int, int>> _gridOfAxis = new(() => Axes(model));

    /// <summary>The frame of an IfcGridPlacement in the world: Z up; X along the first axis, or toward the second crossing, or along the
    /// direction given.</summary>
    /// <param name="placement">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The axes do not cross, or belong to no grid.</exception>
    public Frame World(int placement)
    {
        int crossing = model.Ref(placement, "PlacementLocation"),
            reference = model.Ref(placement, "PlacementRefDirection");
        var grid = Grid(crossing);
        var (at, along) = Crossing(crossing);
        var x =
            reference < 0 ? along
            : model.Is(reference, "IfcVirtualGridIntersection") ? Crossing(reference).At - at
            : placements.Direction(reference, along);
        return grid.Compose(Frame.FromAxes(at, Vec3.AxisZ, x));
    }

    private Frame Grid(int crossing)
    {
        int axis = model.Refs(crossing, "IntersectingAxes").Append(-1).First();
        if (!_gridOfAxis.Value.TryGetValue(axis, out int grid))
            throw new ShapeException("A grid placement names an axis that belongs to no grid.");
        for (int at = model.Ref(grid, "ObjectPlacement"), depth = 0; at >= 0; at = model.Ref(at, "PlacementRelTo"))
            if (!model.Is(at, "IfcLocalPlacement") || ++depth > MostDeep)
                throw new ShapeException("A grid is placed on a grid or a curve itself.");
        return placements.Product(grid);
    }

    private (Vec3 At, Vec3 Along) Crossing(int crossing)
    {
        var axes = model.Refs(crossing, "IntersectingAxes");
        if (axes.Length != 2)
            throw new ShapeException("A grid placement does not name two axes.");
        Span<double> offsets = stackalloc double[3];
        offsets.Clear();
        model.Get(crossing, "OffsetDistances").Reals(offsets);
        var first = Line(axes[0], offsets[0] * units.Metres);
        var second = Line(axes[1], offsets[1] * units.Metres);
        for (int i = 0; i + 1 < first.Count; i++)
        for (int k = 0; k + 1 < second.Count; k++)
            if (
                Meet(
                    first[i].XY,
                    first[i + 1].XY,
                    second[k].XY,
                    second[k + 1].XY,
                    Ends(i, first.Count),
                    Ends(k, second.Count)
                ) is
                { } at
            )
                return (new Vec3(at.X, at.Y, offsets[2] * units.Metres), first[i + 1] - first[i]);
        throw new ShapeException("The axes of a grid placement do not cross.");
    }

    // An axis moved to its left; SameSense false turns it around.
    private List<Vec3> Line(int axis, double offset)
    {
        var points = curves.Points(model.Ref(axis, "AxisCurve"));
        if (model.Get(axis, "SameSense").IsFalse)
            points.Reverse();
        return offset == 0 ? points : CurveReader.Offset(points, false, offset, Vec3.AxisZ);
    }

    private static (bool First, bool Last) Ends(int stretch, int count) => (stretch == 0, stretch == count - 2);

    // Grid lines are drawn only as far as they are needed: their first and last stretch go on.
    private static Vec2? Meet(Vec2 a, Vec2 b, Vec2 c, Vec2 d, (bool First, bool Last) ab, (bool First, bool Last) cd)
    {
        Vec2 u = b - a,
            v = d - c;
        double cross = u.Cross(v);
        if (Math.Abs(cross) < 1e-12 * u.Length * v.Length || u.Length * v.Length == 0)
            return null;
        double s = (c - a).Cross(v) / cross,
            t = (c - a).Cross(u) / cross;
        return Within(s, ab) && Within(t, cd) ? a + (u * s) : null;
    }

    private static bool Within(double share, (bool First, bool Last) ends) =>
        (ends.First || share >= -1e-9) && (ends.Last || share <= 1 + 1e-9);

    private static Dictionary<int, int> Axes(IfcModel model)
    {
        var grids = new Dictionary<int, int>();
        foreach (int grid in model.OfType("IfcGrid"))
        foreach (string list in GridReader.Lists)
        foreach (int axis in model.Refs(grid, list))
            grids.TryAdd(axis, grid);
        return grids;
    }
}
