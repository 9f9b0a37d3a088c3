using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A layer of a drawing.</summary>
/// <param name="Name">The name, as DXF allows it (see <see cref="LayerNames"/>).</param>
/// <param name="Rgb">True colour, 0xRRGGBB.</param>
/// <param name="Dashed">Whether lines on it are dashed.</param>
public sealed record Layer(string Name, int Rgb, bool Dashed = false);

/// <summary>A drawing: a unit, layers and entities in model space.</summary>
public sealed class Drawing
{
    /// <summary>$INSUNITS: 1 inch, 2 foot, 4 millimetre, 6 metre; 0 unknown.</summary>
    public int Units { get; set; }

    /// <summary>The layers; layer 0 is always there and need not be named.</summary>
    public List<Layer> Layers { get; } = [];

    /// <summary>The entities, in drawing order.</summary>
    public List<DrawingEntity> Entities { get; } = [];

    /// <summary>The box around all entities in drawing units.</summary>
    public Box Extents()
    {
        var box = Box.Empty;
        foreach (var entity in Entities)
            foreach (var p in entity.Points) box = box.Add(p);
        return box;
    }
}
