using NetTopologySuite.Geometries;
using NetTopologySuite.Triangulate.Polygon;

namespace SteadyLintel.Geometry;

/// <summary>Cuts plane regions into triangles over their own points; no point is added, so neighbours still meet edge to edge.</summary>
public static class Triangulator
{
    // Nothing built is a million kilometres away; doubles beyond lose the plane they lie in.
    private const double MaxCoordinate = 1e9;

    private const string Crosses = "A face or profile crosses itself and cannot be cut into triangles.";

    private static readonly GeometryFactory Factory = new();

    /// <summary>Triangles, counter-clockwise, numbered over the outer loop's points followed by each hole's.</summary>
    /// <param name="region">Metres.</param>
    /// <exception cref="ShapeException">The loops cross each other.</exception>
    public static int[] Triangulate(Region region)
    {
        if (region.Holes.Count == 0 && IsConvex(region.Outer))
            return Fan(region.Outer.Length);
        // The package may take without end for loops that cross.
        if (CrossingEdges.In(region))
            throw new ShapeException(Crosses);
        // Each hole is joined to the loop around it by looking at all that was joined before.
        WorkBudget.Spend(region.Loops.Sum(l => (long)l.Length) * (20 + region.Holes.Count));
        var numbers = new Dictionary<Vec2, int>();
        int n = 0;
        foreach (var loop in region.Loops)
        foreach (var p in loop)
            numbers.TryAdd(p, n++);
        return Cut(region, numbers) ?? CutTouching(region, numbers) ?? throw new ShapeException(Crosses);
    }

    // The package ends in errors of many kinds where loops touch or cross, null references among them.
    private static int[]? Cut(Region region, Dictionary<Vec2, int> numbers)
    {
        try
        {
            var polygon = Factory.CreatePolygon(Ring(region.Outer), [.. region.Holes.Select(Ring)]);
            return Numbered(PolygonTriangulator.Triangulate(polygon), numbers);
        }
        catch (Exception e)
            when (e
                    is TopologyException
                        or ArgumentException
                        or InvalidOperationException
                        or KeyNotFoundException
                        or IndexOutOfRangeException
                        or NullReferenceException
            )
        {
            return null;
        }
    }

    // Holes that touch one another may cut the region into pieces; each is cut by itself, and together they must have the region's area.
    private static int[]? CutTouching(Region region, Dictionary<Vec2, int> numbers)
    {
        double expected =
                Math.Abs(Region.SignedArea(region.Outer)) - region.Holes.Sum(h => Math.Abs(Region.SignedArea(h))),
            area = 0;
        var points = region.Loops.SelectMany(l => l).ToArray();
        var triangles = new List<int>();
        try
        {
            foreach (
                var piece in Overlay.Subtract(
                    new Region(region.Outer),
                    [.. region.Holes.Select(h => new Region([.. Region.SignedArea(h) < 0 ? h.Reverse() : h]))]
                )
            )
            {
                if (Cut(TouchingLoops.Join(piece), numbers) is not { } cut)
                    return null;
                triangles.AddRange(cut);
            }
        }
        catch (ShapeException)
        {
            return null;
        }

        for (int t = 0; t < triangles.Count; t += 3)
            area +=
                Math.Abs(
                    (points[triangles[t + 1]] - points[triangles[t]]).Cross(
                        points[triangles[t + 2]] - points[triangles[t]]
                    )
                ) / 2;
        return Math.Abs(area - expected) <= 1e-6 * Math.Max(expected, 1e-12) ? [.. triangles] : null;
    }

    internal static LinearRing Ring(Vec2[] loop)
    {
        foreach (var p in loop)
            if (!(Math.Abs(p.X) + Math.Abs(p.Y) < MaxCoordinate))
                throw new ShapeException("A profile's coordinates make no sense.");
        return Factory.CreateLinearRing([.. loop.Append(loop[0]).Select(p => new Coordinate(p.X, p.Y))]);
    }

    internal static int[] Fan(int corners)
    {
        var triangles = new int[(corners - 2) * 3];
        for (int i = 0; i < corners - 2; i++)
            (triangles[3 * i], triangles[(3 * i) + 1], triangles[(3 * i) + 2]) = (0, i + 1, i + 2);
        return triangles;
    }

    private static int[] Numbered(NetTopologySuite.Geometries.Geometry triangles, Dictionary<Vec2, int> numbers)
    {
        var result = new int[triangles.NumGeometries * 3];
        double area = 0;
        for (int t = 0; t < triangles.NumGeometries; t++)
        {
            var ring = ((Polygon)triangles.GetGeometryN(t)).ExteriorRing.Coordinates;
            Vec2 a = new(ring[0].X, ring[0].Y),
                b = new(ring[1].X, ring[1].Y),
                c = new(ring[2].X, ring[2].Y);
            area += (b - a).Cross(c - a);
            (result[3 * t], result[(3 * t) + 1], result[(3 * t) + 2]) = (numbers[a], numbers[b], numbers[c]);
        }

        // All triangles turn the same way; a flat one could not be recognised alone.
        for (int t = 0; area < 0 && t < result.Length; t += 3)
            (result[t + 1], result[t + 2]) = (result[t + 2], result[t + 1]);
        return result;
    }

    // A loop that turns left at every corner and once around.
    private static bool IsConvex(Vec2[] loop)
    {
        double turn = 0;
        for (int i = 0; i < loop.Length; i++)
        {
            Vec2 a = loop[i],
                b = loop[(i + 1) % loop.Length],
                c = loop[(i + 2) % loop.Length];
            Vec2 ab = b - a,
                bc = c - b;
            double cross = ab.Cross(bc);
            if (cross <= 1e-12 * ab.Length * bc.Length)
                return false;
            if (loop.Length > 4)
                turn += Math.Atan2(cross, ab.Dot(bc));
        }

        return loop.Length <= 4 || turn < 6.5;
    }
}
