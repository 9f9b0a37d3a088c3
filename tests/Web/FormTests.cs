using System.Net;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>Forms whose answers the browser tests do not look at: the drawing preparation, the setting-out, settings and the
/// account.</summary>
[Collection(DemoJob.Name)]
public partial class FormTests(DemoServer demo)
{
    private static async Task<string> PreviewAsync(
        LintelClient client,
        string page,
        params (string Name, string Value)[] fields
    ) =>
        WebUtility.HtmlDecode(
            await (await client.FormAsync(page, "Preview", fields))
                .EnsureSuccessStatusCode()
                .Content.ReadAsStringAsync()
        );

    private static async Task<string> DeskAsync(LintelClient client, string drawing) =>
        "/jobs/HW"
        + Regex
            .Match(
                WebUtility.HtmlDecode(await client.GetAsync("/jobs/HW/setout")),
                $"{drawing}.*?(/desk/[0-9a-f-]{{36}})",
                RegexOptions.Singleline
            )
            .Groups[1]
            .Value;

    [Fact]
    public async Task The_grid_of_properties_shows_what_the_rules_choose()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        (
            await coordinator.FormAsync(
                "/jobs/HW/library",
                "Standard",
                ("name", "Doors and windows"),
                ("classes", "IfcDoor; IfcWindow")
            )
        ).EnsureSuccessStatusCode();
        async Task<int> Rows(string rules)
        {
            string page = await coordinator.GetAsync("/jobs/HW/properties?template=Doors+and+windows" + rules);
            string number = WebUtility.HtmlDecode(
                Regex.Match(page, "<h1>Properties of (.+?) elements?").Groups[1].Value
            );
            return int.Parse(
                string.Concat(number.Where(char.IsDigit)),
                System.Globalization.CultureInfo.InvariantCulture
            );
        }

        int all = await Rows(""),
            doors = await Rows("&Rules[0].Do=only&Rules[0].What=class&Rules[0].Are=door");
        Assert.InRange(doors, 1, all - 1);
        Assert.Equal(all - doors, await Rows("&Rules[0].Do=without&Rules[0].What=class&Rules[0].Are=door"));
        Assert.Equal(
            0,
            await Rows(
                "&Rules[0].Do=only&Rules[0].What=class&Rules[0].Are=door&Rules[1].Do=without&Rules[1].What=class&Rules[1].Are=door"
            )
        );
        // An empty line, as the page has one, chooses nothing.
        Assert.Equal(all, await Rows("&Rules[0].Do=only&Rules[0].What=property&Rules[0].Is=&Rules[0].Are="));
    }

    [Fact]
    public async Task A_window_that_holds_nothing_is_not_added()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string desk = await DeskAsync(coordinator, "Foundation plan");
        string refused = await PreviewAsync(
            coordinator,
            desk,
            ("Form.Act", "window"),
            ("Form.Picks", "9e8,9e8,9.1e8,9.1e8")
        );
        Assert.Contains("The window holds nothing, so it was not added.", refused, StringComparison.Ordinal);
        Assert.DoesNotContain("keep the window", refused, StringComparison.Ordinal);
        string taken = await PreviewAsync(
            coordinator,
            desk,
            ("Form.Act", "window"),
            ("Form.Picks", "-9e8,-9e8,9e8,9e8")
        );
        Assert.Contains("keep the window", taken, StringComparison.Ordinal);
        Assert.DoesNotContain("holds nothing", taken, StringComparison.Ordinal);
        // The figure below the steps: all of what came is left.
        var left = Left().Match(taken);
        Assert.Equal(left.Groups[1].Value, left.Groups[2].Value);
    }

    [Theory]
    [InlineData("2", "2", null)]
    [InlineData("", "1", null)]
    [InlineData("twice", null, "twice")]
    [InlineData("0", null, "0")]
    public async Task A_scale_can_be_typed(string typed, string? shown, string? wrong)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string page =
            "/jobs/HW" + Regex.Match(await coordinator.GetAsync("/jobs/HW/setout"), "/setout/[0-9a-f-]{36}").Value;
        string answer = await PreviewAsync(
            coordinator,
            page,
            ("Way", "typed"),
            ("X", "0"),
            ("Y", "0"),
            ("Turn", "0"),
            ("Scale", typed)
        );
        if (shown is not null)
            Assert.Matches($@"Scale\s*</t[dh]>\s*<td[^>]*>\s*{shown}\b", answer);
        else
            Assert.Contains(wrong!, Notice().Match(answer).Groups[1].Value, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Single_keys_can_be_switched_off_for_oneself()
    {
        using var reader = await demo.SignedInAsync("reader");
        (string, string)[] others = [("name", "Reader"), ("lengths", "m"), ("zone", "")];
        Assert.Contains("data-keys=\"on\"", await reader.GetAsync("/"), StringComparison.Ordinal);
        await reader.FormAsync("/account", "Name", others);
        Assert.Contains("data-keys=\"off\"", await reader.GetAsync("/"), StringComparison.Ordinal);
        await reader.FormAsync("/account", "Name", [.. others, ("keys", "true")]);
        Assert.Contains("data-keys=\"on\"", await reader.GetAsync("/"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Inches_are_shown_to_the_part_that_the_job_says()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string before = Inch().Match(await coordinator.GetAsync("/jobs/HW")).Groups[1].Value;
        await coordinator.FormAsync("/jobs/HW/setup", "Inches", ("parts", "32"));
        Assert.Equal("32", Inch().Match(await coordinator.GetAsync("/jobs/HW")).Groups[1].Value);
        // What is not offered changes nothing.
        await coordinator.FormAsync("/jobs/HW/setup", "Inches", ("parts", "7"));
        Assert.Equal("32", Inch().Match(await coordinator.GetAsync("/jobs/HW")).Groups[1].Value);
        await coordinator.FormAsync("/jobs/HW/setup", "Inches", ("parts", before));
        Assert.Equal(before, Inch().Match(await coordinator.GetAsync("/jobs/HW")).Groups[1].Value);
    }

    [GeneratedRegex(@"<b>left</b></td><td[^>]*><b>([^<]+)</b> of ([^<]+)<")]
    private static partial Regex Left();

    [GeneratedRegex("class=\"notice[^>]*>([^<]+)<")]
    private static partial Regex Notice();

    [GeneratedRegex("data-inch=\"([0-9]+)\"")]
    private static partial Regex Inch();
}
