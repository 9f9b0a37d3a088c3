using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A storey in an intake report; heights in metres.</summary>
public sealed record StoreyFacts(
    string Name,
    string GlobalId,
    double Elevation,
    int Elements,
    IReadOnlyList<NamedCount> Classes
);

/// <summary>A name with how often it occurs.</summary>
public sealed record NamedCount(string Name, int Count);

/// <summary>A property set with how many elements have it and how many of their values are filled.</summary>
public sealed record PropertySetFacts(string Name, int Elements, int Values, int Blank);

/// <summary>What was found in a model when it came in.</summary>
/// <param name="Schema">FILE_SCHEMA, as written.</param>
/// <param name="Application">The authoring application, from IfcApplication or the header.</param>
/// <param name="LengthUnit">The length unit's name.</param>
/// <param name="Metres">Metres in one length unit.</param>
/// <param name="Project">The project's name.</param>
/// <param name="Site">The first site's name.</param>
/// <param name="Building">The first building's name.</param>
/// <param name="Storeys">The storeys, lowest first.</param>
/// <param name="Classes">All products by class, most frequent first.</param>
/// <param name="Products">How many IfcProduct there are.</param>
/// <param name="Elements">How many elements are accounted for by themselves.</param>
/// <param name="NoStorey">How many elements are in no storey.</param>
/// <param name="Types">Type objects by class.</param>
/// <param name="Layers">Presentation layers with elements.</param>
/// <param name="Materials">Materials with elements.</param>
/// <param name="PropertySets">Property sets and quantities.</param>
/// <param name="Bounds">The box around all shapes, world frame, metres; empty when nothing has a shape.</param>
/// <param name="Place">Map conversion or site placement.</param>
/// <param name="Triangles">How many triangles the shapes have.</param>
/// <param name="Findings">Findings, worst first.</param>
public sealed record IntakeReport(
    string Schema,
    string Application,
    string LengthUnit,
    double Metres,
    string Project,
    string Site,
    string Building,
    IReadOnlyList<StoreyFacts> Storeys,
    IReadOnlyList<NamedCount> Classes,
    int Products,
    int Elements,
    int NoStorey,
    IReadOnlyList<NamedCount> Types,
    IReadOnlyList<NamedCount> Layers,
    IReadOnlyList<NamedCount> Materials,
    IReadOnlyList<PropertySetFacts> PropertySets,
    Box Bounds,
    GeoReference Place,
    long Triangles,
    IReadOnlyList<Finding> Findings
)
{
    /// <summary>The GlobalId of the project, by which a next revision of the same model is recognised; empty where there is none.</summary>
    public string ProjectId { get; init; } = "";

    /// <summary>What the model says of its project, sites and buildings, and of the file itself.</summary>
    public IReadOnlyList<ModelDatum> Data { get; init; } = [];

    /// <summary>What the model declares of its frame, and what it looks like; kept apart from the report.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public FrameFacts? Frame { get; init; }
}
