using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Buffer;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Gives an open line a thickness.</summary>
internal static class CentreLine
{
    /// <summary>The region within half a thickness of the line, with flat ends and mitred corners.</summary>
    /// <param name="line">Metres.</param>
    /// <param name="thickness">Metres.</param>
    public static Region Thicken(IReadOnlyList<Vec2> line, double thickness)
    {
        var path = new LineString([.. line.Select(p => new Coordinate(p.X, p.Y))]);
        var parameters = new BufferParameters(8, EndCapStyle.Flat, JoinStyle.Mitre, 10);
        return BufferOp.Buffer(path, thickness / 2, parameters) is Polygon { IsEmpty: false } polygon
            ? Region.Of(Points(polygon.ExteriorRing), polygon.InteriorRings.Select(Points))
            : throw new ShapeException("A centre line profile has no area.");
    }

    private static IReadOnlyList<Vec2> Points(LineString ring) => [.. ring.Coordinates.Select(c => new Vec2(c.X, c.Y))];
}
