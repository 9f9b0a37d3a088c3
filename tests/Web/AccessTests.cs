using System.IO.Compression;
using System.Net;
using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Demo;

namespace SteadyLintel.Tests;

/// <summary>One server with the demo job for the tests of a class.</summary>
public sealed class DemoServer : IAsyncLifetime
{
    public ServerProcess Server { get; private set; } = null!;

    /// <summary>Starts, and waits until the deliveries of the demo are taken in.</summary>
    public async ValueTask InitializeAsync()
    {
        Server = await ServerProcess.StartAsync(await DemoDatabase.NewAsync(), demo: true);
        using var reader = await SignedInAsync("coordinator");
        for (
            int i = 0;
            i < 300
                && (await reader.GetAsync("/jobs/HW/receive?handler=List")).Split("data-state=\"Ready\"").Length
                    <= HeronWharf.Deliveries.Count();
            i++
        )
            await Task.Delay(200);
    }

    public ValueTask DisposeAsync()
    {
        Server.Dispose();
        return ValueTask.CompletedTask;
    }

    public async Task<LintelClient> SignedInAsync(string who)
    {
        var client = new LintelClient(Server.Address);
        await client.SignInAsync($"{who}@heron.example");
        return client;
    }

    public static byte[] Demo(string party) => Bytes(HeronWharf.Models.First(d => d.Party == party));

    /// <summary>The demo's drawing.</summary>
    public static byte[] Drawing() => Bytes(HeronWharf.Drawings[0]);

    private static byte[] Bytes(DemoDelivery delivery)
    {
        using var stream = new MemoryStream();
        delivery.Write(stream);
        return stream.ToArray();
    }
}

