namespace SteadyLintel.Exchange;

/// <summary>A row of a class table.</summary>
/// <param name="When">Which elements.</param>
/// <param name="To">The class they get; null where they are not sent.</param>
/// <param name="Predefined">The predefined type they get; empty to keep their own.</param>
public sealed record ClassRow(ElementCondition When, string? To, string Predefined);

/// <summary>A table from classes, with conditions, to the receiver's classes, or to nothing: the first row that holds decides.</summary>
/// <param name="Rows">The rows, in order.</param>
public sealed record ClassTable(IReadOnlyList<ClassRow> Rows)
{
    /// <summary>The word for elements that stay.</summary>
    public const string DoNotSend = "do not send";

    /// <summary>The reason of the balance for elements that stay by a class table.</summary>
    public const string NotSent = "not sent by the class table";

    private static readonly string[] Headings = ["class", "predefined type", "property", "value", "to"];

    /// <summary>The row that decides about an element; null where none holds.</summary>
    public ClassRow? Find(SelectionSubject subject) => Rows.FirstOrDefault(r => r.When.Holds(subject));

    /// <summary>Reads a table.</summary>
    /// <exception cref="TableException">Rows are empty, doubled or contradict one another.</exception>
    public static ClassTable Read(TableRows table)
    {
        var reader = new RowReader(table, ["class", "to"], Headings);
        var rows = new List<ClassRow>();
        var numbers = new List<int>();
        var first = new Dictionary<ElementCondition, (int Number, string To)>();
        while (reader.Next())
        {
            var when = ElementCondition.Of(reader);
            string to = reader["to"];
            if (when.Class.Length == 0)
                reader.Problem("names no class; write * for every element");
            if (to.Length == 0)
                reader.Problem($"names no class to become; write a class or '{DoNotSend}'");
            if (!first.TryAdd(when, (reader.Number, to)))
                reader.Problem(
                    first[when].To.Equals(to, StringComparison.OrdinalIgnoreCase)
                        ? $"says the same as row {first[when].Number}; remove one"
                        : $"makes {when} '{to}', row {first[when].Number} makes it '{first[when].To}'; keep one"
                );
            else if (rows.FindIndex(r => r.When.Covers(when)) is >= 0 and var before)
                reader.Problem(
                    $"never matches: row {numbers[before]} takes {when} before it; put it above that row, or remove it"
                );
            numbers.Add(reader.Number);
            if (
                to.Length > 0
                && !to.Equals(DoNotSend, StringComparison.OrdinalIgnoreCase)
                && ClassWords.Problem(to) is { } unknown
            )
                reader.Problem($"names a class to become that is none: {unknown.TrimEnd('.')}");
            bool stays = to.Equals(DoNotSend, StringComparison.OrdinalIgnoreCase);
            rows.Add(
                new ClassRow(
                    when,
                    stays ? null : to.Split('.')[0],
                    to.Contains('.', StringComparison.Ordinal) ? to.Split('.', 2)[1] : ""
                )
            );
        }

        reader.End("class table");
        return new ClassTable(rows);
    }
}
