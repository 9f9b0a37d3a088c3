using System.Runtime.CompilerServices;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What depends on a shape in its product's own frame, wherever the product lies: computed once for all shapes alike.</summary>
/// <param name="Moments">The surface, in the product's frame.</param>
/// <param name="Measure">Volume, area and reach; the volume counts closed pieces.</param>
/// <param name="Box">The box along the product's axes, metres; empty without points.</param>
/// <param name="Longest">The longest side of the body's own box (<see cref="BodyBox"/>), metres.</param>
public sealed record LocalShape(SurfaceMoments Moments, ShapeMeasure Measure, Box Box, double Longest)
{
    // Shapes alike begin with the same piece; of those that begin with it few differ.
    private const int MostAlike = 16;

    private static readonly ConditionalWeakTable<Mesh, List<(ShapePart[] Parts, LocalShape Facts)>> Known = [];

    /// <summary>The facts of a shape.</summary>
    /// <param name="shape">A shape with at least one piece; where it lies does not matter.</param>
    public static LocalShape Of(Shape shape)
    {
        var alike = Known.GetOrCreateValue(shape.Parts[0].Mesh);
        lock (alike)
            foreach (var (parts, facts) in alike)
                if (AreAlike(parts, shape.Parts))
                    return facts;
        var made = Make(shape);
        lock (alike)
            if (alike.Count < MostAlike)
                alike.Add(([.. shape.Parts], made));
        return made;
    }

    private static bool AreAlike(ShapePart[] known, IReadOnlyList<ShapePart> parts)
    {
        if (known.Length != parts.Count)
            return false;
        for (int n = 0; n < known.Length; n++)
            if (!ReferenceEquals(known[n].Mesh, parts[n].Mesh) || known[n].Frame != parts[n].Frame)
                return false;
        return true;
    }

    private static LocalShape Make(Shape shape)
    {
        var meshes = new Mesh[shape.Parts.Count];
        for (int n = 0; n < meshes.Length; n++)
            meshes[n] =
                shape.Parts[n].Frame == Frame.Identity
                    ? shape.Parts[n].Mesh
                    : shape.Parts[n].Mesh.Map(shape.Parts[n].Frame);
        var moments = SurfaceMoments.Of(meshes);
        // In its own frame: what closes there does so whatever lies between it and the origin of the map.
        double volume = meshes.Select(MassProperties.Of).Where(m => m.Closed).Sum(m => m.Volume);
        return new LocalShape(
            moments,
            ShapeMeasure.Of(moments, volume),
            Box.Of(meshes.SelectMany(m => m.Points)),
            BodyBox.Longest(meshes)
        );
    }
}
