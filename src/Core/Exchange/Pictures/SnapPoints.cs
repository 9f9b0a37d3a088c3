using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The points of a drawing that a pick is caught by, and the entity nearest to a pick.</summary>
public static class SnapPoints
{
    /// <summary>Ends and middles of lines, corners, centres of circles and arcs with the ends of these.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="most">How many at most.</param>
    public static IReadOnlyList<Vec2> Of(Drawing drawing, int most)
    {
        var points = new HashSet<Vec2>();
        foreach (var (entity, at, _, _, _) in ShownEntities.Of(drawing, drawing.Model, pictures: false))
        {
            if (points.Count >= most)
                break;
            foreach (var p in Of(entity))
                points.Add(at.Apply(p).XY);
        }

        return [.. points.Take(most)];
    }

    private static IEnumerable<Vec3> Of(Entity entity) =>
        entity switch
        {
            Dimension e => [e.Points.First, e.Points.Second],
            RoundEntity e => Round(e),
            Line e => [e.Start, e.End, (e.Start + e.End) * 0.5],
            LightPolyline or Polyline or Solid or Face3D => EntityPoints.Of(entity),
            _ => [],
        };

    private static Vec3[] Round(RoundEntity e)
    {
        var points = EntityPoints.Of(e).ToList();
        return [ObjectCoordinates.ToWorld(e.Centre, e.Normal), points[0], points[^1]];
    }

    /// <summary>The entity of model space that is drawn nearest to a point; null in an empty drawing.</summary>
    public static Entity? Nearest(Drawing drawing, Vec2 at)
    {
        Entity? nearest = null;
        double least = double.MaxValue;
        foreach (var (entity, box) in drawing.Model.Entities.Zip(drawing.ExtentsOf(drawing.Model.Entities)))
        {
            double distance = Distance(entity, box, at);
            if (distance < least)
                (least, nearest) = (distance, entity);
        }

        return nearest;
    }

    private static double Distance(Entity entity, Box box, Vec2 at)
    {
        if (box.IsEmpty)
            return double.MaxValue;
        Vec3[] points = entity switch
        {
            TextEntity t => TextReach.Of(t),
            MText t => TextReach.Of(t),
            _ => [.. EntityPoints.Of(entity)],
        };
        if (entity is TextEntity or MText)
        {
            var around = Box.Of(points);
            return Outside(around, at);
        }

        if (points.Length < 2)
            return Outside(box, at) + 1e-9;
        double least = double.MaxValue;
        for (int i = EntityPoints.IsClosed(entity) ? 0 : 1; i < points.Length; i++)
        {
            Vec2 a = points[i == 0 ? ^1 : i - 1].XY,
                d = points[i].XY - a;
            double along = d.Dot(d) is > 0 and var whole ? Math.Clamp((at - a).Dot(d) / whole, 0, 1) : 0;
            least = Math.Min(least, (at - (a + (d * along))).Length);
        }

        return least;
    }

    private static double Outside(Box box, Vec2 p)
    {
        double x = Math.Max(0, Math.Max(box.Min.X - p.X, p.X - box.Max.X)),
            y = Math.Max(0, Math.Max(box.Min.Y - p.Y, p.Y - box.Max.Y));
        return Math.Sqrt((x * x) + (y * y));
    }
}
