using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A height written in a section or an elevation.</summary>
/// <param name="Text">As written.</param>
/// <param name="Value">The height it says, metres.</param>
/// <param name="At">Where it is, in drawing units: beside its text, as high as the line it is on.</param>
public sealed record LevelMark(string Text, double Value, Vec2 At);

/// <summary>Level marks: texts that say a height with its sign, <c>+4.80</c>, <c>±0.000</c>, <c>-1,20</c>, <c>+15'-9"</c> (common
/// practice: a
/// sign, metres with two or three places, or feet and inches), beside or on a level line.</summary>
public static partial class LevelMarks
{
    private const int Most = 500;

    /// <summary>The marks of model space.</summary>
    public static IReadOnlyList<LevelMark> Of(Drawing drawing)
    {
        var marks = SheetTexts
            .Of(drawing, drawing.Model)
            .Select(t => (Text: t, Value: ValueOf(t.Text)))
            .Where(m => m.Value is not null)
            .Take(Most)
            .ToList();
        if (marks.Count == 0)
            return [];
        var level = Level(drawing);
        return
        [
            .. marks.Select(m => new LevelMark(
                m.Text.Text,
                m.Value!.Value,
                new Vec2(m.Text.At.X, HeightOf(m.Text, level))
            )),
        ];
    }

    /// <summary>The height a text says, metres; null when it says none.</summary>
    public static double? ValueOf(string text)
    {
        if (Mark().Match(text) is not { Success: true } mark)
            return null;
        double sign = mark.Groups["sign"].Value is "-" or "−" ? -1 : 1;
        if (mark.Groups["metres"] is { Success: true } metres)
            return sign * double.Parse(metres.Value.Replace(',', '.'), CultureInfo.InvariantCulture);
        try
        {
            return sign * LengthText.Read(mark.Groups["feet"].Value);
        }
        catch (FormatException)
        {
            return null;
        }
    }

    /// <summary>How high the drawing's zero lies, by its marks.</summary>
    /// <param name="marks">The marks.</param>
    /// <param name="metres">Metres in a unit.</param>
    /// <returns>Metres; null without marks. The median, so that one wrong mark moves nothing.</returns>
    public static double? Zero(IReadOnlyList<LevelMark> marks, double metres)
    {
        var zeros = marks.Select(m => m.Value - (m.At.Y * metres)).Order().ToList();
        return zeros.Count == 0 ? null : (zeros[(zeros.Count - 1) / 2] + zeros[zeros.Count / 2]) / 2;
    }

    // Level segments as long as a text is high at least, by height.
    private static List<(double Y, double From, double To)> Level(Drawing drawing)
    {
        var found = new List<(double, double, double)>();
        foreach (var (entity, at, _, _, _) in ShownEntities.Of(drawing, drawing.Model, pictures: false))
        {
            if (entity is not (Line or LightPolyline or Polyline))
                continue;
            Vec3[] points = [.. EntityPoints.Of(entity).Select(at.Apply)];
            for (int i = 1; i < points.Length; i++)
            {
                double length = Math.Abs(points[i].X - points[i - 1].X);
                if (length > 0 && Math.Abs(points[i].Y - points[i - 1].Y) < 1e-6 * length)
                    found.Add(
                        (points[i].Y, Math.Min(points[i].X, points[i - 1].X), Math.Max(points[i].X, points[i - 1].X))
                    );
            }
        }

        return found;
    }

    // The nearest line that a text is on or beside: no farther than its letters are high, from a little before it to some letters
    // behind.
    private static double HeightOf(PlacedText text, List<(double Y, double From, double To)> level)
    {
        double reach = text.Height * 1.5,
            best = reach,
            height = text.At.Y;
        foreach (var (y, from, to) in level)
        {
            if (to - from < text.Height || from > text.At.X + (12 * text.Height) || to < text.At.X - (12 * text.Height))
                continue;
            if (Math.Abs(y - text.At.Y) < best)
                (best, height) = (Math.Abs(y - text.At.Y), y);
        }

        return height;
    }

    [GeneratedRegex(
        @"^(?:[\p{L}.]{1,6}\s*)?(?<sign>[+\-−±])\s?(?:(?<metres>\d{1,4}[.,]\d{2,3})(?:\s?m)?|(?<feet>\d{1,4}'[\s-]*\d[^+]*""))(?:\s+[\p{L}.]{1,12})*$"
    )]
    private static partial Regex Mark();
}
