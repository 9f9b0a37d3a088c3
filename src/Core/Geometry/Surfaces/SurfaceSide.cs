using NetTopologySuite.Geometries;

namespace SteadyLintel.Geometry;

/// <summary>The part of space on one side of a free surface that can matter to a body: what a half-space over such a surface comes
/// to.</summary>
/// <remarks>
/// The surface must be a relief over some plane (it never turns back on itself, seen along its mean normal) and reach at least as far as
/// the body does.
/// Where it ends earlier there is no telling how the file's writer thought it to go on.
/// </remarks>
public static class SurfaceSide
{
    // A cut takes bodies of some thousand facets at most.
    private const int Steps = 40;
    private const double Slack = 1e-6;
    private static readonly GeometryFactory Factory = new();

    /// <summary>The closed mesh between the surface and a plane beyond the body.</summary>
    /// <param name="surface">The surface.</param>
    /// <param name="body">What it must reach over.</param>
    /// <param name="behind">Whether the side is the one that the normal (du × dv) points away from.</param>
    /// <exception cref="ShapeException">The surface turns back on itself, or ends before the body does.</exception>
    public static Mesh Of(Surface surface, Mesh body, bool behind)
    {
        var reach = body.Bounds();
        var (grid, row) = Grid(surface, reach);
        var up = MeanNormal(grid, row);
        var flat = Frame.FromAxes(reach.Centre, up, Math.Abs(up.X) < 0.9 ? Vec3.AxisX : Vec3.AxisY).Inverse();
        if (!IsRelief(grid, row, flat))
            throw new ShapeException("A half-space over a surface that folds back on itself is not shaped.");
        int[] rim = Rim(grid.Length / row, row);
        var edge = Factory.CreatePolygon([.. rim.Append(rim[0]).Select(i => Flat(flat.Point(grid[i])))]);
        if (!edge.IsValid)
            throw new ShapeException("A half-space over a surface that folds back on itself is not shaped.");
        var shadow = Factory.CreateMultiPointFromCoords([.. body.Points.Select(p => Flat(flat.Point(p)))]).ConvexHull();
        if (!edge.Buffer(Slack).Covers(shadow))
            throw new ShapeException("The surface of a half-space ends before the body does.");

        double far = (behind ? -1 : 1) * (reach.Size.Length + grid.Max(p => Math.Abs(flat.Point(p).Z)) + 1);
        return Fill(
                grid,
                row,
                rim,
                p => p + (up * (far - flat.Point(p).Z)),
                [.. rim.Select(i => flat.Point(grid[i]).XY)]
            )
            .Outward();
    }

    // Points row by row, and how many a row has. Directions without end are taken as far as the body can be from where the surface is;
    // straight ones need no points between.
    private static (Vec3[] Points, int Row) Grid(Surface surface, Box reach)
    {
        var (fromU, toU, fromV, toV) = surface.Domain;
        double far =
            reach.Size.Length
            + 1
            + (
                surface.Point(double.IsFinite(fromU) ? fromU : 0, double.IsFinite(fromV) ? fromV : 0) - reach.Centre
            ).Length;
        if (!double.IsFinite(fromU))
            (fromU, toU) = (-far, far);
        if (!double.IsFinite(fromV))
            (fromV, toV) = (-far, far);
        Vec3 At(double u, double v) => surface.Point(fromU + ((toU - fromU) * u), fromV + ((toV - fromV) * v));
        int columns = IsStraight(At) ? 1 : Steps,
            rows = IsStraight((v, u) => At(u, v)) ? 1 : Steps;
        var points = new Vec3[(columns + 1) * (rows + 1)];
        for (int i = 0; i < points.Length; i++)
            points[i] = At(i / (rows + 1) / (double)columns, i % (rows + 1) / (double)rows);
        return (points, rows + 1);
    }

    // Whether the lines along the first parameter are straight.
    private static bool IsStraight(Func<double, double, Vec3> at)
    {
        for (int i = 0; i <= Steps; i++)
        {
            Vec3 a = at(0, i / (double)Steps),
                b = at(1, i / (double)Steps);
            for (int k = 1; k < Steps; k++)
                if ((at(k / (double)Steps, i / (double)Steps) - (a + ((b - a) * (k / (double)Steps)))).Length > Slack)
                    return false;
        }

        return true;
    }

    private static Vec3 MeanNormal(Vec3[] grid, int row)
    {
        var sum = Vec3.Zero;
        foreach (var (a, b, c) in Triangles(grid.Length / row, row))
            sum += (grid[b] - grid[a]).Cross(grid[c] - grid[a]);
        if (sum.Length < 1e-12)
            throw new ShapeException("A half-space over a surface that closes in itself is not shaped.");
        return sum.Unit();
    }

    private static bool IsRelief(Vec3[] grid, int row, Frame flat)
    {
        var points = Array.ConvertAll(grid, p => flat.Point(p).XY);
        return Triangles(grid.Length / row, row)
            .All(t => (points[t.B] - points[t.A]).Cross(points[t.C] - points[t.A]) > 0);
    }

    // Corners turn about the normal du × dv; u rises from row to row.
    private static IEnumerable<(int A, int B, int C)> Triangles(int rows, int row)
    {
        for (int i = 0; i + 1 < rows; i++)
        {
            for (int j = 0; j + 1 < row; j++)
            {
                int a = (i * row) + j;
                yield return (a, a + row, a + row + 1);
                yield return (a, a + row + 1, a + 1);
            }
        }
    }

    // The numbers of the points along the edge of the grid, once round about the normal.
    private static int[] Rim(int rows, int row) =>
        [
            .. Enumerable.Range(0, rows - 1).Select(i => i * row),
            .. Enumerable.Range(0, row - 1).Select(j => ((rows - 1) * row) + j),
            .. Enumerable.Range(0, rows - 1).Select(i => ((rows - i) * row) - 1),
            .. Enumerable.Range(0, row - 1).Select(j => row - 1 - j),
        ];

    private static MeshBuilder Fill(Vec3[] grid, int row, int[] rim, Func<Vec3, Vec3> drop, Vec2[] edge)
    {
        var builder = new MeshBuilder();
        int[] near = Array.ConvertAll(grid, builder.Point),
            far = Array.ConvertAll(rim, i => builder.Point(drop(grid[i])));
        foreach (var (a, b, c) in Triangles(grid.Length / row, row))
            builder.Triangle(near[a], near[b], near[c]);
        int[] floor = Triangulator.Triangulate(new Region(edge));
        for (int i = 0; i < floor.Length; i += 3)
            builder.Triangle(far[floor[i]], far[floor[i + 2]], far[floor[i + 1]]);
        for (int i = 0; i < rim.Length; i++)
        {
            int next = (i + 1) % rim.Length;
            builder.Triangle(near[rim[next]], near[rim[i]], far[i]);
            builder.Triangle(near[rim[next]], far[i], far[next]);
        }

        return builder;
    }

    private static Coordinate Flat(Vec3 p) => new(p.X, p.Y);
}
