namespace SteadyLintel.Exchange;

/// <summary>Property set templates as a table, CSV or XLSX: a row for each property.</summary>
public static class TemplateTable
{
    private static readonly string[] Needed = ["set", "classes", "property"];

    private static readonly string[] Known =
    [
        "type",
        "form",
        "unit",
        "words",
        "several",
        "pattern",
        "default",
        "required",
        "not for exchange",
        "description",
    ];

    /// <summary>Reads a table.</summary>
    /// <exception cref="TableException">Rows are wrong; each with its number.</exception>
    public static TemplateDocument Read(TableRows table)
    {
        var row = new RowReader(table, Needed, Known);
        var sets = new List<PropertySetTemplate>();
        while (row.Next())
        {
            string name = row["set"];
            string[] classes = [.. Split(row["classes"])];
            int at = sets.FindIndex(s => s.Name == name);
            if (at < 0)
            {
                sets.Add(new PropertySetTemplate { Name = name, Classes = classes });
                at = sets.Count - 1;
                foreach (string problem in new TemplateDocument { Sets = [sets[at]] }.Problems())
                    row.Problem($"is wrong: {problem.TrimEnd('.')}");
            }
            else if (classes.Length > 0 && !classes.SequenceEqual(sets[at].Classes))
                row.Problem($"gives {name} other classes than a row before it; a set has one list of classes");
            var property = Property(row);
            if (property.Problem() is { } wrong)
                row.Problem($"is wrong: {property.Name} {wrong}");
            if (sets[at].Find(property.Name) is not null)
                row.Problem($"has {name}.{property.Name} a second time");
            sets[at] = sets[at] with { Properties = [.. sets[at].Properties, property] };
        }

        row.End("template");
        return new TemplateDocument { Sets = sets };
    }

    /// <summary>The rows of a document, headings first.</summary>
    public static IEnumerable<IReadOnlyList<object?>> Write(TemplateDocument document)
    {
        yield return [.. Needed, .. Known];
        foreach (var set in document.Sets)
        foreach (var p in set.Properties)
            yield return
            [
                set.Name,
                string.Join("; ", set.Classes),
                p.Name,
                p.Type,
                p.Form,
                p.Unit,
                string.Join("; ", p.Words),
                p.Several ? "yes" : "",
                p.Pattern,
                p.Default,
                p.Required ? "yes" : "",
                p.NotForExchange ? "yes" : "",
                p.Description,
            ];
    }

    private static PropertyTemplate Property(RowReader row)
    {
        string type = row["type"].Length == 0 ? "IfcLabel" : row["type"];
        string[] words = [.. Split(row["words"])];
        string form = row["form"];
        return new PropertyTemplate
        {
            Name = row["property"],
            Type = PropertyTypes.Find(type) ?? type,
            Form =
                form.Length > 0 ? form.ToLowerInvariant()
                : words.Length > 0 ? "choice"
                : "single",
            Unit = row["unit"],
            Words = words,
            Several = Yes(row, "several"),
            Pattern = row["pattern"],
            Default = row["default"],
            Required = Yes(row, "required"),
            NotForExchange = Yes(row, "not for exchange"),
            Description = row["description"],
        };
    }

    private static bool Yes(RowReader row, string heading)
    {
        switch (row[heading].ToUpperInvariant())
        {
            case "YES" or "TRUE" or "X" or "1":
                return true;
            case "" or "NO" or "FALSE" or "0":
                return false;
            default:
                row.Problem($"has '{row[heading]}' under {heading}; write yes or leave it empty");
                return false;
        }
    }

    private static IEnumerable<string> Split(string cell) =>
        cell.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
}
