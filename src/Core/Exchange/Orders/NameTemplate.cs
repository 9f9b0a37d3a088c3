namespace SteadyLintel.Exchange;

/// <summary>File names by rule: words in braces are filled in.</summary>
public static class NameTemplate
{
    /// <summary>The longest name without its extension, letters; systems hold 255 bytes.</summary>
    public const int Longest = 120;

    /// <summary>What no file name may hold on some system.</summary>
    private const string Forbidden = "/\\:*?\"<>|";

    // Names of devices, by common practice.
    private static readonly string[] Devices =
    [
        "CON",
        "PRN",
        "AUX",
        "NUL",
        .. Enumerable.Range(1, 9).SelectMany(n => new[] { $"COM{n}", $"LPT{n}" }),
    ];

    /// <summary>The words that can be filled in.</summary>
    public static IReadOnlyList<string> Words { get; } =
    [
        "job",
        "party",
        "to",
        "source",
        "storey",
        "class",
        "type",
        "mark",
        "group",
        "value",
        "section",
        "revision",
        "date",
        "unit",
        "n",
    ];

    /// <summary>What is wrong with a template, null when nothing is.</summary>
    public static string? Problem(string template)
    {
        if (string.IsNullOrWhiteSpace(template))
            return "A name template cannot be empty.";
        if (
            template.FirstOrDefault(c => char.IsControl(c) || Forbidden.Contains(c, StringComparison.Ordinal))
            is > '\0'
                and var sign
        )
            return $"The name template has '{sign}', which no file name can hold on every system; leave it out.";
        for (
            int open = template.IndexOf('{', StringComparison.Ordinal);
            open >= 0;
            open = template.IndexOf('{', open + 1)
        )
        {
            int close = template.IndexOf('}', open);
            string word = close < 0 ? template[open..] : template[(open + 1)..close];
            if (!Words.Contains(word))
                return $"The name template has '{{{word.Trim('{')}}}'; it can have {string.Join(", ", Words.Select(w => $"{{{w}}}"))}.{NearestNames.Of(word, Words)}";
        }

        return null;
    }

    /// <summary>Fills in a template; what a file name cannot hold becomes a low line.</summary>
    /// <example><c>{party}-{storey}</c> with ARC and <c>Level 1/2</c> gives <c>ARC-Level 1_2</c>.</example>
    public static string Fill(string template, IReadOnlyDictionary<string, string> values)
    {
        string text = template;
        foreach (string word in Words)
            text = text.Replace($"{{{word}}}", values.GetValueOrDefault(word, ""), StringComparison.Ordinal);
        text = string.Concat(
                text.Select(c => char.IsControl(c) || Forbidden.Contains(c, StringComparison.Ordinal) ? '_' : c)
            )
            .Trim(' ', '.', '-', '_');
        return text.Length == 0 ? "model" : text;
    }

    /// <summary>What is wrong with a name that was filled in, null when nothing is.</summary>
    public static string? NameProblem(string name) =>
        name.Length > Longest
            ? $"The name '{name[..40]}…' has {name.Length} letters; {Longest} are the most a receiver can rely on. Take a word out of the name template."
        : Devices.Contains(name.Split('.')[0], StringComparer.OrdinalIgnoreCase)
            ? $"'{name}' is the name of a device where the receiver may be; add a word to the name template."
        : null;
}
