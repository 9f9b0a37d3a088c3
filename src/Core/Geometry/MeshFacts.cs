using System.Runtime.CompilerServices;

namespace SteadyLintel.Geometry;

/// <summary>What depends on a mesh alone, computed when first asked for and as long as the mesh is used.</summary>
/// <remarks>Most meshes alike are one object (<see cref="MeshPool"/>), so it is computed once a content.</remarks>
public sealed class MeshFacts
{
    // What is lower shows nothing: a tenth of a step of the finest square of the picture, metres.
    private const double Sliver = 1e-4;

    private static readonly ConditionalWeakTable<Mesh, MeshFacts> Known = [];

    private readonly Lazy<MeshContent> _content;
    private readonly Lazy<Mesh> _seen;
    private readonly Lazy<int[]> _edges;

    private MeshFacts(Mesh mesh)
    {
        _content = new Lazy<MeshContent>(() => MeshContent.Of(mesh));
        _seen = new Lazy<Mesh>(() => mesh.WithoutSlivers(Sliver));
        _edges = new Lazy<int[]>(() => [.. Section.EdgeCorners(mesh)]);
    }

    /// <summary>What tells the mesh from any other.</summary>
    public MeshContent Content => _content.Value;

    /// <summary>The mesh for drawing, without slivers; its points are those of the mesh.</summary>
    public Mesh Seen => _seen.Value;

    /// <summary>The edges between faces, pairs of point numbers.</summary>
    public IReadOnlyList<int> Edges => _edges.Value;

    /// <summary>The facts of a mesh.</summary>
    /// <param name="mesh">Which is not changed as long as it is used.</param>
    public static MeshFacts Of(Mesh mesh) => Known.GetValue(mesh, m => new MeshFacts(m));
}
