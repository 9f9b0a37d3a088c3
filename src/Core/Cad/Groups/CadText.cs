using System.Globalization;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Text of drawings: code pages, and characters written as codes.</summary>
internal sealed class CadText
{
    private const int Slots = 256,
        LongestKept = 48;
    private readonly Encoding _encoding;
    private readonly (byte[] Bytes, string Text)[] _known = new (byte[], string)[Slots];

    /// <param name="encoding">What bytes mean beyond ASCII.</param>
    public CadText(Encoding encoding) => _encoding = encoding;

    /// <summary>UTF-8 from 2007 on; the code page named by $DWGCODEPAGE before, with Latin 1 where it is not known.</summary>
    public static CadText For(CadVersion version, string codePage) =>
        new(version >= CadVersion.AC1021 ? new UTF8Encoding(false) : CodePages.Encoding(codePage));

    /// <summary>Text from bytes; \U+XXXX and \M+nXXXX become characters.</summary>
    public string Decode(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length is 0 or > LongestKept)
            return bytes.Length == 0 ? "" : Make(bytes);
        // The same few names come again and again: layers, styles, kinds.
        ref var slot = ref _known[
            ((bytes.Length * 31) + (bytes[0] * 7) + (bytes[^1] * 13) + (bytes[bytes.Length / 2] * 5)) & (Slots - 1)
        ];
        if (slot.Bytes is not null && bytes.SequenceEqual(slot.Bytes))
            return slot.Text;
        slot = (bytes.ToArray(), Make(bytes));
        return slot.Text;
    }

    private string Make(ReadOnlySpan<byte> bytes) =>
        bytes.Contains((byte)'\\') ? Codes(_encoding.GetString(bytes)) : _encoding.GetString(bytes);

    /// <summary>Bytes of text; what the code page lacks becomes \U+XXXX.</summary>
    public byte[] Encode(string text)
    {
        if (_encoding is UTF8Encoding || Ascii.IsValid(text))
            return _encoding.GetBytes(text);
        var builder = new StringBuilder();
        foreach (char c in text)
        {
            if (c < 128 || Knows(c))
                builder.Append(c);
            else
                builder.Append(CultureInfo.InvariantCulture, $"\\U+{(int)c:X4}");
        }

        return _encoding.GetBytes(builder.ToString());
    }

    private bool Knows(char c)
    {
        Span<byte> bytes = stackalloc byte[8];
        Span<char> back = stackalloc char[4];
        int length = _encoding.GetBytes([c], bytes),
            chars = _encoding.GetChars(bytes[..length], back);
        return chars == 1 && back[0] == c;
    }

    private static string Codes(string text)
    {
        int at = text.IndexOf("\\U+", StringComparison.OrdinalIgnoreCase),
            multi = text.IndexOf("\\M+", StringComparison.OrdinalIgnoreCase);
        if (at < 0 && multi < 0)
            return text;
        var builder = new StringBuilder(text.Length);
        for (int i = 0; i < text.Length; i++)
        {
            var rest = text.AsSpan(i);
            if (
                rest.Length >= 7
                && rest.StartsWith("\\U+", StringComparison.OrdinalIgnoreCase)
                && int.TryParse(rest.Slice(3, 4), NumberStyles.HexNumber, CultureInfo.InvariantCulture, out int code)
            )
            {
                builder.Append((char)code);
                i += 6;
            }
            else if (
                rest.Length >= 8
                && rest.StartsWith("\\M+", StringComparison.OrdinalIgnoreCase)
                && CodePages.MultiByte(rest[3], rest.Slice(4, 4)) is { } known
            )
            {
                builder.Append(known);
                i += 7;
            }
            else
                builder.Append(text[i]);
        }

        return builder.ToString();
    }
}
