namespace SteadyLintel.Exchange;

/// <summary>A table as a file holds it: a row of headings, and rows of texts under them.</summary>
/// <param name="Headings">The headings as written.</param>
/// <param name="Rows">The rows, each with its number in the file, the headings being row 1.</param>
public sealed record TableRows(
    IReadOnlyList<string> Headings,
    IReadOnlyList<(int Number, IReadOnlyList<string> Cells)> Rows
)
{
    /// <summary>The place of a column; -1 where there is none.</summary>
    /// <param name="heading">Its heading; letter case and blanks at the ends do not count.</param>
    public int Column(string heading) =>
        Headings.ToList().FindIndex(h => h.Trim().Equals(heading, StringComparison.OrdinalIgnoreCase));
}

/// <summary>What is wrong in a table, row by row; nothing of a table with problems is used.</summary>
/// <param name="problems">A sentence each, beginning with the row's number.</param>
public sealed class TableException(IReadOnlyList<string> problems)
    : OrderException(
        string.Join(" ", problems.Take(MaxShown))
            + (problems.Count > MaxShown ? $" And {problems.Count - MaxShown} more." : "")
    )
{
    private const int MaxShown = 5;

    /// <summary>All of them.</summary>
    public IReadOnlyList<string> Problems => problems;
}
