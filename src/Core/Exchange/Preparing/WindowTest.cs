using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Tells which entities have anything in a window, seen from above.</summary>
/// <remarks>Lines, arcs, ellipses and bulges are exact, in inserts within inserts too; splines go by chords, eight for each control
/// point. Of a text as much is taken as it can reach: letters as wide as they are high. What has no place that is understood counts as
/// inside, so that it is not lost.</remarks>
public sealed class WindowTest(Drawing drawing, Window window)
{
    private const int DeepestBlock = 16,
        MostArray = 10_000;
    private const long MostPlaces = 20_000_000;

    private long _places;

    /// <summary>Whether anything of an entity of model space lies in the window.</summary>
    public bool Touches(Entity entity) => Touches(entity, InsertTransform.Identity, 0);

    private bool Touches(Entity entity, InsertTransform at, int depth)
    {
        if (++_places > MostPlaces)
            return true;
        switch (entity)
        {
            case Line e:
                return Path([e.Start, e.End], at);
            case Point e:
                return window.Holds(at.Apply(e.Location).XY);
            case Circle e:
                return Round(e, 0, 2 * Math.PI, at);
            case ArcEntity e:
                return Round(e, e.Start, e.End, at);
            case Ellipse e:
                return window.Touches(
                    Arc(at, e.Centre, e.Axis, e.Normal.Unit().Cross(e.Axis) * e.Ratio, e.Start, e.End)
                );
            case LightPolyline e:
                return Bulged([.. e.Vertices.Select(v => (v.Point, v.Bulge))], e.Closed, e.Elevation, e.Normal, at);
            case Polyline { Kind: PolylineKind.Flat } e:
                return Bulged(
                    [.. e.Vertices.Select(v => (v.Location.XY, v.Bulge))],
                    (e.Flags & 1) != 0,
                    e.Elevation,
                    e.Normal,
                    at
                );
            case Polyline e:
                return Vertices(e, at);
            case Spline e:
                return Path([.. CurvePoints.Spline(e)], at);
            case Leader e:
                return Path(e.Points, at);
            case MultiLine e:
                return Path([.. e.Vertices.Select(v => v.Point)], at);
            case Ray e:
                return Long(e, at);
            case Face3D e:
                return Area([e.Corners], at);
            case Solid e:
                return Area(
                    [
                        [.. new[] { 0, 1, 3, 2 }.Select(i => ObjectCoordinates.ToWorld(e.Corners[i], e.Normal))],
                    ],
                    at
                );
            case Hatch e:
                return window.TouchesArea([
                    .. HatchArea.Loops(e, at).Select(l => (IReadOnlyList<Vec2>)[.. l.Select(p => p.XY)]),
                ]);
            case Image e:
                Vec3 along = e.Pixel.Along * e.Size.X,
                    up = e.Pixel.Up * e.Size.Y;
                return Area(
                    [
                        [e.Corner, e.Corner + along, e.Corner + along + up, e.Corner + up],
                    ],
                    at
                );
            case Underlay e:
                return e.Outline() is { Count: > 2 } outline
                    ? Area([outline], at)
                    : window.Holds(at.Apply(ObjectCoordinates.ToWorld(e.Location, e.Normal)).XY);
            case MeshEntity e:
                return Area([e.Points], at) || e.Points.Any(p => window.Holds(at.Apply(p).XY));
            case TextEntity e:
                return Area([TextReach.Of(e)], at);
            case MText e:
                return Area([TextReach.Of(e)], at);
            case GeometricTolerance e:
                return window.Holds(at.Apply(e.Insertion).XY);
            case Insert e:
                return Inserted(e, at, depth);
            case Table e:
                return Inserted(e.Shown(), at, depth);
            case Dimension e:
                return drawing.Blocks[e.Block] is { } picture
                    ? Block(picture, at, depth)
                    : window.Holds(at.Apply(e.Definition).XY);
            case MultiLeader e:
                return e.Context.Paths().Any(p => Path(p, at)) || (e.Shown() is { } shown && Touches(shown, at, depth));
            default:
                return true;
        }
    }

