namespace SteadyLintel.Cad;

/// <summary>A plane face of a body: loops of point numbers, the outer one first, counter-clockwise seen from outside; holes run the other
/// way.</summary>
/// <param name="Loops">The loops.</param>
public sealed record PlanarFace(IReadOnlyList<int[]> Loops);
