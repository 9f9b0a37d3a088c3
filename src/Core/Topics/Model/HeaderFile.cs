namespace SteadyLintel.Topics;

/// <summary>A model that a topic is about.</summary>
public sealed record HeaderFile
{
    /// <summary>The GlobalId of its project.</summary>
    public string? IfcProject { get; init; }

    /// <summary>The GlobalId of the storey or building that is meant.</summary>
    public string? SpatialElement { get; init; }

    /// <summary>Whether the reference is an address and not a file of the archive; null means an address.</summary>
    public bool? IsExternal { get; init; }

    /// <summary>Its name.</summary>
    public string? Filename { get; init; }

    /// <summary>Its date.</summary>
    public string? Date { get; init; }

    /// <summary>Its address.</summary>
    public string? Reference { get; init; }

    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
