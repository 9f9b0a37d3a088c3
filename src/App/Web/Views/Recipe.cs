using Markdig;

namespace SteadyLintel.Web;

/// <summary>How one of the commonest tasks is done, from docs/recipes, which are shipped with the program.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Title">What it does.</param>
/// <param name="Html">Its steps, with a picture.</param>
public sealed record Recipe(string Name, string Title, string Html)
{
    private const string Folder = "recipes/",
        Pictures = "screenshots/";
    private static readonly System.Reflection.Assembly Here = typeof(Recipe).Assembly;

    /// <summary>All of them, in the order of the work.</summary>
    public static IReadOnlyList<Recipe> All { get; } =
    [
        .. Here.GetManifestResourceNames()
            .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .Select(Read),
    ];

    /// <summary>A picture that a recipe shows, PNG; null where there is none of this name.</summary>
    public static Stream? Picture(string name) => Here.GetManifestResourceStream($"{Pictures}{name}.png");

    private static Recipe Read(string resource)
    {
        using var reader = new StreamReader(Here.GetManifestResourceStream(resource)!);
        string title = reader.ReadLine()!.TrimStart('#', ' ');
        // The number before the name is its place in the list; pictures come from the page's own handler.
        string name = Path.GetFileNameWithoutExtension(resource[Folder.Length..]).Split('-', 2)[1];
        string text = reader
            .ReadToEnd()
            .Replace($"../{Pictures}", "/help?handler=Picture&name=", StringComparison.Ordinal)
            .Replace(".png)", ")", StringComparison.Ordinal);
        return new Recipe(name, title, Markdown.ToHtml(text, new MarkdownPipelineBuilder().DisableHtml().Build()));
    }
}
