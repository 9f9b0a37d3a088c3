using NetTopologySuite.Geometries;

namespace SteadyLintel.Geometry;

/// <summary>The part of space on one side of a free surface that can matter to a body: what a half-space over such a surface comes to.</summary>
/// <remarks>
/// The surface must be a relief over some plane (it never turns back on itself, seen along its mean normal) and reach at least as far as the body does.
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
        var grid = Grid(surface, reach);
        var up = MeanNormal(grid);
        var flat = Frame.FromAxes(reach.Centre, up, Math.Abs(up.X) < 0.9 ? Vec3.AxisX : Vec3.AxisY).Inverse();
        if (!IsRelief(grid, flat)) throw new ShapeException("A half-space over a surface that turns back on itself is not shaped.");
        var rim = Rim(Steps + 1);
        var edge = Factory.CreatePolygon([.. rim.Append(rim[0]).Select(i => Flat(flat.Point(grid[i])))]);
        if (!edge.IsValid) throw new ShapeException("A half-space over a surface that turns back on itself is not shaped.");
        var shadow = Factory.CreateMultiPointFromCoords([.. body.Points.Select(p => Flat(flat.Point(p)))]).ConvexHull();
        if (!edge.Buffer(Slack).Covers(shadow)) throw new ShapeException("The surface of a half-space ends before the body does.");

        double far = (behind ? -1 : 1) * (reach.Size.Length + grid.Max(p => Math.Abs(flat.Point(p).Z)) + 1);
        return Fill(grid, rim, p => p + (up * (far - flat.Point(p).Z))).Outward();
    }

    // Points row by row; directions without end are taken as far as the body can be from where the surface is.
    private static Vec3[] Grid(Surface surface, Box reach)
    {
        var (fromU, toU, fromV, toV) = surface.Domain;
        double far = reach.Size.Length + 1;
        double u = double.IsFinite(fromU) ? fromU : 0, v = double.IsFinite(fromV) ? fromV : 0;
        far += (surface.Point(u, v) - reach.Centre).Length;
        if (!double.IsFinite(fromU)) (fromU, toU) = (-far, far);
        if (!double.IsFinite(fromV)) (fromV, toV) = (-far, far);
        var points = new Vec3[(Steps + 1) * (Steps + 1)];
        for (int i = 0; i < points.Length; i++)
            points[i] = surface.Point(fromU + ((toU - fromU) * (i / (Steps + 1)) / Steps), fromV + ((toV - fromV) * (i % (Steps + 1)) / Steps));
        return points;
    }

    private static Vec3 MeanNormal(Vec3[] grid)
    {
        var sum = Vec3.Zero;
        foreach (var (a, b, c) in Triangles()) sum += (grid[b] - grid[a]).Cross(grid[c] - grid[a]);
        if (sum.Length < 1e-12) throw new ShapeException("A half-space over a surface that closes in itself is not shaped.");
        return sum.Unit();
    }

    private static bool IsRelief(Vec3[] grid, Frame flat)
    {
        var points = Array.ConvertAll(grid, p => flat.Point(p).XY);
        return Triangles().All(t => (points[t.B] - points[t.A]).Cross(points[t.C] - points[t.A]) > 0);
    }

    // Corners turn about the normal du × dv; u rises from row to row.
    private static IEnumerable<(int A, int B, int C)> Triangles()
    {
        const int Row = Steps + 1;
        for (int i = 0; i < Steps; i++)
        {
            for (int j = 0; j < Steps; j++)
            {
                int a = (i * Row) + j;
                yield return (a, a + Row, a + Row + 1);
                yield return (a, a + Row + 1, a + 1);
            }
        }
    }

    // The numbers of the points along the edge of the grid, once round about the normal.
    private static int[] Rim(int row) =>
    [
        .. Enumerable.Range(0, row - 1).Select(i => i * row),
        .. Enumerable.Range(0, row - 1).Select(j => ((row - 1) * row) + j),
        .. Enumerable.Range(0, row - 1).Select(i => ((row - i) * row) - 1),
        .. Enumerable.Range(0, row - 1).Select(j => row - 1 - j),
    ];

    private static MeshBuilder Fill(Vec3[] grid, int[] rim, Func<Vec3, Vec3> drop)
    {
        var builder = new MeshBuilder();
        int[] near = Array.ConvertAll(grid, builder.Point), far = Array.ConvertAll(grid, p => builder.Point(drop(p)));
        foreach (var (a, b, c) in Triangles())
        {
            builder.Triangle(near[a], near[b], near[c]);
            builder.Triangle(far[a], far[c], far[b]);
        }

        for (int i = 0; i < rim.Length; i++)
        {
            int a = rim[i], b = rim[(i + 1) % rim.Length];
            builder.Triangle(near[b], near[a], far[a]);
            builder.Triangle(near[b], far[a], far[b]);
        }

        return builder;
    }

    private static Coordinate Flat(Vec3 p) => new(p.X, p.Y);
}
