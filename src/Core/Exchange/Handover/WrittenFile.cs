namespace SteadyLintel.Exchange;

/// <summary>An element that was written.</summary>
/// <param name="Source">The source's place in the order.</param>
/// <param name="Element">The element.</param>
/// <param name="StepId">Its instance name in the file; 0 in a drawing.</param>
/// <param name="GlobalId">Its GlobalId in the file.</param>
internal readonly record struct WrittenElement(int Source, ModelElement Element, int StepId, string GlobalId);

/// <summary>A written file with the elements that were meant to go into it, and the rewrites each source underwent (none in a drawing).</summary>
internal sealed record WrittenFile(string Name, IReadOnlyList<WrittenElement> Elements, IReadOnlyDictionary<int, RewriteSet> Rewrites);
