using System.Globalization;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>A row of a layer table.</summary>
/// <param name="When">Which elements.</param>
/// <param name="Layer">The layer's name.</param>
/// <param name="Colour">Its colour; null leaves elements their own.</param>
/// <param name="LineType">Its line type; empty for continuous.</param>
/// <param name="Weight">Its line weight in millimetres; null for the usual.</param>
public sealed record LayerRow(ElementCondition When, string Layer, CadColour? Colour, string LineType, double? Weight);

/// <summary>A table from classes, with conditions, to layers: the first row that holds decides.</summary>
/// <param name="Rows">The rows, in order.</param>
public sealed record LayerTable(IReadOnlyList<LayerRow> Rows)
{
    /// <summary>The line types that can be named, with their dashes and gaps in millimetres on paper of 1:100, by common
    /// practice.</summary>
    internal static readonly IReadOnlyDictionary<string, double[]> LineTypes = new Dictionary<string, double[]>(
        StringComparer.OrdinalIgnoreCase
    )
    {
        ["CONTINUOUS"] = [],
        ["DASHED"] = [4, -2],
        ["HIDDEN"] = [2, -1],
        ["CENTER"] = [10, -2, 2, -2],
        ["DASHDOT"] = [6, -2, 0, -2],
        ["DOT"] = [0, -2],
        ["PHANTOM"] = [10, -2, 2, -2, 2, -2],
    };

    private static readonly string[] Headings =
    [
        "class",
        "predefined type",
        "property",
        "value",
        "layer",
        "colour",
        "line type",
        "weight",
    ];

    /// <summary>The row that decides about an element; null where none holds.</summary>
    public LayerRow? Find(SelectionSubject subject) => Rows.FirstOrDefault(r => r.When.Holds(subject));

    /// <summary>Reads a table.</summary>
    /// <exception cref="TableException">Rows are empty, doubled, contradict one another, or hold what is no layer, colour, line type or
    /// weight.</exception>
    public static LayerTable Read(TableRows table)
    {
        var reader = new RowReader(table, ["class", "layer"], Headings);
        var rows = new List<LayerRow>();
        var numbers = new List<int>();
        var first = new Dictionary<ElementCondition, (int Number, string Layer)>();
        var layers = new Dictionary<string, (int Number, string Look)>(StringComparer.OrdinalIgnoreCase);
        while (reader.Next())
        {
            var when = ElementCondition.Of(reader);
            string layer = reader["layer"];
            if (when.Class.Length == 0)
                reader.Problem("names no class; write * for every element");
            if (layer.Length == 0)
                reader.Problem("names no layer");
            else if (LayerNames.Clean(layer) != layer)
                reader.Problem(
                    $"has the layer '{layer}', which a drawing cannot hold; '{LayerNames.Clean(layer)}' can be"
                );
            if (!first.TryAdd(when, (reader.Number, layer)))
                reader.Problem(
                    first[when].Layer.Equals(layer, StringComparison.OrdinalIgnoreCase)
                        ? $"says the same as row {first[when].Number}; remove one"
                        : $"puts {when} on '{layer}', row {first[when].Number} on '{first[when].Layer}'; keep one"
                );
            else if (rows.FindIndex(r => r.When.Covers(when)) is >= 0 and var before)
                reader.Problem(
                    $"never matches: row {numbers[before]} takes {when} before it; put it above that row, or remove it"
                );
            numbers.Add(reader.Number);
            string look = $"{reader["colour"]}/{reader["line type"]}/{reader["weight"]}".ToLowerInvariant();
            if (layer.Length > 0 && !layers.TryAdd(layer, (reader.Number, look)) && layers[layer].Look != look)
                reader.Problem(
                    $"gives the layer '{layer}' another colour, line type or weight than row {layers[layer].Number}; a layer has one of each"
                );
            rows.Add(new LayerRow(when, layer, ColourOf(reader), LineTypeOf(reader), WeightOf(reader)));
        }

        reader.End("layer table");
        return new LayerTable(rows);
    }

    /// <summary>The table as rows of a file, headings first.</summary>
    public IEnumerable<IReadOnlyList<object?>> ToRows() =>
        Rows.Select(r =>
                (IReadOnlyList<object?>)
                    [
                        r.When.Class.Split('.')[0],
                        r.When.Class.Contains('.', StringComparison.Ordinal) ? r.When.Class.Split('.', 2)[1] : "",
                        r.When.Key,
                        r.When.Value,
                        r.Layer,
                        r.Colour is { } c
                            ? c.Rgb is { } rgb
                                ? $"#{rgb:x6}"
                                : (int)c.Index
                            : null,
                        r.LineType,
                        r.Weight,
                    ]
            )
            .Prepend(Headings);

    private static CadColour? ColourOf(RowReader row)
    {
        string text = row["colour"];
        if (text.Length == 0)
            return null;
        if (
            text.Length == 7
            && text[0] == '#'
            && int.TryParse(text.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out int rgb)
        )
            return CadColour.True(rgb);
        if (
            int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out int index) && index is > 0 and < 256
        )
            return new CadColour((short)index);
        row.Problem($"has the colour '{text}'; a number from 1 to 255 or #rrggbb is one");
        return null;
    }

    private static string LineTypeOf(RowReader row)
    {
        string text = row["line type"].ToUpperInvariant();
        if (text.Length > 0 && !LineTypes.ContainsKey(text))
            row.Problem(
                $"has the line type '{text}'; {string.Join(", ", LineTypes.Keys)} are known.{NearestNames.Of(text, LineTypes.Keys)}".TrimEnd(
                    '.'
                )
            );
        return text;
    }

    private static double? WeightOf(RowReader row)
    {
        string text = row["weight"].Replace(',', '.').Replace(" mm", "", StringComparison.OrdinalIgnoreCase);
        if (text.Length == 0)
            return null;
        if (
            double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out double mm)
            && LineWeights.All.Contains((short)Math.Clamp(Math.Round(mm * 100), -1, 999))
        )
            return mm;
        row.Problem(
            $"has the weight '{row["weight"]}'; {string.Join(", ", LineWeights.All.Select(w => (w / 100.0).ToString(CultureInfo.InvariantCulture)))} mm can be written"
        );
        return null;
    }
}
