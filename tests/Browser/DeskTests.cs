using OpenQA.Selenium;
using SteadyLintel.Demo;

namespace SteadyLintel.Tests;

/// <summary>The drawing desk in the real interface: a plan in paper scale is scaled with evidence, prepared, edited, placed at its level
/// by its
/// grid, seen among the models, and its next revision runs through the same steps.</summary>
public sealed class DeskTests : IAsyncLifetime
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
    public void A_plan_in_paper_scale_lies_under_the_model_at_its_level()
    {
        _browser.SignIn("coordinator");
        Deliver(HeronWharf.Plans[0]);
        _browser.Go("/jobs/HW/setout");
        _browser.Driver.FindElements(By.CssSelector("tr")).First(r => r.Text.Contains("Concourse plan", StringComparison.Ordinal))
            .FindElement(By.LinkText("Scale and place")).Click();
        Ready();
        // Its dimensions are taken, the declared unit is doubted.
        Assert.Contains("7 of its dimensions, read in metres", Desk, StringComparison.Ordinal);
        Assert.Contains("6 door leaves would be 0.009 m wide", Desk, StringComparison.Ordinal);
        Check("desk");
        Prepare();
        Measure();
        Edit();
        Place();
        Deliver(HeronWharf.PlanAgain);
        Compare();
        _browser.Go("/jobs/HW/combine");
        _browser.Until(() => _browser.Find("#view").GetDomAttribute("data-ready") == "true", 90);
        Assert.Equal(1L, _browser.Script<long>("return lintelView.building.edges.children.filter((c) => c.userData.z !== undefined && c.visible).length"));
        // r2 lies at the concourse too, its wall moved; it went through the same steps.
        Assert.Equal(4.8, _browser.Script<double>("return lintelView.building.edges.children.find((c) => c.userData.z !== undefined).userData.z"), 3);
        _browser.Script<object?>("const box = document.querySelector('[data-sheet]'); box.click(); return null");
        _browser.Until(() => _browser.Script<bool>("return lintelView.building.edges.children.every((c) => c.userData.z === undefined || !c.visible)"));
    }

    private string Desk => _browser.Find("#desk").Text;

    private void Prepare()
    {
        _browser.Script<object?>("document.querySelector('[data-tool=window]').click(); return null");
        Pick(10, 10);
        Pick(570, 350);
        _browser.Until(() => Desk.Contains("keep the window", StringComparison.Ordinal));
        Assert.Contains("56 of 61", Desk, StringComparison.Ordinal);
        _browser.Script<object?>("document.querySelector('#desk details').open = true; for (const b of document.querySelectorAll('[name=\"Form.Layer\"]')) if (/TTLB|DIMS/.test(b.value)) b.checked = true; return null");
        Press("Drop the ticked layers");
        _browser.Until(() => Desk.Contains("drop layers", StringComparison.Ordinal));
        Press("off", 1);
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("#desk s")).Count == 1);
        Press("on", 1);
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("#desk s")).Count == 0);
        Press("↑", 2);
        _browser.Until(() => Desk.IndexOf("drop layers", StringComparison.Ordinal) < Desk.IndexOf("keep the window", StringComparison.Ordinal));
    }

    private void Measure()
    {
        _browser.Script<object?>("document.querySelector('[data-tool=measure]').click(); return null");
        Pick(60, 80);
        Pick(540, 80);
        _browser.Until(() => _browser.Find("#desk-reading").Text.Contains("48.000 m", StringComparison.Ordinal));
    }

    private void Edit()
    {
        _browser.Script<object?>("document.querySelector('[data-tool=pick]').click(); return null");
        // The tag of axis A, in its bubble.
        Pick(60, 348);
        _browser.Until(() => Desk.Contains("TEXT", StringComparison.Ordinal), 30);
        _browser.Find("#to").Clear();
        _browser.Find("#to").SendKeys("A.1");
        Press("Change the text");
        _browser.Until(() => Desk.Contains("text becomes “A.1”", StringComparison.Ordinal));
        Press("×", 3);
        _browser.Until(() => !Desk.Contains("A.1", StringComparison.Ordinal));
    }

    private void Place()
    {
        Choose("way", "grids");
        _browser.Until(() => Desk.Contains("origin at -6.000 m, -8.000 m", StringComparison.Ordinal) && Desk.Contains("largest residual", StringComparison.Ordinal), 30);
        _browser.Script<object?>("const s = document.getElementById('level'); s.value = [...s.options].find((o) => o.text.includes('Concourse')).value; return null");
        Check("desk, placed");
        _browser.Find("#accept").Click();
        _browser.Until(() => _browser.Driver.PageSource.Contains("is scaled, prepared and placed", StringComparison.Ordinal));
        Assert.Contains("1 unit is 100 mm", _browser.Find("main").Text, StringComparison.Ordinal);
        _browser.Go("/jobs/HW/setout");
        Assert.Contains("by grid tags", _browser.Find("main").Text, StringComparison.Ordinal);
    }

    // The wall of r2: two lines and six doors.
    private void Compare()
    {
        _browser.Go("/jobs/HW/setout");
        _browser.Driver.FindElements(By.CssSelector("tr")).First(r => r.Text.Contains("Concourse plan", StringComparison.Ordinal))
            .FindElement(By.LinkText("What changed")).Click();
        Ready();
        Assert.Contains("0 added 0 removed, 14 changed", _browser.Find("main").Text, StringComparison.Ordinal);
        Assert.Equal(3L, _browser.Script<long>("return document.querySelectorAll('#paper > svg').length"));
        Check("what changed in the drawing");
    }

    private void Ready() => _browser.Until(() => _browser.Find("#paper").GetDomAttribute("data-ready") == "true", 60);

    // A click on the picture where a point of the drawing lies.
    private void Pick(double x, double y) => _browser.Script<object?>(FormattableString.Invariant($$"""
        const paper = document.getElementById('paper'), svg = paper.querySelector('svg');
        const [cx, cy] = svg.dataset.corner.split(' ').map(Number), unit = Number(svg.dataset.unit);
        const p = new DOMPoint(({{x}} - cx) / unit, (cy - {{y}}) / unit).matrixTransform(svg.getScreenCTM());
        const at = { clientX: p.x, clientY: p.y, pointerId: 1, bubbles: true };
        paper.dispatchEvent(new PointerEvent('pointerdown', at));
        paper.dispatchEvent(new MouseEvent('click', at));
        return null;
        """));

    private void Press(string text, int step = 0)
    {
        string within = step > 0 ? $"tr:nth-child({step}) .steptools" : "";
        _browser.Script<object?>(
            $"[...document.querySelectorAll('#desk {within} button')].find((b) => b.textContent.trim() === '{text}').click(); return null");
    }

    private void Choose(string id, string value) => _browser.Script<object?>(
        $"const s = document.getElementById('{id}'); s.value = '{value}'; s.dispatchEvent(new Event('change', {{ bubbles: true }})); return null");

    private void Deliver(DemoDelivery demo)
    {
        string path = Path.Combine(_browser.Downloads, demo.FileName);
        using (var file = File.Create(path)) demo.Write(file);
        _browser.Go("/jobs/HW/receive");
        _browser.Find("#source").Clear();
        _browser.Find("#source").SendKeys(demo.Source);
        _browser.Find("#files").SendKeys(path);
        _browser.Until(() => _browser.Driver.FindElements(By.CssSelector("tr[data-state=Ready]")).Any(r => r.Text.Contains(demo.FileName, StringComparison.Ordinal)), 90);
    }

    private void Check(string page)
    {
        var faults = _browser.Accessibility();
        Assert.True(faults.Count == 0, $"{page}: {string.Join("\n", faults)}");
    }
}
