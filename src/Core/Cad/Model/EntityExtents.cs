using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Boxes of entities in world coordinates; curves by what bounds them, blocks by their own boxes.</summary>
internal sealed class EntityExtents
{
    private const int DeepestBlock = 32;

    // Turned blocks are measured point by point until so many points were looked at, then by their boxes, which are a little larger.
    private const long MostPoints = 50_000_000;
    private readonly Drawing _drawing;
    private readonly Dictionary<Handle, Box> _blocks = [];
    private readonly Dictionary<Handle, Vec3[]> _points = [];
    private long _looked;

    private EntityExtents(Drawing drawing) => _drawing = drawing;

    public static Box Of(Drawing drawing, BlockRecord block) => new EntityExtents(drawing).Block(block, 0);

    /// <summary>The boxes of entities, one after the other; blocks are looked into once.</summary>
    public static IEnumerable<Box> Of(Drawing drawing, IEnumerable<Entity> entities)
    {
        var extents = new EntityExtents(drawing);
        return entities.Select(e => extents.Of(e, 0));
    }

    private Box Block(BlockRecord block, int depth)
    {
        if (_blocks.TryGetValue(block.Handle, out var known))
            return known;
        // Until it is known a block counts as empty: one that holds itself comes to an end.
        var box = _blocks[block.Handle] = Box.Empty;
        if (depth < DeepestBlock)
            foreach (var entity in block.Entities)
                box = box.Add(Of(entity, depth));
        return _blocks[block.Handle] = box;
    }

