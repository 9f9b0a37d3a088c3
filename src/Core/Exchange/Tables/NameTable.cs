namespace SteadyLintel.Exchange;

/// <summary>What a name in a name table is of.</summary>
public enum NameKind
{
    /// <summary>A storey.</summary>
    Storey,

    /// <summary>A material.</summary>
    Material,

    /// <summary>A type.</summary>
    Type,

    /// <summary>The section of a profile.</summary>
    Section,

    /// <summary>A layer.</summary>
    Layer,
}

/// <summary>A row of a name table.</summary>
/// <param name="Kind">What the name is of.</param>
/// <param name="From">The name as it comes; empty for a name that the receiver has and nothing is called yet.</param>
/// <param name="To">The receiver's name; empty for a name that nobody has matched yet.</param>
public sealed record NameRow(NameKind Kind, string From, string To);

/// <summary>A table from names to the receiver's names.</summary>
/// <param name="Rows">The rows.</param>
public sealed record NameTable(IReadOnlyList<NameRow> Rows)
{
    private static readonly string[] Headings = ["kind", "from", "to"];

    /// <summary>The receiver's name for one; null where nobody has said.</summary>
    public string? Find(NameKind kind, string name) =>
        Rows.FirstOrDefault(r =>
            r.Kind == kind && r.To.Length > 0 && r.From.Equals(name, StringComparison.OrdinalIgnoreCase)
        )?.To;

    /// <summary>The names the receiver has, of one kind.</summary>
    public IReadOnlyList<string> Receivers(NameKind kind) =>
        [.. Rows.Where(r => r.Kind == kind && r.To.Length > 0).Select(r => r.To).Distinct(StringComparer.Ordinal)];

    /// <summary>The word of a kind in files.</summary>
    public static string Word(NameKind kind) => kind.ToString().ToLowerInvariant();

    /// <summary>Reads a table.</summary>
    /// <exception cref="TableException">Rows are empty, doubled or contradict one another.</exception>
    public static NameTable Read(TableRows table)
    {
        var reader = new RowReader(table, ["kind", "from", "to"], []);
        var rows = new List<NameRow>();
        var first = new Dictionary<(NameKind, string), (int Number, string To)>();
        while (reader.Next())
        {
            var (word, from, to) = (reader["kind"], reader["from"], reader["to"]);
            var kinds = Enum.GetValues<NameKind>();
            if (!kinds.Any(k => Word(k).Equals(word, StringComparison.OrdinalIgnoreCase)))
            {
                reader.Problem($"has the kind '{word}'; {string.Join(", ", kinds.Select(Word))} are known");
                continue;
            }

            var kind = kinds.First(k => Word(k).Equals(word, StringComparison.OrdinalIgnoreCase));
            if (from.Length + to.Length == 0)
                reader.Problem("has neither a received name nor an issued name");
            if (from.Length > 0 && !first.TryAdd((kind, from.ToLowerInvariant()), (reader.Number, to)))
            {
                var (number, said) = first[(kind, from.ToLowerInvariant())];
                reader.Problem(
                    said == to
                        ? $"says the same as row {number}; remove one"
                        : $"calls the {Word(kind)} '{from}' '{to}', row {number} calls it '{said}'; keep one"
                );
            }

            rows.Add(new NameRow(kind, from, to));
        }

        reader.End("name table");
        return new NameTable(rows);
    }

    /// <summary>The table as rows of a file, headings first.</summary>
    public IEnumerable<IReadOnlyList<object?>> ToRows() =>
        Rows.Select(r => (IReadOnlyList<object?>)[Word(r.Kind), r.From, r.To]).Prepend(Headings);
}
