using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Demo;

namespace SteadyLintel.Tests;

/// <summary>Drawings beside models: where the pages of a job show them, and what their own page says.</summary>
[Collection(DemoJob.Name)]
public class DrawingPageTests(DemoServer demo)
{
    private static string File => HeronWharf.Drawings[0].FileName;

    private static async Task<string> LinkAsync(LintelClient client) =>
        System
            .Text.RegularExpressions.Regex.Match(
                await client.GetAsync("/jobs/HW/receive?handler=List"),
                $"href=\"(/jobs/HW/deliveries/[0-9a-f-]+)\">{File}"
            )
            .Groups[1]
            .Value;

    // White space of a page means one space.
    private static string Words(string html) => Regex.Replace(WebUtility.HtmlDecode(html), "[ \n]+", " ");

    [Fact]
    public async Task The_job_sheet_lists_drawings_apart_from_models()
    {
        using var reader = await demo.SignedInAsync("reader");
        string sheet = Words(await reader.GetAsync("/jobs/HW"));
        string models = sheet[..sheet.IndexOf("<h2>Drawings</h2>", StringComparison.Ordinal)],
            drawings = sheet[models.Length..];
        Assert.DoesNotContain("no model received", sheet);
        Assert.DoesNotContain("Foundation plan", models);
        Assert.Contains(File, drawings);
        // Its finding waits with those of the models; its entities are no elements to combine.
        Assert.Contains("8 findings", models);
        Assert.Contains("3 sources, 2\u202F195 elements", models);
        Assert.Matches("1 finding to ask about</a> Foundation plan", drawings);
    }

    [Fact]
    public async Task The_drawings_page_says_what_arrived()
    {
        using var reader = await demo.SignedInAsync("reader");
        string link = await LinkAsync(reader),
            page = Words(await reader.GetAsync(link));
        Assert.All(
            new[]
            {
                "DWG AC1024",
                "millimetre (1 mm)",
                "GRID-BUBBLE",
                "S-100 Foundations: 841 × 594 mm, 1:100, 1:20",
                @"Draws on ..\SURVEY\HW-QUAY-survey.dwg, which is not here yet",
                "CAD-XREF-MISSING",
            },
            word => Assert.Contains(word, page)
        );
        var report = JsonDocument.Parse(await reader.GetAsync(link + "?handler=Json")).RootElement;
        var drawing = DwgReader.Read(DemoServer.Drawing());
        Assert.Equal(
            drawing.Blocks.Where(b => b.IsSpace).Sum(b => b.Entities.Count),
            report.GetProperty("layers").EnumerateArray().Sum(l => l.GetProperty("count").GetInt32())
        );
        Assert.Equal(
            "application/json",
            (await reader.Http.GetAsync(link + "?handler=Json")).Content.Headers.ContentType!.MediaType
        );
    }

