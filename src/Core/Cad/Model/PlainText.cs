using System.Globalization;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Text without formatting: %% codes of TEXT, backslash codes of MTEXT.</summary>
public static class PlainText
{
    /// <summary>The text of a TEXT or attribute: <c>%%d</c> is °, <c>%%p</c> ±, <c>%%c</c> ⌀, <c>%%nnn</c> a character, <c>%%u</c> and
    /// <c>%%o</c> lines that are left out.</summary>
    public static string Of(string text)
    {
        if (!text.Contains("%%", StringComparison.Ordinal))
            return text;
        var plain = new StringBuilder(text.Length);
        for (int i = 0; i < text.Length; i++)
        {
            if (text[i] != '%' || i + 2 >= text.Length || text[i + 1] != '%')
            {
                plain.Append(text[i]);
                continue;
            }

            char code = char.ToLowerInvariant(text[i + 2]);
            i += 2;
            if (Sign(code) is { } sign)
                plain.Append(sign);
            else if (code is 'u' or 'o' or 'k')
                continue;
            else if (
                i + 2 < text.Length
                && int.TryParse(text.AsSpan(i, 3), NumberStyles.None, CultureInfo.InvariantCulture, out int number)
            )
            {
                plain.Append((char)number);
                i += 2;
            }
            else
                plain.Append(text[i]);
        }

        return plain.ToString();
    }

    /// <summary>The text of an MTEXT: paragraphs are lines, stacked fractions are written with a stroke, fonts, colours and sizes are left
    /// out.</summary>
    public static string OfMText(string text)
    {
        var plain = new StringBuilder(text.Length);
        for (int i = 0; i < text.Length; i++)
        {
            char c = text[i];
            if (c is '{' or '}')
                continue;
            if (c != '\\' || i + 1 >= text.Length)
            {
                plain.Append(c);
                continue;
            }

            char code = text[++i];
            switch (code)
            {
                case 'P' or 'N' or 'X':
                    plain.Append('\n');
                    break;
                case '~':
                    plain.Append('\u00A0');
                    break;
                case '\\' or '{' or '}':
                    plain.Append(code);
                    break;
                case 'L' or 'l' or 'O' or 'o' or 'K' or 'k':
                    break;
                case 'S':
                    i = Stack(text, i + 1, plain);
                    break;
                case 'A' or 'C' or 'c' or 'f' or 'F' or 'H' or 'Q' or 'T' or 'W' or 'p':
                    int end = text.IndexOf(';', i);
                    i = end < 0 ? text.Length : end;
                    break;
                default:
                    plain.Append('\\').Append(code);
                    break;
            }
        }

        return Of(plain.ToString());
    }

    private static string? Sign(char code) =>
        code switch
        {
            'd' => "°",
            'p' => "±",
            'c' => "⌀",
            '%' => "%",
            _ => null,
        };

    private static int Stack(string text, int from, StringBuilder plain)
    {
        int end = text.IndexOf(';', from);
        if (end < 0)
            end = text.Length;
        foreach (char c in text.AsSpan(from, end - from))
            plain.Append(c is '^' or '#' ? '/' : c);
        return end;
    }
}
