using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Shifts entities where they are: each keeps its handle and everything that is not a place.</summary>
/// <remarks>A shift has an exact image in object coordinates too, so every kind whose fields are known can be shifted, those included that
/// cannot be turned or scaled in place. A dimension's own block is drawn in the coordinates of the drawing (DXF reference, DIMENSION) and
/// goes along.</remarks>
public sealed class EntityShift(Drawing drawing, Vec3 by)
{
    private readonly HashSet<Handle> _blocks = [];

    /// <summary>Shifts an entity.</summary>
    /// <returns>Whether its kind can be shifted; others stay.</returns>
    public bool Apply(Entity entity)
    {
        switch (entity)
        {
            case Line e:
                (e.Start, e.End) = (e.Start + by, e.End + by);
                break;
            case Point e:
                e.Location += by;
                break;
            case Ray e:
                e.Start += by;
                break;
            case RoundEntity e:
                e.Centre += In(e.Normal);
                break;
            case Ellipse e:
                e.Centre += by;
                break;
            case Face3D e:
                All(e.Corners, by);
                break;
            case Solid e:
                All(e.Corners, In(e.Normal));
                break;
            case MeshEntity e:
                All(e.Points, by);
                break;
            case Spline e:
                All(e.Controls, by);
                All(e.Fits, by);
                break;
            case Leader e:
                All(e.Points, by);
                break;
            case LightPolyline e:
                Light(e);
                break;
            case Polyline e:
                Heavy(e);
                break;
            case TextEntity e:
                Text(e);
                break;
            case MText e:
                e.Insertion += by;
                break;
            case GeometricTolerance e:
                e.Insertion += by;
                break;
            case Hatch e:
                Filled(e);
                break;
            case Insert e:
                e.Location += In(e.Normal);
                foreach (var attribute in e.Attributes)
                    Text(attribute);
                break;
            case Dimension e:
                Measured(e);
                break;
            case MultiLeader e:
                Led(e.Context);
                break;
            case MultiLine e:
                e.Start += by;
                for (int i = 0; i < e.Vertices.Count; i++)
                    e.Vertices[i] = e.Vertices[i] with { Point = e.Vertices[i].Point + by };
                break;
            case Image e:
                e.Corner += by;
                break;
            case Underlay e:
                e.Location += In(e.Normal);
                break;
            case Table e:
                e.Location += by;
                break;
            default:
                return false;
        }

        return true;
    }

    private Vec3 In(Vec3 normal) => ObjectCoordinates.FromWorld(by, normal);

    private static void All(IList<Vec3> points, Vec3 by)
    {
        for (int i = 0; i < points.Count; i++)
            points[i] += by;
    }

    private void Light(LightPolyline e)
    {
        var shift = In(e.Normal);
        for (int i = 0; i < e.Vertices.Count; i++)
            e.Vertices[i] = e.Vertices[i] with { Point = e.Vertices[i].Point + shift.XY };
        e.Elevation += shift.Z;
    }

    private void Heavy(Polyline e)
    {
        var shift = e.Kind == PolylineKind.Flat ? In(e.Normal) : by;
        foreach (var vertex in e.Vertices.Where(v => !v.IsFace))
            vertex.Location += shift;
        if (e.Kind == PolylineKind.Flat)
            e.Elevation += shift.Z;
    }

    private void Text(TextEntity e)
    {
        var shift = In(e.Normal);
        e.Insertion += shift;
        // A text that is on its insertion alone has no second point.
        if (e.Alignment != Vec3.Zero || e.Horizontal != 0 || e.Vertical != 0)
            e.Alignment += shift;
    }

    private void Filled(Hatch e)
    {
        var map = new EntityTransform(InsertTransform.Identity with { Origin = by });
        var moved = new HatchTransform(map).Of(e);
        e.Elevation = moved.Elevation;
        for (int i = 0; i < e.Paths.Count; i++)
        {
            Replace(e.Paths[i].Vertices, moved.Paths[i].Vertices);
            Replace(e.Paths[i].Edges, moved.Paths[i].Edges);
        }

        Replace(e.Seeds, moved.Seeds);
        Replace(e.Lines, moved.Lines);
    }

    private static void Replace<T>(List<T> list, List<T> by)
    {
        list.Clear();
        list.AddRange(by);
    }

    private void Measured(Dimension e)
    {
        var shift = In(e.Normal);
        e.Definition += by;
        e.TextMiddle += shift;
        e.Points = (e.Points.First + by, e.Points.Second + by);
        if (e.Kind is not (DimensionKind.Linear or DimensionKind.Aligned or DimensionKind.Ordinate))
            e.Third += by;
        if (e.Kind == DimensionKind.Angular)
            e.ArcPoint += shift.XY;
        if (drawing.Blocks[e.Block] is not { IsSpace: false } block || !_blocks.Add(block.Handle))
            return;
        foreach (var part in block.Entities)
            Apply(part);
    }

    private void Led(MultiLeaderContext context)
    {
        context.Base += by;
        context.Plane = context.Plane with { Origin = context.Plane.Origin + by };
        if (context.Text is { } text)
            text.Position = text.Position with { Place = text.Position.Place + by };
        if (context.Block is { } block)
            block.Position = block.Position with { Place = block.Position.Place + by };
        foreach (var branch in context.Branches)
        {
            branch.End += by;
            Gaps(branch.Breaks);
            foreach (var line in branch.Lines)
            {
                All(line.Points, by);
                foreach (var (_, gaps) in line.Breaks)
                    Gaps(gaps);
            }
        }
    }

    private void Gaps(List<(Vec3 From, Vec3 To)> gaps)
    {
        for (int i = 0; i < gaps.Count; i++)
            gaps[i] = (gaps[i].From + by, gaps[i].To + by);
    }
}
