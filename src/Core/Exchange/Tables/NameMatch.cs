using F23.StringSimilarity;

namespace SteadyLintel.Exchange;

/// <summary>A receiver's name that nearly is one of ours.</summary>
/// <param name="Name">Ours.</param>
/// <param name="Receiver">The receiver's.</param>
/// <param name="Score">How alike they are, from 0 to 1.</param>
public readonly record struct NameMatch(string Name, string Receiver, double Score)
{
    /// <summary>The best match of a name, null where none is alike at all.</summary>
    /// <param name="name">The name.</param>
    /// <param name="receivers">The receiver's names.</param>
    /// <remarks>Letters by Jaro-Winkler. Digits count apart: <c>Level 01</c> and <c>Level 10</c> have nearly the same letters and are two
    /// storeys; <c>HEA 200</c> and <c>HEA200</c> are one section. Names whose numbers differ have half the score.</remarks>
    public static NameMatch? Best(string name, IEnumerable<string> receivers)
    {
        var metric = new JaroWinkler();
        var (letters, numbers) = Parted(name);
        NameMatch? best = null;
        foreach (string receiver in receivers)
        {
            var (otherLetters, otherNumbers) = Parted(receiver);
            double score = letters.Length + otherLetters.Length == 0 ? 1 : metric.Similarity(letters, otherLetters);
            if (!numbers.SequenceEqual(otherNumbers))
                score /= 2;
            if (score > (best?.Score ?? 0.3))
                best = new NameMatch(name, receiver, score);
        }

        return best;
    }

    // The letters without signs between them, and the numbers in order without leading zeros.
    private static (string Letters, IReadOnlyList<string> Numbers) Parted(string name)
    {
        string letters = string.Concat(name.Where(char.IsLetter)).ToLowerInvariant();
        var numbers = new string([.. name.Select(c => char.IsAsciiDigit(c) ? c : ' ')])
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(n => n.TrimStart('0') is { Length: > 0 } t ? t : "0");
        return (letters, [.. numbers]);
    }
}
