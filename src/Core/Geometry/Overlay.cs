using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.OverlayNG;

namespace SteadyLintel.Geometry;

/// <summary>Plane set operations on regions.</summary>
public static class Overlay
{
    private static readonly GeometryFactory Factory = new();

    /// <summary>What is left of a region when others are taken away; empty when nothing is.</summary>
    /// <param name="region">What is cut, metres.</param>
    /// <param name="tools">What is taken away, in the same plane.</param>
    /// <exception cref="ShapeException">A region crosses itself.</exception>
    public static IReadOnlyList<Region> Subtract(Region region, IReadOnlyList<Region> tools) =>
        Run(() =>
        {
            var cutters = OverlayNGRobust.Union([.. tools.Select(ToPolygon)]);
            return OverlayNGRobust.Overlay(
                ToPolygon(region),
                cutters,
                NetTopologySuite.Operation.Overlay.SpatialFunction.Difference
            );
        });

    /// <summary>All regions in one.</summary>
    /// <param name="regions">In one plane, metres; they may overlap.</param>
    /// <exception cref="ShapeException">A region crosses itself.</exception>
    public static IReadOnlyList<Region> Union(IReadOnlyList<Region> regions) =>
        Run(() => OverlayNGRobust.Union([.. regions.Select(ToPolygon)]));

    private static IReadOnlyList<Region> Run(Func<NetTopologySuite.Geometries.Geometry> operation)
    {
        try
        {
            return ToRegions(operation());
        }
        catch (Exception e) when (e is TopologyException or ArgumentException)
        {
            throw new ShapeException("A profile crosses itself.");
        }
    }

    private static NetTopologySuite.Geometries.Geometry ToPolygon(Region region)
    {
        WorkBudget.Spend(50 * region.Loops.Sum(l => (long)l.Length));
        return Factory.CreatePolygon(Triangulator.Ring(region.Outer), [.. region.Holes.Select(Triangulator.Ring)]);
    }

    private static List<Region> ToRegions(NetTopologySuite.Geometries.Geometry geometry)
    {
        var regions = new List<Region>();
        for (int i = 0; i < geometry.NumGeometries; i++)
        {
            if (
                geometry.GetGeometryN(i) is Polygon { IsEmpty: false, Area: > 1e-12 } polygon
                && Region.OrNone(Points(polygon.ExteriorRing), polygon.InteriorRings.Select(Points)) is { } region
            )
                regions.Add(region);
        }

        return regions;
    }

    private static IReadOnlyList<Vec2> Points(LineString ring) => [.. ring.Coordinates.Select(c => new Vec2(c.X, c.Y))];
}
