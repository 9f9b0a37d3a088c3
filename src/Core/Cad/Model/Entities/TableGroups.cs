namespace SteadyLintel.Cad;

/// <summary>The cells of a table as groups of DXF (DXF reference, "ACAD_TABLE"): heights, widths, then each cell from its kind (171) to the
/// next.</summary>
internal static class TableGroups
{
    private const string ValueBegin = "CELL_VALUE",
        ValueEnd = "ACVALUE_END";
    private static readonly int[] LineColours = [69, 65, 66, 68],
        LineWeights = [279, 275, 276, 278],
        LineVisibilities = [289, 285, 286, 288];

    /// <summary>The grid that groups tell.</summary>
    /// <param name="groups">The groups of the table that have no field in the entity.</param>
    /// <param name="style">Finds a text style by its name.</param>
    public static TableGrid Read(IEnumerable<CadGroup> groups, Func<string, Handle> style)
    {
        var grid = new TableGrid();
        TableCell? cell = null;
        bool value = false;
        foreach (var group in groups)
        {
            if (group.Code == 301)
                value = group.Text == ValueBegin;
            else if (group.Code == 304 && group.Text == ValueEnd)
                value = false;
            else if (group.Code == 171)
            {
                if (grid.Cells.Count >= TableGrid.MostCells)
                    break;
                grid.Cells.Add(cell = new TableCell { Kind = (int)group.Number });
            }
            else if (cell is null)
                Head(grid, group);
            else if (!value || group.Code is 1 or 2)
                Cell(cell, group, style);
        }

        return grid;
    }

    private static void Head(TableGrid grid, CadGroup group)
    {
        if (group.Code == 342)
            grid.Style = group.Value as Handle? ?? default;
        else if (group.Code == 90)
            grid.Flags = (int)group.Number;
        else if (group.Code == 141)
            grid.Heights.Add(group.Number);
        else if (group.Code == 142)
            grid.Widths.Add(group.Number);
    }

    private static void Cell(TableCell cell, CadGroup group, Func<string, Handle> style)
    {
        int number = (int)Math.Clamp(group.Number, int.MinValue, int.MaxValue);
        switch (group.Code)
        {
            // Long texts come in pieces under 2, the last under 1.
            case 1 or 2:
                cell.Text += group.Text;
                break;
            case 344:
                cell.Field = Named(group);
                break;
            case 340:
                cell.Block = Named(group);
                break;
            case 331:
                cell.Attributes.Add((Named(group), ""));
                break;
            case 300 when cell.Attributes.Count > 0:
                cell.Attributes[^1] = cell.Attributes[^1] with { Text = group.Text };
                break;
            case 144:
                cell.BlockScale = group.Number;
                break;
            case 172:
                cell.Edges = number;
                break;
            case 173:
                cell.IsCovered = number != 0;
                break;
            case 174:
                cell.AutoFit = number != 0;
                break;
            case 175:
                cell.Span = (number, cell.Span.Rows);
                break;
            case 176:
                cell.Span = (cell.Span.Columns, number);
                break;
            case 145:
                cell.Rotation = group.Number * (Math.PI / 180);
                break;
            case 177 or 91:
                cell.Own = number;
                break;
            case 178:
                cell.VirtualEdges = number;
                break;
            case 170:
                cell.Alignment = number;
                break;
            case 283:
                cell.Fill = (number == 0, cell.Fill.Colour);
                break;
            case 63:
                cell.Fill = (cell.Fill.None, new CadColour((short)number));
                break;
            case 64:
                cell.Colour = new CadColour((short)number);
                break;
            case 7:
                cell.Style = style(group.Text);
                break;
            case 140:
                cell.Height = group.Number;
                break;
            default:
                Line(cell, group.Code, number);
                break;
        }
    }

    private static void Line(TableCell cell, int code, int number)
    {
        if (Array.IndexOf(LineColours, code) is >= 0 and var c)
            cell.Lines[c].Colour = new CadColour((short)number);
        else if (Array.IndexOf(LineWeights, code) is >= 0 and var w)
            cell.Lines[w].Weight = number;
        else if (Array.IndexOf(LineVisibilities, code) is >= 0 and var v)
            cell.Lines[v].Visible = number;
    }

    private static Handle Named(CadGroup group) => group.Value as Handle? ?? default;

    /// <summary>Writes the groups of a table that came from DWG.</summary>
    public static void Write(Fields f, Table table)
    {
        var grid = table.Grid;
        f.Short(280, 0);
        f.Reference(342, grid.Style);
        f.Reference(343, table.Block);
        f.Point(11, table.Direction);
        f.Long(90, grid.Flags);
        f.Long(91, grid.Heights.Count);
        f.Long(92, grid.Widths.Count);
        for (int code = 93; code <= 96; code++)
            f.Long(code, 0);
        foreach (double height in grid.Heights)
            f.Double(141, height);
        foreach (double width in grid.Widths)
            f.Double(142, width);
        for (int row = 0; row < grid.Heights.Count; row++)
        for (int column = 0; column < grid.Widths.Count; column++)
            Write(f, grid[row, column]);
    }

    private static void Write(Fields f, TableCell cell)
    {
        f.Short(171, cell.Kind);
        f.Short(172, cell.Edges);
        f.Short(173, cell.IsCovered ? 1 : 0);
        f.Short(174, cell.AutoFit ? 1 : 0);
        f.Short(175, cell.Span.Columns);
        f.Short(176, cell.Span.Rows);
        // From 2007 on what is its own has another code.
        f.Long(f.Since(CadVersion.AC1021) ? 91 : 177, cell.Own);
        f.Short(178, cell.VirtualEdges);
        f.Angle(145, cell.Rotation);
        f.Reference(344, cell.Field);
        if (cell.Kind == TableCell.OfBlock)
            Content(f, cell);
        else
            f.Pieces(2, 1, cell.Text);
        if (Has(cell, TableCell.OwnStyle))
            f.Symbol(7, cell.Style, SymbolKind.Style);
        if (Has(cell, TableCell.OwnHeight))
            f.Double(140, cell.Height);
        if (Has(cell, TableCell.OwnAlignment))
            f.Short(170, cell.Alignment);
        if (Has(cell, TableCell.OwnColour))
            f.Short(64, cell.Colour.Index);
        if (Has(cell, TableCell.OwnFill))
            f.Short(63, cell.Fill.Colour.Index);
        if (Has(cell, TableCell.OwnNoFill))
            f.Short(283, cell.Fill.None ? 0 : 1);
        for (int line = 0; line < cell.Lines.Length; line++)
        {
            if (Has(cell, TableCell.OwnLineColour << line))
                f.Short(LineColours[line], cell.Lines[line].Colour.Index);
            if (Has(cell, TableCell.OwnLineWeight << line))
                f.Short(LineWeights[line], cell.Lines[line].Weight);
            if (Has(cell, TableCell.OwnLineVisibility << line))
                f.Short(LineVisibilities[line], cell.Lines[line].Visible);
        }
    }

    private static void Content(Fields f, TableCell cell)
    {
        f.Reference(340, cell.Block);
        f.Double(144, cell.BlockScale);
        f.Short(179, cell.Attributes.Count);
        foreach (var (definition, text) in cell.Attributes)
        {
            f.Reference(331, definition);
            f.Text(300, text);
        }
    }

    private static bool Has(TableCell cell, int mark) => (cell.Own & mark) != 0;
}
