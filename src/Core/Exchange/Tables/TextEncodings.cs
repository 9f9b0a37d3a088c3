using System.Text;

namespace SteadyLintel.Exchange;

/// <summary>Finds the encoding of a text file by its content: UTF-8, UTF-16 or Windows-1252.</summary>
internal static class TextEncodings
{
    // Bytes that Windows-1252 gives to no letter; and those it gives to signs that do not be inside words. Older code pages have letters
    // there: Ä is 8E in code page 850.
    private const byte FirstSign = 0x80,
        LastSign = 0x9F;

    private static readonly byte[] NoLetters = [0x81, 0x8D, 0x8F, 0x90, 0x9D];

    /// <summary>The text of a file.</summary>
    /// <exception cref="OrderException">Its encoding is uncertain; the message has the line and how to export
    /// it.</exception>
    public static string Read(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith(Encoding.UTF8.Preamble))
            return Strict(Encoding.UTF8, bytes[3..]);
        if (bytes.StartsWith(Encoding.Unicode.Preamble))
            return Strict(Encoding.Unicode, bytes[2..]);
        if (bytes.StartsWith(Encoding.BigEndianUnicode.Preamble))
            return Strict(Encoding.BigEndianUnicode, bytes[2..]);
        if (HalfZero(bytes, 1))
            return Strict(Encoding.Unicode, bytes);
        if (HalfZero(bytes, 0))
            return Strict(Encoding.BigEndianUnicode, bytes);
        if (System.Text.Unicode.Utf8.IsValid(bytes))
            return Encoding.UTF8.GetString(bytes);
        for (int i = 0; i < bytes.Length; i++)
            if (
                Array.IndexOf(NoLetters, bytes[i]) >= 0
                || (bytes[i] is >= FirstSign and <= LastSign && IsLetter(bytes, i - 1) && IsLetter(bytes, i + 1))
            )
                throw Doubt(bytes[..i].Count((byte)'\n') + 1);
        return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(bytes);
    }

    // Latin text in UTF-16 has a zero in every second byte.
    private static bool HalfZero(ReadOnlySpan<byte> bytes, int at)
    {
        if (bytes.Length < 4 || bytes.Length % 2 != 0)
            return false;
        int zeros = 0,
            looked = Math.Min(bytes.Length, 4096);
        for (int i = at; i < looked; i += 2)
            if (bytes[i] == 0)
                zeros++;
        return zeros * 4 > looked;
    }

    private static string Strict(Encoding encoding, ReadOnlySpan<byte> bytes)
    {
        try
        {
            return ((Encoding)encoding.Clone()).With().GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            throw new OrderException(
                "The file says that its text is Unicode and holds bytes that are not; export the table again as CSV in UTF-8."
            );
        }
    }

    private static Encoding With(this Encoding encoding)
    {
        encoding.DecoderFallback = DecoderFallback.ExceptionFallback;
        return encoding;
    }

    private static bool IsLetter(ReadOnlySpan<byte> bytes, int at) =>
        at >= 0 && at < bytes.Length && char.IsAsciiLetter((char)bytes[at]);

    private static OrderException Doubt(int line) =>
        new(
            $"Line {line} has letters whose encoding is uncertain: neither UTF-8 nor UTF-16, and in Windows-1252 they would be signs inside a word. Export the table again as CSV in UTF-8, or as XLSX."
        );
}
