using System.Globalization;

namespace SteadyLintel.Jobs;

/// <summary>Colours of parties: distinguished by everybody, readable as text on paper.</summary>
public static class PartyColours
{
    /// <summary>Paper, as the pages have it: white.</summary>
    private const double Paper = 1.0;

    /// <summary>The least contrast of text with paper (WCAG 2.2, 1.4.3).</summary>
    public const double LeastContrast = 4.5;

    /// <summary>Those offered, in this order: after Okabe and Ito (2008), darkened until they read on paper as text.</summary>
    public static readonly IReadOnlyList<string> Offered =
    [
        "#0072b2",
        "#b84a00",
        "#00795a",
        "#8a4570",
        "#7a5a00",
        "#1c6d8c",
        "#5c5c5c",
        "#3d4f9f",
    ];

    /// <summary>A colour as it is kept, <c>#rrggbb</c>.</summary>
    /// <exception cref="RefusedException">It is no colour, or too pale to be read.</exception>
    public static string Checked(string? text)
    {
        string colour = (text ?? "").Trim().ToLowerInvariant();
        if (colour.Length != 7 || colour[0] != '#' || !colour[1..].All(char.IsAsciiHexDigit))
            throw new RefusedException(
                RefusalKind.Wrong,
                $"'{text}' is no colour; choose one that is offered, or type it as #0072b2."
            );
        if (Contrast(colour) is < LeastContrast and var contrast)
            throw new RefusedException(
                RefusalKind.Wrong,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{colour} is too pale to be read on paper ({contrast:0.0} to 1, {LeastContrast} are needed); choose a darker one."
                )
            );
        return colour;
    }

    /// <summary>The contrast of a colour with paper, 1 … 21 (WCAG 2.2, definition of contrast ratio).</summary>
    public static double Contrast(string colour) => (Paper + 0.05) / (Luminance(colour) + 0.05);

    // WCAG 2.2, definition of relative luminance.
    private static double Luminance(string colour)
    {
        double Channel(int at)
        {
            double c = int.Parse(colour.AsSpan(at, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0;
            return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
        }

        return (0.2126 * Channel(1)) + (0.7152 * Channel(3)) + (0.0722 * Channel(5));
    }
}
