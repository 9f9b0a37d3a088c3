using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A storey's heights: three numbers that ought to agree. Metres, in the source's frame.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Said">What its Elevation says; null when it says nothing.</param>
/// <param name="Placed">Where it is placed; null when unknown.</param>
/// <param name="Lowest">The lowest thing that is on it; null when nothing has a shape.</param>
/// <param name="Highest">The highest.</param>
public sealed record StoreyHeights(string Name, double? Said, double? Placed, double? Lowest, double? Highest);

/// <summary>What is measured over like things; metres by the declared unit.</summary>
/// <param name="Count">How many.</param>
/// <param name="Median">The median; 0 when there are none.</param>
public sealed record Measured(int Count, double Median)
{
    /// <summary>Measures.</summary>
    public static Measured Of(List<double> values) =>
        values.Count == 0 ? new(0, 0) : new(values.Count, values.Order().ElementAt(values.Count / 2));
}

/// <summary>What a file declares of its frame, and what it looks like. Metres by the declared unit, in the file's own frame.</summary>
/// <param name="Unit">The declared length unit's name.</param>
/// <param name="UnitDeclared">Whether it is declared; metres are assumed otherwise.</param>
/// <param name="Metres">Metres in one unit.</param>
/// <param name="Place">Map conversion or site placement.</param>
/// <param name="Latitude">Of the site, degrees, north positive; null when it says nothing.</param>
/// <param name="Longitude">Of the site, degrees, east positive.</param>
/// <param name="SiteHeight">RefElevation of the site.</param>
/// <param name="WorldOrigin">The origin of the world coordinate system, x, y, z.</param>
/// <param name="NorthDegrees">True north from the Y axis, counter-clockwise.</param>
/// <param name="Storeys">The storeys, lowest first.</param>
/// <param name="Extent">minX, minY, minZ, maxX, maxY, maxZ of all shapes; null when nothing has one.</param>
/// <param name="FromZero">How far the nearest part of the model lies from zero in plan.</param>
/// <param name="Doors">Heights of doors.</param>
/// <param name="StoreyHeight">Differences of storeys.</param>
/// <param name="Walls">Thicknesses of walls.</param>
/// <param name="Disagreements">What does not agree, in sentences with numbers.</param>
public sealed record FrameFacts(
    string Unit,
    bool UnitDeclared,
    double Metres,
    GeoReference Place,
    double? Latitude,
    double? Longitude,
    double? SiteHeight,
    double[] WorldOrigin,
    double NorthDegrees,
    IReadOnlyList<StoreyHeights> Storeys,
    double[]? Extent,
    double FromZero,
    Measured Doors,
    Measured StoreyHeight,
    Measured Walls,
    IReadOnlyList<string> Disagreements
)
{
    /// <summary>The units that the lengths may be in, best first.</summary>
    public IReadOnlyList<UnitScore> UnitEvidence { get; init; } = [];

    /// <summary>The axes of its grids in plan.</summary>
    public IReadOnlyList<PlanAxis> Axes { get; init; } = [];
}
