using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>How an order's drawings are drawn, as the page shows and sends it.</summary>
public sealed partial class DrawnSentence
{
    /// <summary>Height of the cut of plans, metres.</summary>
    public string? Cut { get; set; }

    /// <summary>How far one sees behind the cut, metres; empty for all.</summary>
    public string? Depth { get; set; }

    /// <summary>Whether lines before the cut stay.</summary>
    public bool NothingBefore { get; set; }

    /// <summary>Hidden edges: <c>dashed</c>, <c>out</c>, or empty where they are shown.</summary>
    public string? Hidden { get; set; }

    /// <summary>Whether cut faces are hatched.</summary>
    public bool Hatch { get; set; }

    /// <summary>Whether elements show their own drawings for plans.</summary>
    public bool Symbols { get; set; }

    /// <summary>Whether levels and axes are marked.</summary>
    public bool Marks { get; set; }

    /// <summary>The lines of sections, a line each: <c>South: -5,-10 to 85,-10 deep 12</c>.</summary>
    public string? Lines { get; set; }

    /// <summary>The paper of sheets; empty for none.</summary>
    public string? Paper { get; set; }

    /// <summary>The scale: 100 for 1:100.</summary>
    public int Scale { get; set; } = 100;

    /// <summary>Whether all sheets are in one file that refers to the others.</summary>
    public bool References { get; set; }

    /// <summary>How far a chord may be off its arc, millimetres; empty for the usual.</summary>
    public string? Chord { get; set; }

    /// <summary>The largest angle of a chord, degrees; empty for the usual.</summary>
    public string? Angle { get; set; }

    /// <summary>The words of a document.</summary>
    public static DrawnSentence Of(OrderInto into) =>
        new()
        {
            Cut = Text(into.Cut),
            Depth = Text(into.Depth),
            NothingBefore = into.Before == "out",
            Hidden = into.Hidden ?? "",
            Hatch = into.Hatch == true,
            Symbols = into.Symbols == true,
            Marks = into.Marks == true,
            Lines = string.Join('\n', (into.Lines ?? []).Select(Write)),
            Paper = into.Sheet?.Paper ?? "",
            Scale = into.Sheet?.Scale ?? 100,
            References = into.Sheet?.References == true,
            Chord = Text(into.Chord * 1000),
            Angle = Text(into.Angle),
        };

    /// <summary>What is written into, with these words; those that do not go with its form are left aside.</summary>
    public OrderInto In(OrderInto into)
    {
        bool drawing = into.File is "dwg" or "dxf",
            lines = drawing && into.As is "plan" or "section";
        return into with
        {
            Cut = into.As == "plan" ? Number(Cut) : null,
            Depth = lines ? Number(Depth) : null,
            Before = lines && NothingBefore ? "out" : null,
            Hidden = lines && !string.IsNullOrEmpty(Hidden) ? Hidden : null,
            Hatch = lines && Hatch ? true : null,
            Symbols = into.As == "plan" && Symbols ? true : null,
            Marks = lines && Marks ? true : null,
            Lines =
                into.As == "section"
                    ? [.. (Lines ?? "").Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0).Select(Read)]
                    : null,
            Sheet =
                drawing && !string.IsNullOrEmpty(Paper)
                    ? new OrderSheet
                    {
                        Paper = Paper,
                        Scale = Scale,
                        References = References ? true : null,
                    }
                    : null,
            Chord = Number(Chord) / 1000,
            Angle = Number(Angle),
        };
    }

    /// <summary>The line of a section as the page writes it.</summary>
    public static string Write(OrderLine line) =>
        FormattableString.Invariant($"{line.Name}: {Point(line.From)} to {Point(line.To)}")
        + (line.Depth is { } depth ? FormattableString.Invariant($" deep {depth:0.###}") : "");

    /// <summary>How the drawings are drawn, as a word of the sentence.</summary>
    /// <param name="into">What is written into.</param>
    public static string Words(OrderInto into)
    {
        var words = new List<string>();
        if (into.As == "plan")
            words.Add(FormattableString.Invariant($"cut at {into.Cut ?? 1.2:0.##} m"));
        if (into.As == "section")
            words.Add(
                into.Lines is { Count: > 0 } lines
                    ? $"along {OrderWords.Join(lines.Select(l => l.Name), "")}"
                    : "along no line yet"
            );
        if (into.Depth is { } depth)
            words.Add(FormattableString.Invariant($"{depth:0.##} m deep"));
        if (into.Hidden is { } hidden)
            words.Add(hidden == "out" ? "hidden edges out" : $"hidden edges {hidden}");
        if (into.Hatch == true)
            words.Add("hatched");
        if (into.Symbols == true)
            words.Add("with symbols");
        if (into.Marks == true)
            words.Add("with marks");
        if (into.Sheet is { } sheet)
            words.Add($"on {sheet.Paper} 1:{sheet.Scale}");
        return words.Count == 0 ? "as they are" : string.Join(", ", words);
    }

    // A line that cannot be read has no points; the order then says what it needs.
    private static OrderLine Read(string text)
    {
        if (Line().Match(text) is not { Success: true } found)
            return new OrderLine { Name = text.Split(':')[0].Trim() };
        double N(string name) => double.Parse(found.Groups[name].Value, CultureInfo.InvariantCulture);
        return new OrderLine
        {
            Name = found.Groups["name"].Value.Trim(),
            From = [N("x"), N("y")],
            To = [N("u"), N("v")],
            Depth = found.Groups["deep"].Success ? N("deep") : null,
        };
    }

    private static string Point(IReadOnlyList<double> point) =>
        point.Count == 2 ? FormattableString.Invariant($"{point[0]:0.###},{point[1]:0.###}") : "?";

    private static string Text(double? number) => number?.ToString("0.######", CultureInfo.InvariantCulture) ?? "";

    // What is no number is taken as one that no order can have, so that it is refused and not ignored.
    private static double? Number(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null
        : double.TryParse(
            text.Trim().Replace(',', '.'),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out double number
        )
            ? number
        : double.MaxValue;

    [GeneratedRegex(
        @"^(?<name>[^:]+):\s*(?<x>-?[\d.]+)\s*,\s*(?<y>-?[\d.]+)\s+to\s+(?<u>-?[\d.]+)\s*,\s*(?<v>-?[\d.]+)(\s+deep\s+(?<deep>[\d.]+))?$"
    )]
    private static partial Regex Line();
}
