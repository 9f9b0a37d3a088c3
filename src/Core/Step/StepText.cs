using System.Globalization;
using System.Text;

namespace SteadyLintel.Step;

/// <summary>Strings of ISO 10303-21 clause 6.4.3: the coded form between apostrophes and the text it means.</summary>
public static class StepText
{
    private static readonly Encoding Utf8Strict = new UTF8Encoding(false, true);

    /// <summary>Decodes the bytes between the apostrophes.</summary>
    /// <param name="coded">Without the apostrophes around them.</param>
    /// <remarks>
    /// <c>''</c> is an apostrophe, <c>\\</c> a backslash, <c>\S\d</c> shifts into the page chosen by <c>\PB\</c>
    /// (ISO 8859-1 unless \P is set), <c>\X\E4</c> is one byte of ISO 8859-1, <c>\X2\00E4\X0\</c> UTF-16, <c>\X4\0001F600\X0\</c>
    /// UTF-32, <c>\N\</c> a line feed. Raw bytes above 127, which the standard forbids, are taken for UTF-8 and, when they
    /// are not, for ISO 8859-1. A broken directive is kept as it is.
    /// </remarks>
    public static string Decode(ReadOnlySpan<byte> coded)
    {
        if (coded.IndexOfAny((byte)'\\', (byte)'\'') < 0)
            return Plain(coded);
        var text = new StringBuilder(coded.Length);
        int page = 1;
        while (!coded.IsEmpty)
        {
            int stop = coded.IndexOfAny((byte)'\\', (byte)'\'');
            if (stop < 0)
                stop = coded.Length;
            if (stop > 0)
                text.Append(Plain(coded[..stop]));
            coded = coded[stop..];
            if (coded.IsEmpty)
                break;
            coded = coded[(coded[0] == '\'' ? Apostrophe(coded, text) : Directive(coded, text, ref page))..];
        }

        return text.ToString();
    }

    /// <summary>Encodes text so that it can be between apostrophes; the result is pure ASCII.</summary>
    /// <param name="text">Any text.</param>
    public static string Encode(string text)
    {
        var coded = new StringBuilder(text.Length + 8);
        int wide = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            int form =
                rune.Value is >= 32 and < 127 ? 0
                : rune.Value <= 0xFFFF ? 2
                : 4;
            if (form != wide)
            {
                if (wide != 0)
                    coded.Append("\\X0\\");
                if (form != 0)
                    coded.Append(form == 2 ? "\\X2\\" : "\\X4\\");
                wide = form;
            }

            if (form == 2)
                coded.Append(rune.Value.ToString("X4", CultureInfo.InvariantCulture));
            else if (form == 4)
                coded.Append(rune.Value.ToString("X8", CultureInfo.InvariantCulture));
            else if (rune.Value == '\'')
                coded.Append("''");
            else if (rune.Value == '\\')
                coded.Append("\\\\");
            else
                coded.Append((char)rune.Value);
        }

        if (wide != 0)
            coded.Append("\\X0\\");
        return coded.ToString();
    }

    private static string Plain(ReadOnlySpan<byte> bytes)
    {
        if (System.Text.Ascii.IsValid(bytes))
            return Encoding.ASCII.GetString(bytes);
        try
        {
            return Utf8Strict.GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return Encoding.Latin1.GetString(bytes);
        }
    }

    private static int Apostrophe(ReadOnlySpan<byte> coded, StringBuilder text)
    {
        text.Append('\'');
        return coded.Length > 1 && coded[1] == '\'' ? 2 : 1;
    }

    // Returns how many bytes were used; an unknown directive yields its backslash and goes on.
    private static int Directive(ReadOnlySpan<byte> coded, StringBuilder text, ref int page)
    {
        if (coded.StartsWith("\\\\"u8))
        {
            text.Append('\\');
            return 2;
        }
        if (coded.StartsWith("\\N\\"u8))
        {
            text.Append('\n');
            return 3;
        }
        if (coded.StartsWith("\\S\\"u8) && coded.Length > 3)
        {
            text.Append(Page(page, (byte)(coded[3] | 0x80)));
            return 4;
        }
        if (
            coded.StartsWith("\\P"u8)
            && coded.Length > 3
            && coded[3] == '\\'
            && coded[2] is >= (byte)'A' and <= (byte)'I'
        )
        {
            page = coded[2] - 'A' + 1;
            return 4;
        }
        if (coded.StartsWith("\\X\\"u8) && coded.Length >= 5 && Hex(coded.Slice(3, 2), out uint one))
        {
            text.Append((char)one);
            return 5;
        }
        if (coded.StartsWith("\\X2\\"u8))
            return Wide(coded, 4, text);
        if (coded.StartsWith("\\X4\\"u8))
            return Wide(coded, 8, text);
        text.Append('\\');
        return 1;
    }

    private static int Wide(ReadOnlySpan<byte> coded, int digits, StringBuilder text)
    {
        int at = 4;
        while (at + digits <= coded.Length && Hex(coded.Slice(at, digits), out uint unit))
        {
            if (digits == 4)
                text.Append((char)unit);
            else
                text.Append(Rune.TryCreate(unit, out var rune) ? rune.ToString() : "\uFFFD");
            at += digits;
        }

        if (coded[at..].StartsWith("\\X0\\"u8))
            return at + 4;
        if (at > 4)
            return at;
        text.Append('\\');
        return 1;
    }

    private static bool Hex(ReadOnlySpan<byte> digits, out uint value) =>
        uint.TryParse(digits, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out value);

    private static char Page(int part, byte value)
    {
        if (part == 1)
            return (char)value;
        var encoding = CodePagesEncodingProvider.Instance.GetEncoding($"iso-8859-{part}") ?? Encoding.Latin1;
        return encoding.GetString([value])[0];
    }
}
