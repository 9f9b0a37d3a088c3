using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>One axis of a grid.</summary>
/// <param name="Tag">Its tag.</param>
/// <param name="Points">Its line in the file's world frame, metres.</param>
public sealed record GridAxis(string Tag, IReadOnlyList<Vec3> Points);

/// <summary>Reads IfcGrid axes.</summary>
public static class GridReader
{
    /// <summary>All axes of all grids; an axis whose curve cannot be read is left out.</summary>
    public static IReadOnlyList<GridAxis> Read(IfcModel model, IfcUnits units)
    {
        var placements = new IfcPlacements(model, units.Metres);
        var curves = new CurveReader(model, placements, units, Tolerance.Default);
        var axes = new List<GridAxis>();
        foreach (int grid in model.OfType("IfcGrid"))
        {
            foreach (string list in (string[])["UAxes", "VAxes", "WAxes"])
            {
                foreach (int axis in model.Refs(grid, list))
                {
                    try
                    {
                        var frame = placements.Product(grid);
                        axes.Add(new GridAxis(model.Text(axis, "AxisTag") ?? "", [.. curves.Points(model.Ref(axis, "AxisCurve")).Select(frame.Point)]));
                    }
                    catch (ShapeException)
                    {
                        continue;
                    }
                }
            }
        }

        return axes;
    }
}
