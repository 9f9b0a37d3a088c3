using System.Text;
using OpenQA.Selenium;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Stop 2 in the real interface: a model that lies elsewhere is set out each way, taken back, and its next revision's jump
/// too.</summary>
public sealed class SetOutTests(DemoSite site) : DemoBrowser(site)
{
    private sealed class Files : IFileSet
    {
        private readonly Dictionary<string, MemoryStream> _files = [];

        public Stream Create(string name) => _files[name] = new MemoryStream();

        public ReadOnlyMemory<byte> Read(string name) => _files[name].ToArray();
    }

    [Fact]
    public void A_model_that_lies_elsewhere_is_set_out_and_its_next_revision_jumps_back()
    {
        Browser.SignIn("coordinator");
        Deliver("first.ifc", new Vec3(250, -40, -30.48), 12);
        Browser.Go("/jobs/HW/setout");
        Assert.Contains("1 source, 1 drawing", Browser.Find(".route").Text, StringComparison.Ordinal);
        Check("all sources");
        Browser.Driver.FindElement(By.CssSelector(".sideways td a.btn:not(.q)")).Click();
        ByGrids();
        TakeBack();
        ByOtherWays();
        ByPoints();
        Deliver("second.ifc", new Vec3(0, 0, 0), 0, text =>
            text.Replace("'Seat 010'", "'Seat 010 b'", StringComparison.Ordinal)
        );
        Jump();
        Changes();
        Levels();
        Units();
        Members();
    }

    // Each way shows what it would do, is accepted, and is taken back.
    private void ByOtherWays()
    {
        Fill("way", "declared");
        Browser.Until(() => Browser.Find("#proposal").Text.Contains("map conversion", StringComparison.Ordinal));
        Fill("way", "levels");
        Browser.Until(() =>
            Browser.Find("#proposal").Text.Contains("Quay level", StringComparison.Ordinal)
            && Browser.Find("#proposal").Text.Contains("agrees", StringComparison.Ordinal)
        );
        Check("set out by levels");
        Accept("by levels");
        Fill("way", "typed");
        foreach (var (field, value) in new[] { ("x", "-236.216"), ("y", "91'-0\""), ("turn", "-12") })
            Browser.Script<object?>(
                $"const f = document.getElementById('{field}'); f.value = '{value.Replace("'", "\\'", StringComparison.Ordinal)}'; f.dispatchEvent(new Event('change', {{ bubbles: true }})); return null"
            );
        Browser.Until(() =>
            Browser.Find("#proposal").Text.Replace('−', '-').Contains("-236.216, 27.737 m", StringComparison.Ordinal)
        );
        Check("set out as typed");
        Accept("as typed");
        Fill("way", "same");
        Browser.Until(() => Browser.Find("#proposal").Text.Contains("0.000, 0.000 m as ARC", StringComparison.Ordinal));
        Accept("as another source");
    }

