namespace SteadyLintel.Exchange;

/// <summary>What of shapes a subset goes without.</summary>
/// <param name="Lists">By instance the attribute whose references are not followed.</param>
/// <param name="Stays">Instances that do not go.</param>
public sealed record ShapeStrip(IReadOnlyDictionary<int, string> Lists, IReadOnlySet<int> Stays);
