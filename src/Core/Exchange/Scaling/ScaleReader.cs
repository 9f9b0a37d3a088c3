using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Gathers the evidence for a drawing's scale.</summary>
/// <remarks>Nothing is applied here. The order of trust: lengths that somebody knows, the drawing's own dimensions, a scale bar, the scale
/// written on the sheet, the declared unit. What makes doors of no person's size, or no building at all, is doubted.</remarks>
public static partial class ScaleReader
{
    // Widths of door leaves that people walk through, metres; common practice.
    private const double NarrowDoor = 0.5,
        WideDoor = 1.6;

    // A building, its site or a part of it, metres across; common practice.
    private const double Small = 1,
        Large = 20_000;

    private static readonly double[] UsualUnits = [0.001, 0.01, 1, 0.0254, 0.3048];

    /// <summary>Reads the evidence.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="known">Lengths that are known.</param>
    public static ScaleFindings Read(Drawing drawing, IReadOnlyList<KnownLength>? known = null)
    {
        var box = drawing.Extents();
        double across = box.IsEmpty ? 0 : new Vec2(box.Size.X, box.Size.Y).Length;
        var (unit, metres) = DrawingUnits.Of(drawing.Units);
        var texts = SheetTexts.Of(drawing, drawing.Model);
        var doors = DoorLeaves.Of(drawing);
        List<ScaleCandidate?> found =
        [
            Known(known ?? [], across),
            DimensionScale.Of(drawing, across),
            ScaleBar.Of(texts, across),
            .. Sheet(drawing, texts),
            metres is { } m ? new ScaleCandidate(m, "declared", 0, 0, $"the drawing says {unit}") : null,
        ];
        var candidates = found.OfType<ScaleCandidate>().Select(c => Judged(c, across, doors)).ToList();
        double scale = candidates is [{ Evidence: KnownLengths } first, ..] ? first.MetresPerUnit : 0;
        return new ScaleFindings(
            unit,
            candidates,
            [.. (known ?? []).Select(k => new KnownResidual(k.Drawn, k.Metres, k.Metres - (scale * k.Drawn)))],
            SheetLook.Doubt(drawing)
        );
    }

    // A known length is the word of somebody who measured, and a drawing that was scanned has any scale.
    private static ScaleCandidate Judged(ScaleCandidate c, double across, (int Count, double Width) doors)
    {
        if (c.Evidence == KnownLengths)
            return c with { Doubt = Doubt(c, across, doors) };
        bool usual = UsualScales.NameOf(c.MetresPerUnit, c.Error) is not null;
        string? odd = usual ? null : "no usual unit and no usual scale is that long";
        return c with { Leads = c.Leads && usual, Doubt = c.Doubt ?? Doubt(c, across, doors) ?? odd };
    }

    /// <summary>The evidence of lengths that somebody knows.</summary>
    internal const string KnownLengths = "known lengths";

    // Least squares through zero: Σ L d / Σ d². One length is as good as its last place.
    private static ScaleCandidate? Known(IReadOnlyList<KnownLength> known, double across)
    {
        if (known.Count == 0)
            return null;
        double squares = known.Sum(k => k.Drawn * k.Drawn),
            scale = known.Sum(k => k.Metres * k.Drawn) / squares;
        double typed = Math.Sqrt(known.Sum(k => k.Uncertainty * k.Uncertainty * k.Drawn * k.Drawn)) / squares;
        double residuals =
            known.Count < 2
                ? 0
                : Math.Sqrt(known.Sum(k => Math.Pow(k.Metres - (scale * k.Drawn), 2)) / (known.Count - 1) / squares);
        double error = Math.Max(typed, residuals) / scale;
        double longest = known.Max(k => k.Drawn);
        string advice = longest < across / 4 ? "; a longer one would be surer" : "";
        return new ScaleCandidate(
            scale,
            KnownLengths,
            error,
            error * scale * across,
            $"{known.Count} known, the longest {LengthText.Write(longest * scale, LengthNotation.Metres)}{advice}"
        );
    }

    // "1:100" on a drawing without windows of its own says that it is drawn as it is printed: a unit is a millimetre of paper. On a sheet
    // with a window the window's scale says how much of a unit a millimetre of paper shows.
    private static IEnumerable<ScaleCandidate> Sheet(Drawing drawing, List<PlacedText> texts)
    {
        foreach (var layout in drawing.Layouts.Where(l => l.Tab > 0))
        {
            if (drawing.Blocks[layout.Block] is not { } sheet)
                continue;
            var windows = sheet.Entities.OfType<Viewport>().Where(v => v.Id != 1 && v.Scale > 0).ToList();
            var written = SheetTexts.Of(drawing, sheet).Select(t => Ratio(t.Text)).OfType<int>().Distinct().ToList();
            if (windows.Count == 0 || written.Count == 0)
                continue;
            // Of several windows and scales those belong together that make the unit a usual one.
            var (n, shown) = written
                .SelectMany(n => windows.Select(w => (N: n, Shown: w.Scale)))
                .MinBy(p => UsualUnits.Min(u => Math.Abs(Math.Log(0.001 * p.N * p.Shown / u))));
            yield return new ScaleCandidate(
                0.001 * n * shown,
                "sheet",
                0,
                0,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{layout.Name} says 1:{n} and its window shows {shown:0.######} mm of paper a unit"
                )
            );
        }

        foreach (
            var group in texts
                .Select(t => Ratio(t.Text))
                .OfType<int>()
                .CountBy(n => n)
                .OrderByDescending(g => g.Value)
                .Take(3)
        )
            yield return new ScaleCandidate(
                0.001 * group.Key,
                "sheet",
                0,
                0,
                $"1:{group.Key} is written in it: drawn as printed, a unit is a millimetre of paper"
            );
    }

    private static int? Ratio(string text) =>
        text.Length <= 60
        && Scale().Match(text) is { Success: true } m
        && int.TryParse(m.Groups[1].Value, NumberStyles.None, CultureInfo.InvariantCulture, out int n)
        && n is >= 1 and <= 100_000
            ? n
            : null;

    private static string? Doubt(ScaleCandidate c, double across, (int Count, double Width) doors)
    {
        double size = across * c.MetresPerUnit;
        if (doors.Count > 0 && doors.Width * c.MetresPerUnit is < NarrowDoor or > WideDoor)
            return $"{doors.Count} door leaves would be {LengthText.Write(doors.Width * c.MetresPerUnit, LengthNotation.Metres)} wide";
        return across > 0 && size is < Small or > Large
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"all of it would be {size:G3} m across, which is hardly a building"
            )
            : null;
    }

    [GeneratedRegex(@"(?:^|[^\d.:])1\s*:\s*(\d{1,6})(?![\d.:])")]
    private static partial Regex Scale();
}
