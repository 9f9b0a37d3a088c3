using System.Globalization;
using Microsoft.AspNetCore.Html;
using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>How numbers, heights and names are put on screen.</summary>
public static partial class DisplayText
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
}
