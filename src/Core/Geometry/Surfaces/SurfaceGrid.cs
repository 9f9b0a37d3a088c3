using NetTopologySuite.Algorithm.Locate;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Distance;
using NetTopologySuite.Triangulate;

namespace SteadyLintel.Geometry;

/// <summary>Places inside a face that is curved both ways, and the triangulation over them and the face's edges.</summary>
internal static class SurfaceGrid
{
    private const int MaxPoints = 40_000;

    /// <summary>Triangles over the corners of a polygon and a grid of further places inside it.</summary>
    /// <param name="polygon">The face in the plane of u and v, scaled to about its lengths.</param>
    /// <param name="columns">How many stretches along x.</param>
    /// <param name="rows">How many stretches along y.</param>
    /// <returns>Null when an edge of the polygon would be lost.</returns>
    public static List<Coordinate[]>? Triangulate(Polygon polygon, int columns, int rows)
    {
        if ((long)columns * rows > MaxPoints)
            return null;
        var box = polygon.EnvelopeInternal;
        double dx = box.Width / columns,
            dy = box.Height / rows;
        var inside = new IndexedPointInAreaLocator(polygon);
        var edge = new IndexedFacetDistance(polygon.Boundary);
        var sites = polygon.Coordinates.Distinct().ToList();
        for (int i = 1; i < columns; i++)
        {
            for (int j = 1; j < rows; j++)
            {
                var c = new Coordinate(box.MinX + (dx * i), box.MinY + (dy * j));
                if (
                    inside.Locate(c) == Location.Interior
                    && edge.Distance(polygon.Factory.CreatePoint(c)) > 0.4 * Math.Min(dx, dy)
                )
                    sites.Add(c);
            }
        }

        var builder = new DelaunayTriangulationBuilder();
        builder.SetSites([.. sites]);
        var all = builder.GetTriangles(polygon.Factory);
        var triangles = new List<Coordinate[]>(all.NumGeometries);
        var sides = new HashSet<(double, double, double, double)>();
        for (int t = 0; t < all.NumGeometries; t++)
        {
            var c = ((Polygon)all.GetGeometryN(t)).ExteriorRing.Coordinates;
            if (
                inside.Locate(new Coordinate((c[0].X + c[1].X + c[2].X) / 3, (c[0].Y + c[1].Y + c[2].Y) / 3))
                != Location.Interior
            )
                continue;
            triangles.Add([c[0], c[1], c[2]]);
            for (int k = 0; k < 3; k++)
                Add(sides, c[k], c[k + 1]);
        }

        return KeepsEdges(polygon, sides) ? triangles : null;
    }

    private static void Add(HashSet<(double, double, double, double)> sides, Coordinate a, Coordinate b)
    {
        sides.Add((a.X, a.Y, b.X, b.Y));
        sides.Add((b.X, b.Y, a.X, a.Y));
    }

    private static bool KeepsEdges(Polygon polygon, HashSet<(double, double, double, double)> sides)
    {
        foreach (var ring in polygon.InteriorRings.Prepend(polygon.ExteriorRing))
        {
            var c = ring.Coordinates;
            for (int i = 0; i + 1 < c.Length; i++)
                if (!sides.Contains((c[i].X, c[i].Y, c[i + 1].X, c[i + 1].Y)))
                    return false;
        }

        return true;
    }
}
