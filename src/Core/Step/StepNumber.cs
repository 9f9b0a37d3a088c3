using System.Buffers.Text;
using System.Globalization;

namespace SteadyLintel.Step;

/// <summary>Reads and prints the numbers of ISO 10303-21 clause 6.4.</summary>
public static class StepNumber
{
    private static readonly double[] Powers =
    [
        1e0,
        1e1,
        1e2,
        1e3,
        1e4,
        1e5,
        1e6,
        1e7,
        1e8,
        1e9,
        1e10,
        1e11,
        1e12,
        1e13,
        1e14,
        1e15,
        1e16,
        1e17,
        1e18,
        1e19,
        1e20,
        1e21,
        1e22,
    ];

    /// <summary>Parses an integer or real, correctly rounded.</summary>
    /// <param name="text">As it is in the file, without white space around it.</param>
    /// <param name="value">The number; 0 where it is none.</param>
    /// <remarks>
    /// A mantissa below 2^53 with a power of ten up to 22 is exact in one operation (Clinger 1990); everything else
    /// goes to the framework's parser.
    /// </remarks>
    /// <returns>False when the bytes are not a number.</returns>
    public static bool TryParse(ReadOnlySpan<byte> text, out double value)
    {
        long mantissa = 0;
        int i = 0,
            scale = 0,
            digits = 0;
        bool negative = false,
            point = false;
        if (text.Length > 0 && (text[0] == '-' || text[0] == '+'))
        {
            negative = text[0] == '-';
            i = 1;
        }

        for (; i < text.Length; i++)
        {
            int c = text[i] - '0';
            if ((uint)c <= 9)
            {
                mantissa = (mantissa * 10) + c;
                if (mantissa != 0)
                    digits++;
                if (digits > 15)
                    return Slow(text, out value);
                if (point)
                    scale--;
            }
            else if (text[i] == '.' && !point)
                point = true;
            else
                break;
        }

        if (i < text.Length)
        {
            if (text[i] is not ((byte)'E' or (byte)'e') || i == 0)
                return Slow(text, out value);
            var exponent = text[(i + 1)..];
            if (exponent.Length > 0 && exponent[0] == '+')
                exponent = exponent[1..];
            if (
                !Utf8Parser.TryParse(exponent, out int e, out int used)
                || used != exponent.Length
                || e is > 400 or < -400
            )
                return Slow(text, out value);
            scale += e;
        }
        else if (text.Length == 0 || (text.Length == 1 && (negative || point || text[0] == '+')))
        {
            value = 0;
            return false;
        }

        if (scale is > 22 or < -22)
            return Slow(text, out value);
        value = scale >= 0 ? mantissa * Powers[scale] : mantissa / Powers[-scale];
        if (negative)
            value = -value;
        return true;
    }

    private static bool Slow(ReadOnlySpan<byte> text, out double value) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out value) && double.IsFinite(value);

    /// <summary>A number to 15 digits, so that 4800 thousandths are 4.8 and not its neighbour.</summary>
    /// <param name="value">Any number.</param>
    public static double Rounded(double value) =>
        double.Parse(value.ToString("G15", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);

    /// <summary>Prints a real so that it reads back the same, with the full stop the standard demands: <c>1.</c>, <c>1.E-05</c>.</summary>
    /// <param name="value">A finite number.</param>
    public static string Format(double value)
    {
        if (!double.IsFinite(value))
            throw new ArgumentOutOfRangeException(nameof(value), "A real in an exchange structure is finite.");
        string text = value.ToString("R", CultureInfo.InvariantCulture);
        int e = text.IndexOf('E');
        string mantissa = e < 0 ? text : text[..e];
        if (!mantissa.Contains('.'))
            mantissa += ".";
        return e < 0 ? mantissa : mantissa + text[e..];
    }
}
