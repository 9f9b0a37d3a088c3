namespace SteadyLintel.Exchange;

/// <summary>A row of a property list.</summary>
/// <param name="Set">The set's name, with <c>*</c> and <c>?</c>.</param>
/// <param name="Property">The property's name, with <c>*</c> and <c>?</c>.</param>
/// <param name="AsSet">The set's name as it goes; empty to keep it.</param>
/// <param name="As">The property's name as it goes; empty to keep it.</param>
/// <param name="Blanks">Whether it goes though it has no value; null as the order says.</param>
/// <param name="Unit">The unit its number goes in; null for the one it has.</param>
public sealed record PropertyRow(
    string Set,
    string Property,
    string AsSet,
    string As,
    bool? Blanks,
    PropertyUnit? Unit = null
)
{
    /// <summary>Whether the row is about a property.</summary>
    public bool Holds(string set, string property) =>
        System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(Set, set)
        && System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(Property, property);

    /// <summary>Whether a set and a property can have the names that the row gives.</summary>
    public bool GivesName(string set, string property) =>
        (AsSet.Length > 0 ? AsSet == set : System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(Set, set))
        && (
            As.Length > 0
                ? As == property
                : System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(Property, property)
        );

    /// <summary>The name of the set as it goes.</summary>
    public string SetName(string set) => AsSet.Length > 0 ? AsSet : set;

    /// <summary>The name of the property as it goes.</summary>
    public string Name(string property) => As.Length > 0 ? As : property;
}

/// <summary>The properties that travel, in the order of the list; what is not in it stays.</summary>
/// <param name="Rows">The rows.</param>
public sealed record PropertyList(IReadOnlyList<PropertyRow> Rows)
{
    /// <summary>All properties as they are.</summary>
    public static readonly PropertyList All = new([new PropertyRow("*", "*", "", "", null)]);

    private static readonly string[] Headings = ["set", "property", "as set", "as", "blanks", "unit"];

    /// <summary>The row that lets a property travel; null where it stays.</summary>
    public PropertyRow? Find(string set, string property) => Rows.FirstOrDefault(r => r.Holds(set, property));

    /// <summary>Reads a list.</summary>
    /// <exception cref="TableException">Rows are empty, doubled or contradict one another, or give two properties one name.</exception>
    public static PropertyList Read(TableRows table)
    {
        var reader = new RowReader(table, ["set", "property"], Headings);
        var rows = new List<PropertyRow>();
        var numbers = new List<int>();
        var first = new Dictionary<(string, string), int>();
        var names = new Dictionary<(string, string), int>();
        while (reader.Next())
        {
            var (set, property) = (reader["set"], reader["property"]);
            if (set.Length == 0 || property.Length == 0)
                reader.Problem("needs a set and a property; * means any");
            bool pattern = Wildcards.Are(set),
                open = Wildcards.Are(property);
            if (open && reader["as"].Length > 0)
                reader.Problem("gives many properties one name; name them one by one");
            if (!first.TryAdd((set.ToLowerInvariant(), property.ToLowerInvariant()), reader.Number))
                reader.Problem(
                    $"names {set}.{property} again, after row {first[(set.ToLowerInvariant(), property.ToLowerInvariant())]}; keep one"
                );
            else if (
                rows.FindIndex(r => Wildcards.Covers(r.Set, set) && Wildcards.Covers(r.Property, property))
                is >= 0
                    and var before
            )
                reader.Problem(
                    $"never matches: row {numbers[before]} takes {set}.{property} before it; put it above that row, or remove it"
                );
            numbers.Add(reader.Number);
            var row = new PropertyRow(set, property, reader["as set"], reader["as"], Blanks(reader), UnitOf(reader));
            var name = (row.SetName(set).ToLowerInvariant(), row.Name(property).ToLowerInvariant());
            if (!open && !pattern && !names.TryAdd(name, reader.Number))
                reader.Problem(
                    $"calls a property {row.SetName(set)}.{row.Name(property)}, as row {names[name]} does; two would be one"
                );
            rows.Add(row);
        }

        reader.End("property list");
        return new PropertyList(rows);
    }

    /// <summary>The list as rows of a file, headings first.</summary>
    public IEnumerable<IReadOnlyList<object?>> ToRows() =>
        Rows.Select(r =>
                (IReadOnlyList<object?>)
                    [
                        r.Set,
                        r.Property,
                        r.AsSet,
                        r.As,
                        r.Blanks switch
                        {
                            true => "keep",
                            false => "out",
                            _ => "",
                        },
                        r.Unit?.Symbol ?? "",
                    ]
            )
            .Prepend(Headings);

    private static PropertyUnit? UnitOf(RowReader row)
    {
        string word = row["unit"];
        var unit = PropertyUnit.Find(word);
        if (word.Length > 0 && unit is null)
            row.Problem(
                $"has the unit '{word}'; {string.Join(", ", PropertyUnit.All.Select(u => u.Symbol))} are known"
            );
        return unit;
    }

    private static bool? Blanks(RowReader row)
    {
        string word = row["blanks"].ToLowerInvariant();
        if (word is not ("" or "keep" or "out"))
            row.Problem($"has '{word}' for blanks; keep, out or nothing is known");
        return word switch
        {
            "keep" => true,
            "out" => false,
            _ => null,
        };
    }
}