    [Fact]
    public async Task Its_picture_is_made_of_model_space_and_of_the_sheet()
    {
        using var reader = await demo.SignedInAsync("reader");
        string link = await LinkAsync(reader);
        var model = XElement.Parse(await reader.GetAsync(link + "?handler=Plan&layout="));
        var sheet = XElement.Parse(
            await reader.GetAsync(link + "?handler=Plan&layout=" + Uri.EscapeDataString("S-100 Foundations"))
        );
        Assert.Contains(model.Descendants(), e => e.Name.LocalName == "text" && e.Value == "8000");
        // Two windows, cut at their frames, and the letters of the title.
        Assert.Equal(2, sheet.Descendants().Count(e => e.Name.LocalName == "clipPath"));
        Assert.Contains(sheet.Descendants(), e => e.Name.LocalName == "text" && e.Value == "Plan of foundations");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await reader.Http.GetAsync(link + "?handler=Plan&layout=none")).StatusCode
        );
        using var stranger = await demo.SignedInAsync("stranger");
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.Http.GetAsync(link + "?handler=Plan")).StatusCode);
    }

    [Theory]
    [InlineData("dwg-2000", CadVersion.AC1015, false)]
    [InlineData("dwg-2018", CadVersion.AC1032, true)]
    [InlineData("dxf-2007", CadVersion.AC1021, true)]
    public async Task It_can_be_given_on_in_another_form(string form, CadVersion version, bool apart)
    {
        using var reader = await demo.SignedInAsync("reader");
        string link = await LinkAsync(reader);
        await reader.TokenAsync("/jobs/HW");
        var wish = new Dictionary<string, string> { ["Form"] = form, ["Apart"] = apart ? "true" : "false" };
        string balance = WebUtility.HtmlDecode(
            await (
                await reader.PostAsync(link + "?handler=Convert", new FormUrlEncodedContent(wish))
            ).Content.ReadAsStringAsync()
        );
        Assert.Contains("<b class=\"ok\">Balanced</b>", balance);
        Assert.Contains("HW-STR-S100-foundations-" + form, balance);
        var file = await reader.PostAsync(link + "?handler=Converted", new FormUrlEncodedContent(wish));
        Assert.Equal(
            $"HW-STR-S100-foundations-{form}.{form[..3]}",
            file.Content.Headers.ContentDisposition!.FileNameStar
        );
        var drawing = CadFile.Read(await file.Content.ReadAsByteArrayAsync()).Drawing;
        Assert.Equal((version, 11), (drawing.Version, drawing.Model.Entities.OfType<Dimension>().Count()));
        // Taken apart, only what was not sent stays an insert.
        Assert.Equal(apart ? 1 : 51, drawing.Model.Entities.OfType<Insert>().Count());
    }

    [Fact]
    public async Task Only_what_is_shown_goes_and_only_in_forms_there_are()
    {
        using var reader = await demo.SignedInAsync("reader");
        string link = await LinkAsync(reader);
        await reader.TokenAsync("/jobs/HW");
        var shown = new FormUrlEncodedContent([
            new("Form", "dwg-2010"),
            new("OnlyShown", "true"),
            new("Layer", "S-DIMS"),
            new("Layer", "V-WATER"),
        ]);
        var drawing = DwgReader.Read(
            await (await reader.PostAsync(link + "?handler=Converted", shown)).Content.ReadAsByteArrayAsync()
        );
        Assert.Equal(
            ["S-DIMS", "V-WATER"],
            drawing.Model.Entities.Select(e => drawing.LayerName(e.Layer)).Distinct().Order()
        );
        foreach (string form in (string[])["", "dwg-2007", "dgn-8"])
            Assert.Equal(
                HttpStatusCode.NotFound,
                (
                    await reader.PostAsync(link + "?handler=Converted", new FormUrlEncodedContent([new("Form", form)]))
                ).StatusCode
            );
        using var stranger = await demo.SignedInAsync("stranger");
        await stranger.TokenAsync("/");
        Assert.NotEqual(
            HttpStatusCode.OK,
            (
                await stranger.PostAsync(
                    link + "?handler=Converted",
                    new FormUrlEncodedContent([new("Form", "dwg-2010")])
                )
            ).StatusCode
        );
    }

    [Fact]
    public async Task All_newest_originals_come_in_one_archive_as_far_as_they_may_be_seen()
    {
        using var reader = await demo.SignedInAsync("reader");
        using var all = new System.IO.Compression.ZipArchive(
            await reader.Http.GetStreamAsync("/jobs/HW/receive?handler=Originals")
        );
        Assert.Contains("STR/Foundation plan/" + File, all.Entries.Select(e => e.FullName));
        using var bytes = new MemoryStream();
        await using (var stream = await all.GetEntry("STR/Foundation plan/" + File)!.OpenAsync())
            await stream.CopyToAsync(bytes);
        Assert.Equal(DemoServer.Drawing(), bytes.ToArray());
        // Those who deliver for SRV get what SRV sent.
        using var services = await demo.SignedInAsync("services");
        using var own = new System.IO.Compression.ZipArchive(
            await services.Http.GetStreamAsync("/jobs/HW/receive?handler=Originals")
        );
        Assert.All(own.Entries, e => Assert.StartsWith("SRV/", e.FullName, StringComparison.Ordinal));
        Assert.NotEmpty(own.Entries);
        using var recipient = await demo.SignedInAsync("recipient");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await recipient.Http.GetAsync("/jobs/HW/receive?handler=Originals")).StatusCode
        );
    }
}
