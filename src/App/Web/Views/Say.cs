using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Html;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>How numbers, heights and names are put on screen.</summary>
public static partial class Say
{
    private static readonly NumberFormatInfo Spaced = new() { NumberGroupSeparator = "\u202F", NumberGroupSizes = [3] };

    /// <summary>A whole number with thin spaces: <c>2 846</c>.</summary>
    public static string Number(long n) => n.ToString("#,0", Spaced);

    /// <summary>A count with its noun.</summary>
    public static string Count(long n, string one, string many) => $"{Number(n)} {(n == 1 ? one : many)}";

    /// <summary>A height in metres as drawings write it: <c>+4.800</c>, <c>±0.000</c>, <c>−1.200</c>.</summary>
    public static string Height(double metres) =>
        LengthText.WriteHeight(metres, ReaderUnit.Notation, ReaderUnit.InchParts);

    /// <summary>A length in the reader's notation: <c>4.964 m</c>, <c>16'-2 3/4"</c>.</summary>
    public static string Length(double metres) => ReaderUnit.Write(metres);

    /// <summary>A small length, or that of a drawing's unit: <c>100.005 mm</c>, whatever the reader's notation.</summary>
    public static string Millimetres(double metres) =>
        (metres * 1000).ToString("0.###", CultureInfo.InvariantCulture) + " mm";

    /// <summary>What a setting-out rests on, in words.</summary>
    public static string Evidence(EvidenceKind kind) =>
        kind switch
        {
            EvidenceKind.Declared => "by map conversions",
            EvidenceKind.Points => "by control points",
            EvidenceKind.Grids => "by grid tags",
            EvidenceKind.Levels => "by levels",
            EvidenceKind.Source => "as another source",
            EvidenceKind.Jump => "by taking a jump of its frame back",
            EvidenceKind.Reference => "reference for the job's coordinates",
            _ => "as typed",
        };

    /// <summary>What tells where a member's axis runs, in words.</summary>
    public static string AxisFrom(AxisEvidence from) =>
        from switch
        {
            AxisEvidence.Drawn => "drawn",
            AxisEvidence.Placed => "as placed",
            AxisEvidence.Extruded => "as extruded",
            _ => "found from the shape",
        };

    /// <summary>What two sources differs of one member, as a sentence.</summary>
    public static string Disagreement(JobDisagreement d, string first, string second)
    {
        Member a = d.First.Member,
            b = d.Second.Member;
        double amount = d.What.Amount;
        return d.What.Code switch
        {
            MemberDisagreements.Height when a.IsUpright =>
                $"Top at {Height(a.Top)} in {first}, at {Height(b.Top)} in {second}: {Length(Math.Abs(amount))} {(amount > 0 ? "higher" : "lower")}.",
            MemberDisagreements.Height =>
                $"Top at {Height(a.TopAtEnds.Least)} in {first}; {second} has it {Length(Math.Abs(amount))} {(amount > 0 ? "higher" : "lower")}. The axis is at {a.AxisAt} in {first}, at {b.AxisAt} in {second}.",
            MemberDisagreements.Aside => $"It is {Length(amount)} aside in {second}.",
            MemberDisagreements.Axis =>
                $"One place, two axes, {Length(amount)} apart: {a.AxisAt} in {first}, {b.AxisAt} in {second}.",
            _ when amount == 180 =>
                $"The section is rotated by 180° in {second}: what is open to one side opens to the other.",
            _ => $"The section is rotated by 90° in {second}.",
        };
    }

    /// <summary>What a stop of the job is for, in a line; null where there is no stop.</summary>
    public static string? What(int stop) =>
        stop switch
        {
            1 =>
                "Files arrive here. Each is stored unchanged, read, and answered with a report: what it is, what it holds, and what is wrong with it.",
            2 =>
                "Every source is placed in the job's frame, unit and levels, with evidence. Nothing moves until it is accepted, and all of it can be undone.",
            3 =>
                "All parties' models together. Switch parties, storeys, classes and layers, cut between two heights with the ladder, measure, and read what an element carries.",
            4 => "What is wrong is asked about, and answered, until it is done.",
            5 =>
                "An order says who gets what, in which form. Run it again on every revision; the balance shows that nothing was lost on the way.",
            _ => null,
        };

    /// <summary>A length of time in its largest whole unit: <c>3 minutes</c>.</summary>
    public static string Span(TimeSpan span) =>
        span switch
        {
            { TotalDays: >= 1 } => Count((long)span.TotalDays, "day", "days"),
            { TotalHours: >= 1 } => Count((long)span.TotalHours, "hour", "hours"),
            { TotalMinutes: >= 1 } => Count((long)span.TotalMinutes, "minute", "minutes"),
            _ => Count((long)span.TotalSeconds, "second", "seconds"),
        };

