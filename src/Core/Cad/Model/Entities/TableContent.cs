namespace SteadyLintel.Cad;

/// <summary>A table in DWG from 2010 on: columns, rows of cells with their contents and styles, merged ranges (Open Design specification,
/// 20.4.96 to 20.4.101, from memory).</summary>
internal static class TableContent
{
    private const int OfValue = 1,
        OfField = 2,
        OfBlock = 4,
        OfCell = 1,
        OfRow = 2,
        OfColumn = 3,
        OfTable = 4;
    private const int OwnRotation = 0x10,
        OwnScale = 0x20,
        OwnAlignment = 0x40,
        OwnColour = 0x80,
        OwnStyle = 0x100,
        OwnHeight = 0x200;
    private const int UsualForm = 38;

    /// <summary>Reads or writes the fields behind those of the insert.</summary>
    public static void Exchange(DwgFields d, Table table)
    {
        var grid = table.Grid;
        d.RawByte(0);
        d.Handle(default, HandleKind.SoftPointer);
        d.Long(0);
        if (d.Since(CadVersion.AC1027))
            d.Long(0);
        else
            d.Bit(true);
        Content(d, grid);
        d.Short(UsualForm);
        table.Direction = d.Point(11, table.Direction);
        table.Size = (grid.Heights.Count, grid.Widths.Count);
        Breaks(d);
        if (!d.IsAtEnd)
            throw new CadFormatException("a table that does not fit its fields");
    }

    // Where it is broken into pieces; the picture shows that.
    private static void Breaks(DwgFields d)
    {
        if (d.Long(0) != 0)
        {
            d.Long(0);
            d.Long(0);
            d.Double(0);
            d.Long(0);
            d.Long(0);
            for (int heights = d.Count(0); heights > 0; heights--)
            {
                d.Point(0, default);
                d.Double(0);
                d.Long(0);
            }
        }

        for (int ranges = d.Count(0); ranges > 0; ranges--)
        {
            d.Point(0, default);
            d.Long(0);
            d.Long(0);
        }
    }

    private static void Content(DwgFields d, TableGrid grid)
    {
        d.Text(1, "");
        d.Text(300, "");
        int columns = d.Count(grid.Widths.Count);
        d.Items(grid.Widths, columns, 0, width =>
        {
            d.Text(300, "");
            d.Long(0);
            Custom(d);
            Style(d, OfColumn, null);
            d.Long(0);
            return d.Double(width);
        });
        int rows = d.Count(grid.Heights.Count),
            row = 0;
        if ((long)rows * columns > TableGrid.MostCells)
            throw new CadFormatException($"{rows} rows of {columns} cells");
        d.Items(grid.Heights, rows, 0, height => Row(d, grid, columns, row++, height));
        for (int fields = d.Count(0); fields > 0; fields--)
            d.Handle(default, HandleKind.HardOwner);
        Style(d, OfTable, null);
        Merged(d, grid, columns);
        grid.Style = d.Handle(grid.Style, HandleKind.HardPointer);
    }

    private static double Row(DwgFields d, TableGrid grid, int columns, int row, double height)
    {
        int cells = d.Count(columns);
        if (cells != columns)
            throw new CadFormatException($"a row of {cells} cells in a table of {columns} columns");
        for (int c = 0; c < cells; c++)
        {
            var cell = d.Reading ? new TableCell() : grid[row, c];
            Cell(d, cell);
            if (d.Reading)
                grid.Cells.Add(cell);
        }

        d.Long(0);
        Custom(d);
        Style(d, OfRow, null);
        d.Long(0);
        return d.Double(height);
    }

    private static void Cell(DwgFields d, TableCell cell)
    {
        d.Long(0);
        d.Text(300, "");
        d.Long(0);
        Custom(d);
        if (d.Long(0) != 0)
        {
            d.Handle(default, HandleKind.SoftPointer);
            for (int i = 0; i < 3; i++)
                d.Long(0);
        }

        for (
            int contents = d.Count(cell.Text.Length > 0 || cell.Kind == TableCell.OfBlock ? 1 : 0);
            contents > 0;
            contents--
        )
            Contents(d, cell);
        Style(d, OfCell, cell);
        d.Long(0);
        if (d.Long(0) == 0)
            return;
        d.Long(0);
        d.Double(0);
        d.Double(0);
        bool measured = d.Long(0) != 0;
        d.Handle(default, HandleKind.SoftPointer);
        if (measured)
            Measures(d);
    }

    // Where the content is and how large it is, as last drawn.
    private static void Measures(DwgFields d)
    {
        for (int i = 0; i < 10; i++)
            d.Double(0);
        d.Long(0);
    }

