using System.IO.Compression;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The whole way through the real interface.</summary>
public sealed class JourneyTests(DemoSite site) : DemoBrowser(site)
{
    [Fact]
    public void From_sign_in_to_a_balanced_hand_over()
    {
        Browser.SignIn("coordinator");
        Receive();
        ReadTheReport();
        Combine();
        HandOver();
    }

    [Fact]
    public void A_drawing_is_received_and_seen_from_above()
    {
        Browser.SignIn("coordinator");
        string path = Path.Combine(Browser.Downloads, "grid.dwg");
        using (var file = File.Create(path))
            DwgWriter.Write(Grid(), file);
        Deliver(path, "Grid");
        Browser.Driver.FindElement(By.LinkText("grid.dwg")).Click();
        Browser.Find("#plan[data-ready=true]");
        Assert.Equal(2, Browser.Driver.FindElements(By.CssSelector("#paper [data-layer]")).Count);
        Check("drawing");
        Browser.Find("[data-name='S-GRID']").Click();
        Assert.Equal(
            "none",
            Browser.Driver.FindElement(By.CssSelector("#paper [data-layer='S-GRID']")).GetAttribute("display")
        );
        string before = Browser.Find("#paper svg").GetDomAttribute("viewBox")!;
        Browser.Find("#paper").SendKeys("+" + Keys.ArrowRight);
        Assert.NotEqual(before, Browser.Find("#paper svg").GetDomAttribute("viewBox"));
        Browser.Find("[data-zoom=fit]").Click();
        Assert.Equal(before, Browser.Find("#paper svg").GetDomAttribute("viewBox"));
        GiveOn();
    }

    // The lines' layer is hidden: what is shown goes on as another version, is accounted for, and can be fetched.
    private void GiveOn()
    {
        Browser.Script<object?>("document.getElementById('form').value = 'dwg-2004'; return null");
        Browser.Find("#convert [name=OnlyShown]").Click();
        Browser.Find("#convert button").Click();
        Assert.Equal("Balanced", Browser.Find("#converted b.ok").Text);
        Assert.Equal(
            ["LINE 7 7 0 0 0", "TEXT 7 0 0 0 7"],
            Browser
                .Driver.FindElements(By.CssSelector("#converted [aria-label='Balance by kind'] tbody tr"))
                .Select(r => r.Text)
        );
        Check("drawing converted");
        Browser.Find("#converted button").Click();
        string path = Path.Combine(Browser.Downloads, "grid-dwg-2004.dwg");
        // The browser makes an empty file of the name first.
        Browser.Until(() => File.Exists(path) && new FileInfo(path).Length > 0);
        var given = DwgReader.Read(File.ReadAllBytes(path));
        Assert.Equal((CadVersion.AC1018, 7), (given.Version, given.Model.Entities.OfType<Text>().Count()));
        Assert.Empty(given.Model.Entities.OfType<Line>());
    }

    private static Drawing Grid()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Units = 4;
        foreach (string name in (string[])["S-GRID", "S-TEXT"])
            drawing.AddLayer(name, 0x703020);
        for (int i = 0; i < 7; i++)
        {
            drawing.Add(
                new Line
                {
                    Layer = drawing.Layers["S-GRID"]!.Handle,
                    Start = new(8000 * i, 0, 0),
                    End = new(8000 * i, 24000, 0),
                }
            );
            drawing.Add(
                new Text
                {
                    Layer = drawing.Layers["S-TEXT"]!.Handle,
                    Value = ((char)('A' + i)).ToString(),
                    Insertion = new(8000 * i, 24500, 0),
                    Height = 700,
                }
            );
        }