    /// <summary>A length in bytes: <c>1.9 MB</c>.</summary>
    public static string Bytes(long bytes) =>
        bytes switch
        {
            < 1000 => $"{bytes} B",
            < 1_000_000 => string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e3:0} kB"),
            < 10_000_000_000 => string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e6:0.0} MB"),
            _ => string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e9:0} GB"),
        };

    /// <summary>A class without its prefix, as words: <c>IfcDuctSegment</c> → <c>Duct segment</c>.</summary>
    public static string Class(string name)
    {
        string text = name.StartsWith("Ifc", StringComparison.Ordinal) ? name[3..] : name;
        string words = Words().Replace(text, " ").ToLowerInvariant();
        return words.Length == 0 ? name : char.ToUpperInvariant(words[0]) + words[1..];
    }

    /// <summary>A class as several in a sentence: <c>IfcDuctSegment</c> → <c>duct segments</c>, <c>IfcFurniture</c> →
    /// <c>furniture</c>.</summary>
    public static string Classes(string name)
    {
        string word = Class(name).ToLowerInvariant();
        return word.EndsWith('s')
            || word.EndsWith("ture", StringComparison.Ordinal)
            || word.EndsWith("ment", StringComparison.Ordinal) && word.Contains("equip", StringComparison.Ordinal)
                ? word
            : word.EndsWith('y') ? word[..^1] + "ies"
            : word + "s";
    }

    /// <summary>A line of the ledger: classes as words, facts with a capital, entities of drawings as they are spelt.</summary>
    public static string Kind(string kind) =>
        kind.StartsWith("Ifc", StringComparison.Ordinal) ? Class(kind)
        : char.IsLower(kind[0]) ? char.ToUpperInvariant(kind[0]) + kind[1..]
        : kind;

    /// <summary>An account of the ledger in words.</summary>
    public static string Account(LedgerAccount account) =>
        account switch
        {
            LedgerAccount.Same => "Same",
            LedgerAccount.Changed => "Changed",
            LedgerAccount.LeftOut => "Left out",
            LedgerAccount.NotCarried => "Not transferable",
            _ => "Unaccounted",
        };

    /// <summary>How many things of a line are in an account by one rule.</summary>
    public static int CountOf(LedgerLine line, LedgerAccount account, string rule) =>
        (
            account switch
            {
                LedgerAccount.Changed => line.Changed,
                LedgerAccount.LeftOut => line.LeftOut,
                _ => line.NotCarried,
            }
        ).GetValueOrDefault(rule);

    /// <summary>A time in the reader's zone, short: <c>18 Nov 16:20</c>.</summary>
    public static string Time(DateTime utc) =>
        ReaderZone.Local(utc).ToString("d MMM HH:mm", CultureInfo.InvariantCulture);

    /// <summary>A day: <c>18 Nov 2026</c>.</summary>
    public static string Day(DateTime utc) =>
        ReaderZone.Local(utc).ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A day.</summary>
    public static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A number for people: at most three decimals.</summary>
    public static string Real(double value) => value.ToString("0.###", CultureInfo.InvariantCulture);

    /// <summary>A number for SVG.</summary>
    public static string Svg(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>A text in SVG; Razor keeps the element's name for itself.</summary>
    public static IHtmlContent SvgText(double x, double y, string anchor, double size, string fill, string content) =>
        new HtmlString(
            $"<text x=\"{Svg(x)}\" y=\"{Svg(y)}\" text-anchor=\"{anchor}\" font-size=\"{Svg(
                size)}\" font-weight=\"700\" fill=\"{fill}\">{System.Net.WebUtility.HtmlEncode(content)}</text>"
        );

    /// <summary>What a delivery is doing, in words.</summary>
    public static string State(DeliveryState state) =>
        state switch
        {
            DeliveryState.Receiving => "arriving",
            DeliveryState.Received => "received, waiting",
            DeliveryState.Indexing => "indexing",
            DeliveryState.Reading => "reading",
            DeliveryState.Shaping => "shaping",
            DeliveryState.Storing => "storing",
            DeliveryState.Ready => "ready",
            DeliveryState.Same => "same bytes",
            DeliveryState.Refused => "refused",
            DeliveryState.Held => "held",
            DeliveryState.TurnedDown => "rejected",
            DeliveryState.Withdrawn => "withdrawn",
            _ => "cancelled",
        };

    /// <summary>What is counted beside elements: <c>220 annotations, 58 rooms</c>; empty for none.</summary>
    public static string Beside(int annotations, int rooms) =>
        string.Join(
            ", ",
            new[]
            {
                annotations > 0 ? Count(annotations, "annotation", "annotations") : null,
                rooms > 0 ? Count(rooms, "room", "rooms") : null,
            }.OfType<string>()
        );

    /// <summary>A party's code plate.</summary>
    public static IHtmlContent Plate(Party party) =>
        new HtmlString($"<b class=\"plate party-{Colour(party)}\">{System.Net.WebUtility.HtmlEncode(party.Code)}</b>");

    /// <summary>What a party's colour is called in the style sheet of its job's pages: <c>0072b2</c>.</summary>
    public static string Colour(Party party) => party.Colour.TrimStart('#').ToLowerInvariant();

    /// <summary>The style sheet of the colours of some parties.</summary>
    public static string Colours(IEnumerable<Party> parties) =>
        string.Concat(
            parties
                .Select(Colour)
                .Distinct()
                .Where(c => c.Length == 6 && c.All(char.IsAsciiHexDigit))
                .Select(c => $".party-{c}{{color:#{c}}}.party-border-{c}{{border-top-color:#{c}}}")
        );

    [GeneratedRegex("(?<=[a-z0-9])(?=[A-Z])")]
    private static partial Regex Words();
}
