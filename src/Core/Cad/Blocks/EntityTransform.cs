using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Entities moved by the transform of an insert: turned, scaled, mirrored, and where their kind allows it scaled unlike along the
/// axes.</summary>
/// <remarks>
/// What turns counter-clockwise in its object coordinates still does: their new normal is the product of the moved axes, so a mirrored arc
/// gets the opposite
/// normal and keeps its sense. Kinds and cases that have no exact image give null.
/// </remarks>
public sealed class EntityTransform
{
    private const double Even = 1e-9;
    private readonly InsertTransform _map;

    /// <summary>Prepares it.</summary>
    /// <param name="map">Where everything goes.</param>
    public EntityTransform(InsertTransform map)
    {
        _map = map;
        (double x, double y, double z) = (map.X.Length, map.Y.Length, map.Z.Length);
        bool square =
            Math.Abs(map.X.Dot(map.Y)) + Math.Abs(map.Y.Dot(map.Z)) + Math.Abs(map.Z.Dot(map.X)) < Even * x * y * z;
        Scale = x;
        IsSimilar = square && Math.Abs(x - y) + Math.Abs(x - z) < Even * x;
        IsPossible = x * y * z > 0 && Math.Abs(map.X.Cross(map.Y).Dot(map.Z)) > 1e-12 * x * y * z;
    }

    /// <summary>The factor on lengths of a similar map.</summary>
    public double Scale { get; }

    /// <summary>Whether all lengths change alike.</summary>
    public bool IsSimilar { get; }

    /// <summary>Whether space stays space.</summary>
    public bool IsPossible { get; }

    /// <summary>A moved copy without handle and owner, null where there is no exact one.</summary>
    public Entity? Of(Entity entity)
    {
        if (!IsPossible)
            return null;
        var moved = entity switch
        {
            Line e => new Line
            {
                Start = At(e.Start),
                End = At(e.End),
                Thickness = Thick(e.Thickness),
                Normal = Normal(e.Normal),
            },
            Point e => new Point
            {
                Location = At(e.Location),
                Thickness = Thick(e.Thickness),
                Normal = Normal(e.Normal),
                Angle = e.Angle,
            },
            Ray e => new Ray(e.Both) { Start = At(e.Start), Direction = _map.Turn(e.Direction).Unit() },
            Face3D e => Face(e),
            Spline e => Curve(e),
            MeshEntity e => Mesh(e),
            Leader e when IsSimilar => LeaderOf(e),
            Polyline e when e.Kind != PolylineKind.Flat => Spatial(e),
            Solid e => SolidOf(e),
            LightPolyline e when IsSimilar || (e.Vertices.TrueForAll(v => v.Bulge == 0) && InPlane(e.Normal)) => Light(
                e
            ),
            Polyline e when IsSimilar => Flat(e),
            Circle e => IsSimilar
                ? new Circle
                {
                    Centre = InObject(e.Centre, e.Normal),
                    Radius = e.Radius * Scale,
                    Thickness = Thick(e.Thickness),
                    Normal = Normal(e.Normal),
                }
                : EllipseOf(e, 0, 2 * Math.PI),
            ArcEntity e => IsSimilar ? Arc(e) : EllipseOf(e, e.Start, e.End > e.Start ? e.End : e.End + (2 * Math.PI)),
            Ellipse e => EllipseOf(e),
            AttributeDefinition => null,
            TextEntity e when IsSimilar => TextOf(e),
            MText e when IsSimilar => MTextOf(e),
            Hatch e when IsSimilar => new HatchTransform(this).Of(e),
            Insert e => Inserted(e),
            _ => (Entity?)null,
        };
        if (moved is not null)
            Look(entity, moved);
        return moved;
    }

    /// <summary>A moved copy that takes the entity's place, handle and all; null where there is no exact one.</summary>
    public Entity? InPlace(Entity entity)
    {
        if (Of(entity) is not { } moved || moved.Parts.Count != entity.Parts.Count)
            return null;
        moved.Replace(entity);
        for (int i = 0; i < moved.Parts.Count; i++)
            moved.Parts[i].Replace(entity.Parts[i]);
        if (moved is CompoundEntity to && entity is CompoundEntity from)
            to.End = from.End;
        return moved;
    }

    /// <summary>A point of object coordinates in the object coordinates of its image.</summary>
    public Vec3 InObject(Vec3 point, Vec3 normal) =>
        ObjectCoordinates.FromWorld(At(ObjectCoordinates.ToWorld(point, normal)), Normal(normal));

    /// <summary>The normal of the image of a plane.</summary>
    public Vec3 Normal(Vec3 normal)
    {
        var (x, y, _) = ObjectCoordinates.Axes(normal);
        return _map.Turn(x).Cross(_map.Turn(y)).Unit();
    }

    /// <summary>An angle in object coordinates as it is in those of the image.</summary>
    public double Angle(double angle, Vec3 normal)
    {
        var (x, y, _) = ObjectCoordinates.Axes(normal);
        var d = ObjectCoordinates.FromWorld(_map.Turn((x * Math.Cos(angle)) + (y * Math.Sin(angle))), Normal(normal));
        return Math.Atan2(d.Y, d.X);
    }

