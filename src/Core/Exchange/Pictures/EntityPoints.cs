using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The points along what an entity draws, in world coordinates; curves by chords.</summary>
internal static class EntityPoints
{
    /// <summary>The points; nothing for kinds that draw no one line.</summary>
    public static IEnumerable<Vec3> Of(Entity entity)
    {
        switch (entity)
        {
            case Line e:
                return [e.Start, e.End];
            case Circle e:
                return Round(e.Centre, e.Radius, e.Normal, 0, 2 * Math.PI);
            case ArcEntity e:
                return Round(e.Centre, e.Radius, e.Normal, e.Start, e.End);
            case Ellipse e:
                return CurvePoints.Arc(e.Centre, e.Axis, e.Normal.Unit().Cross(e.Axis) * e.Ratio, e.Start, e.End);
            case LightPolyline e:
                return CurvePoints
                    .Bulged([.. e.Vertices.Select(v => (v.Point, v.Bulge))], e.Closed)
                    .Select(p => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, e.Elevation), e.Normal));
            case Polyline { Kind: PolylineKind.Flat } e:
                return CurvePoints
                    .Bulged([.. e.Vertices.Select(v => (v.Location.XY, v.Bulge))], (e.Flags & 1) != 0)
                    .Select(p => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, e.Elevation), e.Normal));
            case Polyline e:
                return e.Vertices.Select(v => v.Location);
            case Spline e:
                return CurvePoints.Spline(e);
            case Face3D e:
                return e.Corners;
            case Leader e:
                return e.Points;
            case MultiLine e:
                return e.Vertices.Select(v => v.Point);
            case Underlay e:
                return e.Outline() is { Count: > 0 } corners ? [.. corners, corners[0]] : [];
            case Image e:
                return
                [
                    e.Corner,
                    e.Corner + (e.Pixel.Along * e.Size.X),
                    e.Corner + (e.Pixel.Along * e.Size.X) + (e.Pixel.Up * e.Size.Y),
                    e.Corner + (e.Pixel.Up * e.Size.Y),
                    e.Corner,
                ];
            case Viewport e:
                return Corners(e);
            default:
                return [];
        }
    }

    private static Vec3[] Corners(Viewport e)
    {
        double w = e.Size.Width / 2,
            h = e.Size.Height / 2;
        return
        [
            e.Centre + new Vec3(-w, -h, 0),
            e.Centre + new Vec3(w, -h, 0),
            e.Centre + new Vec3(w, h, 0),
            e.Centre + new Vec3(-w, h, 0),
            e.Centre + new Vec3(-w, -h, 0),
        ];
    }

    private static IEnumerable<Vec3> Round(Vec3 centre, double radius, Vec3 normal, double from, double to)
    {
        var (x, y, _) = ObjectCoordinates.Axes(normal);
        return CurvePoints.Arc(ObjectCoordinates.ToWorld(centre, normal), x * radius, y * radius, from, to);
    }

    /// <summary>Whether the line goes back to its first point.</summary>
    public static bool IsClosed(Entity entity) =>
        entity is Face3D or LightPolyline { Closed: true }
        || (entity is Polyline { Flags: var flags } && (flags & 1) != 0);
}
