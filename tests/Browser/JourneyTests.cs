using System.IO.Compression;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The whole way through the real interface.</summary>
public sealed class JourneyTests : IAsyncLifetime
{
    private ServerProcess _server = null!;
    private BrowserSession _browser = null!;

    public async ValueTask InitializeAsync()
    {
        _server = await ServerProcess.StartAsync(TestDatabase.New(), demo: true);
        _browser = new BrowserSession(_server.Address);
    }

    public ValueTask DisposeAsync()
    {
        _browser.Dispose();
        _server.Dispose();
        return ValueTask.CompletedTask;
    }

    [Fact]
    public void From_sign_in_to_a_balanced_hand_over()
    {
        _browser.SignIn("coordinator");
        Receive();
        ReadTheReport();
        Combine();
        HandOver();
    }

    [Fact]
    public void A_drawing_is_received_and_seen_from_above()
    {
        _browser.SignIn("coordinator");
        string path = Path.Combine(_browser.Downloads, "grid.dwg");
        using (var file = File.Create(path)) DwgWriter.Write(Grid(), file);
        Deliver(path, "Grid");
        _browser.Driver.FindElement(By.LinkText("grid.dwg")).Click();
        _browser.Find("#plan[data-ready=true]");
        Assert.Equal(2, _browser.Driver.FindElements(By.CssSelector("#paper [data-layer]")).Count);
        Check("drawing");
        _browser.Find("[data-name='S-GRID']").Click();
        Assert.Equal("none", _browser.Driver.FindElement(By.CssSelector("#paper [data-layer='S-GRID']")).GetAttribute("display"));
        string before = _browser.Find("#paper svg").GetDomAttribute("viewBox")!;
        _browser.Find("#paper").SendKeys("+" + Keys.ArrowRight);
        Assert.NotEqual(before, _browser.Find("#paper svg").GetDomAttribute("viewBox"));
        _browser.Find("[data-zoom=fit]").Click();
        Assert.Equal(before, _browser.Find("#paper svg").GetDomAttribute("viewBox"));
        GiveOn();
    }

    // The lines' layer is hidden: what is shown goes on as another version, is accounted for, and can be fetched.
    private void GiveOn()
    {
        _browser.Script<object?>("document.getElementById('form').value = 'dwg-2004'; return null");
        _browser.Find("#convert [name=OnlyShown]").Click();
        _browser.Find("#convert button").Click();
        Assert.Equal("Balanced", _browser.Find("#converted b.ok").Text);
        Assert.Equal(["LINE 7 7 0 0 0", "TEXT 7 0 0 0 7"],
            _browser.Driver.FindElements(By.CssSelector("#converted [aria-label='Balance by kind'] tbody tr")).Select(r => r.Text));
        Check("drawing converted");
        _browser.Find("#converted button").Click();
        string path = Path.Combine(_browser.Downloads, "grid-dwg-2004.dwg");
        // The browser makes an empty file of the name first.
        _browser.Until(() => File.Exists(path) && new FileInfo(path).Length > 0);
        var given = DwgReader.Read(File.ReadAllBytes(path));
        Assert.Equal((CadVersion.AC1018, 7), (given.Version, given.Model.Entities.OfType<Text>().Count()));
        Assert.Empty(given.Model.Entities.OfType<Line>());
    }

    private static Drawing Grid()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Units = 4;
        foreach (string name in (string[])["S-GRID", "S-TEXT"]) drawing.AddLayer(name, 0x703020);
        for (int i = 0; i < 7; i++)
        {
            drawing.Add(new Line { Layer = drawing.Layers["S-GRID"]!.Handle, Start = new(8000 * i, 0, 0), End = new(8000 * i, 24000, 0) });
            drawing.Add(new Text
            {
                Layer = drawing.Layers["S-TEXT"]!.Handle,
                Value = ((char)('A' + i)).ToString(),
                Insertion = new(8000 * i, 24500, 0),
                Height = 700
            });
        }

