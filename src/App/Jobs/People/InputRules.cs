namespace SteadyLintel.Jobs;

/// <summary>Words that people type: trimmed, of a length, without what no one can see.</summary>
public static class InputRules
{
    /// <summary>A word as it is kept.</summary>
    /// <param name="text">As typed.</param>
    /// <param name="what">What it is, as the beginning of a sentence: <c>The name</c>.</param>
    /// <param name="longest">How many characters it may have.</param>
    /// <param name="needed">Whether it may not be empty.</param>
    /// <exception cref="RefusedException">It is empty, too long, or has characters that cannot be seen.</exception>
    public static string Of(string? text, string what, int longest, bool needed = true)
    {
        string word = (text ?? "").Trim();
        if (needed && word.Length == 0)
            throw new RefusedException(RefusalKind.Wrong, $"{what} is missing.");
        if (word.Length > longest)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"{what} has {word.Length} characters; {longest} are the most."
            );
        if (word.Any(c => char.IsControl(c) || char.IsSurrogate(c)) && !IsText(word))
            throw new RefusedException(
                RefusalKind.Wrong,
                $"{what} has characters that cannot be shown or stored; type it again."
            );
        return word;
    }

    /// <summary>A text of several lines as it is kept: lines end with a line feed.</summary>
    /// <exception cref="RefusedException">It is empty, too long, or has characters that cannot be seen.</exception>
    public static string Lines(string? text, string what, int longest, bool needed = true)
    {
        string whole = (text ?? "").ReplaceLineEndings("\n").Replace('\t', ' ').Trim();
        Of(whole.Replace('\n', ' '), what, longest, needed);
        return whole;
    }

    /// <summary>A code: capital letters and digits, hyphens within.</summary>
    /// <exception cref="RefusedException">It is none.</exception>
    public static string Code(string? text, string what, int longest)
    {
        string code = Of(text, what, longest).ToUpperInvariant();
        if (!code.All(c => char.IsAsciiLetterOrDigit(c) || c == '-') || code[0] == '-' || code[^1] == '-')
            throw new RefusedException(
                RefusalKind.Wrong,
                $"{what} may have letters, digits and hyphens: HW, ARC, T2-STR."
            );
        return code;
    }

    // Whole pairs are letters of their own; nothing else of this kind is.
    private static bool IsText(string word)
    {
        for (int i = 0; i < word.Length; i++)
        {
            if (char.IsControl(word[i]))
                return false;
            if (char.IsSurrogate(word[i]) && !(i + 1 < word.Length && char.IsSurrogatePair(word[i], word[++i])))
                return false;
        }

        return true;
    }
}
