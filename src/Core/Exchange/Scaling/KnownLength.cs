using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Two points of a drawing whose true distance is known.</summary>
/// <param name="A">In the drawing's units.</param>
/// <param name="B">In the drawing's units.</param>
/// <param name="Metres">The true distance.</param>
/// <param name="Uncertainty">Half of the last place that was typed, metres.</param>
public sealed record KnownLength(Vec2 A, Vec2 B, double Metres, double Uncertainty)
{
    /// <summary>The distance in the drawing's units.</summary>
    public double Drawn => (B - A).Length;

    /// <summary>Reads <c>x1,y1,x2,y2,LENGTH</c>; a length without a unit is metres where it has a decimal point, else millimetres, as
    /// drawings
    /// write them.</summary>
    /// <exception cref="OrderException">It is none.</exception>
    public static KnownLength Read(string text)
    {
        string[] parts = text.Split(',', 5);
        var numbers = parts
            .Take(4)
            .Select(p =>
                double.TryParse(p.Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out double v)
                && double.IsFinite(v)
                    ? v
                    : double.NaN
            )
            .ToList();
        if (parts.Length != 5 || numbers.Exists(double.IsNaN))
            throw new OrderException(
                $"A known length is x1,y1,x2,y2,LENGTH, not '{text}': two points in the drawing's units and the distance between them."
            );
        return Of(new Vec2(numbers[0], numbers[1]), new Vec2(numbers[2], numbers[3]), parts[4]);
    }

    /// <summary>A known length from two points and what was typed.</summary>
    /// <exception cref="OrderException">The points are one, or the length is none.</exception>
    public static KnownLength Of(Vec2 a, Vec2 b, string length)
    {
        var bare =
            length.Contains('.', StringComparison.Ordinal) || length.Contains(',', StringComparison.Ordinal)
                ? LengthNotation.Metres
                : LengthNotation.Millimetres;
        double metres;
        try
        {
            metres = LengthText.Read(length, bare);
        }
        catch (FormatException e)
        {
            throw new OrderException(e.Message);
        }

        if (!(metres > 0) || !((b - a).Length > 0))
            throw new OrderException("A known length is more than nothing, between two points.");
        return new KnownLength(a, b, metres, LastPlace(length, bare) / 2);
    }

    /// <summary>One step of the last place that was typed, metres: a millimetre of 15.521 m, a quarter of an inch of 2 3/4".</summary>
    internal static double LastPlace(string length, LengthNotation bare)
    {
        string plain = length.Trim();
        int slash = plain.LastIndexOf('/');
        if (
            slash >= 0
            && double.TryParse(
                new string([.. plain[(slash + 1)..].TrimStart().TakeWhile(char.IsAsciiDigit)]),
                CultureInfo.InvariantCulture,
                out double under
            )
            && under > 0
        )
            return 0.0254 / under;
        bool inches =
            plain.Contains('"', StringComparison.Ordinal) || plain.EndsWith("in", StringComparison.OrdinalIgnoreCase);
        bool feet =
            plain.Contains('\'', StringComparison.Ordinal) || plain.EndsWith("ft", StringComparison.OrdinalIgnoreCase);
        double unit =
            inches ? 0.0254
            : feet ? 0.3048
            : plain.EndsWith("mm", StringComparison.OrdinalIgnoreCase) ? 0.001
            : plain.EndsWith("cm", StringComparison.OrdinalIgnoreCase) ? 0.01
            : plain.EndsWith('m') ? 1
            : bare == LengthNotation.Metres ? 1
            : 0.001;
        int point = plain.LastIndexOfAny(['.', ',']);
        int digits = point < 0 ? 0 : plain[(point + 1)..].TakeWhile(char.IsAsciiDigit).Count();
        return unit * Math.Pow(10, -digits);
    }
}
