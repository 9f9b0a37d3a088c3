using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>One piece of a product's shape.</summary>
/// <param name="Mesh">Triangles in metres, in the piece's own frame.</param>
/// <param name="Frame">From the piece's frame to the product's.</param>
/// <param name="Colour">Its colour.</param>
/// <param name="Shared">The representation item when the same mesh serves many products, else -1.</param>
public readonly record struct ShapePart(Mesh Mesh, Frame Frame, Colour Colour, int Shared);
