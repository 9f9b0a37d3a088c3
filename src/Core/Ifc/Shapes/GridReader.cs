using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>One axis of a grid.</summary>
/// <param name="Tag">Its tag.</param>
/// <param name="Points">Its line in the file's world frame, metres.</param>
public sealed record GridAxis(string Tag, IReadOnlyList<Vec3> Points);

/// <summary>Reads IfcGrid axes.</summary>
public static class GridReader
{
    /// <summary>The attributes of IfcGrid that hold axes.</summary>
    internal static readonly string[] Lists = ["UAxes", "VAxes", "WAxes"];

    /// <summary>All axes of all grids; an axis whose curve cannot be read is left out.</summary>
    /// <param name="model">The model.</param>
    /// <param name="units">Its units.</param>
    public static IReadOnlyList<GridAxis> Read(IfcModel model, IfcUnits units)
    {
        var placements = new IfcPlacements(model, units.Metres);
        var curves = new CurveReader(model, placements, units, Tolerance.Default);
        return [.. model.OfType("IfcGrid").SelectMany(grid => Axes(model, placements, curves, grid))];
    }

    /// <summary>The axes of one grid.</summary>
    internal static List<GridAxis> Axes(IfcModel model, IfcPlacements placements, CurveReader curves, int grid)
    {
        var axes = new List<GridAxis>();
        foreach (int axis in Lists.SelectMany(list => model.Refs(grid, list)))
        {
            try
            {
                var frame = placements.Product(grid);
                axes.Add(
                    new GridAxis(
                        model.Text(axis, "AxisTag") ?? "",
                        [.. curves.Points(model.Ref(axis, "AxisCurve")).Select(frame.Point)]
                    )
                );
            }
            catch (ShapeException)
            {
                continue;
            }
        }

        return axes;
    }
}
