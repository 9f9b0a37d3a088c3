using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>The shape of a product.</summary>
/// <param name="World">From the product's frame to the file's world frame, metres.</param>
/// <param name="Parts">The pieces; empty when nothing could be shaped.</param>
/// <param name="Problems">What could not be shaped and why, a sentence each; the rest is still there.</param>
public sealed record Shape(Frame World, IReadOnlyList<ShapePart> Parts, IReadOnlyList<string> Problems)
{
    /// <summary>The whole shape as one mesh in the world frame.</summary>
    public Mesh ToWorld() => Mesh.Join([.. Parts.Select(p => p.Mesh.Map(World.Compose(p.Frame)))]);

    /// <summary>The box in the world frame; empty without points. Cheaper than <see cref="Measure"/>, which also looks whether pieces
    /// close.
    /// </summary>
    public Box Bounds()
    {
        var box = Box.Empty;
        foreach (var part in Parts)
        {
            var frame = World.Compose(part.Frame);
            foreach (var point in part.Mesh.Points)
                box = box.Add(frame.Point(point));
        }

        return box;
    }

    /// <summary>Volume (summed over closed pieces), area and box in the world frame. Closed when every piece is.</summary>
    public MassProperties Measure()
    {
        double volume = 0,
            area = 0;
        bool closed = Parts.Count > 0;
        var box = Box.Empty;
        foreach (var part in Parts)
        {
            var frame = World.Compose(part.Frame);
            var mass = MassProperties.Of(part.Mesh.Map(frame));
            volume += mass.Closed ? mass.Volume : 0;
            area += mass.Area;
            closed &= mass.Closed;
            box = box.Add(mass.Bounds);
        }

        return new MassProperties(volume, area, closed, box);
    }
}
