using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a drawing's own dimensions say of its scale: the length that is written against the length that is drawn.</summary>
internal static partial class DimensionScale
{
    // As many must agree before the rest counts as wrong by hand.
    private const int Fewest = 2;

    // Written to a place, a short dimension is off by more than a long one; beyond this it says something else. One part.
    private const double Agree = 0.01;

    /// <summary>A dimension that says a length.</summary>
    /// <param name="Drawn">What it measures, in the drawing's units.</param>
    /// <param name="Number">The number that is written.</param>
    /// <param name="Unit">Metres of the unit that is written; null for none.</param>
    /// <param name="Place">One step of the last place, as a share of the number.</param>
    private readonly record struct Said(double Drawn, double Number, double? Unit, double Place);

    /// <summary>The candidate; null where fewer than two dimensions agree.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="across">The diagonal of what is drawn, in its units.</param>
    public static ScaleCandidate? Of(Drawing drawing, double across)
    {
        var said = drawing
            .Blocks.Where(b => b.IsModel)
            .SelectMany(b => b.Entities)
            .OfType<Dimension>()
            .Select(d => Read(drawing, d))
            .OfType<Said>()
            .ToList();
        if (said.Count < Fewest)
            return null;
        // What is written with a unit decides; else the unit in which these lengths are those of a building.
        var marked = said.Where(s => s.Unit is not null).ToList();
        var asked = marked.Count >= Fewest ? marked : said;
        double median = Median(asked.Select(s => s.Number * (s.Unit ?? 1) / s.Drawn));
        var agreeing = asked
            .Where(s => Math.Abs((s.Number * (s.Unit ?? 1) / s.Drawn) - median) <= Math.Max(Agree, s.Place) * median)
            .ToList();
        if (agreeing.Count < Fewest)
            return null;
        double scale = agreeing.Sum(s => s.Number * (s.Unit ?? 1) * s.Drawn) / agreeing.Sum(s => s.Drawn * s.Drawn);
        double unit = marked.Count >= Fewest ? 1 : UnitOf(agreeing, scale, across);
        double spread = agreeing.Sum(s => Square((s.Number * (s.Unit ?? 1)) - (scale * s.Drawn)));
        double found =
            agreeing.Count < 3
                ? 0
                : Math.Sqrt(spread / (agreeing.Count - 1) / agreeing.Sum(s => s.Drawn * s.Drawn)) / scale;
        var (rounding, step) = Rounding(agreeing, scale);
        double error = Math.Max(found, rounding),
            perUnit = scale * unit;
        int against = said.Count - agreeing.Count;
        string off = against == 0 ? "" : $"; {against} of {said.Count} disagree",
            rounded = step > 1 ? $", rounded to the nearest {step:0}" : "";
        bool most = agreeing.Count * 2 > said.Count;
        return new ScaleCandidate(
            perUnit,
            "dimensions",
            error,
            error * perUnit * across,
            $"{agreeing.Count} of its dimensions, read in {NameOf(unit, marked.Count >= Fewest)}{rounded}{off}"
        )
        {
            Leads = most,
            Doubt = most ? null : $"{against} of its {said.Count} dimensions disagree",
        };
    }

    // What rounding explains: a number that is shown to the nearest step is off by up to half of it, evenly spread, so by step/√12 as a
    // standard deviation. Common practice: millimetres are shown to the nearest 5, or 1.
    private static (double Error, double Step) Rounding(List<Said> said, double scale)
    {
        double step = 1;
        foreach (double coarser in (double[])[5, 10])
            if (
                said.TrueForAll(s =>
                    Math.Abs(Math.IEEERemainder(s.Number, coarser * s.Place * s.Number)) <= 1e-6 * s.Number
                )
            )
                step = coarser;
        if (said.Count < Rounded)
            step = 1;
        double squares = said.Sum(s => s.Drawn * s.Drawn);
        double off =
            Math.Sqrt(said.Sum(s => Square(step * s.Place * s.Number * (s.Unit ?? 1) * s.Drawn) / 12))
            / squares
            / scale;
        bool whole = said.TrueForAll(s => Math.Abs(s.Number - Math.Round(s.Number)) < 1e-6);
        return (off, whole ? step : 1);
    }

