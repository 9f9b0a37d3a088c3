using System.Text.RegularExpressions;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

public partial class RecipeTests
{
    private static readonly string Root = ServerProcess.Root();

    public static TheoryData<string> Files =>
        [.. Directory.EnumerateFiles(Path.Combine(Root, "docs", "recipes")).Order().Select(f => Path.GetFileName(f)!)];

    // What a recipe tells somebody to press has to be on a page, under that name.
    [Theory]
    [MemberData(nameof(Files))]
    public void Everything_a_recipe_names_is_on_a_page(string file)
    {
        string pages = string.Join(
            "\n",
            Directory
                .EnumerateFiles(Path.Combine(Root, "src", "App", "Web"), "*.cs*", SearchOption.AllDirectories)
                .Where(f =>
                    !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/bin/", StringComparison.Ordinal)
                )
                .Select(File.ReadAllText)
        );
        string text = File.ReadAllText(Path.Combine(Root, "docs", "recipes", file));
        var named = Bold().Matches(text).Select(m => m.Groups[1].Value).Distinct().ToList();
        Assert.NotEmpty(named);
        // Where a line of a page ends says nothing.
        pages = string.Join(' ', pages.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        Assert.All(named, n => Assert.Contains(n, pages, StringComparison.Ordinal));
    }

    [Fact]
    public void There_are_ten_each_with_steps_and_its_picture()
    {
        Assert.Equal(10, Recipe.All.Count);
        Assert.All(Recipe.All, r =>
        {
            Assert.NotEmpty(r.Title);
            Assert.Contains("<li>", r.Html, StringComparison.Ordinal);
            using var picture = Recipe.Picture(Picture().Match(r.Html).Groups[1].Value);
            Assert.NotNull(picture);
        });
    }

    [GeneratedRegex(@"\*\*(.+?)\*\*")]
    private static partial Regex Bold();

    [GeneratedRegex(@"name=([a-z-]+)")]
    private static partial Regex Picture();
}
