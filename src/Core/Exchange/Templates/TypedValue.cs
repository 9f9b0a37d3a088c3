using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A number, a truth or a text that a property holds, once its text was understood.</summary>
/// <param name="Text">As it is written: numbers with a point, truths as <c>True</c>, <c>False</c> or <c>Unknown</c>.</param>
/// <param name="Number">The number; NaN for anything else.</param>
/// <param name="Unit">The unit that was written beside it; null where none was, and the unit of the property or the project
/// counts.</param>
public readonly record struct ValuePart(string Text, double Number, PropertyUnit? Unit);

/// <summary>The value of a property as somebody wrote it, held against its type.</summary>
/// <param name="Form">How the property holds it.</param>
/// <param name="Type">The type of its values, as the standard spells it.</param>
/// <param name="Parts">Its values: one; several of a list; lower and upper bound, an open one with an empty text; keys and values of a
/// table in turn. None where it is blank.</param>
public sealed record TypedValue(PropertyForm Form, string Type, IReadOnlyList<ValuePart> Parts)
{
    private const int MaxParts = 1000;
    private static readonly TimeSpan Patience = TimeSpan.FromMilliseconds(200);

    /// <summary>Whether it says that there is no value.</summary>
    public bool IsBlank => Parts.Count == 0;

    /// <summary>Reads a value as people write it.</summary>
    /// <param name="text">The text; nothing but blanks for no value. Several values are parted by <c>;</c>, bounds by <c>…</c> or
    /// <c>..</c>, keys from values of a table by <c>=</c>.</param>
    /// <param name="form">How the property holds it.</param>
    /// <param name="type">The type, as <see cref="PropertyTypes.Find"/> gives it.</param>
    /// <exception cref="FormatException">It is no value of the type; the message says what is wrong and what to write.</exception>
    public static TypedValue Read(string text, PropertyForm form, string type)
    {
        string trimmed = text.Trim();
        if (trimmed.Length == 0)
            return new TypedValue(form, type, []);
        var parts = form switch
        {
            PropertyForm.Enumerated or PropertyForm.List => Split(trimmed, ';').Select(t => Part(t, type)).ToList(),
            PropertyForm.Bounded => Bounds(trimmed, type),
            PropertyForm.Table => Pairs(trimmed, type),
            PropertyForm.Reference => [new ValuePart(trimmed, double.NaN, null)],
            _ => [Part(type is "IfcText" or "IfcLabel" ? text : trimmed, type)],
        };
        return parts.Count <= MaxParts
            ? new TypedValue(form, type, parts)
            : throw new FormatException($"The value has {parts.Count} parts; {MaxParts} are the most.");
    }

    /// <summary>The type that a text looks like where nobody says one: a truth, a number, a measure with its unit, else a label.</summary>
    public static string TypeOf(string text)
    {
        string trimmed = text.Trim();
        if (Truth(trimmed) is "True" or "False" && trimmed.Length > 1)
            return "IfcBoolean";
        if (
            double.TryParse(trimmed, NumberStyles.Float, CultureInfo.InvariantCulture, out double n)
            && double.IsFinite(n)
        )
            return "IfcReal";
        return Measure.Read(trimmed) switch
        {
            { Power: 1 } => "IfcLengthMeasure",
            { Power: 2 } => "IfcAreaMeasure",
            { Power: 3 } => "IfcVolumeMeasure",
            _ => trimmed.Length > PropertyTypes.MaxLabel ? "IfcText" : "IfcLabel",
        };
    }

    /// <summary>What is wrong with it by a template, as the end of a sentence; null when nothing is.</summary>
    public string? ProblemBy(PropertyTemplate template)
    {
        if (IsBlank)
            return null;
        if (template.Words.Count > 0)
        {
            if (Parts.Count > 1 && !template.Several)
                return $"has {Parts.Count} words, and only one of {string.Join(", ", template.Words)} may be chosen";
            foreach (var part in Parts)
                if (!template.Words.Contains(part.Text))
                    return $"'{part.Text}' is not one of {string.Join(", ", template.Words)}.{NearestNames.Of(part.Text, template.Words)}".TrimEnd(
                        '.'
                    );
        }

        if (template.Pattern.Length > 0)
            foreach (var part in Parts)
                if (!Matches(part.Text, template.Pattern))
                    return $"'{part.Text}' does not have the form {template.Pattern}";
        return null;
    }

    /// <summary>What is wrong with a pattern; null when nothing is.</summary>
    public static string? PatternProblem(string pattern)
    {
        try
        {
            _ = new Regex(Whole(pattern), RegexOptions.NonBacktracking | RegexOptions.CultureInvariant, Patience);
            return null;
        }
        catch (Exception e) when (e is ArgumentException or NotSupportedException)
        {
            return $"'{pattern}' is no pattern: write a regular expression without references back, such as EI \\d+";
        }
    }

    private static bool Matches(string text, string pattern) =>
        Regex.IsMatch(text, Whole(pattern), RegexOptions.NonBacktracking | RegexOptions.CultureInvariant, Patience);

    private static string Whole(string pattern) => $"^(?:{pattern})$";

