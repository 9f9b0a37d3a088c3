using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace SteadyLintel.Web.Pages;

/// <summary>How the commonest tasks are done, and the words of the trade: docs/recipes and docs/glossary.md, shipped with the
/// program.</summary>
[Authorize]
public sealed partial class HelpModel : PageModel
{
    private static readonly Lazy<IReadOnlyList<(string Word, string Meaning)>> Glossary = new(Read);

    /// <summary>The words with their meanings.</summary>
    public IReadOnlyList<(string Word, string Meaning)> Words => Glossary.Value;

    /// <summary>The recipe that is shown; null for the list of all.</summary>
    public Recipe? Shown { get; private set; }

    /// <summary>The recipe before it.</summary>
    public Recipe? Before => Recipe.All.TakeWhile(r => r != Shown).LastOrDefault();

    /// <summary>The recipe after it.</summary>
    public Recipe? After => Recipe.All.SkipWhile(r => r != Shown).Skip(1).FirstOrDefault();

    /// <summary>Shows a recipe, or the list of them.</summary>
    public IActionResult OnGet(string? recipe) =>
        recipe is null || (Shown = Recipe.All.FirstOrDefault(r => r.Name == recipe)) is not null ? Page() : NotFound();

    /// <summary>The picture of a recipe.</summary>
    public IActionResult OnGetPicture(string name) =>
        Recipe.Picture(name) is { } picture ? File(picture, "image/png") : NotFound();

    private static IReadOnlyList<(string, string)> Read()
    {
        using var stream = typeof(HelpModel).Assembly.GetManifestResourceStream("glossary.md")!;
        return
        [
            .. new StreamReader(stream)
                .ReadToEnd()
                .Split('\n')
                .Select(l => Line().Match(l))
                .Where(m => m.Success)
                .Select(m => (Plain(m.Groups[1].Value), Plain(m.Groups[2].Value))),
        ];
    }

    private static string Plain(string text) => Marks().Replace(text, "$1");

    [GeneratedRegex(@"^\| \*\*(.+?)\*\* \| (.+?) \|")]
    private static partial Regex Line();

    // Code, emphasis, links: as the words within.
    [GeneratedRegex(@"[`*\[]+(.+?)(?:[`*]+|\]\([^)]*\))")]
    private static partial Regex Marks();
}
