namespace SteadyLintel.Exchange;

/// <summary>An element that was written.</summary>
/// <param name="Source">The source's place in the order.</param>
/// <param name="Element">The element.</param>
/// <param name="StepId">Its instance name in the file; 0 in a drawing.</param>
/// <param name="GlobalId">Its GlobalId in the file.</param>
internal readonly record struct WrittenElement(int Source, ModelElement Element, int StepId, string GlobalId);

/// <summary>What one source contributed to a written model.</summary>
/// <param name="Source">The source's place in the order.</param>
/// <param name="Rewrites">What its instances underwent.</param>
/// <param name="Merge">How it was put together with others; null when the file holds it alone.</param>
/// <param name="Number">Its place among the merged.</param>
/// <param name="IsWhole">Whether all of it goes, whatever refers to it.</param>
internal sealed record WrittenPart(int Source, RewriteSet Rewrites, MergePlan? Merge, int Number, bool IsWhole)
{
    /// <summary>The instance name in the file of one of the source.</summary>
    public int NameOf(int id) => Merge?.Id(Number, id) ?? id;
}

/// <summary>A written file with the elements that were meant to go into it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Elements">The elements.</param>
/// <param name="Parts">Of a model, what each source contributed; none in a drawing.</param>
/// <param name="Made">Of a model, the instances that no source has.</param>
internal sealed record WrittenFile(
    string Name,
    IReadOnlyList<WrittenElement> Elements,
    IReadOnlyList<WrittenPart> Parts,
    MadeInstances Made
)
{
    /// <summary>Of a drawing, what it was made of; null of others.</summary>
    public DrawnFile? Drawn { get; init; }
}

/// <summary>What a drawing was made of.</summary>
/// <param name="Parts">The elements that were to go into it; none in a file of sheets.</param>
/// <param name="Line">The line of its section; null for others.</param>
/// <param name="Sheets">Its sheets.</param>
internal sealed record DrawnFile(IReadOnlyList<FilePart> Parts, SectionLine? Line, IReadOnlyList<DrawnSheet> Sheets);
