using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Hatches under a similar map: boundaries, pattern lines and seeds in the object coordinates of the image.</summary>
internal sealed class HatchTransform(EntityTransform map)
{
    public Hatch Of(Hatch e)
    {
        var hatch = new Hatch
        {
            Elevation = map.InObject(new Vec3(0, 0, e.Elevation), e.Normal).Z,
            Normal = map.Normal(e.Normal),
            Pattern = e.Pattern,
            Filled = e.Filled,
            Style = e.Style,
            PatternKind = e.PatternKind,
            Angle = map.Angle(e.Angle, e.Normal),
            Scale = e.Scale * map.Scale,
            Double = e.Double,
            PixelSize = e.PixelSize * map.Scale,
            Gradient = e.Gradient,
        };
        double turn = map.Angle(0, e.Normal);
        hatch.Lines.AddRange(
            e.Lines.Select(l => new HatchLine(
                l.Angle + turn,
                At(l.Base, e),
                Rotated(l.Offset, turn),
                [.. l.Dashes.Select(d => d * map.Scale)]
            ))
        );
        hatch.Paths.AddRange(e.Paths.Select(p => Path(p, e, turn)));
        hatch.Seeds.AddRange(e.Seeds.Select(s => At(s, e)));
        return hatch;
    }

    private Vec2 At(Vec2 p, Hatch e) => map.InObject(new Vec3(p.X, p.Y, e.Elevation), e.Normal).XY;

    private Vec2 Rotated(Vec2 v, double turn) =>
        new Vec2((v.X * Math.Cos(turn)) - (v.Y * Math.Sin(turn)), (v.X * Math.Sin(turn)) + (v.Y * Math.Cos(turn)))
        * map.Scale;

    // Not associative any more: what it followed is not in the same block.
    private HatchPath Path(HatchPath p, Hatch e, double turn)
    {
        var path = new HatchPath { Flags = p.Flags, Closed = p.Closed };
        path.Vertices.AddRange(p.Vertices.Select(v => (At(v.Point, e), v.Bulge)));
        path.Edges.AddRange(p.Edges.Select(edge => Edge(edge, e, turn)));
        return path;
    }

    private HatchEdge Edge(HatchEdge x, Hatch e, double turn)
    {
        var edge = new HatchEdge
        {
            Kind = x.Kind,
            First = At(x.First, e),
            Counterclockwise = x.Counterclockwise,
            Degree = x.Degree,
            Spline = x.Spline,
            Tangents = (Rotated(x.Tangents.Start, turn), Rotated(x.Tangents.End, turn)),
            // The second point of an ellipse is its axis, from its centre.
            Second = x.Kind == HatchEdgeKind.Ellipse ? Rotated(x.Second, turn) : At(x.Second, e),
            Radius = x.Kind == HatchEdgeKind.Arc ? x.Radius * map.Scale : x.Radius,
            // Angles of an arc count from X; clockwise they count backward.
            Angles =
                x.Kind == HatchEdgeKind.Arc
                    ? (
                        x.Angles.Start + (x.Counterclockwise ? turn : -turn),
                        x.Angles.End + (x.Counterclockwise ? turn : -turn)
                    )
                    : x.Angles,
        };
        edge.Knots.AddRange(x.Knots);
        edge.Controls.AddRange(x.Controls.Select(c => (At(c.Point, e), c.Weight)));
        edge.Fits.AddRange(x.Fits.Select(f => At(f, e)));
        return edge;
    }
}
