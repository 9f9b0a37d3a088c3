using SteadyLintel.Exchange;

namespace SteadyLintel.Jobs;

/// <summary>A change of a cell of a grid of properties.</summary>
public sealed record GridEdit
{
    /// <summary>The source.</summary>
    public Guid Source { get; init; }

    /// <summary>The element's GlobalId.</summary>
    public string Element { get; init; } = "";

    /// <summary>The property set.</summary>
    public string Set { get; init; } = "";

    /// <summary>The property.</summary>
    public string Name { get; init; } = "";

    /// <summary>The new value; empty for blank.</summary>
    public string Value { get; init; } = "";

    /// <summary>The amendment that the cell showed; null where it showed none.</summary>
    public Guid? Over { get; init; }

    /// <summary>What the file said in the cell.</summary>
    public FileStatement? Was { get; init; }

    /// <summary>The wish that it makes.</summary>
    public AmendmentWish ToWish() =>
        new(
            Source,
            new Amendment
            {
                Element = Element,
                Set = Set,
                Name = Name,
                Value = Value,
                Was = Was,
            },
            Over
        );
}

/// <summary>A table of a grid as it is edited elsewhere and imported again.</summary>
public static class GridTable
{
    /// <summary>How a blank value is written: an empty cell says that the value is missing, and changes nothing.</summary>
    public const string Blank = "–";

    /// <summary>The rows of a grid, headings first.</summary>
    public static IEnumerable<IReadOnlyList<object?>> Rows(PropertyGrid grid)
    {
        yield return
        [
            "GlobalId",
            "Source",
            "Element",
            "Storey",
            .. grid.Columns.Select(c => $"{c.Set.Name}.{c.Property.Name}"),
        ];
        foreach (var row in grid.Rows)
            yield return
            [
                row.GlobalId,
                row.Source.Title,
                row.Name.Length > 0 ? row.Name : row.Class,
                row.Storey,
                .. row.Cells.Select(c => (object?)Text(c)),
            ];
    }

    /// <summary>The value of a cell that holds, as text.</summary>
    /// <returns>Empty where it is missing, <see cref="Blank"/> where there is none.</returns>
    public static string Text(GridCell? cell)
    {
        if (cell is null)
            return "";
        if (cell.Ours is { Step: Store.AmendmentStep.Holds } ours)
            return ours.Amendment.Value is { Length: > 0 } value ? value : Blank;
        return cell.File.Is switch
        {
            FileStatement.Missing => "",
            FileStatement.Blank => Blank,
            _ => cell.File.Text,
        };
    }

    /// <summary>What an imported table changes in a grid.</summary>
    /// <param name="grid">The grid as it is.</param>
    /// <param name="table">The table.</param>
    /// <returns>The changes, and what cannot be used, a sentence each.</returns>
    public static (IReadOnlyList<GridEdit> Edits, IReadOnlyList<string> Problems) Differences(
        PropertyGrid grid,
        TableRows table
    )
    {
        var edits = new List<GridEdit>();
        var problems = new List<string>();
        int ids = table.Column("GlobalId");
        if (ids < 0)
            return ([], ["Row 1 has no column 'GlobalId'; export the grid and keep that column."]);
        var rows = grid.Rows.ToLookup(r => r.GlobalId);
        foreach (var (number, cells) in table.Rows)
        {
            string id = ids < cells.Count ? cells[ids].Trim() : "";
            if (rows[id].FirstOrDefault() is not { } row)
            {
                problems.Add(FormattableString.Invariant($"Row {number}: no element {id} is in the grid."));
                continue;
            }

            for (int c = 0; c < grid.Columns.Count; c++)
            {
                var (set, property) = grid.Columns[c];
                int at = table.Column($"{set.Name}.{property.Name}");
                string text = at >= 0 && at < cells.Count ? cells[at].Trim() : "";
                if (text.Length == 0 || row.Cells[c] is not { } cell || Same(text, Text(cell)))
                    continue;
                var edit = new GridEdit
                {
                    Source = row.Source.Source.Id,
                    Element = id,
                    Set = set.Name,
                    Name = property.Name,
                    Value = text == Blank ? "" : text,
                    Over = cell.Ours?.Id,
                    Was = cell.File,
                };
                if (AmendmentEditing.ProblemOf(edit.ToWish().Amendment, grid.Template) is { } problem)
                    problems.Add(FormattableString.Invariant($"Row {number}, {set.Name}.{property.Name}: {problem}"));
                else
                    edits.Add(edit);
            }
        }

        return (edits, problems);
    }

    private static bool Same(string a, string b) =>
        a == b || (Measure.Of(a, "") is { } x && Measure.Of(b, "") is { } y && x.Value.Equals(y.Value));
}
