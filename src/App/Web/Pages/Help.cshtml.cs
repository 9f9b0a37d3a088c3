using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace SteadyLintel.Web.Pages;

/// <summary>The words of the trade, from docs/glossary.md, which is shipped with the program.</summary>
[Authorize]
public sealed partial class HelpModel : PageModel
{
    private static readonly Lazy<IReadOnlyList<(string Word, string Meaning)>> Glossary = new(Read);

    /// <summary>The words with their meanings.</summary>
    public IReadOnlyList<(string Word, string Meaning)> Words => Glossary.Value;

    private static IReadOnlyList<(string, string)> Read()
    {
        using var stream = typeof(HelpModel).Assembly.GetManifestResourceStream("glossary.md")!;
        return [.. new StreamReader(stream).ReadToEnd().Split('\n').Select(l => Line().Match(l)).Where(m => m.Success)
            .Select(m => (Plain(m.Groups[1].Value), Plain(m.Groups[2].Value)))];
    }

    private static string Plain(string text) => Marks().Replace(text, "$1");

    [GeneratedRegex(@"^\| \*\*(.+?)\*\* \| (.+?) \|")]
    private static partial Regex Line();

    // Code, emphasis, links: as the words within.
    [GeneratedRegex(@"[`*\[]+(.+?)(?:[`*]+|\]\([^)]*\))")]
    private static partial Regex Marks();
}
