using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A vertex of an LWPOLYLINE.</summary>
/// <param name="Point">Where it is, in object coordinates (10, 20).</param>
/// <param name="Bulge">A quarter of the tangent of the angle of the arc that follows; positive counterclockwise (42).</param>
/// <param name="StartWidth">Width at the start of the stretch that follows (40).</param>
/// <param name="EndWidth">Width at its end (41).</param>
/// <param name="Id">A number for it (91).</param>
public readonly record struct LightVertex(
    Vec2 Point,
    double Bulge = 0,
    double StartWidth = 0,
    double EndWidth = 0,
    int Id = 0
);
