namespace SteadyLintel.Exchange;

/// <summary>Reads the rows of a table under known headings and gathers what is wrong with them.</summary>
internal sealed class RowReader
{
    private readonly TableRows _table;
    private readonly Dictionary<string, int> _columns;
    private readonly List<string> _problems = [];
    private int _at = -1;

    /// <summary>Looks the headings up.</summary>
    /// <param name="table">The table.</param>
    /// <param name="needed">Headings that have to be there.</param>
    /// <param name="known">Headings that may be there.</param>
    /// <exception cref="TableException">One that has to be there is not.</exception>
    public RowReader(TableRows table, string[] needed, string[] known)
    {
        _table = table;
        _columns = needed.Union(known).ToDictionary(h => h, table.Column, StringComparer.Ordinal);
        foreach (string heading in needed.Where(h => _columns[h] < 0))
            _problems.Add($"Row 1 has no column '{heading}'; it has {string.Join(", ", table.Headings.Take(12))}.");
        foreach (
            string heading in table.Headings.Where(h =>
                h.Trim().Length > 0 && !_columns.Keys.Contains(h.Trim(), StringComparer.OrdinalIgnoreCase)
            )
        )
            _problems.Add(
                $"Row 1 has the column '{heading}', which means nothing here.{NearestNames.Of(heading, _columns.Keys)}"
            );
        foreach (
            var twice in table
                .Headings.Select(h => h.Trim().ToLowerInvariant())
                .Where(h => h.Length > 0)
                .CountBy(h => h)
                .Where(h => h.Value > 1)
        )
            _problems.Add($"Row 1 has the column '{twice.Key}' twice.");
        if (_problems.Count > 0)
            throw new TableException(_problems);
    }

    /// <summary>The number of the row that is read.</summary>
    public int Number => _table.Rows[_at].Number;

    /// <summary>A cell of the row that is read, without blanks at its ends; empty where the table has no such column.</summary>
    public string this[string heading] =>
        _columns[heading] is >= 0 and var c && c < _table.Rows[_at].Cells.Count ? _table.Rows[_at].Cells[c].Trim() : "";

    /// <summary>Moves to the next row.</summary>
    public bool Next() => ++_at < _table.Rows.Count;

    /// <summary>Says what is wrong with the row that is read.</summary>
    /// <param name="what">As the end of a sentence that begins with the row.</param>
    public void Problem(string what) => _problems.Add($"Row {Number} {what}.");

    /// <summary>Ends the reading.</summary>
    /// <exception cref="TableException">A row was wrong, or there was none.</exception>
    public void End(string what)
    {
        if (_problems.Count == 0 && _table.Rows.Count == 0)
            _problems.Add($"The {what} has headings and no row.");
        if (_problems.Count > 0)
            throw new TableException(_problems);
    }
}