public class AccessTests(DemoServer demo) : IClassFixture<DemoServer>
{
    [Theory]
    [InlineData("/jobs/HW")]
    [InlineData("/jobs/HW/receive")]
    [InlineData("/jobs/HW/combine")]
    [InlineData("/jobs/HW/combine?handler=Scene")]
    [InlineData("/jobs/HW/handover")]
    [InlineData("/jobs/NONE")]
    public async Task A_stranger_gets_404_and_nobody_is_asked_to_sign_in(string path)
    {
        using var stranger = await demo.SignedInAsync("stranger");
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.Http.GetAsync(path)).StatusCode);
        using var nobody = new LintelClient(demo.Server.Address);
        Assert.Equal("/signin", (await nobody.Http.GetAsync(path)).RequestMessage!.RequestUri!.AbsolutePath);
    }

    [Fact]
    public async Task A_chunk_is_only_for_members()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        for (
            int i = 0;
            i < 100
                && !(await coordinator.GetAsync("/jobs/HW/combine?handler=Scene")).Contains(
                    "hash",
                    StringComparison.Ordinal
                );
            i++
        )
            await Task.Delay(200);
        string scene = await coordinator.GetAsync("/jobs/HW/combine?handler=Scene");
        string chunk =
            "/jobs/HW/combine?handler=Chunk&hash="
            + System.Text.RegularExpressions.Regex.Match(scene, "\"hash\":\"([0-9a-f]{64})\"").Groups[1].Value;
        var answer = await coordinator.Http.GetAsync(chunk);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains("immutable", answer.Headers.CacheControl!.ToString());
        using var stranger = await demo.SignedInAsync("stranger");
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.Http.GetAsync(chunk)).StatusCode);
    }

    [Fact]
    public async Task A_reader_cannot_deliver_and_a_contributor_only_for_his_party()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string arc = await coordinator.PartyAsync("ARC"),
            srv = await coordinator.PartyAsync("SRV");
        using var reader = await demo.SignedInAsync("reader");
        await reader.TokenAsync("/jobs/HW");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await reader.PostAsync($"/jobs/HW/receive?handler=Begin&party={arc}&source=x&fileName=a.ifc&length=10")
            ).StatusCode
        );
        Assert.DoesNotContain("id=\"drop\"", await reader.GetAsync("/jobs/HW/receive"));
        using var services = await demo.SignedInAsync("services");
        await services.TokenAsync("/jobs/HW");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await services.PostAsync(
                    $"/jobs/HW/receive?handler=Begin&party={arc}&source=x&fileName=a.ifc&length=10"
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.OK,
            (
                await services.PostAsync(
                    $"/jobs/HW/receive?handler=Begin&party={srv}&source=x&fileName=a.ifc&length=10"
                )
            ).StatusCode
        );
    }

    [Theory]
    [InlineData("/")]
    [InlineData("/jobs/HW")]
    [InlineData("/jobs/HW/receive")]
    [InlineData("/jobs/HW/combine")]
    [InlineData("/jobs/HW/handover")]
    [InlineData("/jobs/HW/setup")]
    [InlineData("/account")]
    [InlineData("/health/live")]
    [InlineData("/health/ready")]
    public async Task Asking_for_the_head_of_a_page_is_answered_as_asking_for_the_page(string path)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        var head = await coordinator.Http.SendAsync(new HttpRequestMessage(HttpMethod.Head, path));
        Assert.Equal((await coordinator.Http.GetAsync(path)).StatusCode, head.StatusCode);
        Assert.Equal(HttpStatusCode.OK, head.StatusCode);
        Assert.Empty(await head.Content.ReadAsByteArrayAsync());
    }

    [Fact]
    public async Task Nobody_is_believed_about_an_address_but_a_named_proxy()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        coordinator.Http.DefaultRequestHeaders.Add("X-Forwarded-For", "203.0.113.7");
        Assert.DoesNotContain("203.0.113.7", await coordinator.GetAsync("/account"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_change_without_its_token_is_refused()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await coordinator.Http.PostAsync("/jobs/HW/handover?handler=New", null)).StatusCode
        );
    }

    [Fact]
    public async Task Headers_forbid_what_is_not_ours()
    {
        using var nobody = new LintelClient(demo.Server.Address);
        var headers = (await nobody.Http.GetAsync("/signin")).Headers;
        string csp = headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("default-src 'self'", csp);
        Assert.Contains("nonce-", csp);
        Assert.DoesNotContain("unsafe", csp);
        Assert.Equal("nosniff", headers.GetValues("X-Content-Type-Options").Single());
    }

    [Theory]
    [InlineData("truncated", "Held", "held")]
    [InlineData("bomb", "Refused", "attack")]
    [InlineData("dwg", "Refused", "Ask for it again")]
    public async Task Odd_files_get_their_sentence(string kind, string state, string word)
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        var bytes = kind switch
        {
            "truncated" => DemoServer.Demo("STR")[..200_000],
            "dwg" => [.. "AC1027"u8, .. new byte[1000]],
            _ => Bomb(),
        };
        string id = await coordinator.DeliverAsync(party, "Odd " + kind, $"{kind}.ifc", bytes);
        var (_, row) = await coordinator.WaitAsync(id, 30, state);
        Assert.Contains(word, row);
        if (kind == "truncated")
            Assert.Contains("STEP-TRUNCATED", await coordinator.GetAsync($"/jobs/HW/deliveries/{id}"));
    }

    [Fact]
    public async Task An_empty_file_and_one_too_long_are_refused_at_the_door()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        foreach (var (length, word) in new[] { (0L, "0 bytes"), (600L << 20, "longer than 500 MB") })
        {
            var answer = await coordinator.PostAsync(
                $"/jobs/HW/receive?handler=Begin&party={party}&source=x&fileName=a.ifc&length={length}"
            );
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(word, await answer.Content.ReadAsStringAsync());
        }
    }

    [Fact]
    public async Task A_piece_sent_as_a_form_is_refused_with_a_sentence()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        var begun = await coordinator.PostAsync(
            $"/jobs/HW/receive?handler=Begin&party={party}&source=Form&fileName=a.ifc&length=9"
        );
        string id = System
            .Text.RegularExpressions.Regex.Match(await begun.Content.ReadAsStringAsync(), "[0-9a-f-]{36}")
            .Value;
        var answer = await coordinator.PostAsync(
            $"/jobs/HW/receive?handler=Piece&id={id}&number=0",
            new StringContent("a=bcdefgh", Encoding.ASCII, "application/x-www-form-urlencoded")
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("must be sent as bytes", await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task The_same_bytes_are_noticed_and_an_archive_is_opened()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        using var archive = new MemoryStream();
        using (var zip = new ZipArchive(archive, ZipArchiveMode.Create, true))
        using (var entry = zip.CreateEntry("frame.ifc").Open())
            entry.Write(DemoServer.Demo("STR"));
        string first = await coordinator.DeliverAsync(party, "Zipped", "frame.ifczip", archive.ToArray());
        await coordinator.WaitAsync(first, 30, "Ready");
        string second = await coordinator.DeliverAsync(party, "Zipped", "frame.ifczip", archive.ToArray());
        Assert.Contains("The same bytes as STR r1", (await coordinator.WaitAsync(second, 30, "Same")).Row);
        Assert.Equal(
            archive.ToArray(),
            await coordinator.Http.GetByteArrayAsync($"/jobs/HW/deliveries/{first}?handler=Original")
        );
    }

    [Fact]
    public async Task A_drawing_sent_to_a_models_source_gets_a_source_of_its_own()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("ARC");
        string first = await coordinator.DeliverAsync(party, "Architecture", "HW-ARC-A210.dwg", Plan(1));
        Assert.Contains("HW-ARC-A210</td>", (await coordinator.WaitAsync(first, 30, "Ready")).Row);
        // The next of that name follows it; a model sent there does not.
        string second = await coordinator.DeliverAsync(party, "HW-ARC-A210", "HW-ARC-A210.DWG", Plan(2));
        Assert.Contains(">r2<", (await coordinator.WaitAsync(second, 30, "Ready")).Row);
        string third = await coordinator.DeliverAsync(party, "HW-ARC-A210", "HW-ARC-late.ifc", DemoServer.Demo("STR"));
        Assert.Contains("HW-ARC-late</td>", (await coordinator.WaitAsync(third, 60, "Ready", "Same")).Row);
        // Where a source of the file's name holds models too, the new one says what it holds.
        string model = await coordinator.DeliverAsync(party, "HW-ARC-twin", "twin.ifc", DemoServer.Demo("ARC"));
        await coordinator.WaitAsync(model, 60, "Ready");
        string twin = await coordinator.DeliverAsync(party, "Architecture", "HW-ARC-twin.dxf", Plan(3));
        Assert.Contains("HW-ARC-twin (drawing)</td>", (await coordinator.WaitAsync(twin, 30, "Ready")).Row);
    }

    private static byte[] Plan(int length)
    {
        var drawing = Drawing.Create(CadVersion.AC1018);
        drawing.Add(new Line { End = new(length, 0, 0) });
        using var stream = new MemoryStream();
        DwgWriter.Write(drawing, stream);
        return stream.ToArray();
    }

    [Fact]
    public async Task Findings_come_as_csv_without_formulas()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        string text = Encoding
            .ASCII.GetString(DemoServer.Demo("SRV"))
            .Replace("'Stray duct 0", "'=HYPERLINK(0", StringComparison.Ordinal);
        string id = await coordinator.DeliverAsync(party, "Formulas", "f.ifc", Encoding.ASCII.GetBytes(text));
        await coordinator.WaitAsync(id, 30, "Ready");
        string csv = await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Csv");
        Assert.Contains("IFC-ELEMENT-NO-STOREY", csv);
        Assert.Contains("'=HYPERLINK", csv);
        Assert.DoesNotContain(",=HYPERLINK", csv);
        Assert.Contains("\"findings\"", await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Json"));
    }

    private static byte[] Bomb()
    {
        using var archive = new MemoryStream();
        using (var zip = new ZipArchive(archive, ZipArchiveMode.Create, true))
        using (var entry = zip.CreateEntry("x.ifc").Open())
            for (int i = 0; i < 300; i++)
                entry.Write(new byte[1 << 20]);
        return archive.ToArray();
    }

    [Fact]
    public async Task A_drawing_has_a_report_and_a_picture_and_leaves_the_models_alone()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        string party = await coordinator.PartyAsync("STR");
        var drawing = Drawing.Create(CadVersion.AC1018);
        drawing.Units = 4;
        var layer = drawing.AddLayer("S-GRID & <b>", 0x803020);
        for (int i = 0; i < 10; i++)
            drawing.Add(
                new Line
                {
                    Layer = layer.Handle,
                    Start = new(8000 * i, 0, 0),
                    End = new(8000 * i, 24000, 0),
                }
            );
        drawing.Add(
            new Text
            {
                Layer = layer.Handle,
                Value = "<script>",
                Insertion = new(0, 0, 0),
                Height = 300,
            }
        );
        using var bytes = new MemoryStream();
        DwgWriter.Write(drawing, bytes);
        string id = await coordinator.DeliverAsync(party, "Grid drawing", "grid.dwg", bytes.ToArray());
        await coordinator.WaitAsync(id, 30, "Ready");
        string page = await coordinator.GetAsync($"/jobs/HW/deliveries/{id}");
        Assert.Contains("DWG AC1018", page);
        Assert.Contains("S-GRID &amp; &lt;b&gt;", page);
        string picture = await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Plan");
        Assert.Contains("data-layer=\"S-GRID &amp; &lt;b&gt;\"", picture);
        Assert.Contains("&lt;script&gt;", picture);
        Assert.Contains("\"AC1018\"", await coordinator.GetAsync($"/jobs/HW/deliveries/{id}?handler=Json"));
        Assert.DoesNotContain("Grid drawing", await coordinator.GetAsync("/jobs/HW/combine"));
    }
}
