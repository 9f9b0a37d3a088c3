namespace SteadyLintel.Exchange;

/// <summary>An element that was written.</summary>
/// <param name="Source">The source's place in the order.</param>
/// <param name="Element">The element.</param>
internal readonly record struct WrittenElement(int Source, ModelElement Element);

/// <summary>A written file with the elements that were meant to go into it.</summary>
internal sealed record WrittenFile(string Name, IReadOnlyList<WrittenElement> Elements);