    private Box Of(Entity entity, int depth) =>
        entity switch
        {
            Line e => Box.Of([e.Start, e.End]),
            Point e => Box.Of([e.Location]),
            ArcEntity e => Round(e, e.Start, e.End),
            RoundEntity e => Round(e, 0, 2 * Math.PI),
            Ellipse e => Box.Of(
                CurveReach.Arc(e.Centre, e.Axis, e.Normal.Unit().Cross(e.Axis) * e.Ratio, e.Start, e.End)
            ),
            LightPolyline e => Box.Of(
                Bulge
                    .Reach([.. e.Vertices.Select(v => (v.Point, v.Bulge))], e.Closed)
                    .Select(p => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, e.Elevation), e.Normal))
            ),
            Polyline { Kind: PolylineKind.Flat } e => Box.Of(
                Bulge
                    .Reach([.. e.Vertices.Select(v => (v.Location.XY, v.Bulge))], (e.Flags & 1) != 0)
                    .Select(p => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, e.Vertices[0].Location.Z), e.Normal))
            ),
            Polyline e => Box.Of(e.Vertices.Where(v => !v.IsFace).Select(v => v.Location)),
            Spline e => Box.Of(CurveReach.Of(e)),
            TextEntity e => Box.Of([ObjectCoordinates.ToWorld(e.Insertion, e.Normal)]),
            MText e => Box.Of([e.Insertion]),
            Solid e => Box.Of(e.Corners.Select(c => ObjectCoordinates.ToWorld(c, e.Normal))),
            Face3D e => Box.Of(e.Corners),
            MeshEntity e => Box.Of(e.Points),
            ModelerEntity e => e.Faces() is { } body ? Box.Of(body.Points) : Box.Empty,
            Leader e => Box.Of(e.Points),
            MultiLeader e => Box.Of([e.Context.Base, .. e.Context.Paths().SelectMany(p => p)]),
            MultiLine e => Box.Of(e.Vertices.Select(v => v.Point)),
            Hatch e => Box.Of(
                HatchPoints(e).Select(p => ObjectCoordinates.ToWorld(new Vec3(p.X, p.Y, e.Elevation), e.Normal))
            ),
            Underlay e => Box.Of([ObjectCoordinates.ToWorld(e.Location, e.Normal), .. e.Outline()]),
            Image e => Box.Of([
                e.Corner,
                e.Corner + (e.Pixel.Along * e.Size.X),
                e.Corner + (e.Pixel.Up * e.Size.Y),
                e.Corner + (e.Pixel.Along * e.Size.X) + (e.Pixel.Up * e.Size.Y),
            ]),
            Insert e => Placed(e, depth),
            Table e => Placed(e.Shown(), depth),
            Dimension e => _drawing.Blocks[e.Block] is { } block ? Block(block, depth + 1) : Box.Of([e.Definition]),
            _ => Box.Empty,
        };

    private Box Placed(Insert insert, int depth)
    {
        if (_drawing.Blocks[insert.Block] is not { } block)
            return Box.Of([ObjectCoordinates.ToWorld(insert.Location, insert.Normal)]);
        var box = Block(block, depth + 1);
        if (box.IsEmpty)
            return box;
        var points = _looked < MostPoints ? Points(block, depth + 1) : Corners(box);
        var placed = Box.Empty;
        foreach (var transform in InsertTransform.All(insert, block, 1))
        {
            _looked += points.Length;
            foreach (var point in points)
                placed = placed.Add(transform.Apply(point));
        }

        return placed;
    }

    // Points that bound a block: the vertices of what is straight, the corners of the boxes of the rest.
    private Vec3[] Points(BlockRecord block, int depth)
    {
        if (_points.TryGetValue(block.Handle, out var known))
            return known;
        // As for boxes: a block that holds itself comes to an end.
        _points[block.Handle] = [];
        if (depth >= DeepestBlock)
            return [];
        return _points[block.Handle] = [
            .. block.Entities.SelectMany(e =>
                e switch
                {
                    MeshEntity mesh => mesh.Points,
                    ModelerEntity body => body.Faces()?.Points ?? [],
                    Polyline { Kind: not PolylineKind.Flat } line => line
                        .Vertices.Where(v => !v.IsFace)
                        .Select(v => v.Location),
                    Line line => [line.Start, line.End],
                    Face3D face => face.Corners,
                    _ => Of(e, depth) is { IsEmpty: false } box ? (IEnumerable<Vec3>)Corners(box) : [],
                }
            ),
        ];
    }

    private static Vec3[] Corners(Box box) =>
        [
            .. Enumerable
                .Range(0, 8)
                .Select(i => new Vec3(
                    (i & 1) == 0 ? box.Min.X : box.Max.X,
                    (i & 2) == 0 ? box.Min.Y : box.Max.Y,
                    (i & 4) == 0 ? box.Min.Z : box.Max.Z
                )),
        ];

    private static IEnumerable<Vec2> HatchPoints(Hatch hatch) =>
        hatch.Paths.SelectMany(p =>
            p.IsPolyline
                ? Bulge.Reach(p.Vertices, p.Closed)
                : p.Edges.SelectMany(e =>
                    e.Kind switch
                    {
                        HatchEdgeKind.Line => [e.First, e.Second],
                        HatchEdgeKind.Arc => Conic(e, new Vec2(e.Radius, 0), 1),
                        HatchEdgeKind.Ellipse => Conic(e, e.Second, e.Radius),
                        _ => e.Controls.Select(c => c.Point),
                    }
                )
        );

    // Arcs that run clockwise have their angles mirrored.
    private static IEnumerable<Vec2> Conic(HatchEdge e, Vec2 axis, double ratio) =>
        CurveReach
            .Arc(
                new Vec3(e.First.X, e.First.Y, 0),
                new Vec3(axis.X, axis.Y, 0),
                new Vec3(-axis.Y, axis.X, 0) * (e.Counterclockwise ? ratio : -ratio),
                e.Angles.Start,
                e.Angles.End
            )
            .Select(p => p.XY);

    private static Box Round(RoundEntity e, double from, double to)
    {
        var (x, y, _) = ObjectCoordinates.Axes(e.Normal);
        return Box.Of(
            CurveReach.Arc(ObjectCoordinates.ToWorld(e.Centre, e.Normal), x * e.Radius, y * e.Radius, from, to)
        );
    }
}
