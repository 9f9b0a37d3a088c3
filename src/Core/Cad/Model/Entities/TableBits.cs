namespace SteadyLintel.Cad;

/// <summary>A table in DWG up to 2007: an insert with a grid behind it (Open Design specification, 20.4.96, from memory).</summary>
internal static class TableBits
{
    private const int OfTable = 0x16;

    /// <summary>Reads or writes the fields behind those of the insert.</summary>
    public static void Exchange(DwgFields d, Table table)
    {
        var grid = table.Grid;
        if (!d.Reading && grid.Flags == 0)
            grid.Flags = OfTable;
        grid.Flags = d.Short(grid.Flags);
        table.Direction = d.Point(11, table.Direction);
        int columns = d.Count(grid.Widths.Count),
            rows = d.Count(grid.Heights.Count);
        d.Items(grid.Widths, columns, 142, w => d.Double(w));
        d.Items(grid.Heights, rows, 141, h => d.Double(h));
        if (d.Reading)
            ReadCells(d, grid, table.Size = (rows, columns));
        else
            Cells(d, grid, rows * columns);
    }

    // Of cells the layout is from memory: where they do not fit they are left empty, and the picture shows them.
    private static void ReadCells(DwgFields d, TableGrid grid, (int Rows, int Columns) size)
    {
        try
        {
            if ((long)size.Rows * size.Columns > TableGrid.MostCells)
                throw new CadFormatException($"{size.Rows} rows of {size.Columns} cells");
            Cells(d, grid, size.Rows * size.Columns);
        }
        catch (CadFormatException)
        {
            grid.Cells.Clear();
        }
    }

    private static void Cells(DwgFields d, TableGrid grid, int count)
    {
        d.Items(grid.Cells, count, 171, c => Cell(d, c ?? new TableCell()));
        // What of the style is overridden by table, colours, weights and visibilities of lines: nothing when written. Where there is
        // something the end cannot be known, nor whether the cells fit.
        bool overridden = false;
        for (int i = 0; i < 4 && !overridden; i++)
            overridden = d.Bit(false);
        if (overridden || !d.IsAtEnd)
            throw new CadFormatException("cells that do not fit");
    }

    private static TableCell Cell(DwgFields d, TableCell cell)
    {
        cell.Kind = d.Short(cell.Kind);
        cell.Edges = d.RawByte(cell.Edges);
        cell.IsCovered = d.Bit(cell.IsCovered);
        cell.AutoFit = d.Bit(cell.AutoFit);
        cell.Span = (d.Long(cell.Span.Columns), d.Long(cell.Span.Rows));
        cell.Rotation = d.Double(cell.Rotation);
        cell.Field = d.Handle(cell.Field, HandleKind.SoftPointer);
        if (cell.Kind == TableCell.OfBlock)
            Block(d, cell);
        else if (cell.Kind == TableCell.OfText && cell.Field.IsNull)
            cell.Text = d.Text(1, cell.Text);
        if (d.Bit(cell.Own != 0))
            Own(d, cell);
        if (d.Since(CadVersion.AC1021))
            TableValue.Exchange(d, cell);
        return cell;
    }

    private static void Block(DwgFields d, TableCell cell)
    {
        cell.Block = d.Handle(cell.Block, HandleKind.HardPointer);
        cell.BlockScale = d.Double(cell.BlockScale);
        if (!d.Bit(cell.Attributes.Count > 0))
            return;
        int count = d.Bounded(d.Short(cell.Attributes.Count)),
            number = 0;
        d.Items(cell.Attributes, count, 331, a =>
        {
            var definition = d.Handle(a.Definition, HandleKind.SoftPointer);
            d.Short(++number);
            return (definition, d.Text(300, a.Text ?? ""));
        });
    }

    private static void Own(DwgFields d, TableCell cell)
    {
        cell.Own = d.Long(cell.Own);
        cell.VirtualEdges = d.RawByte(cell.VirtualEdges);
        if (Has(TableCell.OwnAlignment))
            cell.Alignment = d.RawShort(cell.Alignment);
        if (Has(TableCell.OwnNoFill))
            cell.Fill = (d.Bit(cell.Fill.None), cell.Fill.Colour);
        if (Has(TableCell.OwnFill))
            cell.Fill = (cell.Fill.None, d.Colour(63, cell.Fill.Colour));
        if (Has(TableCell.OwnColour))
            cell.Colour = d.Colour(64, cell.Colour);
        if (Has(TableCell.OwnStyle))
            cell.Style = d.Handle(cell.Style, HandleKind.HardPointer);
        if (Has(TableCell.OwnHeight))
            cell.Height = d.Double(cell.Height);
        for (int line = 0; line < cell.Lines.Length; line++)
        {
            var (colour, weight, visible) = cell.Lines[line];
            if (Has(TableCell.OwnLineColour << line))
                colour = d.Colour(69, colour);
            if (Has(TableCell.OwnLineWeight << line))
                weight = d.Short(weight);
            if (Has(TableCell.OwnLineVisibility << line))
                visible = d.Short(visible);
            cell.Lines[line] = (colour, weight, visible);
        }

        bool Has(int mark) => (cell.Own & mark) != 0;
    }
}
