using System.Buffers.Binary;
using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>What the pages of the demo job say, against what the demo is made of.</summary>
[Collection(DemoJob.Name)]
public class PageTests(DemoServer demo)
{
    private static readonly Dictionary<string, int> Elements = new()
    {
        ["ARC"] = 796,
        ["SRV"] = 921,
        ["STR"] = 539,
    };

    private async Task<JsonElement> SceneAsync(LintelClient client) =>
        JsonDocument.Parse(await client.GetAsync("/jobs/HW/combine?handler=Scene")).RootElement;

    [Fact]
    public async Task The_job_sheet_counts_what_each_party_has()
    {
        using var reader = await demo.SignedInAsync("reader");
        string sheet = WebUtility.HtmlDecode(await reader.GetAsync("/jobs/HW"));
        Assert.All(new[] { "Quay level", "Concourse", "Gallery", "Roof" }, storey => Assert.Contains(storey, sheet));
        Assert.All(new[] { "+4.800", "+8.600", "+12.400", "±0.000" }, level => Assert.Contains(level, sheet));
        Assert.All(Elements.Keys, party => Assert.Contains(party, sheet));
        // A reader is offered nothing to do.
        Assert.DoesNotContain("Receive a file", sheet);
    }

    [Fact]
    public async Task The_scene_holds_every_source_storey_and_chunk()
    {
        using var reader = await demo.SignedInAsync("reader");
        var scene = await SceneAsync(reader);
        Assert.Equal(
            Elements.Values.Order(),
            scene.GetProperty("sources").EnumerateArray().Select(s => s.GetProperty("elements").GetInt32()).Order()
        );
        var heights = scene
            .GetProperty("rungs")
            .EnumerateArray()
            .Select(r => r.GetProperty("elevation").GetDouble())
            .ToList();
        Assert.Equal(heights.Order(), heights);
        Assert.All(scene.GetProperty("chunks").EnumerateArray(), c =>
            Assert.Matches("^[0-9a-f]{64}$", c.GetProperty("hash").GetString())
        );
    }

