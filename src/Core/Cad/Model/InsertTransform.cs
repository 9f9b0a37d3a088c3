using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Where an insert puts its block: scale, rotation, object coordinates, array.</summary>
/// <param name="X">The block's x axis in world coordinates, with its scale.</param>
/// <param name="Y">Its y axis.</param>
/// <param name="Z">Its z axis.</param>
/// <param name="Origin">Where the block's origin comes to lie.</param>
public readonly record struct InsertTransform(Vec3 X, Vec3 Y, Vec3 Z, Vec3 Origin)
{
    /// <summary>Leaves everything where it is.</summary>
    public static readonly InsertTransform Identity = new(Vec3.AxisX, Vec3.AxisY, Vec3.AxisZ, Vec3.Zero);

    /// <summary>A point of the block in world coordinates.</summary>
    public Vec3 Apply(Vec3 p) => Turn(p) + Origin;

    /// <summary>A direction of the block in world coordinates.</summary>
    public Vec3 Turn(Vec3 v) => (X * v.X) + (Y * v.Y) + (Z * v.Z);

    /// <summary>This one within another.</summary>
    public InsertTransform Within(InsertTransform outer) =>
        new(outer.Turn(X), outer.Turn(Y), outer.Turn(Z), outer.Apply(Origin));

    /// <summary>The places of an insert, one for every column and row.</summary>
    /// <param name="insert">The insert.</param>
    /// <param name="block">Its block, for the base point.</param>
    /// <param name="limit">How many places at most, for arrays come from strangers; with 1 the first and the last.</param>
    public static IEnumerable<InsertTransform> All(Insert insert, BlockRecord block, int limit)
    {
        var (axisX, axisY, axisZ) = ObjectCoordinates.Axes(insert.Normal);
        double c = Math.Cos(insert.Rotation),
            s = Math.Sin(insert.Rotation);
        Vec3 x = (axisX * c) + (axisY * s),
            y = (axisY * c) - (axisX * s);
        var at = (axisX * insert.Location.X) + (axisY * insert.Location.Y) + (axisZ * insert.Location.Z);
        int columns = Math.Max(1, insert.Array.Columns),
            rows = Math.Max(1, insert.Array.Rows);
        long done = 0;
        for (int row = 0; row < rows; row++)
        for (int column = 0; column < columns; column++)
        {
            bool last = row == rows - 1 && column == columns - 1;
            if (done++ >= limit && !last)
            {
                (row, column) = (rows - 1, columns - 2);
                continue;
            }

            var place = at + (x * (column * insert.Spacing.Columns)) + (y * (row * insert.Spacing.Rows));
            var transform = new InsertTransform(x * insert.Scale.X, y * insert.Scale.Y, axisZ * insert.Scale.Z, place);
            yield return transform with
            {
                Origin = transform.Apply(block.Base * -1),
            };
        }
    }
}