        return drawing;
    }

    private void Receive()
    {
        string path = Path.Combine(Browser.Downloads, "annex.ifc");
        using (var file = File.Create(path))
            HeronWharf.Models.First(d => d.Party == "STR").Write(file);
        Deliver(path, "Annex");
    }

    private void Deliver(string path, string name)
    {
        Browser.Go("/jobs/HW/receive");
        Browser.Script<object?>(
            "document.getElementById('party').selectedIndex = [...document.getElementById('party').options].findIndex(o => o.text.startsWith('STR')); return null"
        );
        var source = Browser.Find("#source");
        source.Clear();
        source.SendKeys(name);
        Browser.Find("input[type=file]").SendKeys(path);
        Browser.Until(() =>
            Browser
                .Driver.FindElements(By.CssSelector("#deliveries tr[data-state=Ready]"))
                .Any(r => r.Text.Contains(Path.GetFileName(path), StringComparison.Ordinal))
        );
    }

    private void ReadTheReport()
    {
        Browser.Driver.FindElement(By.LinkText("annex.ifc")).Click();
        Assert.Contains("Girder Desk", Browser.Find(".stops").Text);
        var finding = Browser.Find("#IFC-ENTITY-UNKNOWN summary");
        finding.Click();
        Assert.Contains("IFCHERONWHARFTAG", Browser.Find("#IFC-ENTITY-UNKNOWN table").Text);
    }

    private void Combine()
    {
        Browser.Go("/jobs/HW/combine");
        Browser.Find("#view[data-ready=true]", 60);
        // A link to an element picks it; the pointer then finds the same one where it stands.
        string id = Browser.Script<string>(
            "return lintelView.building.data.sources.find(s => s.label.startsWith('ARC')).id"
        );
        Browser.Go($"/jobs/HW/combine#pick={id}.1&x={Guid.NewGuid():N}");
        Browser.Driver.Navigate().Refresh();
        Browser.Find("#slip .slip", 60);
        Assert.Contains("External wall 001", Browser.Find("#slip").Text);
        Assert.Contains("FireRating", Browser.Find("#slip").Text);
        Assert.Contains("EI 60", Browser.Find("#slip").Text);
        Browser.Find("#slip [data-act=isolate]").Click();
        Browser.Find("#slip [data-act=close]").Click();
        var canvas = Browser.Find("#canvas");
        new Actions(Browser.Driver).MoveToElement(canvas, 0, 0).Click().Perform();
        Browser.Until(() => Browser.Script<long>("return lintelView.picked") == 1);
        Assert.Contains("External wall 001", Browser.Find("#slip .slip").Text);
        Assert.Contains(
            "only=",
            Browser.Script<string>(
                "return (async () => { await new Promise(r => setTimeout(r, 500)); return location.hash; })()"
            )
        );
        Browser.Find("#showall").Click();
        // A chip hides a party, a grip cuts.
        Browser.Find("#slip [data-act=close]").Click();
        foreach (var chip in Browser.Driver.FindElements(By.CssSelector("button[data-filter=source]")))
            chip.Click();
        new Actions(Browser.Driver).MoveToElement(canvas, 0, 0).Click().Perform();
        Assert.Equal(-1L, Browser.Script<long>("return lintelView.picked"));
        // The address says what is off by its name, and opens the same view again.
        int chips = Browser.Driver.FindElements(By.CssSelector("button[data-filter=source]")).Count;
        Browser.Until(() =>
            Browser.Script<long>("return new URLSearchParams(location.hash.slice(1)).getAll('source').length") == chips
        );
        Assert.True(
            Browser.Script<bool>(
                "return new URLSearchParams(location.hash.slice(1)).getAll('source').some(n => n.startsWith('ARC'))"
            )
        );
        Browser.Driver.Navigate().Refresh();
        Browser.Find("#view[data-ready=true]", 60);
        Assert.All(Browser.Driver.FindElements(By.CssSelector("button[data-filter=source]")), chip =>
            Assert.Equal("false", chip.GetAttribute("aria-pressed"))
        );
        string before = Browser.Driver.FindElements(By.CssSelector(".grip"))[1].GetAttribute("aria-valuenow")!;
        Browser.Driver.FindElements(By.CssSelector(".grip"))[1].SendKeys(Keys.PageDown);
        Assert.NotEqual(before, Browser.Driver.FindElements(By.CssSelector(".grip"))[1].GetAttribute("aria-valuenow"));
    }

    private void HandOver()
    {
        Browser.Go("/jobs/HW/handover");
        NewOrder();
        Choose("Classes", "IfcWall");
        Choose("Unit", "m");
        Browser.Until(() =>
            Browser.Find("#word-Unit").Text == "metres" && Browser.Find("#word-Classes").Text == "the walls"
        );
        string goes = Browser.Find("#goes").Text;
        Browser.Find("#run").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("details.run[data-state=Done]")).Count == 1, 60);
        Assert.Contains("Balanced", Browser.Find("details.run").Text);
        Check("order that was run");
        Browser.Find("details.run a.btn").Click();
        Browser.Until(() => Directory.GetFiles(Browser.Downloads, "*.zip").Length == 1);
        using var zip = ZipFile.OpenRead(Directory.GetFiles(Browser.Downloads, "*.zip")[0]);
        Assert.Contains(zip.Entries, e => e.Name == "manifest.json");
        int elements = 0;
        foreach (var entry in zip.Entries.Where(e => e.Name.EndsWith(".ifc", StringComparison.Ordinal)))
        {
            using var bytes = new MemoryStream();
            using (var stream = entry.Open())
                stream.CopyTo(bytes);
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
        Browser.SignIn("coordinator");
        Browser.Go("/jobs/HW");
        Browser.Go("/jobs/HW/handover");
        NewOrder();
        int all = Number("#goes");
        Browser.Click("#word-Form");
        Browser.Click("input[name=Form][value=dwg-plan-2010]");
        Browser.Until(() => Browser.Find("#leftout").Text.Contains("no shape", StringComparison.Ordinal));
        int going = Number("#goes");
        Assert.True(going < all);
        Browser.Click("#word-Form");
        Browser.Click("#run");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("details.run[data-state=Done]")).Count == 1, 90);
        Assert.Equal(going, Number("details.run tr.sum td:nth-child(4)"));
    }

    private int Number(string selector) =>
        int.Parse(
            string.Concat(Browser.Find(selector).Text.Where(char.IsDigit)),
            System.Globalization.CultureInfo.InvariantCulture
        );

    private bool Again()
    {
        Thread.Sleep(300);
        Browser.Driver.Navigate().Refresh();
        return false;
    }

    private void NewOrder() =>
        Browser.Driver.FindElements(By.CssSelector("main .head button")).First(b => b.Text == "New order").Click();

    private void Choose(string field, string value)
    {
        Browser.Click($"#word-{field}");
        Browser.Click($"input[name={field}][value={value}]");
        Browser.Until(() =>
            Browser.Find($"#word-{field}").Text.Length > 0
            && !Browser.Find($"#word-{field}").Text.StartsWith("every", StringComparison.Ordinal)
        );
        Browser.Click($"#word-{field}");
    }

    [Fact]
    public void Every_page_is_usable_without_sight_or_mouse()
    {
        Browser.Go("/signin");
        Check("sign in");
        Browser.SignIn("coordinator");
        Check("jobs");
        Browser.Go("/jobs/HW");
        Check("job sheet");
        Browser.Find(".cell summary").SendKeys(Keys.Enter);
        Assert.Contains("Roof", Browser.Find(".sheet").Text);
        Check("job sheet with a list open");
        // The digits go to the stops.
        Browser.Driver.FindElement(By.TagName("body")).SendKeys(Keys.Escape + "1");
        Browser.Until(() => Browser.Driver.Url.EndsWith("/receive", StringComparison.Ordinal));
        Check("receive");
        Browser.Driver.FindElement(By.LinkText("HW-ARC-terminal.ifc")).Click();
        Browser.Find(".stops");
        Check("intake report");
        Browser.Go("/jobs/HW/combine");
        Browser.Find("#view[data-ready=true]", 60);
        Browser.Driver.FindElements(By.CssSelector(".chipbox summary"))[1].Click();
        Check("combine");
        Browser.Go("/jobs/HW/handover");
        Check("orders");
        NewOrder();
        Browser.Find("#word-Classes").Click();
        Check("order");
        foreach (
            string path in new[]
            {
                "jobs/HW/setup",
                "jobs/HW/people",
                "jobs/HW/record",
                "new-job",
                "account",
                "help",
                "inbox",
                "status",
            }
        )
        {
            Browser.Go("/" + path);
            Check(path);
        }

        Browser.Driver.FindElement(By.TagName("body")).SendKeys("?");
        Browser.Until(() => Browser.Find("#keys").Displayed);
        Check("keys");
        Browser.Driver.FindElement(By.TagName("body")).SendKeys(Keys.Escape);
        Browser.Go("/jobs/NONE");
        Check("not here");
    }

    [Fact]
    public void A_job_is_made_people_are_invited_and_come()
    {
        Browser.SignIn("coordinator");
        Browser.Find("main a[href='/new-job']").Click();
        Type("job", "QUAY");
        Type("name", "Quay steps");
        Browser.Click("main form .btn");
        Browser.Until(() => Browser.Driver.Url.EndsWith("/jobs/QUAY/setup", StringComparison.Ordinal));
        Assert.Contains("No party yet", Browser.Find("main").Text);
        Type("p-code", "ARC");
        Type("p-disc", "Architecture");
        Browser.Click("#party .btn");
        Browser.Until(() => Browser.Find("main .plate").Text == "ARC" || Again());
        Type("s-name", "Steps");
        Browser.Click("#source .btn");
        Browser.Until(() => Browser.Find("main").Text.Contains("Steps is saved", StringComparison.Ordinal));
        Browser.Go("/jobs/QUAY");
        Check("a job in which nothing is yet");

        Browser.Go("/jobs/QUAY/people");
        Type("email", "guest@quay.example");
        Browser.Find("#role").SendKeys("Contributor");
        Browser.Find("#party").SendKeys("ARC");
        Browser.Click("main form .btn");
        Browser.Until(() =>
            Browser.Driver.FindElements(By.CssSelector("[data-invited='guest@quay.example']")).Count == 1
        );
        Check("people with an invitation");

        // The guest, in a browser of its own.
        using var guest = new BrowserSession(Address);
        guest.Go("/inbox");
        guest.Until(() =>
        {
            if (guest.Driver.FindElements(By.PartialLinkText("/invitation/")).Count > 0)
                return true;
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
        Assert.Contains("Not found", guest.Find("main").Text);
        Browser.Go("/jobs/QUAY/record");
        Assert.Contains("took up the invitation", Browser.Find("main table").Text);
    }

    private void Type(string id, string text)
    {
        Browser.Find("#" + id).Clear();
        Browser.Find("#" + id).SendKeys(text);
    }

    [Fact]
    public void A_reader_sees_but_cannot_change()
    {
        Browser.SignIn("reader");
        Browser.Go("/jobs/HW/receive");
        Assert.Empty(Browser.Driver.FindElements(By.Id("drop")));
        Browser.Go("/jobs/HW/handover");
        Assert.Empty(Browser.Driver.FindElements(By.CssSelector("main .head button")));
    }
}
