using System.Runtime.CompilerServices;

namespace SteadyLintel.Step;

/// <summary>Moves over the bytes of an exchange structure without building anything.</summary>
internal static class StepScan
{
    /// <summary>The index of the first byte at or after <paramref name="at"/> that is neither white space nor inside a comment.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static int SkipSpace(ReadOnlySpan<byte> bytes, int at) =>
        (uint)at < (uint)bytes.Length && bytes[at] > ' ' && bytes[at] != '/' ? at : SkipSpaceSlowly(bytes, at);

    private static int SkipSpaceSlowly(ReadOnlySpan<byte> bytes, int at)
    {
        while (at < bytes.Length)
        {
            byte c = bytes[at];
            if (c <= ' ')
                at++;
            else if (c == '/' && at + 1 < bytes.Length && bytes[at + 1] == '*')
                at = SkipComment(bytes, at);
            else
                break;
        }

        return at;
    }

    /// <summary>The index after the comment that starts at <paramref name="at"/>; the end of the bytes when it is never closed.</summary>
    public static int SkipComment(ReadOnlySpan<byte> bytes, int at)
    {
        int end = bytes[(at + 2)..].IndexOf("*/"u8);
        return end < 0 ? bytes.Length : at + 2 + end + 2;
    }

    /// <summary>The index after the string that opens at <paramref name="at"/>; the end of the bytes when it is never closed.</summary>
    public static int SkipString(ReadOnlySpan<byte> bytes, int at)
    {
        for (at++; ; )
        {
            int quote = bytes[at..].IndexOf((byte)'\'');
            if (quote < 0)
                return bytes.Length;
            at += quote + 1;
            if (at >= bytes.Length || bytes[at] != '\'')
                return at;
            at++;
        }
    }

    /// <summary>Whether parentheses are nested deeper than a number; those in strings and comments do not count.</summary>
    /// <param name="bytes">Of an instance.</param>
    /// <param name="depth">How deep is deep enough.</param>
    public static bool IsDeeper(ReadOnlySpan<byte> bytes, int depth)
    {
        // Most values have few parentheses, and counting them is cheap.
        if (bytes.Count((byte)'(') <= depth)
            return false;
        int open = 0;
        for (int at = 0; at < bytes.Length; )
        {
            byte c = bytes[at];
            if (c == '(' && ++open > depth)
                return true;
            if (c == ')')
                open--;
            at =
                c == '\'' ? SkipString(bytes, at)
                : c == '/' && at + 1 < bytes.Length && bytes[at + 1] == '*' ? SkipComment(bytes, at)
                : at + 1;
        }

        return false;
    }

    /// <summary>The index of the comma or closing parenthesis that ends the parameter at <paramref name="at"/>, or the end of the
    /// bytes.</summary>
    public static int SkipParameter(ReadOnlySpan<byte> bytes, int at)
    {
        int depth = 0;
        while ((uint)at < (uint)bytes.Length)
        {
            // Letters and digits beyond '/' are most of it.
            if (bytes[at] > '/')
            {
                at++;
                continue;
            }

            switch (bytes[at])
            {
                case (byte)'(':
                    depth++;
                    at++;
                    break;
                case (byte)')':
                    if (depth-- == 0)
                        return at;
                    at++;
                    break;
                case (byte)',' when depth == 0:
                    return at;
                case (byte)'\'':
                    at = SkipString(bytes, at);
                    break;
                case (byte)'/' when at + 1 < bytes.Length && bytes[at + 1] == '*':
                    at = SkipComment(bytes, at);
                    break;
                default:
                    at++;
                    break;
            }
        }

        return at;
    }

    /// <summary>The end of a parameter without white space and comments behind it.</summary>
    /// <param name="bytes">Of the file.</param>
    /// <param name="from">Where the parameter begins.</param>
    /// <param name="to">Where the next begins.</param>
    public static int TrimEnd(ReadOnlySpan<byte> bytes, int from, int to)
    {
        while (true)
        {
            while (to > from && bytes[to - 1] <= ' ')
                to--;
            if (to - from < 4 || bytes[to - 1] != '/' || bytes[to - 2] != '*')
                return to;
            int comment = bytes[from..to].LastIndexOf("/*"u8);
            if (comment < 0)
                return to;
            to = from + comment;
        }
    }

    /// <summary>Whether a byte may be in a keyword.</summary>
    /// <param name="c">The byte.</param>
    public static bool IsKeyword(byte c) =>
        char.IsAsciiLetterOrDigit((char)c) || c is (byte)'_' or (byte)'-' or (byte)'!';

    /// <summary>The one-based line of an offset.</summary>
    /// <param name="bytes">Of the file.</param>
    /// <param name="offset">In them.</param>
    public static int LineOf(ReadOnlySpan<byte> bytes, int offset) =>
        bytes[..Math.Min(offset, bytes.Length)].Count((byte)'\n') + 1;
}
