using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>A picture within the model.</summary>
/// <param name="Format">png or jpg, lower case.</param>
/// <param name="Reference">Its name in the folder of the topic.</param>
/// <param name="Location">The middle of its lower edge.</param>
/// <param name="Normal">Where it faces.</param>
/// <param name="Up">Its upper side.</param>
/// <param name="Height">Metres.</param>
public sealed record ViewBitmap(string Format, string? Reference, Vec3 Location, Vec3 Normal, Vec3 Up, double Height)
{
    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
