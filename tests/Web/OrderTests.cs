using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>Orders through the web application: every form an order can have is run, downloaded and read again.</summary>
[Collection(DemoJob.Name)]
public class OrderTests(DemoServer demo)
{
    private static readonly string[] Elements = ["IfcColumn", "IfcBeam"];

    private static async Task<string> NewAsync(LintelClient client)
    {
        await client.TokenAsync("/jobs/HW/handover");
        var answer = await client.PostAsync("/jobs/HW/handover?handler=New");
        answer.EnsureSuccessStatusCode();
        return answer.RequestMessage!.RequestUri!.AbsolutePath;
    }

    private static FormUrlEncodedContent Sentence(
        string form,
        string unit = "",
        bool byStorey = false,
        string name = "{job}-{storey}",
        params string[] classes
    ) =>
        new([
            new("Title", "Frame"),
            new("To", "SRV"),
            new("Form", form),
            new("Unit", unit),
            .. byStorey
                ? [new KeyValuePair<string, string>("Split", "storey")]
                : Array.Empty<KeyValuePair<string, string>>(),
            new("Name", name),
            .. classes.Select(c => new KeyValuePair<string, string>("Classes", c)),
        ]);

    private static async Task<string> RunAsync(LintelClient client, string order, FormUrlEncodedContent sentence)
    {
        (await client.PostAsync($"{order}?handler=Run", sentence)).EnsureSuccessStatusCode();
        for (int i = 0; i < 1800; i++)
        {
            string runs = WebUtility.HtmlDecode(await client.GetAsync($"{order}?handler=Runs"));
            var states = Regex.Matches(runs, "data-state=\"(\\w+)\"").Select(m => m.Groups[1].Value).ToList();
            if (states.Count > 0 && states.TrueForAll(s => s is "Done" or "Failed" or "Cancelled"))
                return runs;
            await Task.Delay(100);
        }

        throw new TimeoutException(order);
    }

    private static async Task<ZipArchive> ZipAsync(LintelClient client, string order, string runs) =>
        new(
            new MemoryStream(
                await client.Http.GetByteArrayAsync(
                    $"{order}?handler=Zip&id={Regex.Match(runs, "handler=Zip&id=([0-9a-f-]{36})").Groups[1].Value}"
                )
            )
        );

    private static byte[] Bytes(ZipArchiveEntry entry)
    {
        using var stream = entry.Open();
        using var memory = new MemoryStream();
        stream.CopyTo(memory);
        return memory.ToArray();
    }

    // Each format, each kind of content, and versions of DWG in turn; that all versions can be written is tested in Core.
    public static TheoryData<string> Forms =>
        [
            "ifc",
            "dxf-plan",
            "dwg-solids-2010",
            Slow("dxf-meshes"),
            Slow("dxf-solids"),
            Slow("dwg-meshes-2000"),
            Slow("dwg-plan-2018"),
        ];

    private static TheoryDataRow<string> Slow(string form) => new TheoryDataRow<string>(form).WithTrait("Slow", "yes");