    private void Accept(string evidence)
    {
        string page = Browser.Driver.Url;
        Browser.Find("#accept").Click();
        Browser.Until(() => Browser.Driver.PageSource.Contains("is set out. From now on", StringComparison.Ordinal));
        Browser.Driver.Navigate().GoToUrl(page);
        Assert.Contains(evidence, Browser.Find("main").Text, StringComparison.Ordinal);
        Browser.Driver.FindElement(By.XPath("//button[text()='Undo']")).Click();
        Browser.Driver.SwitchTo().Alert().Accept();
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("the setting-out before it applies again", StringComparison.Ordinal)
        );
    }

    // The one change beside the jump, drawn among the edges of what stayed.
    private void Changes()
    {
        Browser.Go("/jobs/HW/setout");
        Browser.Driver.FindElement(By.LinkText("Changes")).Click();
        Browser.Driver.FindElement(By.PartialLinkText("Draw them")).Click();
        Browser.Until(() => Browser.Find("#view").GetDomAttribute("data-ready") == "true", 90);
        Assert.Contains("0 added 1 changed 0 removed", Browser.Find(".legend").Text, StringComparison.Ordinal);
        Check("changes in the combined view");
    }

    // The frame once more, 0.3 m higher: every member of the one disagrees with its partner in the other.
    private void Members()
    {
        Deliver("steel.ifc", new Vec3(0, 0, 0.3048), 0, party: "STR", source: "Steel again");
        Browser.Go("/jobs/HW/members");
        Assert.Contains("MEMBER-HEIGHT", Browser.Find("main").Text, StringComparison.Ordinal);
        Assert.Contains("1'-0\" lower", Browser.Find("main").Text, StringComparison.Ordinal);
        Check("members");
        Browser.Driver.FindElement(By.PartialLinkText("Look")).Click();
        Browser.Until(() => Browser.Find("#view").GetDomAttribute("data-ready") == "true", 90);
        Assert.Equal("Isolated: show all", Browser.Find("#showall").Text);
        Assert.Contains("'", Browser.Find("#strip").Text, StringComparison.Ordinal);
    }

    // Grids are proposed by themselves: both have them.
    private void ByGrids()
    {
        Browser.Until(() => Browser.Find("#proposal").Text.Contains("RMS 0", StringComparison.Ordinal));
        Assert.Equal("grids", Browser.Find("#way").GetDomProperty("value"));
        Assert.Contains("4 of 4 agree", Browser.Find("#proposal").Text, StringComparison.Ordinal);
        Assert.Contains("-12.0000°", Browser.Find("#proposal").Text.Replace('−', '-'), StringComparison.Ordinal);
        Check("set out by grids");
        Browser.Find("#accept").Click();
        Browser.Until(() => Browser.Driver.PageSource.Contains("is set out. From now on", StringComparison.Ordinal));
        Assert.Contains("1 drawing", Browser.Find(".route").Text, StringComparison.Ordinal);
        Assert.DoesNotContain("source, 1 drawing", Browser.Find(".route").Text, StringComparison.Ordinal);
    }

    private void TakeBack()
    {
        Browser
            .Driver.FindElements(By.CssSelector("tbody tr:first-child td"))
            .First(c => c.Text.Contains("by grid tags", StringComparison.Ordinal))
            .FindElement(By.CssSelector("a.btn"))
            .Click();
        Browser.Find("#history");
        Browser.Driver.FindElement(By.XPath("//button[text()='Undo']")).Click();
        Browser.Driver.SwitchTo().Alert().Accept();
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("the setting-out before it applies again", StringComparison.Ordinal)
        );
        Assert.Contains("1 source, 1 drawing", Browser.Find(".route").Text, StringComparison.Ordinal);
    }

    // Two points of the plans, caught by corners, make a line of the table; the rest is typed.
    private void ByPoints()
    {
        Fill("way", "points");
        foreach (string plan in (string[])["source", "job"])
            Browser.Until(() =>
                Browser.Script<bool>(
                    $"return document.getElementById('pick-{plan}').getContext('2d').getImageData(0, 0, 290, 200).data.some(v => v > 0)"
                )
            );
        foreach (string plan in (string[])["source", "job"])
            Browser.Script<object?>(
                $$"""
                const canvas = document.getElementById('pick-{{plan}}'), data = canvas.getContext('2d').getImageData(0, 0, 290, 200).data;
                const at = data.findIndex((v, i) => i % 4 === 3 && v > 100) >> 2, box = canvas.getBoundingClientRect();
                canvas.dispatchEvent(new MouseEvent('click', { clientX: box.left + 1 + at % 290, clientY: box.top + 1 + Math.floor(
                    at / 290), bubbles: true }));
                return null;
                """
            );
        Browser.Until(() =>
            Browser.Find("#points").GetDomProperty("value")!.StartsWith("P1,", StringComparison.Ordinal)
        );
        Browser.Until(() => Browser.Find("#proposal").Text.Contains("add a second", StringComparison.Ordinal));
        var there = new SettingOutDocument { Shift = [250, -40, -30.48], TurnDegrees = 12 }.Frame;
        string table = string.Join(
            "\\n",
            new[] { (0, 0), (48, 0), (48, 24), (0, 24) }.Select(
                (p, i) =>
                    there.Point(new Vec3(p.Item1, p.Item2, 0)) is var s
                        ? FormattableString.Invariant($"Q{i},{s.X},{s.Y},{s.Z},{p.Item1},{p.Item2},0")
                        : ""
            )
        );
        Browser.Script<object?>(
            $"const t = document.getElementById('points'); t.value = '{table}'; t.dispatchEvent(new Event('change', {{ bubbles: true }})); return null"
        );
        Browser.Until(() => Browser.Find("#proposal").Text.Contains("4 points, RMS 0", StringComparison.Ordinal));
        Check("set out by points");
        Browser.Find("#why").SendKeys("measured on site");
        Browser.Find("#accept").Click();
        Browser.Until(() => Browser.Driver.PageSource.Contains("by control points", StringComparison.Ordinal));
    }

    private void Jump()
    {
        Browser.Go("/jobs/HW/setout");
        Assert.Contains("its frame jumped", Browser.Find("main").Text, StringComparison.Ordinal);
        Browser.Driver.FindElement(By.LinkText("Changes")).Click();
        Browser.Until(() => Browser.Find("main").Text.Contains("The frame jumped by", StringComparison.Ordinal));
        Assert.Contains("795 stayed", Browser.Find("main").Text, StringComparison.Ordinal);
        Check("what changed");
        Browser.Driver.FindElement(By.XPath("//button[contains(text(), 'so that nothing moves')]")).Click();
        Browser.Until(() => Browser.Find("main").Text.Contains("It is corrected", StringComparison.Ordinal));
        // In the combined view the source lies on the architect's model, heights and all.
        Browser.Go("/jobs/HW/levels");
        Assert.DoesNotContain("30.480", Browser.Find("main").Text, StringComparison.Ordinal);
        Check("levels");
    }

    private void Levels()
    {
        Browser.Go("/jobs/HW/levels");
        Browser.Find("#l-name").SendKeys("Mezzanine");
        Browser.Find("#l-at").SendKeys("22'-0\"");
        Browser.Driver.FindElement(By.CssSelector("#level button")).Click();
        Browser.Until(() => Browser.Find("main").Text.Contains("+6.706", StringComparison.Ordinal));
        Browser.Go("/jobs/HW");
        Assert.Contains("Mezzanine", Browser.Find("main").Text, StringComparison.Ordinal);
    }

    private void Units()
    {
        Browser.Go("/account");
        Fill("lengths", "ft");
        Browser.Driver.FindElement(By.CssSelector("form:has(#lengths) button")).Click();
        Browser.Until(() => Browser.Driver.PageSource.Contains("Saved.", StringComparison.Ordinal));
        Browser.Go("/jobs/HW/levels");
        Assert.Contains("+15'-9\"", Browser.Find("main").Text, StringComparison.Ordinal);
        Browser.Go("/jobs/HW/setout");
        Assert.Contains("196'-10", Browser.Find("main").Text, StringComparison.Ordinal);
    }

    private void Deliver(
        string name,
        Vec3 shift,
        double degrees,
        Func<string, string>? change = null,
        string party = "ARC",
        string source = "Elsewhere"
    )
    {
        using var demo = new MemoryStream();
        HeronWharf.Models.Single(m => m.Party == party).Write(demo);
        byte[] model = change is null
            ? demo.ToArray()
            : Encoding.Latin1.GetBytes(change(Encoding.Latin1.GetString(demo.ToArray())));
        var files = new Files();
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null)
        {
            Frame = new FrameChoice(FrameKind.Given, shift, degrees),
        };
        var result = HandoverRunner.Run(
            new HandoverRun(order, [new HandoverSource("ARC", "ARC", ModelSnapshot.Open(model))], files) { Job = "HW" }
        );
        string path = Path.Combine(Browser.Downloads, name);
        File.WriteAllBytes(path, files.Read(result.Files.Single().Name).ToArray());
        Browser.Go("/jobs/HW/receive");
        Browser.Find("#source").Clear();
        Browser.Find("#source").SendKeys(source);
        Browser.Find("#files").SendKeys(path);
        Browser.Until(
            () =>
                Browser
                    .Driver.FindElements(By.CssSelector("tr[data-state=Ready]"))
                    .Any(r => r.Text.Contains(name, StringComparison.Ordinal)),
            90
        );
    }
}