    private Vec3 At(Vec3 p) => _map.Apply(p);

    private double Thick(double thickness) => thickness * _map.Z.Length;

    // Whether the plane of object coordinates stays a plane square to its normal's image.
    private bool InPlane(Vec3 normal) => Math.Abs(_map.Turn(normal).Unit().Dot(Normal(normal))) > 1 - Even;

    private static void Look(Entity from, Entity to)
    {
        (to.Layer, to.LineType, to.Colour, to.LineTypeScale, to.LineWeight, to.Invisible) = (
            from.Layer,
            from.LineType,
            from.Colour,
            from.LineTypeScale,
            from.LineWeight,
            from.Invisible
        );
        if (!from.HasExtras)
            return;
        to.Extras.Data.AddRange(from.Extras.Data);
        (to.Extras.Material, to.Extras.PlotStyle, to.Extras.Transparency, to.Extras.Shadow) = (
            from.Extras.Material,
            from.Extras.PlotStyle,
            from.Extras.Transparency,
            from.Extras.Shadow
        );
    }

    private Face3D Face(Face3D e)
    {
        var face = new Face3D { Hidden = e.Hidden };
        for (int i = 0; i < e.Corners.Length; i++)
            face.Corners[i] = At(e.Corners[i]);
        return face;
    }

    private Spline Curve(Spline e)
    {
        var spline = new Spline
        {
            Flags = e.Flags,
            Degree = e.Degree,
            Tangents = (_map.Turn(e.Tangents.Start).Unit(), _map.Turn(e.Tangents.End).Unit()),
            Normal = Normal(e.Normal),
            Tolerances = e.Tolerances,
        };
        spline.Knots.AddRange(e.Knots);
        spline.Weights.AddRange(e.Weights);
        spline.Controls.AddRange(e.Controls.Select(At));
        spline.Fits.AddRange(e.Fits.Select(At));
        return spline;
    }

    private MeshEntity Mesh(MeshEntity e)
    {
        var mesh = new MeshEntity { Level = e.Level };
        mesh.Points.AddRange(e.Points.Select(At));
        mesh.Faces.AddRange(e.Faces);
        mesh.Edges.AddRange(e.Edges);
        mesh.Creases.AddRange(e.Creases);
        return mesh;
    }

    private Leader LeaderOf(Leader e)
    {
        var leader = new Leader
        {
            Style = e.Style,
            Arrow = e.Arrow,
            Path = e.Path,
            HookAlong = e.HookAlong,
            Box = (e.Box.Height * Scale, e.Box.Width * Scale),
            Direction = _map.Turn(e.Direction).Unit(),
            Offsets = (_map.Turn(e.Offsets.Block), _map.Turn(e.Offsets.Annotation)),
            Normal = Normal(e.Normal),
        };
        leader.Points.AddRange(e.Points.Select(At));
        return leader;
    }

    private Polyline Spatial(Polyline e) => Vertices(e, v => At(v.Location));

    private Polyline Flat(Polyline e)
    {
        var flat = Vertices(e, v => InObject(v.Location with { Z = e.Elevation }, e.Normal));
        flat.Normal = Normal(e.Normal);
        flat.Elevation = InObject(new Vec3(0, 0, e.Elevation), e.Normal).Z;
        return flat;
    }

    private Polyline Vertices(Polyline e, Func<Vertex, Vec3> at)
    {
        var line = new Polyline(e.Kind)
        {
            Flags = e.Flags,
            Smooth = e.Smooth,
            Counts = e.Counts,
            Densities = e.Densities,
            Widths = (e.Widths.Start * Scale, e.Widths.End * Scale),
            Thickness = Thick(e.Thickness),
        };
        foreach (var v in e.Vertices)
        {
            var moved = new Vertex(v.Kind, v.IsFace)
            {
                Location = v.IsFace ? v.Location : at(v),
                Flags = v.Flags,
                Widths = (v.Widths.Start * Scale, v.Widths.End * Scale),
                Bulge = v.Bulge,
                Tangent = v.Tangent,
                Id = v.Id,
            };
            v.Corners.CopyTo(moved.Corners, 0);
            Look(v, moved);
            line.Vertices.Add(moved);
        }

        return line;
    }

    private Solid? SolidOf(Solid e)
    {
        if (!IsSimilar && !InPlane(e.Normal))
            return null;
        var solid = new Solid(e.IsTrace) { Thickness = Thick(e.Thickness), Normal = Normal(e.Normal) };
        for (int i = 0; i < e.Corners.Length; i++)
            solid.Corners[i] = InObject(e.Corners[i], e.Normal);
        return solid;
    }

    private LightPolyline Light(LightPolyline e)
    {
        var line = new LightPolyline
        {
            Closed = e.Closed,
            Generated = e.Generated,
            Width = e.Width * Scale,
            Thickness = Thick(e.Thickness),
            Normal = Normal(e.Normal),
            Elevation = InObject(new Vec3(0, 0, e.Elevation), e.Normal).Z,
        };
        line.Vertices.AddRange(
            e.Vertices.Select(v =>
                v with
                {
                    Point = InObject(new Vec3(v.Point.X, v.Point.Y, e.Elevation), e.Normal).XY,
                    StartWidth = v.StartWidth * Scale,
                    EndWidth = v.EndWidth * Scale,
                }
            )
        );
        return line;
    }

