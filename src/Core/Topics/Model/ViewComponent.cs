namespace SteadyLintel.Topics;

/// <summary>An element of a view.</summary>
/// <param name="IfcGuid">Its GlobalId; null where only a program's own id is known.</param>
/// <param name="OriginatingSystem">The program it comes from.</param>
/// <param name="AuthoringToolId">Its id there.</param>
public sealed record ViewComponent(string? IfcGuid, string? OriginatingSystem, string? AuthoringToolId)
{
    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
