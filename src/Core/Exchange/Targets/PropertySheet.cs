using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Exchange;

/// <summary>A table of properties beside the files of a hand-over: a row an element, a column a property, found by GlobalId.</summary>
internal static class PropertySheet
{
    private static readonly string[] Fixed = ["GlobalId", "Class", "Name", "Storey", "Party", "Source"];

    private static readonly JsonSerializerOptions Json = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
    };

    /// <summary>Writes the table of everything that goes, and reads it again.</summary>
    /// <param name="plan">The order.</param>
    /// <param name="reconciler">Knows what was left out on the way.</param>
    /// <param name="names">Names the file.</param>
    /// <param name="target">Where it goes.</param>
    /// <param name="cancel">Stops between elements.</param>
    /// <returns>The file's name, how many elements it has, and whether every cell came back.</returns>
    public static (string Name, int Elements, ReconciliationCheck Check) Write(
        HandoverPlan plan,
        Reconciler reconciler,
        FileNames names,
        IFileSet target,
        CancellationToken cancel
    )
    {
        var rows = Rows(plan, reconciler, cancel);
        // Columns in the order of the property list, then as elements have them.
        var listed = (plan.Order.Properties ?? PropertyList.All).Rows;
        var keys = rows.SelectMany(r => r.Properties)
            .DistinctBy(p => (p.Key, p.Unit))
            .OrderBy(p => listed.TakeWhile(r => !r.GivesName(p.Set, p.Name)).Count())
            .Select(p => (p.Key, p.Unit))
            .ToList();
        List<object?[]> cells =
        [
            [.. Fixed, .. keys.Select(k => k.Unit.Length == 0 ? k.Key : $"{k.Key} [{k.Unit}]")],
        ];
        foreach (var (head, properties) in rows)
        {
            var row = new object?[Fixed.Length + keys.Count];
            head.CopyTo(row, 0);
            var values = properties.ToDictionary(p => (p.Key, p.Unit), p => p.Value);
            for (int k = 0; k < keys.Count; k++)
                row[Fixed.Length + k] = values.GetValueOrDefault(keys[k]);
            cells.Add(row);
        }

        string form = plan.Order.PropertyTable!;
        string name = names.Next(
            new NameValues(
                string.Join("+", plan.Sources.Select(s => s.Party).Distinct()),
                string.Join("+", plan.Sources.Select(s => s.Label).Distinct()),
                FileGroups.All
            ),
            $"-properties.{form}"
        );
        byte[] bytes = form switch
        {
            "csv" => TableFile.WriteCsv(cells),
            "xlsx" => TableFile.WriteXlsx(cells, "Properties"),
            _ => JsonSerializer.SerializeToUtf8Bytes(rows.Select(Object), Json),
        };
        using (var stream = target.Create(name))
            stream.Write(bytes);
        var read = target.Read(name);
        int same = form == "json" ? SameJson(read, rows) : SameCells(TableFile.Read(read), cells);
        int all = form == "json" ? rows.Sum(r => Fixed.Length + r.Properties.Count) : cells.Skip(1).Sum(r => r.Length);
        return (name, rows.Count, new ReconciliationCheck("cells of the property table", same, all - same, 0));
    }

    private static List<(string[] Head, IReadOnlyList<OutgoingProperty> Properties)> Rows(
        HandoverPlan plan,
        Reconciler reconciler,
        CancellationToken cancel
    )
    {
        var outgoing = new OutgoingProperties(plan);
        var rows = new List<(string[], IReadOnlyList<OutgoingProperty>)>();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            int number = s;
            var source = plan.Sources[s];
            var going = plan.Going(s).Where(e => reconciler.ReasonOf(number, e) is null).ToList();
            void Add(ModelElement e, Ifc.Shape? shape) =>
                rows.Add(
                    (
                        [e.GlobalId, e.Class, e.Name, source.Snapshot.StoreyName(e.Storey), source.Party, source.Label],
                        outgoing.Of(number, e, shape)
                    )
                );
            if (plan.Order.Computed)
                source.Snapshot.ForEachShape(going, Add, 0, cancel);
            else
                foreach (var element in going)
                {
                    cancel.ThrowIfCancellationRequested();
                    Add(element, null);
                }
        }

        return rows;
    }

    private static SortedDictionary<string, object?> Object(
        (string[] Head, IReadOnlyList<OutgoingProperty> Properties) row
    )
    {
        var item = new SortedDictionary<string, object?>(StringComparer.Ordinal);
        for (int n = 0; n < Fixed.Length; n++)
            item[JsonNamingPolicy.CamelCase.ConvertName(Fixed[n])] = row.Head[n];
        item["properties"] = row
            .Properties.GroupBy(p => p.Set)
            .ToDictionary(g => g.Key, g => g.ToDictionary(p => p.Name, p => p.Value));
        return item;
    }

    private static int SameCells(TableRows read, List<object?[]> cells)
    {
        if (read.Rows.Count != cells.Count - 1)
            return 0;
        int same = 0;
        for (int r = 1; r < cells.Count; r++)
        for (int c = 0; c < cells[r].Length; c++)
        {
            var row = read.Rows[r - 1].Cells;
            if ((c < row.Count ? row[c] : "") == TableFile.Text(cells[r][c]))
                same++;
        }

        return same;
    }

    private static int SameJson(
        ReadOnlyMemory<byte> bytes,
        List<(string[] Head, IReadOnlyList<OutgoingProperty> Properties)> rows
    )
    {
        using var document = JsonDocument.Parse(bytes);
        if (document.RootElement.GetArrayLength() != rows.Count)
            return 0;
        int same = 0;
        foreach (var (item, (head, properties)) in document.RootElement.EnumerateArray().Zip(rows))
        {
            for (int n = 0; n < Fixed.Length; n++)
                if (item.GetProperty(JsonNamingPolicy.CamelCase.ConvertName(Fixed[n])).GetString() == head[n])
                    same++;
            foreach (var property in properties)
                if (
                    item.GetProperty("properties").TryGetProperty(property.Set, out var set)
                    && set.TryGetProperty(property.Name, out var value)
                    && Same(value, property.Value)
                )
                    same++;
        }

        return same;
    }

    private static bool Same(JsonElement found, object? value) =>
        value switch
        {
            null => found.ValueKind == JsonValueKind.Null,
            bool truth => found.ValueKind == (truth ? JsonValueKind.True : JsonValueKind.False),
            double number => found.ValueKind == JsonValueKind.Number && found.GetDouble().Equals(number),
            _ => found.ValueKind == JsonValueKind.String && found.GetString() == (string)value,
        };
}
