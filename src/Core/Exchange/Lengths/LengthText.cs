using System.Globalization;
using System.Text.RegularExpressions;

namespace SteadyLintel.Exchange;

/// <summary>Reads and writes lengths as people do, the same in every culture.</summary>
/// <remarks>Inches are international: 0.0254 m exactly (1959 agreement). <c>16'-2 3/4"</c> is 16 ft 2.75 in; a minus sign before it counts
/// for
/// all of it: <c>-0'-6"</c> is −6 in.</remarks>
public static partial class LengthText
{
    /// <summary>The finest fraction of an inch that is written.</summary>
    public const int Fraction = 64;

    private const double Inch = 0.0254,
        Foot = 12 * Inch;

    private static readonly Dictionary<char, string> Vulgar = new()
    {
        ['¼'] = " 1/4",
        ['½'] = " 1/2",
        ['¾'] = " 3/4",
        ['⅛'] = " 1/8",
        ['⅜'] = " 3/8",
        ['⅝'] = " 5/8",
        ['⅞'] = " 7/8",
    };

    /// <summary>Reads a length.</summary>
    /// <param name="text">With a unit (<c>m</c>, <c>cm</c>, <c>mm</c>, <c>ft</c>, <c>in</c>, or marks of feet and inches), or a bare
    /// number.</param>
    /// <param name="bare">What a bare number is: metres, millimetres, or feet.</param>
    /// <returns>Metres.</returns>
    /// <exception cref="FormatException">It is no length, or can mean two things; the message says how to write it.</exception>
    public static double Read(string text, LengthNotation bare = LengthNotation.Metres)
    {
        string plain = Plain(text);
        if (plain.Length is 0 or > 60)
            throw No(text);
        if (Decimal().Match(plain) is { Success: true } number)
        {
            double unit = number.Groups[2].Value switch
            {
                "m" => 1,
                "cm" => 0.01,
                "mm" => 0.001,
                "ft" => Foot,
                "in" => Inch,
                _ => bare switch
                {
                    LengthNotation.Metres => 1,
                    LengthNotation.Millimetres => 0.001,
                    _ => Foot,
                },
            };
            return Number(number.Groups[1].Value, text) * unit;
        }

        if (
            FeetAndInches().Match(plain) is not { Success: true } parts
            || parts.Groups["feet"].Length + parts.Groups["inches"].Length + parts.Groups["over"].Length == 0
        )
            throw No(text);
        double inches = Part("inches");
        if (parts.Groups["over"].Success)
        {
            double under = Part("under");
            if (under == 0)
                throw No(text);
            inches += Part("over") / under;
        }

        double metres = ((Part("feet") * 12) + inches) * Inch;
        return parts.Groups["sign"].Value == "-" ? -metres : metres;

        double Part(string name) => parts.Groups[name].Success ? Number(parts.Groups[name].Value, text) : 0;
    }

    /// <summary>Reads a length, without an exception.</summary>
    public static bool TryRead(string? text, LengthNotation bare, out double metres)
    {
        try
        {
            metres = Read(text ?? "", bare);
            return true;
        }
        catch (FormatException)
        {
            metres = 0;
            return false;
        }
    }

    /// <summary>Writes a length: to a millimetre, or to a part of an inch.</summary>
    /// <param name="metres">Metres; not a number gives an empty text.</param>
    /// <param name="notation">How.</param>
    /// <param name="parts">The parts of an inch, a power of two up to <see cref="Fraction"/>: 16 for sixteenths.</param>
    public static string Write(double metres, LengthNotation notation, int parts = Fraction) =>
        !double.IsFinite(metres)
            ? ""
            : notation switch
            {
                LengthNotation.Metres => $"{Fixed(metres, 3)} m",
                LengthNotation.Millimetres => $"{Fixed(metres * 1000, 0)} mm",
                _ => Imperial(metres, parts),
            };