    private static void Contents(DwgFields d, TableCell cell)
    {
        int kind = d.Long(cell.Kind == TableCell.OfBlock ? OfBlock : OfValue);
        if (kind == OfValue)
            TableValue.Exchange(d, cell);
        else if (kind == OfField)
            cell.Field = d.Handle(cell.Field, HandleKind.SoftPointer);
        else if (kind == OfBlock)
        {
            cell.Kind = TableCell.OfBlock;
            cell.Block = d.Handle(cell.Block, HandleKind.HardPointer);
        }

        int attributes = d.Count(cell.Attributes.Count),
            number = 0;
        d.Items(cell.Attributes, attributes, 0, a =>
        {
            var definition = d.Handle(a.Definition, HandleKind.SoftPointer);
            string text = d.Text(301, a.Text ?? "");
            d.Long(++number);
            return (definition, text);
        });
        if (d.Short(0) != 0)
            Format(d, cell);
    }

    private static void Custom(DwgFields d)
    {
        for (int items = d.Count(0); items > 0; items--)
        {
            d.Text(300, "");
            TableValue.Exchange(d, new TableCell());
        }
    }

    private static void Style(DwgFields d, int kind, TableCell? cell)
    {
        d.Long(kind);
        if (d.Short(cell?.Own > 0 ? 1 : 0) == 0)
            return;
        cell ??= new TableCell();
        d.Long(0);
        d.Long(0);
        cell.Fill = (cell.Fill.None, d.Colour(62, cell.Fill.Colour));
        d.Long(0);
        Format(d, cell);
        if (d.Short(0) != 0)
            for (int i = 0; i < 6; i++)
                d.Double(0);
        int lines = d.Count(0);
        for (int i = 0; i < lines; i++)
            if (d.Long(0) != 0)
                Border(d);
    }

    private static void Border(DwgFields d)
    {
        d.Long(0);
        d.Long(0);
        d.Colour(62, CadColour.ByBlock);
        d.Long(0);
        d.Handle(default, HandleKind.HardPointer);
        d.Long(0);
        d.Double(0);
    }

    private static void Format(DwgFields d, TableCell cell)
    {
        int own = d.Long(ToContent(cell.Own));
        d.Long(0);
        d.Long(0);
        d.Long(0);
        d.Text(300, "");
        cell.Rotation = d.Double(cell.Rotation);
        cell.BlockScale = d.Double(cell.BlockScale);
        cell.Alignment = d.Long(cell.Alignment);
        cell.Colour = d.Colour(62, cell.Colour);
        cell.Style = d.Handle(cell.Style, HandleKind.HardPointer);
        cell.Height = d.Double(cell.Height);
        if (d.Reading)
            cell.Own |= FromContent(own);
    }

    private static readonly (int Content, int Cell)[] Marks =
    [
        (OwnAlignment, TableCell.OwnAlignment),
        (OwnColour, TableCell.OwnColour),
        (OwnStyle, TableCell.OwnStyle),
        (OwnHeight, TableCell.OwnHeight),
    ];

    private static int ToContent(int own) => Marks.Where(m => (own & m.Cell) != 0).Sum(m => m.Content);

    private static int FromContent(int own) => Marks.Where(m => (own & m.Content) != 0).Sum(m => m.Cell);

    private static void Merged(DwgFields d, TableGrid grid, int columns)
    {
        var ranges = new List<(int Top, int Left, int Bottom, int Right)>();
        if (!d.Reading)
            for (int i = 0; i < grid.Cells.Count && columns > 0; i++)
                if (grid.Cells[i].Span is (> 1, _) or (_, > 1))
                    ranges.Add(
                        (
                            i / columns,
                            i % columns,
                            (i / columns) + grid.Cells[i].Span.Rows - 1,
                            (i % columns) + grid.Cells[i].Span.Columns - 1
                        )
                    );
        d.Items(ranges, d.Count(ranges.Count), 0, r =>
            (d.Long(r.Top), d.Long(r.Left), d.Long(r.Bottom), d.Long(r.Right))
        );
        if (!d.Reading)
            return;
        foreach (var (top, left, bottom, right) in ranges)
        {
            if (top < 0 || left < 0 || bottom < top || right < left || bottom >= grid.Heights.Count || right >= columns)
                continue;
            grid[top, left].Span = (right - left + 1, bottom - top + 1);
            for (int r = top; r <= bottom; r++)
            for (int c = left; c <= right; c++)
                if (r > top || c > left)
                    grid[r, c].IsCovered = true;
        }
    }
}
