using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A family of parallel lines of a hatch pattern.</summary>
/// <param name="Angle">Radians; degrees in DXF (53).</param>
/// <param name="Base">A point on one of them (43, 44).</param>
/// <param name="Offset">From one to the next (45, 46).</param>
/// <param name="Dashes">Dashes and gaps (49).</param>
public sealed record HatchLine(double Angle, Vec2 Base, Vec2 Offset, List<double> Dashes);