    // So many numbers have to be multiples of five before they count as rounded to it.
    private const int Rounded = 5;

    private static Said? Read(Drawing drawing, Dimension d)
    {
        double drawn = d.Kind switch
        {
            DimensionKind.Linear => Math.Abs(
                (d.Points.Second - d.Points.First).XY.Dot(new Vec2(Math.Cos(d.Angle), Math.Sin(d.Angle)))
            ),
            DimensionKind.Aligned => (d.Points.Second - d.Points.First).XY.Length,
            _ => 0,
        };
        if (!(drawn > 0))
            return null;
        // What is seen: the text of its picture; else what its style makes of what it measures.
        string? seen = drawing
            .Blocks[d.Block]
            ?.Entities.Select(e =>
                e switch
                {
                    MText t => PlainText.OfMText(t.Value),
                    TextEntity t => PlainText.Of(t.Value),
                    _ => null,
                }
            )
            .FirstOrDefault(t => t is not null);
        if (seen is null && d.Value.Length > 0 && !d.Value.Contains("<>", StringComparison.Ordinal))
            seen = PlainText.OfMText(d.Value);
        if (seen is null)
        {
            double factor = drawing.DimensionStyles[d.Style]?["DIMLFAC"] is double f && f > 0 ? f : 1;
            return new Said(drawn, drawn * factor, null, 1e-9);
        }

        return Number(seen) is { } number ? number with { Drawn = drawn } : null;
    }

    private static Said? Number(string text)
    {
        string plain = text.Trim().Replace('\n', ' ');
        if (plain.Contains('\'', StringComparison.Ordinal) || plain.Contains('"', StringComparison.Ordinal))
            return LengthText.TryRead(plain, LengthNotation.FeetAndInches, out double feet) && feet > 0
                ? new Said(0, feet, 1, KnownLength.LastPlace(plain, LengthNotation.FeetAndInches) / feet)
                : null;
        if (
            Length().Match(plain) is not { Success: true } match
            || !double.TryParse(
                match.Groups[1].Value.Replace(',', '.'),
                NumberStyles.Float,
                CultureInfo.InvariantCulture,
                out double number
            )
            || !(number > 0)
        )
            return null;
        double? unit = match.Groups[2].Value.ToLowerInvariant() switch
        {
            "mm" => 0.001,
            "cm" => 0.01,
            "m" => 1,
            _ => null,
        };
        int point = match.Groups[1].Value.IndexOfAny(['.', ',']);
        double place = Math.Pow(10, point < 0 ? 0 : point + 1 - match.Groups[1].Value.Length);
        return new Said(0, number, unit, place / number);
    }

    // Common practice: whole numbers are millimetres, decimals metres; what makes no building is asked the other way.
    private static double UnitOf(List<Said> said, double scale, double across)
    {
        bool whole = said.Count(s => Math.Abs(s.Number - Math.Round(s.Number)) < 1e-6) * 2 > said.Count;
        double[] likely = whole ? [0.001, 1, 0.01, 0.0254] : [1, 0.001, 0.01, 0.0254];
        double longest = said.Max(s => s.Number);
        foreach (double unit in likely)
            if (longest * unit is >= 0.5 and <= 500 && scale * unit * across is >= 2 and <= 20_000)
                return unit;
        return likely[0];
    }

    private static string NameOf(double unit, bool written) =>
        written
            ? "the unit they are written in"
            : unit switch
            {
                0.001 => "millimetres",
                0.01 => "centimetres",
                0.0254 => "inches",
                _ => "metres",
            };

    private static double Median(IEnumerable<double> values) =>
        values.Order().ToList() is var sorted ? sorted[sorted.Count / 2] : 0;

    private static double Square(double v) => v * v;

    [GeneratedRegex(
        @"^[^\d+\-]{0,3}(\d+(?:[.,]\d+)?)\s*(mm|cm|m)?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Length();
}
