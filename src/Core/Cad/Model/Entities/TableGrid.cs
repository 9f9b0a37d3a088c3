namespace SteadyLintel.Cad;

/// <summary>What a table says: the heights of its rows, the widths of its columns, and its cells, row by row.</summary>
public sealed class TableGrid
{
    /// <summary>The most cells a table is read with.</summary>
    internal const int MostCells = 1 << 20;

    /// <summary>The table style (342).</summary>
    public Handle Style { get; set; }

    /// <summary>The marks of the table (90).</summary>
    public int Flags { get; set; }

    /// <summary>The heights of the rows from the top (141).</summary>
    public List<double> Heights { get; } = [];

    /// <summary>The widths of the columns (142).</summary>
    public List<double> Widths { get; } = [];

    /// <summary>The cells, row by row; fewer than there are places when the rest could not be read.</summary>
    public List<TableCell> Cells { get; } = [];

    /// <summary>The cell at a place; an empty one when it could not be read.</summary>
    public TableCell this[int row, int column] =>
        (row * Widths.Count) + column is var at && at < Cells.Count ? Cells[at] : new TableCell();
}
