using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>One piece of a product's shape.</summary>
/// <param name="Mesh">Triangles in metres, in the piece's own frame.</param>
/// <param name="Frame">From the piece's frame to the product's.</param>
/// <param name="Colour">Its colour.</param>
/// <param name="Shared">The representation item when the same mesh serves many products, else -1.</param>
public readonly record struct ShapePart(Mesh Mesh, Frame Frame, Colour Colour, int Shared)
{
    /// <summary>A colour for each triangle where faces have colours of their own, else null.</summary>
    public IReadOnlyList<Colour>? FaceColours { get; init; }

    /// <summary>The representation item that defines the piece exactly: its curves and surfaces, before they became chords; openings are
    /// not part of it.</summary>
    public int Item { get; init; } = -1;

    /// <summary>The piece as a prism in its own frame, openings cut; null when it is none.</summary>
    public Prism? Prism { get; init; }

    /// <summary>The piece cut into pieces of one colour each, for drawing; they need not be closed any more.</summary>
    public IEnumerable<ShapePart> ByColour()
    {
        if (FaceColours is not { } colours)
            return [this];
        var part = this;
        var triangles = part.Mesh.Triangles;
        return Enumerable
            .Range(0, colours.Count)
            .GroupBy(t => colours[t])
            .Select(g =>
                part with
                {
                    Mesh = part.Mesh with { Triangles = [.. g.SelectMany(t => triangles[(3 * t)..((3 * t) + 3)])] },
                    Colour = g.Key,
                    Shared = -1,
                    FaceColours = null,
                    Prism = null,
                }
            );
    }
}
