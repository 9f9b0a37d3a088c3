namespace SteadyLintel.Cad;

/// <summary>The columns of a paragraph text (Open Design specification, MTEXT of 2018, from memory).</summary>
/// <param name="Kind">1 of one height, 2 of heights of their own.</param>
/// <param name="Count">How many there are.</param>
/// <param name="Width">How wide each is.</param>
/// <param name="Gutter">The space between two.</param>
/// <param name="AutoHeight">Whether heights follow from the text; else <see cref="Heights"/> says them.</param>
/// <param name="Reversed">Whether they run from right to left.</param>
public sealed record MTextColumns(int Kind, int Count, double Width, double Gutter, bool AutoHeight, bool Reversed)
{
    /// <summary>The height of each column, where it does not follow from the text.</summary>
    public List<double> Heights { get; } = [];
}
