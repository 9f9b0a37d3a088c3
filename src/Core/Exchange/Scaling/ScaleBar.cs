using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Finds scale bars: numbers in a row that begin with zero, as far apart as they say, one of them with its unit.</summary>
internal static partial class ScaleBar
{
    // Numbers of a bar are where they belong to within this share of its length.
    private const double Even = 0.03;

    private const int Most = 5_000;

    /// <summary>The longest bar as a candidate; null where there is none.</summary>
    /// <param name="texts">The drawing's texts.</param>
    /// <param name="across">The diagonal of what is drawn, in its units.</param>
    public static ScaleCandidate? Of(List<PlacedText> texts, double across)
    {
        var numbers = texts
            .Select(t => (Text: t, Match: Number().Match(t.Text)))
            .Where(t => t.Match.Success)
            .Select(t =>
                (
                    t.Text.At,
                    t.Text.Height,
                    Value: double.Parse(t.Match.Groups[1].Value.Replace(',', '.'), CultureInfo.InvariantCulture),
                    Unit: UnitOf(t.Match.Groups[2].Value)
                )
            )
            .Take(Most)
            .ToList();
        ScaleCandidate? best = null;
        double longest = 0;
        foreach (var zero in numbers.Where(n => n.Value == 0))
        {
            var row = numbers
                .Where(n => Math.Abs(n.At.Y - zero.At.Y) <= Math.Max(n.Height, 1e-9) && n.At.X >= zero.At.X)
                .OrderBy(n => n.At.X)
                .ToList();
            if (row.Count < 3 || row.Select(n => n.Unit).FirstOrDefault(u => u is not null) is not { } unit)
                continue;
            var last = row[^1];
            double length = last.At.X - zero.At.X;
            if (!(length > longest) || !(last.Value > 0))
                continue;
            // Each number is where the scale of the whole puts it; a letter's width more or less.
            double per = last.Value / length;
            if (row.Exists(n => Math.Abs(((n.At.X - zero.At.X) * per) - n.Value) > Even * last.Value))
                continue;
            longest = length;
            double error = Math.Min(Even, zero.Height / length);
            best = new ScaleCandidate(
                per * unit,
                "scale bar",
                error,
                error * per * unit * across,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"a bar of {row.Count} numbers up to {last.Value * unit:0.###} m"
                )
            );
        }

        return best;
    }

    private static double? UnitOf(string text) =>
        text.ToLowerInvariant() switch
        {
            "m" => 1,
            "cm" => 0.01,
            "mm" => 0.001,
            "ft" or "'" => 0.3048,
            "in" or "\"" => 0.0254,
            _ => null,
        };

    [GeneratedRegex(
        @"^(\d{1,6}(?:[.,]\d+)?)\s*(m|cm|mm|ft|in|'|"")?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Number();
}
