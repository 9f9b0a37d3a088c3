using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A vertex of an MLINE.</summary>
/// <param name="Point">Where it is (11).</param>
/// <param name="Direction">Direction of the stretch that follows (12).</param>
/// <param name="Mitre">Direction of the mitre (13).</param>
/// <param name="Parameters">For every line of the style: where it starts and breaks (41), and where its fill does (42).</param>
public sealed record MultiLineVertex(
    Vec3 Point,
    Vec3 Direction,
    Vec3 Mitre,
    List<(List<double> Lines, List<double> Fills)> Parameters
);
