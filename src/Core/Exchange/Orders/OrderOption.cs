namespace SteadyLintel.Exchange;

/// <summary>A place of an order's document that takes one of some words: said once for the reader, the schema, the page and the
/// terminal.</summary>
/// <param name="Place">What the place is called in a sentence: <c>unit</c>.</param>
/// <param name="Choices">The words, in the order in which they are offered.</param>
public sealed record OrderOption(string Place, Func<IReadOnlyList<OrderWord>> Choices)
{
    /// <summary>The words alone.</summary>
    public IReadOnlyList<string> Words => [.. Choices().Select(c => c.Word)];

    /// <summary>The words in a sentence: <c>csv, xlsx or json</c>.</summary>
    public string Listed => Listing(Words);

    /// <summary>What a page calls a word; the word itself where it is none of them.</summary>
    public string Label(string word) => Choices().FirstOrDefault(c => c.Word == word)?.Label ?? word;

    /// <summary>Refuses a word that is none of them.</summary>
    /// <param name="word">The word; null where the place may be empty.</param>
    /// <exception cref="OrderException">It is not known; the sentence has the nearest.</exception>
    public void Check(string? word)
    {
        var words = Words;
        if (word is not null && !words.Contains(word, StringComparer.Ordinal))
            throw new OrderException($"{Place} takes {Listing(words)}, not '{word}'.{NearestNames.Of(word, words)}");
    }

    /// <summary>Some words in a sentence.</summary>
    internal static string Listing(IReadOnlyList<string> words) =>
        words.Count > 1 ? $"{string.Join(", ", words.SkipLast(1))} or {words[^1]}" : string.Concat(words);
}

/// <summary>A word of a document.</summary>
/// <param name="Word">As the document and the terminal have it.</param>
/// <param name="Label">As pages show it.</param>
public sealed record OrderWord(string Word, string Label);