    private bool Inserted(Insert insert, InsertTransform at, int depth)
    {
        if (insert.Attributes.Any(a => Touches(a, at, depth)))
            return true;
        if (drawing.Blocks[insert.Block] is not { Entities.Count: > 0 } block)
            return window.Holds(at.Apply(ObjectCoordinates.ToWorld(insert.Location, insert.Normal)).XY);
        return InsertTransform.All(insert, block, MostArray).Any(place => Block(block, place.Within(at), depth));
    }

    private bool Block(BlockRecord block, InsertTransform at, int depth) =>
        depth < DeepestBlock && block.Entities.Exists(e => e is not AttributeDefinition && Touches(e, at, depth + 1));

    private bool Path(IReadOnlyList<Vec3> points, InsertTransform at)
    {
        for (int i = 1; i < points.Count; i++)
            if (window.Touches(DrawnPiece.Segment(at.Apply(points[i - 1]).XY, at.Apply(points[i]).XY)))
                return true;
        return points.Count == 1 && window.Holds(at.Apply(points[0]).XY);
    }

    private bool Vertices(Polyline e, InsertTransform at)
    {
        Vec3[] points = [.. e.Vertices.Where(v => !v.IsFace).Select(v => v.Location)];
        return e.Kind == PolylineKind.Space
            ? Path((e.Flags & 1) != 0 ? [.. points, .. points.Take(1)] : points, at)
            : Area([points], at) || points.Any(p => window.Holds(at.Apply(p).XY));
    }

    private bool Round(RoundEntity e, double from, double to, InsertTransform at)
    {
        var (x, y, _) = ObjectCoordinates.Axes(e.Normal);
        return window.Touches(
            Arc(at, ObjectCoordinates.ToWorld(e.Centre, e.Normal), x * e.Radius, y * e.Radius, from, to)
        );
    }

    private static DrawnPiece Arc(InsertTransform at, Vec3 centre, Vec3 u, Vec3 v, double from, double to)
    {
        double end = to > from + 1e-12 ? to : to + (2 * Math.PI * Math.Ceiling((from + 1e-12 - to) / (2 * Math.PI)));
        return new DrawnPiece(
            at.Apply(centre).XY,
            at.Turn(u).XY,
            at.Turn(v).XY,
            from,
            Math.Min(end, from + (2 * Math.PI))
        );
    }

    private bool Bulged(
        IReadOnlyList<(Vec2 Point, double Bulge)> vertices,
        bool closed,
        double elevation,
        Vec3 normal,
        InsertTransform at
    )
    {
        var (x, y, _) = ObjectCoordinates.Axes(normal);
        for (int i = 0; i + (closed ? 0 : 1) < vertices.Count; i++)
        {
            var (a, bulge) = vertices[i];
            var b = vertices[(i + 1) % vertices.Count].Point;
            if (bulge == 0 ? Path([World(a), World(b)], at) : window.Touches(OfBulge(a, b, bulge)))
                return true;
        }

        return vertices.Count == 1 && window.Holds(at.Apply(World(vertices[0].Point)).XY);

        Vec3 World(Vec2 p) => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, elevation), normal);

        // DXF reference: the bulge is the tangent of a quarter of the angle, positive to the left of the way.
        DrawnPiece OfBulge(Vec2 a, Vec2 b, double bulge)
        {
            Vec2 middle = (a + b) * 0.5,
                half = (b - a) * 0.5;
            var centre = middle + (new Vec2(-half.Y, half.X) * ((1 - (bulge * bulge)) / (2 * bulge)));
            double angle = 4 * Math.Atan(bulge),
                from = Math.Atan2(a.Y - centre.Y, a.X - centre.X),
                radius = (a - centre).Length;
            var (start, end) = angle > 0 ? (from, from + angle) : (from + angle, from);
            return Arc(at, World(centre), x * radius, y * radius, start, end);
        }
    }

    // As far as a drawing may reach.
    private bool Long(Ray e, InsertTransform at)
    {
        const double Far = 1e9;
        var direction = e.Direction.Unit() * Far;
        return Path([e.Both ? e.Start - direction : e.Start, e.Start + direction], at);
    }

    private bool Area(IReadOnlyList<IReadOnlyList<Vec3>> loops, InsertTransform at) =>
        window.TouchesArea([.. loops.Select(l => (IReadOnlyList<Vec2>)[.. l.Select(p => at.Apply(p).XY)])]);
}
