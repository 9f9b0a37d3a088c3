namespace SteadyLintel.Exchange;

/// <summary>Values of properties as a table, CSV or XLSX, a row for each: <c>GlobalId, Set, Property, Value, Type, Unit</c>.</summary>
public static class ValueTable
{
    private static readonly string[] Needed = ["GlobalId", "Set", "Property", "Value"];
    private static readonly string[] Known = ["Type", "Unit"];

    /// <summary>Reads a table into amendments, each with the number of its row.</summary>
    /// <param name="table">The table. An empty value is blank.</param>
    /// <param name="template">Types of properties that the table does not name; null for none.</param>
    /// <exception cref="TableException">Rows are wrong; each with its number.</exception>
    public static IReadOnlyList<(int Row, Amendment Amendment)> Read(TableRows table, TemplateDocument? template)
    {
        var row = new RowReader(table, Needed, Known);
        var read = new List<(int, Amendment)>();
        var first = new Dictionary<string, (int Row, string Value)>(StringComparer.Ordinal);
        while (row.Next())
        {
            var known = template?.Find(row["Set"], row["Property"]);
            var amendment = new Amendment
            {
                Element = row["GlobalId"],
                Set = row["Set"],
                Name = row["Property"],
                Value = row["Value"],
                Type = row["Type"].Length > 0 ? row["Type"] : known?.Type,
                Form = known?.Form,
                Unit =
                    row["Unit"].Length > 0 ? row["Unit"]
                    : known is { Unit.Length: > 0 } ? known.Unit
                    : null,
                NotForExchange = known is { NotForExchange: true } ? true : null,
            };
            if (Problem(amendment, known) is { } problem)
                row.Problem($"is wrong: {problem.TrimEnd('.')}");
            if (!first.TryAdd(amendment.Subject, (row.Number, amendment.Value)))
                row.Problem(
                    $"gives {amendment.Set}.{amendment.Name} of {amendment.Element} a second time; row {first[amendment.Subject].Row} says '{first[amendment.Subject].Value}'"
                );
            read.Add((row.Number, amendment));
        }

        row.End("table of values");
        return read;
    }

    /// <summary>The rows of values, headings first.</summary>
    public static IEnumerable<IReadOnlyList<object?>> Write(IEnumerable<Amendment> amendments)
    {
        yield return [.. Needed, .. Known];
        foreach (var a in amendments.Where(a => a.Kind == AmendmentKind.Property))
            yield return [a.Element, a.Set, a.Name, a.Value, a.Type ?? "", a.Unit ?? ""];
    }

    private static string? Problem(Amendment amendment, PropertyTemplate? template)
    {
        if (amendment.Problem() is { } problem)
            return problem;
        try
        {
            string type = PropertyTypes.Find(amendment.Type ?? "") ?? TypedValue.TypeOf(amendment.Value!);
            var value = TypedValue.Read(
                amendment.Value!,
                PropertyForms.Find(amendment.Form ?? "") ?? PropertyForm.Single,
                type
            );
            return template is null ? null : value.ProblemBy(template);
        }
        catch (FormatException e)
        {
            return e.Message;
        }
    }
}