    private ArcEntity Arc(ArcEntity e)
    {
        double start = Angle(e.Start, e.Normal);
        return new ArcEntity
        {
            Centre = InObject(e.Centre, e.Normal),
            Radius = e.Radius * Scale,
            Thickness = Thick(e.Thickness),
            Normal = Normal(e.Normal),
            Start = start,
            End = start + (e.End - e.Start),
        };
    }

    private Ellipse? EllipseOf(RoundEntity e, double from, double to)
    {
        if (e.Thickness != 0)
            return null;
        var (x, y, _) = ObjectCoordinates.Axes(e.Normal);
        return Conic(
            At(ObjectCoordinates.ToWorld(e.Centre, e.Normal)),
            _map.Turn(x * e.Radius),
            _map.Turn(y * e.Radius),
            from,
            to
        );
    }

    private Ellipse EllipseOf(Ellipse e) =>
        Conic(
            At(e.Centre),
            _map.Turn(e.Axis),
            _map.Turn(e.Normal.Unit().Cross(e.Axis) * e.Ratio),
            e.Start,
            e.End > e.Start ? e.End : e.End + (2 * Math.PI)
        );

    // Two conjugate half-axes give the principal ones (Rytz); the parameter shifts by the angle between.
    private static Ellipse Conic(Vec3 centre, Vec3 p, Vec3 q, double from, double to)
    {
        double shift = 0.5 * Math.Atan2(2 * p.Dot(q), p.Dot(p) - q.Dot(q));
        Vec3 major = (p * Math.Cos(shift)) + (q * Math.Sin(shift)),
            minor = (q * Math.Cos(shift)) - (p * Math.Sin(shift));
        bool whole = to - from > (2 * Math.PI) - 1e-9;
        return new Ellipse
        {
            Centre = centre,
            Axis = major,
            Normal = major.Cross(minor).Unit(),
            Ratio = minor.Length / major.Length,
            Start = whole ? 0 : from - shift,
            End = whole ? 2 * Math.PI : to - shift,
        };
    }

    private Text TextOf(TextEntity e) =>
        new()
        {
            Value = e.Value,
            Insertion = InObject(e.Insertion, e.Normal),
            Alignment = e.Alignment == Vec3.Zero ? Vec3.Zero : InObject(e.Alignment, e.Normal),
            Height = e.Height * Scale,
            Rotation = Angle(e.Rotation, e.Normal),
            Width = e.Width,
            Slant = e.Slant,
            Generation = e.Generation,
            Horizontal = e.Horizontal,
            Vertical = e.Vertical,
            Style = e.Style,
            Thickness = Thick(e.Thickness),
            Normal = Normal(e.Normal),
        };

    private MText MTextOf(MText e) =>
        new()
        {
            Insertion = At(e.Insertion),
            Direction = _map.Turn(e.Direction).Unit(),
            Normal = Normal(e.Normal),
            Height = e.Height * Scale,
            Width = e.Width * Scale,
            DefinedHeight = e.DefinedHeight * Scale,
            Attachment = e.Attachment,
            Flow = e.Flow,
            Spacing = e.Spacing,
            Seen = (e.Seen.Width * Scale, e.Seen.Height * Scale),
            Value = e.Value,
            Style = e.Style,
            Background = e.Background,
            Fill = e.Fill,
        };

    // An insert that stays whole within one that is exploded: only where scale, rotation and normal can say it.
    private Insert? Inserted(Insert e)
    {
        if (!IsSimilar)
            return null;
        bool mirrored = _map.X.Cross(_map.Y).Dot(_map.Z) < 0;
        var insert = new Insert
        {
            Block = e.Block,
            Location = InObject(e.Location, e.Normal),
            Rotation = Angle(e.Rotation, e.Normal),
            Scale = new Vec3(e.Scale.X, e.Scale.Y, mirrored ? -e.Scale.Z : e.Scale.Z) * Scale,
            Array = e.Array,
            Spacing = (e.Spacing.Columns * Scale, e.Spacing.Rows * Scale),
            Normal = Normal(e.Normal),
        };
        foreach (var attribute in e.Attributes)
        {
            var text = TextOf(attribute);
            var moved = new AttributeEntity
            {
                Tag = attribute.Tag,
                Flags = attribute.Flags,
                Locked = attribute.Locked,
                Value = text.Value,
                Insertion = text.Insertion,
                Alignment = text.Alignment,
                Height = text.Height,
                Rotation = text.Rotation,
                Width = text.Width,
                Slant = text.Slant,
                Generation = text.Generation,
                Horizontal = text.Horizontal,
                Vertical = text.Vertical,
                Style = text.Style,
                Thickness = text.Thickness,
                Normal = text.Normal,
            };
            Look(attribute, moved);
            insert.Attributes.Add(moved);
        }

        return insert;
    }
}