    private static IEnumerable<string> Split(string text, char sign) =>
        text.Split(sign, StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    private static List<ValuePart> Bounds(string text, string type)
    {
        string[] ends = text.Contains('…', StringComparison.Ordinal) ? text.Split('…') : text.Split("..");
        if (ends.Length != 2 || (ends[0].Trim().Length == 0 && ends[1].Trim().Length == 0))
            throw new FormatException($"'{text}' is no range; write 3 … 5, or … 5 where it is open below.");
        var parts = ends.Select(e => e.Trim().Length == 0 ? new ValuePart("", double.NaN, null) : Part(e.Trim(), type))
            .ToList();
        // A unit behind the upper bound counts for both: 3 … 5 mm.
        if (parts[0].Unit is null && parts[1].Unit is { } unit && parts[0].Text.Length > 0)
            parts[0] = parts[0] with { Unit = unit };
        return parts;
    }

    private static List<ValuePart> Pairs(string text, string type)
    {
        var parts = new List<ValuePart>();
        foreach (string pair in Split(text, ';'))
        {
            var halves = pair.Split('=', 2, StringSplitOptions.TrimEntries);
            if (halves.Length != 2 || halves[0].Length == 0 || halves[1].Length == 0)
                throw new FormatException($"'{pair}' is no row of a table; write key = value; key = value.");
            parts.Add(new ValuePart(halves[0], Number(halves[0]), null));
            parts.Add(Part(halves[1], type));
        }

        return parts;
    }

    private static ValuePart Part(string text, string type)
    {
        switch (PropertyTypes.KindOf(type))
        {
            case TypeKind.Logical:
                return Truth(text) is { } truth && (truth != "Unknown" || type == "IfcLogical")
                    ? new ValuePart(truth, double.NaN, null)
                    : throw new FormatException(
                        $"'{text}' is no {PropertyTypes.Label(type)}; write true or false{(type == "IfcLogical" ? ", or unknown" : "")}."
                    );
            case TypeKind.Number:
                return Quantity(text, type);
            default:
                if (type is "IfcLabel" or "IfcIdentifier" && text.Length > PropertyTypes.MaxLabel)
                    throw new FormatException(
                        $"The value has {text.Length} letters; a {PropertyTypes.Label(type)} has at most {PropertyTypes.MaxLabel}. Use the type text."
                    );
                if (
                    type == "IfcDate"
                    && !DateOnly.TryParseExact(
                        text,
                        "yyyy-MM-dd",
                        CultureInfo.InvariantCulture,
                        DateTimeStyles.None,
                        out _
                    )
                )
                    throw new FormatException($"'{text}' is no date; write year-month-day: 2026-11-30.");
                if (
                    type == "IfcDateTime"
                    && !DateTime.TryParse(text, CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out _)
                )
                    throw new FormatException($"'{text}' is no date with time; write 2026-11-30T14:05:00.");
                return new ValuePart(text, double.NaN, null);
        }
    }

    private static ValuePart Quantity(string text, string type)
    {
        double bare = Number(text);
        if (double.IsFinite(bare))
        {
            if (PropertyTypes.IsInteger(type) && bare != Math.Floor(bare))
                throw new FormatException($"'{text}' is no whole number.");
            return new ValuePart(TableFile.Text(bare), bare, null);
        }

        string? kind = MeasureKinds.UnitKind(type);
        if (kind is not null && WithUnit(text, kind) is { } measured)
            return measured;
        throw new FormatException(
            kind is null
                ? $"'{text}' is no number; write it with a point for decimals, such as 1.5."
                : $"'{text}' is no {PropertyTypes.Label(type)}; write a number with or without its unit, such as {Example(kind)}."
        );
    }

    // A number and one of the units of its kind; lengths in feet and inches too.
    private static ValuePart? WithUnit(string text, string kind)
    {
        foreach (var unit in PropertyUnit.All.Where(u => u.Kind == kind))
        foreach (string symbol in Spellings(unit))
            if (
                text.EndsWith(symbol, StringComparison.OrdinalIgnoreCase)
                && Number(text[..^symbol.Length].Trim()) is var number
                && double.IsFinite(number)
            )
                return new ValuePart(TableFile.Text(number), number, unit);
        return kind == "LENGTHUNIT" && LengthText.TryRead(text, LengthNotation.Metres, out double metres)
            ? new ValuePart(TableFile.Text(metres), metres, PropertyUnit.Find("m"))
            : null;
    }

    private static IEnumerable<string> Spellings(PropertyUnit unit) =>
        new[]
        {
            unit.Symbol,
            unit.Symbol.Replace('²', '2').Replace('³', '3'),
            unit.Symbol == "°" ? "deg" : unit.Symbol,
        }.Distinct();

    private static string Example(string kind) =>
        kind switch
        {
            "LENGTHUNIT" => "1.2 m or 4'-2\"",
            "AREAUNIT" => "12.5 m²",
            "VOLUMEUNIT" => "3.2 m³",
            "MASSUNIT" => "450 kg",
            "PLANEANGLEUNIT" => "30°",
            _ => "1.5",
        };

    private static double Number(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
        && double.IsFinite(value)
            ? value
            : double.NaN;

    private static string? Truth(string text) =>
        text.Trim().ToUpperInvariant() switch
        {
            "TRUE" or ".T." or "T" or "YES" => "True",
            "FALSE" or ".F." or "F" or "NO" => "False",
            "UNKNOWN" or ".U." or "U" => "Unknown",
            _ => null,
        };
}