    [Theory]
    [MemberData(nameof(Forms))]
    public async Task A_form_runs_balances_and_comes_down(string form)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator);
        string runs = await RunAsync(coordinator, order, Sentence(form, "mm", false, "{job}-{source}-frame", Elements));
        Assert.Contains("Balanced.", runs);
        using var zip = await ZipAsync(coordinator, order, runs);
        var manifest = JsonDocument.Parse(Bytes(zip.GetEntry("manifest.json")!)).RootElement;
        Assert.True(manifest.GetProperty("balanced").GetBoolean());
        var files = zip.Entries.Where(e => e.Name != "manifest.json").ToList();
        Assert.Equal(manifest.GetProperty("files").GetArrayLength(), files.Count);
        foreach (
            var (entry, said) in files.Zip(
                manifest
                    .GetProperty("files")
                    .EnumerateArray()
                    .OrderBy(f => f.GetProperty("name").GetString(), StringComparer.Ordinal)
            )
        )
        {
            byte[] bytes = Bytes(entry);
            Assert.Equal(said.GetProperty("bytes").GetInt64(), bytes.Length);
            Assert.Equal(
                said.GetProperty("sha256").GetString(),
                Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes))
            );
            if (form == "ifc")
            {
                Assert.StartsWith("ISO-10303-21;", Encoding.ASCII.GetString(bytes));
                continue;
            }

            var (drawing, found) = CadFile.Read(bytes);
            Assert.Equal(form.StartsWith("dwg", StringComparison.Ordinal), found.Dwg);
            Assert.Equal(4, drawing.Units);
            // Meshes before 2010 are polyfaces; shapes used more than once are inserts.
            string[] kinds =
                form.Contains("plan", StringComparison.Ordinal) ? ["LINE", "LWPOLYLINE"]
                : form.Contains("solids", StringComparison.Ordinal) ? ["3DSOLID", "INSERT"]
                : ["MESH", "POLYLINE", "INSERT"];
            Assert.All(drawing.Model.Entities, e => Assert.Contains(e.Type, kinds));
        }
    }

    [Fact]
    public async Task The_preview_counts_what_the_run_then_gives()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator);
        var sentence = Sentence("dxf-meshes", "", true);
        string preview = await (
            await coordinator.PostAsync($"{order}?handler=Preview", sentence)
        ).Content.ReadAsStringAsync();
        string goes = WebUtility.HtmlDecode(Regex.Match(preview, "id=\"goes\">([^<]+)<").Groups[1].Value);
        Assert.Contains("no shape 7", preview);
        string runs = await RunAsync(coordinator, order, Sentence("dxf-meshes", "", true));
        var sum = Regex.Match(runs, "<tr class=\"sum\">(.*?)</tr>", RegexOptions.Singleline).Groups[1].Value;
        // The figure is a link to its elements.
        Assert.Equal(
            goes,
            WebUtility.HtmlDecode(
                Regex.Matches(sum, "<td class=\"n[^\"]*\">\\s*(?:<a[^>]*>)?([^<]+)<")[2].Groups[1].Value
            )
        );
        Assert.Contains("Confirmed in the file", runs);
    }

    // The newest eight are shown in full, what is older by a line each; any two can be compared.
    [Fact]
    public async Task Old_transmittals_stay_at_hand_and_any_two_are_compared()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator),
            runs = "";
        for (int n = 1; n <= 10; n++)
            runs = await RunAsync(
                coordinator,
                order,
                Sentence("ifc", n == 10 ? "m" : "mm", false, "{job}-{source}-old", "IfcColumn")
            );
        Assert.Equal(8, Regex.Count(runs, "data-state=\"Done\""));
        Assert.Contains("2 older transmittals", runs);
        string newest = Regex.Match(runs, "handler=Compare&id=([0-9a-f-]{36})").Groups[1].Value;
        string before = await coordinator.GetAsync($"{order}?handler=Compare&id={newest}");
        string first = await coordinator.GetAsync($"{order}?handler=Compare&id={newest}&with=1");
        Assert.Contains("Transmittal 10 against 9", before);
        Assert.Contains("Transmittal 10 against 1<", first);
        Assert.All([before, first], c => Assert.Contains("changed</span> HW-Frame-old.ifc", c));
        string oldest = Regex.Matches(runs, "handler=Zip&id=([0-9a-f-]{36})")[^1].Groups[1].Value;
        using var zip = new ZipArchive(
            new MemoryStream(await coordinator.Http.GetByteArrayAsync($"{order}?handler=Zip&id={oldest}"))
        );
        Assert.Contains(zip.Entries, e => e.Name == "HW-Frame-old.ifc");
        Assert.Contains("run 10 times", await coordinator.GetAsync(order));
    }

    [Theory]
    [InlineData("{nonsense}", "template")]
    [InlineData("", "template")]
    public async Task A_name_that_cannot_be_is_told_and_nothing_runs(string name, string word)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator);
        string preview = await (
            await coordinator.PostAsync($"{order}?handler=Preview", Sentence("ifc", "", true, name))
        ).Content.ReadAsStringAsync();
        Assert.Contains("role=\"alert\"", preview);
        Assert.Contains(word, preview, StringComparison.OrdinalIgnoreCase);
        var refused = await coordinator.PostAsync($"{order}?handler=Run", Sentence("ifc", "", true, name));
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains(word, await refused.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        Assert.Contains("Not run yet", await coordinator.GetAsync($"{order}?handler=Runs"));
    }

    [Fact]
    public async Task An_order_is_saved_and_run_again_as_another_transmittal()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator);
        (
            await coordinator.PostAsync($"{order}?handler=Save", Sentence("ifc", "m", true, "{storey}", "IfcFooting"))
        ).EnsureSuccessStatusCode();
        string page = await coordinator.GetAsync(order);
        Assert.Contains("value=\"Frame\"", page);
        Assert.Contains("the footings", page);
        await RunAsync(coordinator, order, Sentence("ifc", "m", true, "{storey}", "IfcFooting"));
        string runs = await RunAsync(coordinator, order, Sentence("ifc", "m", true, "{storey}", "IfcFooting"));
        Assert.Contains("Transmittal 2", runs);
        // The same order on the same revisions gives the same bytes.
        var hashes = Regex.Matches(runs, "class=\"mono\">([0-9a-f]{12})").Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(2, hashes.Count);
        Assert.Contains("</b> Frame</a>", await coordinator.GetAsync("/jobs/HW/handover"));
    }

    [Theory]
    [InlineData("reader")]
    [InlineData("services")]
    public async Task Only_the_coordinator_makes_saves_and_runs(string who)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string order = await NewAsync(coordinator);
        using var other = await demo.SignedInAsync(who);
        await other.TokenAsync("/jobs/HW/handover");
        Assert.Equal(HttpStatusCode.Forbidden, (await other.PostAsync("/jobs/HW/handover?handler=New")).StatusCode);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await other.PostAsync($"{order}?handler=Save", Sentence("ifc"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await other.PostAsync($"{order}?handler=Run", Sentence("ifc"))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await other.PostAsync($"{order}?handler=Cancel&id={Guid.NewGuid()}")).StatusCode
        );
        // What there is may be looked at.
        Assert.Equal(HttpStatusCode.OK, (await other.Http.GetAsync(order)).StatusCode);
    }

    [Theory]
    [InlineData("/jobs/HW/handover/999999")]
    [InlineData("/jobs/HW/handover/1?handler=Zip&id=00000000-0000-0000-0000-000000000000")]
    public async Task What_is_not_there_is_404(string path)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        await NewAsync(coordinator);
        Assert.Equal(HttpStatusCode.NotFound, (await coordinator.Http.GetAsync(path)).StatusCode);
    }
}
