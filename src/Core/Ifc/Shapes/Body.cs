using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>A representation item on its way to a mesh: kept as a prism as long as it is one, so that openings can be cut in its
/// plane.</summary>
internal sealed class Body
{
    private Mesh? _mesh;
    private volatile bool _isPooled;

    public Body(Prism prism) => Prism = prism;

    /// <param name="mesh">The mesh.</param>
    /// <param name="colours">A colour for each triangle, null for those without one of their own; null when no face has one.</param>
    public Body(Mesh mesh, IReadOnlyList<Colour?>? colours = null) => (_mesh, Colours) = (mesh, colours);

    public IReadOnlyList<Colour?>? Colours { get; }

    public Prism? Prism { get; }

    /// <summary>The mesh; bodies alike have the same.</summary>
    /// <param name="pool">The meshes of the model.</param>
    public Mesh MeshIn(MeshPool pool)
    {
        if (_isPooled)
            return Mesh;
        _mesh = _mesh is null ? pool.Of(Prism!) : pool.Of(_mesh);
        _isPooled = true;
        return _mesh;
    }

    public Mesh Mesh => _mesh ??= Prism!.ToMesh();

    public Body Map(Frame frame) =>
        Prism is not null
            ? new Body(Prism with { Frame = frame.Compose(Prism.Frame) })
            : new Body(Mesh.Map(frame), Colours);
}
