using System.Text.RegularExpressions;

namespace SteadyLintel.Web;

/// <summary>What to do next about a finding, from docs/findings.md, which is shipped with the program.</summary>
public static partial class FindingHelp
{
    private static readonly Lazy<IReadOnlyDictionary<string, string>> Steps = new(Read);

    /// <summary>The next step, a sentence; null for a code that the page does not list.</summary>
    public static string? Next(string code) => Steps.Value.GetValueOrDefault(code);

    private static Dictionary<string, string> Read()
    {
        using var stream = typeof(FindingHelp).Assembly.GetManifestResourceStream("findings.md")!;
        var steps = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (
            string line in new StreamReader(stream)
                .ReadToEnd()
                .Split('\n')
                .Where(l => l.StartsWith("| `", StringComparison.Ordinal))
        )
        {
            string[] cells = line.Split(" | ");
            foreach (Match code in Code().Matches(cells[0]))
                steps[code.Groups[1].Value] = cells[^1].Trim(' ', '|');
        }

        return steps;
    }

    [GeneratedRegex("`([A-Z]+-[A-Z0-9-]+)`")]
    private static partial Regex Code();
}
