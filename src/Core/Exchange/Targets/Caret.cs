using System.Text;

namespace SteadyLintel.Exchange;

/// <summary>Texts that a line of DXF can hold: control characters as a caret and a letter, a caret itself as a caret and a space (DXF
/// reference,
/// "Writing a DXF interface program"; from memory).</summary>
internal static class Caret
{
    private const char Sign = '^',
        Space = ' ';
    private const int Shift = 64,
        FirstPrintable = 32;

    /// <summary>The text with control characters encoded.</summary>
    public static string Encode(string text)
    {
        if (!text.Any(c => c == Sign || c < FirstPrintable))
            return text;
        var encoded = new StringBuilder(text.Length + 8);
        foreach (char c in text)
        {
            if (c == Sign)
                encoded.Append(Sign).Append(Space);
            else if (c < FirstPrintable)
                encoded.Append(Sign).Append((char)(c + Shift));
            else
                encoded.Append(c);
        }

        return encoded.ToString();
    }

    /// <summary>The text as it was.</summary>
    public static string Decode(string text)
    {
        if (!text.Contains(Sign, StringComparison.Ordinal))
            return text;
        var decoded = new StringBuilder(text.Length);
        for (int i = 0; i < text.Length; i++)
        {
            if (text[i] != Sign || i + 1 == text.Length)
                decoded.Append(text[i]);
            else
            {
                char next = text[++i];
                if (next == Space)
                    decoded.Append(Sign);
                else if (next is >= (char)Shift and < (char)(Shift + FirstPrintable))
                    decoded.Append((char)(next - Shift));
                else
                    decoded.Append(Sign).Append(next);
            }
        }

        return decoded.ToString();
    }

    /// <summary>Whether an encoded text ends in the middle of a sign.</summary>
    public static bool EndsOpen(string text)
    {
        int carets = 0;
        for (int i = 0; i < text.Length; i++)
        {
            carets = text[i] == Sign && carets == 0 ? 1 : 0;
        }

        return carets == 1;
    }
}
