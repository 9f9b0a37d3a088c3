namespace SteadyLintel.Exchange;

/// <summary>File names by rule: <c>{job}</c>, <c>{party}</c>, <c>{source}</c>, <c>{storey}</c> and <c>{unit}</c> are filled in.</summary>
public static class NameTemplate
{
    private static readonly string[] Words = ["job", "party", "source", "storey", "unit"];

    /// <summary>What is wrong with a template, null when nothing is.</summary>
    public static string? Problem(string template)
    {
        if (string.IsNullOrWhiteSpace(template)) return "A name template cannot be empty.";
        for (int open = template.IndexOf('{', StringComparison.Ordinal); open >= 0; open = template.IndexOf('{', open + 1))
        {
            int close = template.IndexOf('}', open);
            string word = close < 0 ? template[open..] : template[(open + 1)..close];
            if (!Words.Contains(word))
                return $"The name template has '{{{word.Trim('{')}}}'; it can have {string.Join(", ", Words.Select(w => $"{{{w}}}"))}.";
        }

        return null;
    }

    /// <summary>Fills in a template; what a file name cannot hold becomes a low line.</summary>
    /// <example><c>{party}-{storey}</c> with ARC and <c>Level 1/2</c> gives <c>ARC-Level 1_2</c>.</example>
    public static string Fill(string template, IReadOnlyDictionary<string, string> values)
    {
        string text = template;
        foreach (string word in Words) text = text.Replace($"{{{word}}}", values.GetValueOrDefault(word, ""), StringComparison.Ordinal);
        text = string.Concat(text.Select(c => char.IsControl(c) || "/\\:*?\"<>|".Contains(c, StringComparison.Ordinal) ? '_' : c))
            .Trim(' ', '.', '-', '_');
        if (text.Length > 120) text = text[..120];
        return text.Length == 0 ? "model" : text;
    }
}