    [Fact]
    public async Task Every_element_has_its_storey_class_and_layer_by_number()
    {
        using var reader = await demo.SignedInAsync("reader");
        var scene = await SceneAsync(reader);
        int source = 0;
        foreach (var s in scene.GetProperty("sources").EnumerateArray())
        {
            byte[] columns = await reader.Http.GetByteArrayAsync(
                $"/jobs/HW/combine?handler=Elements&source={source++}"
            );
            Assert.Equal(6 * s.GetProperty("elements").GetInt32(), columns.Length);
            int rungs = scene.GetProperty("rungs").GetArrayLength();
            for (int e = 0; e < columns.Length; e += 6)
                Assert.InRange(BinaryPrimitives.ReadUInt16LittleEndian(columns.AsSpan(e)), 0, rungs);
            // Every number has a name of its own, which is what an address says.
            var sources = scene
                .GetProperty("names")
                .GetProperty("source")
                .EnumerateArray()
                .Select(n => n.GetString())
                .ToList();
            Assert.Equal(sources.Distinct(), sources);
            foreach (var (kind, at) in new[] { ("storey", 0), ("class", 2), ("layer", 4) })
            {
                int names = scene.GetProperty("names").GetProperty(kind).GetArrayLength();
                for (int e = at; e < columns.Length; e += 6)
                    Assert.InRange(BinaryPrimitives.ReadUInt16LittleEndian(columns.AsSpan(e)), 0, names - 1);
            }
        }

        Assert.Equal(
            HttpStatusCode.NotFound,
            (await reader.Http.GetAsync("/jobs/HW/combine?handler=Elements&source=99")).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await reader.Http.GetAsync("/jobs/HW/combine?handler=Elements&source=-1")).StatusCode
        );
    }

    // The layout of a chunk as ChunkBuilder documents it: origin, step, counts; runs; positions; corners.
    [Fact]
    public async Task Chunks_unpack_to_what_their_head_says_and_may_be_kept_for_ever()
    {
        using var reader = await demo.SignedInAsync("reader");
        int triangles = 0,
            told = 0;
        foreach (var c in (await SceneAsync(reader)).GetProperty("chunks").EnumerateArray().Take(20))
        {
            var answer = await reader.Http.GetAsync(
                $"/jobs/HW/combine?handler=Chunk&hash={c.GetProperty("hash").GetString()}"
            );
            Assert.Equal(
                "private, max-age=31536000, immutable",
                string.Join(
                    ", ",
                    answer
                        .Headers.CacheControl!.ToString()
                        .Split(", ")
                        .OrderBy(w =>
                            w == "immutable" ? 2
                            : w == "private" ? 0
                            : 1
                        )
                )
            );
            byte[] bytes = await answer.Content.ReadAsByteArrayAsync();
            int vertices = (int)BitConverter.ToUInt32(bytes, 28),
                corners = (int)BitConverter.ToUInt32(bytes, 32),
                runs = (int)BitConverter.ToUInt32(bytes, 36),
                repeated = (int)BitConverter.ToUInt32(bytes, 40);
            int positions = ((6 * vertices) + 3) / 4 * 4;
            Assert.True(bytes.Length >= 44 + (16 * runs) + positions + (4 * corners));
            for (int i = 0, at = 44 + (16 * runs) + positions; i < corners; i++)
                Assert.InRange(BitConverter.ToInt32(bytes, at + (4 * i)), 0, vertices - 1);
            told += c.GetProperty("triangles").GetInt32();
            triangles += corners / 3;
            if (repeated == 0)
                Assert.Equal(c.GetProperty("triangles").GetInt32(), corners / 3);
        }

        Assert.InRange(triangles, 1, told);
    }

    [Fact]
    public async Task A_picked_elements_facts_are_its_own()
    {
        using var reader = await demo.SignedInAsync("reader");
        var scene = await SceneAsync(reader);
        foreach (var s in scene.GetProperty("sources").EnumerateArray())
        {
            string slip = WebUtility.HtmlDecode(
                await reader.GetAsync($"/jobs/HW/combine?handler=Facts&id={s.GetProperty("id").GetString()}&number=5")
            );
            Assert.Contains("Ifc", slip);
            Assert.Contains("#", slip);
            Assert.Equal(
                HttpStatusCode.NotFound,
                (
                    await reader.Http.GetAsync(
                        $"/jobs/HW/combine?handler=Facts&id={s.GetProperty("id").GetString()}&number=99999"
                    )
                ).StatusCode
            );
        }

        Assert.Equal(
            HttpStatusCode.NotFound,
            (await reader.Http.GetAsync($"/jobs/HW/combine?handler=Facts&id={Guid.NewGuid()}&number=0")).StatusCode
        );
    }

    [Fact]
    public async Task Chips_add_up_to_all_elements()
    {
        using var reader = await demo.SignedInAsync("reader");
        string page = WebUtility.HtmlDecode(await reader.GetAsync("/jobs/HW/combine"));
        foreach (string kind in (string[])["storey", "class"])
        {
            int sum = Regex
                .Matches(page, $"data-filter=\"{kind}\".*?<b>([^<]+)</b>", RegexOptions.Singleline)
                .Sum(m =>
                    int.Parse(string.Concat(m.Groups[1].Value.Where(char.IsAsciiDigit)), CultureInfo.InvariantCulture)
                );
            Assert.Equal(Elements.Values.Sum(), sum);
        }

        // What the bar of stops counts in the database, the chips count from revisions: elements with a body, whatever counts them.
        static int Figure(string text) =>
            int.Parse(string.Concat(text.Where(char.IsAsciiDigit)), CultureInfo.InvariantCulture);
        int bar = Figure(Regex.Match(page, @"sources?,\s+([0-9\s]+) elements").Groups[1].Value);
        Assert.Equal(
            Regex
                .Matches(page, "data-filter=\"source\".*?</b>\\s+([0-9\\s]+)<", RegexOptions.Singleline)
                .Sum(m => Figure(m.Groups[1].Value)),
            bar
        );
        Assert.InRange(bar, 1, Elements.Values.Sum());
    }

    [Theory]
    [InlineData("ARC", "IFC4", "IFC-GUID-DUPLICATE IFC-GUID-FORM IFC-REFERENCE-DANGLING IFC-SHAPE-FAILED")]
    [InlineData("STR", "IFC2X3", "IFC-ENTITY-UNKNOWN")]
    [InlineData("SRV", "IFC4", "IFC-ELEMENT-NO-STOREY IFC-STOREY-ELEVATION IFC-STOREY-EMPTY")]
    public async Task The_intake_report_says_what_the_file_is(string party, string schema, string findings)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string list = await coordinator.GetAsync("/jobs/HW/receive?handler=List");
        string row = Regex
            .Matches(list, "<tr data-delivery=\"[^\"]+\" data-state=\"Ready\">.*?</tr>", RegexOptions.Singleline)
            .Select(m => m.Value)
            .First(r =>
                r.Contains($">{party}<", StringComparison.Ordinal) && r.Contains(".ifc<", StringComparison.Ordinal)
            );
        string id = Regex.Match(row, "data-delivery=\"([^\"]+)\"").Groups[1].Value;
        var report = JsonDocument
            .Parse(await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Json"))
            .RootElement;
        Assert.StartsWith(schema, report.GetProperty("schema").GetString());
        Assert.Equal(Elements[party], report.GetProperty("elements").GetInt32());
        string page = WebUtility.HtmlDecode(await coordinator.GetAsync($"/jobs/HW/deliveries/{id}"));
        Assert.Contains(schema, page);
        Assert.Equal(
            findings.Split(' '),
            report
                .GetProperty("findings")
                .EnumerateArray()
                .Select(f => f.GetProperty("code").GetString())
                .Order(StringComparer.Ordinal)
        );
        string csv = await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Csv");
        Assert.Equal(
            report
                .GetProperty("findings")
                .EnumerateArray()
                .Sum(f => Math.Max(1, f.GetProperty("elements").GetArrayLength())) + 1,
            csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length
        );
        byte[] original = await coordinator.Http.GetByteArrayAsync($"/jobs/HW/deliveries/{id}?handler=Original");
        Assert.Equal(DemoServer.Demo(party), original);
    }

    [Theory]
    [InlineData("/health")]
    [InlineData("/signin")]
    public async Task Some_pages_ask_for_no_sign_in(string path)
    {
        using var nobody = new LintelClient(demo.Server.Address);
        Assert.Equal(HttpStatusCode.OK, (await nobody.Http.GetAsync(path)).StatusCode);
    }

    [Theory]
    [InlineData("/lib/three.module.js")]
    [InlineData("/js/combine/main.js")]
    [InlineData("/css/base.css")]
    public async Task Scripts_and_styles_are_our_own(string path)
    {
        using var nobody = new LintelClient(demo.Server.Address);
        var answer = await nobody.Http.GetAsync(path);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.DoesNotContain("https://cdn", await answer.Content.ReadAsStringAsync());
    }
}