        return drawing;
    }

    private void Receive()
    {
        string path = Path.Combine(_browser.Downloads, "annex.ifc");
        using (var file = File.Create(path)) HeronWharf.Models.First(d => d.Party == "STR").Write(file);
        Deliver(path, "Annex");
    }

    private void Deliver(string path, string name)
    {
        _browser.Go("/jobs/HW/receive");
        _browser.Script<object?>(
            "document.getElementById('party').selectedIndex = [...document.getElementById('party').options].findIndex(o => o.text.startsWith('STR')); return null");
        var source = _browser.Find("#source");
        source.Clear();
        source.SendKeys(name);
        _browser.Find("input[type=file]").SendKeys(path);
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("#deliveries tr[data-state=Ready]"))
            .Any(r => r.Text.Contains(Path.GetFileName(path), StringComparison.Ordinal)));
    }

    private void ReadTheReport()
    {
        _browser.Driver.FindElement(By.LinkText("annex.ifc")).Click();
        Assert.Contains("Girder Desk", _browser.Find(".stops").Text);
        var finding = _browser.Find("#IFC-ENTITY-UNKNOWN summary");
        finding.Click();
        Assert.Contains("IFCHERONWHARFTAG", _browser.Find("#IFC-ENTITY-UNKNOWN table").Text);
    }

    private void Combine()
    {
        _browser.Go("/jobs/HW/combine");
        _browser.Find("#view[data-ready=true]", 60);
        // A link to an element picks it; the pointer then finds the same one where it stands.
        string id = _browser.Script<string>("return lintelView.building.data.sources.find(s => s.label.startsWith('ARC')).id");
        _browser.Go($"/jobs/HW/combine#pick={id}.1&x={Guid.NewGuid():N}");
        _browser.Driver.Navigate().Refresh();
        _browser.Find("#slip .slip", 60);
        Assert.Contains("External wall 001", _browser.Find("#slip").Text);
        Assert.Contains("FireRating", _browser.Find("#slip").Text);
        Assert.Contains("EI 60", _browser.Find("#slip").Text);
        _browser.Find("#slip [data-act=isolate]").Click();
        _browser.Find("#slip [data-act=close]").Click();
        var canvas = _browser.Find("#canvas");
        new Actions(_browser.Driver).MoveToElement(canvas, 0, 0).Click().Perform();
        _browser.Until(() => _browser.Script<long>("return lintelView.picked") == 1);
        Assert.Contains("External wall 001", _browser.Find("#slip .slip").Text);
        Assert.Contains("only=", _browser.Script<string>(
            "return (async () => { await new Promise(r => setTimeout(r, 500)); return location.hash; })()"));
        _browser.Find("#showall").Click();
        // A chip hides a party, a grip cuts.
        _browser.Find("#slip [data-act=close]").Click();
        foreach (var chip in _browser.Driver.FindElements(By.CssSelector("button[data-filter=source]"))) chip.Click();
        new Actions(_browser.Driver).MoveToElement(canvas, 0, 0).Click().Perform();
        Assert.Equal(-1L, _browser.Script<long>("return lintelView.picked"));
        // The address says what is off by its name, and opens the same view again.
        int chips = _browser.Driver.FindElements(By.CssSelector("button[data-filter=source]")).Count;
        _browser.Until(() => _browser.Script<long>("return new URLSearchParams(location.hash.slice(1)).getAll('source').length") == chips);
        Assert.True(
            _browser.Script<bool>("return new URLSearchParams(location.hash.slice(1)).getAll('source').some(n => n.startsWith('ARC'))"));
        _browser.Driver.Navigate().Refresh();
        _browser.Find("#view[data-ready=true]", 60);
        Assert.All(_browser.Driver.FindElements(By.CssSelector("button[data-filter=source]")),
            chip => Assert.Equal("false", chip.GetAttribute("aria-pressed")));
        string before = _browser.Driver.FindElements(By.CssSelector(".grip"))[1].GetAttribute("aria-valuenow")!;
        _browser.Driver.FindElements(By.CssSelector(".grip"))[1].SendKeys(Keys.PageDown);
        Assert.NotEqual(before, _browser.Driver.FindElements(By.CssSelector(".grip"))[1].GetAttribute("aria-valuenow"));
    }

    private void HandOver()
    {
        _browser.Go("/jobs/HW/handover");
        _browser.Find("main .head button").Click();
        Choose("Classes", "IfcWall");
        Choose("Unit", "m");
        _browser.Until(() => _browser.Find("#word-Unit").Text == "metres" && _browser.Find("#word-Classes").Text == "the walls");
        string goes = _browser.Find("#goes").Text;
        _browser.Find("#run").Click();
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("details.run[data-state=Done]")).Count == 1, 60);
        Assert.Contains("Balanced", _browser.Find("details.run").Text);
        Check("order that was run");
        _browser.Find("details.run a.btn").Click();
        _browser.Until(() => Directory.GetFiles(_browser.Downloads, "*.zip").Length == 1);
        using var zip = ZipFile.OpenRead(Directory.GetFiles(_browser.Downloads, "*.zip")[0]);
        Assert.Contains(zip.Entries, e => e.Name == "manifest.json");
        int elements = 0;
        foreach (var entry in zip.Entries.Where(e => e.Name.EndsWith(".ifc", StringComparison.Ordinal)))
        {
            using var bytes = new MemoryStream();
            using (var stream = entry.Open()) stream.CopyTo(bytes);
            var model = ModelSnapshot.Open(bytes.ToArray());
            Assert.Equal("metre", model.Units.LengthName);
            Assert.Single(model.Structure.Storeys);
            Assert.All(model.Elements, e => Assert.Equal("IfcWall", e.Class));
            elements += model.Elements.Count;
        }

        Assert.Equal(goes, elements.ToString(System.Globalization.CultureInfo.InvariantCulture));
    }

    [Fact]
    public void The_preview_of_a_drawing_knows_what_has_no_shape()
    {
        _browser.SignIn("coordinator");
        _browser.Go("/jobs/HW");
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("tr.rung")).Count == 5 || Again());
        _browser.Go("/jobs/HW/handover");
        _browser.Find("main .head button").Click();
        int all = Number("#goes");
        _browser.Click("#word-Form");
        _browser.Click("input[name=Form][value=dwg-plan-2010]");
        _browser.Until(() => _browser.Find("#previewtable + p").Text.Contains("no shape", StringComparison.Ordinal));
        int going = Number("#goes");
        Assert.True(going < all);
        _browser.Click("#word-Form");
        _browser.Click("#run");
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("details.run[data-state=Done]")).Count == 1, 90);
        Assert.Equal(going, Number("details.run tr.sum td:nth-child(4)"));
    }

    private int Number(string selector) =>
        int.Parse(string.Concat(_browser.Find(selector).Text.Where(char.IsDigit)), System.Globalization.CultureInfo.InvariantCulture);

    private bool Again()
    {
        Thread.Sleep(300);
        _browser.Driver.Navigate().Refresh();
        return false;
    }

    private void Choose(string field, string value)
    {
        _browser.Click($"#word-{field}");
        _browser.Click($"input[name={field}][value={value}]");
        _browser.Until(() => _browser.Find($"#word-{field}").Text.Length > 0
            && !_browser.Find($"#word-{field}").Text.StartsWith("every", StringComparison.Ordinal));
        _browser.Click($"#word-{field}");
    }

    [Fact]
    public void Every_page_is_usable_without_sight_or_mouse()
    {
        _browser.Go("/signin");
        Check("sign in");
        _browser.SignIn("coordinator");
        Check("jobs");
        _browser.Go("/jobs/HW");
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("tr.rung")).Count == 5 || Again());
        Check("job sheet");
        _browser.Find(".cell summary").SendKeys(Keys.Enter);
        Assert.Contains("Roof", _browser.Find(".sheet").Text);
        Check("job sheet with a list open");
        // The digits go to the stops.
        _browser.Driver.FindElement(By.TagName("body")).SendKeys(Keys.Escape + "1");
        _browser.Until(() => _browser.Driver.Url.EndsWith("/receive", StringComparison.Ordinal));
        Check("receive");
        _browser.Driver.FindElement(By.LinkText("HW-ARC-terminal.ifc")).Click();
        _browser.Find(".stops");
        Check("intake report");
        _browser.Go("/jobs/HW/combine");
        _browser.Find("#view[data-ready=true]", 60);
        _browser.Driver.FindElements(By.CssSelector(".chipbox summary"))[1].Click();
        Check("combine");
        _browser.Go("/jobs/HW/handover");
        Check("orders");
        _browser.Find("main .head button").Click();
        _browser.Find("#word-Classes").Click();
        Check("order");
        foreach (string path in new[] { "jobs/HW/setup", "jobs/HW/people", "jobs/HW/record", "new-job", "account", "help", "inbox", "status" })
        {
            _browser.Go("/" + path);
            Check(path);
        }

        _browser.Driver.FindElement(By.TagName("body")).SendKeys("?");
        _browser.Until(() => _browser.Find("#keys").Displayed);
        Check("keys");
        _browser.Driver.FindElement(By.TagName("body")).SendKeys(Keys.Escape);
        _browser.Go("/jobs/NONE");
        Check("not here");
    }

    [Fact]
    public void A_job_is_made_people_are_invited_and_come()
    {
        _browser.SignIn("coordinator");
        _browser.Find("main a[href='/new-job']").Click();
        Type("job", "QUAY");
        Type("name", "Quay steps");
        _browser.Click("main form .btn");
        _browser.Until(() => _browser.Driver.Url.EndsWith("/jobs/QUAY/setup", StringComparison.Ordinal));
        Assert.Contains("No party yet", _browser.Find("main").Text);
        Type("p-code", "ARC");
        Type("p-disc", "Architecture");
        _browser.Click("#party .btn");
        _browser.Until(() => _browser.Find("main .plate").Text == "ARC" || Again());
        Type("s-name", "Steps");
        _browser.Click("#source .btn");
        _browser.Until(() => _browser.Find("main").Text.Contains("Steps is saved", StringComparison.Ordinal));
        _browser.Go("/jobs/QUAY");
        Check("a job in which nothing is yet");

        _browser.Go("/jobs/QUAY/people");
        Type("email", "guest@quay.example");
        _browser.Find("#role").SendKeys("Contributor");
        _browser.Find("#party").SendKeys("ARC");
        _browser.Click("main form .btn");
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("[data-invited='guest@quay.example']")).Count == 1);
        Check("people with an invitation");

        // The guest, in a browser of its own.
        using var guest = new BrowserSession(_server.Address);
        guest.Go("/inbox");
        guest.Until(() =>
        {
            if (guest.Driver.FindElements(By.PartialLinkText("/invitation/")).Count > 0) return true;
            guest.Go("/inbox");
            return false;
        });
        guest.Driver.FindElement(By.PartialLinkText("/invitation/")).Click();
        guest.Find("#name").SendKeys("Guest");
        Assert.Empty(guest.Accessibility());
        guest.Find("#password").SendKeys("a short sentence");
        guest.Click("main form .btn");
        guest.Until(() => guest.Driver.Url.EndsWith("/jobs/QUAY", StringComparison.Ordinal));
        guest.Go("/jobs/QUAY/receive");
        Assert.Equal("ARC – Architecture", guest.Find("#party").Text.Trim());
        guest.Go("/jobs/QUAY/setup");
        Assert.Contains("Not here", guest.Find("main").Text);
        _browser.Go("/jobs/QUAY/record");
        Assert.Contains("took up the invitation", _browser.Find("main table").Text);
    }

    private void Type(string id, string text)
    {
        _browser.Find("#" + id).Clear();
        _browser.Find("#" + id).SendKeys(text);
    }

    private void Check(string page)
    {
        var found = _browser.Accessibility();
        Assert.True(found.Count == 0, $"{page}: {string.Join("\n", found)}");
    }

    [Fact]
    public void A_reader_sees_but_cannot_change()
    {
        _browser.SignIn("reader");
        _browser.Go("/jobs/HW/receive");
        Assert.Empty(_browser.Driver.FindElements(By.Id("drop")));
        _browser.Go("/jobs/HW/handover");
        Assert.Empty(_browser.Driver.FindElements(By.CssSelector("main .head button")));
    }
}
