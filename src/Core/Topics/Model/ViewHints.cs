namespace SteadyLintel.Topics;

/// <summary>View setup hints.</summary>
/// <param name="Spaces">Spaces are visible.</param>
/// <param name="SpaceBoundaries">Space boundaries are visible.</param>
/// <param name="Openings">Openings are visible.</param>
public sealed record ViewHints(bool? Spaces, bool? SpaceBoundaries, bool? Openings);