    /// <summary>Writes a height as drawings do, without its unit where it is a number: <c>+4.800</c>, <c>±0.000</c>,
    /// <c>−16'-2 3/4"</c>.</summary>
    /// <param name="metres">Metres.</param>
    /// <param name="notation">How.</param>
    /// <param name="parts">The parts of an inch.</param>
    public static string WriteHeight(double metres, LengthNotation notation, int parts = Fraction)
    {
        string text = Write(Math.Abs(metres), notation, parts).Split(" m")[0];
        bool zero =
            text == "0'-0\"" || (double.TryParse(text, CultureInfo.InvariantCulture, out double number) && number == 0);
        return (
                zero ? "±"
                : metres > 0 ? "+"
                : "−"
            ) + text;
    }

    private static string Fixed(double value, int digits)
    {
        double rounded = Math.Round(value, digits, MidpointRounding.AwayFromZero);
        return (rounded == 0 ? 0 : rounded).ToString(
            "F" + digits.ToString(CultureInfo.InvariantCulture),
            CultureInfo.InvariantCulture
        );
    }

    private static string Imperial(double metres, int fraction)
    {
        double total = Math.Round(Math.Abs(metres) / Inch * fraction, MidpointRounding.AwayFromZero);
        // Beyond what whole numbers hold exactly, fractions of an inch mean nothing.
        if (total > 1e15)
            return $"{Fixed(metres / Foot, 0)}'";
        long parts = (long)total,
            feet = parts / (12 * fraction),
            inches = parts / fraction % 12,
            over = parts % fraction;
        long under = fraction;
        while (over > 0 && over % 2 == 0)
            (over, under) = (over / 2, under / 2);
        string sign = metres < 0 && parts > 0 ? "-" : "",
            rest = over == 0 ? "" : $" {over}/{under}";
        return $"{sign}{feet}'-{inches}{rest}\"";
    }

    // Marks and signs as typewriters have them; one space where there are several.
    private static string Plain(string text)
    {
        var plain = new System.Text.StringBuilder();
        foreach (char c in text.Trim())
        {
            if (Vulgar.TryGetValue(c, out string? fraction))
                plain.Append(fraction);
            else
                plain.Append(
                    c switch
                    {
                        '′' or '’' or '‘' or '´' => '\'',
                        '″' or '”' or '“' => '"',
                        '−' or '–' or '‐' or '‑' => '-',
                        '⁄' => '/',
                        _ => char.IsWhiteSpace(c) ? ' ' : char.ToLowerInvariant(c),
                    }
                );
        }

        return Spaces().Replace(plain.ToString().Replace("''", "\"", StringComparison.Ordinal), " ");
    }

    // A comma may part decimals or thousands. Where both make sense nobody is asked to guess.
    private static double Number(string digits, string text)
    {
        if (digits.Contains(',', StringComparison.Ordinal))
        {
            if (
                digits.Contains('.', StringComparison.Ordinal)
                || digits.Count(c => c == ',') > 1
                || digits.Length - digits.IndexOf(',') == 4
            )
                throw new FormatException(
                    $"'{text}' can mean two lengths; write it with a point for decimals and nothing between thousands: 15.521 or 15521."
                );
            digits = digits.Replace(',', '.');
        }

        return
            double.TryParse(digits, NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
            && double.IsFinite(value)
            ? value
            : throw No(text);
    }

    private static FormatException No(string text) =>
        new(
            $"'{(text.Length > 60 ? text[..60] + "…" : text)}' is no length; write it as 4.964 m, 4964 mm or 16'-2 3/4\"."
        );

    [GeneratedRegex(@"^([-+]?(?:\d[\d.,]*|[.,]\d+)) ?(mm|cm|m|ft|in)?$", RegexOptions.CultureInvariant)]
    private static partial Regex Decimal();

    [GeneratedRegex(
        @"^(?<sign>[-+]?) ?(?:(?<feet>\d[\d.,]*) ?(?:'|ft)(?: ?-? ?|$))?(?:(?<inches>\d+[.,]?\d*(?!\d* ?/)|[.,]\d+)?(?: ?-? ?(?<over>\d+) ?/ ?(?<under>\d+))? ?(?:""|in)?)?$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex FeetAndInches();

    [GeneratedRegex(" +")]
    private static partial Regex Spaces();
}
