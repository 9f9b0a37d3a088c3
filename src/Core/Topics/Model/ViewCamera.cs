using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>A camera.</summary>
/// <param name="ViewPoint">Where it is.</param>
/// <param name="Direction">Where it looks; its length does not matter.</param>
/// <param name="Up">Its upper side.</param>
/// <param name="Extent">Degrees of the vertical field of view, or metres of height of a parallel view.</param>
/// <param name="AspectRatio">Width by height (3.0).</param>
public sealed record ViewCamera(Vec3 ViewPoint, Vec3 Direction, Vec3 Up, double Extent, double? AspectRatio)
{
    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
