using System.IO.Enumeration;

namespace SteadyLintel.Exchange;

/// <summary>Patterns of tables: <c>*</c> for any letters, <c>?</c> for one.</summary>
internal static class Wildcards
{
    /// <summary>Whether a word is a pattern.</summary>
    public static bool Are(string word) => word.AsSpan().IndexOfAny('*', '?') >= 0;

    /// <summary>Whether everything that one pattern matches is matched by another.</summary>
    /// <param name="wide">The pattern that is to match at least as much.</param>
    /// <param name="narrow">The other; may be a plain word.</param>
    /// <returns>Never true wrongly; of patterns that both have signs in several places it may be false where it holds.</returns>
    public static bool Covers(string wide, string narrow)
    {
        if (wide == "*" || wide.Equals(narrow, StringComparison.OrdinalIgnoreCase))
            return true;
        // A star in the narrow pattern may be no letter or several, which a question mark in the wide one does not match.
        return FileSystemName.MatchesSimpleExpression(wide, narrow)
            && !(narrow.Contains('*', StringComparison.Ordinal) && wide.Contains('?', StringComparison.Ordinal));
    }
}
