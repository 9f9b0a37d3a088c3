using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>An entity with its layer and the strings of its extended data.</summary>
/// <param name="Layer">The layer's name.</param>
/// <param name="Data">Strings kept under our application name (group codes 1001, 1000).</param>
/// <param name="Points">Coordinates in drawing units.</param>
public abstract record DrawingEntity(string Layer, IReadOnlyList<string> Data, IReadOnlyList<Vec3> Points);

/// <summary>A MESH: faces over points, without subdivision.</summary>
/// <param name="Layer">The layer's name.</param>
/// <param name="Data">Extended data.</param>
/// <param name="Points">The vertices.</param>
/// <param name="Triangles">Three vertex numbers a face.</param>
/// <param name="Rgb">True colour, null for the layer's.</param>
public sealed record MeshEntity(string Layer, IReadOnlyList<string> Data, IReadOnlyList<Vec3> Points, IReadOnlyList<int> Triangles, int? Rgb) : DrawingEntity(Layer, Data, Points);

/// <summary>An LWPOLYLINE without arcs at one elevation.</summary>
/// <param name="Layer">The layer's name.</param>
/// <param name="Data">Extended data.</param>
/// <param name="Points">The vertices, all of one height.</param>
/// <param name="Closed">Whether the last joins the first.</param>
public sealed record PolylineEntity(string Layer, IReadOnlyList<string> Data, IReadOnlyList<Vec3> Points, bool Closed) : DrawingEntity(Layer, Data, Points);

/// <summary>A LINE.</summary>
/// <param name="Layer">The layer's name.</param>
/// <param name="Data">Extended data.</param>
/// <param name="Points">Its two ends.</param>
public sealed record LineEntity(string Layer, IReadOnlyList<string> Data, IReadOnlyList<Vec3> Points) : DrawingEntity(Layer, Data, Points);
