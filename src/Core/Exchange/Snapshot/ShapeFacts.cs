using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What is known of an element's shape as it lies in its source, metres.</summary>
/// <param name="Local">What does not depend on where it lies.</param>
/// <param name="Box">The box in the source's frame; empty without points.</param>
/// <param name="Bearing">The direction that it runs in, degrees clockwise from the Y axis of the source; null where it runs in none.</param>
/// <param name="Triangles">How many triangles it has.</param>
public sealed record ShapeFacts(LocalShape Local, Box Box, double? Bearing, int Triangles)
{
    /// <summary>The facts of a shape; null where there is no body.</summary>
    public static ShapeFacts? Of(Shape? shape)
    {
        if (shape is not { Parts.Count: > 0 })
            return null;
        var local = LocalShape.Of(shape);
        int triangles = 0;
        foreach (var part in shape.Parts)
            triangles += part.Mesh.TriangleCount;
        return new ShapeFacts(local, shape.Bounds(), PlanBearing.Of(local.Moments, shape.World), triangles);
    }
}
