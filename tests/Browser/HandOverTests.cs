using OpenQA.Selenium;

namespace SteadyLintel.Tests;

/// <summary>TransmittalIssue over in the real interface: tables kept, a rule by property, a view kept and ordered by, files received.</summary>
public sealed class HandOverTests(DemoSite site) : DemoBrowser(site)
{
    [Fact]
    public void An_order_by_rules_tables_and_a_kept_view_is_run_and_received()
    {
        Browser.SignIn("coordinator");
        Browser.Go("/jobs/HW/library");
        Browser.Until(() =>
            Browser.Driver.FindElements(By.CssSelector("button")).Any(b => b.Text == "Layers by discipline")
        );
        Check("library, empty");
        Browser.Driver.FindElements(By.CssSelector("button")).First(b => b.Text == "Layers by discipline").Click();
        Browser.Until(() => Browser.Find(".notice").Text.Contains("is saved in this job", StringComparison.Ordinal));
        Browser.Driver.FindElements(By.CssSelector("button")).First(b => b.Text == "Names").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.LinkText("Match names")).Count > 0);
        Browser.Driver.FindElement(By.LinkText("Match names")).Click();
        Browser.Until(() => Browser.Driver.FindElements(By.Name("pair")).Count > 3);
        Check("library, names");
        KeepView();
        Order();
        Draw();
        Lock();
    }

    // What is visible in the picture, as the picture counts it, is what an order by the kept view gives.
    private void KeepView()
    {
        Browser.Go("/jobs/HW/combine#cut=4.80,9.50&source=STR%20Frame&class=IfcSpace&class=IfcFurniture");
        Browser.Until(
            () => Browser.Script<bool>("return document.querySelector('#view')?.dataset.ready === 'true'"),
            120
        );
        Browser.Script<object?>("document.querySelector('#keepform').closest('details').open = true; return null");
        Check("combined view, keeping");
        Browser.Find("#keepname").SendKeys("Level 1");
        Browser.Find("#keepform button").Click();
        Browser.Until(() => Browser.Find("#kept").Text.Contains("saved as version 1", StringComparison.Ordinal));
        // The picture's own count: bodies that are shown and reach between the two heights.
        Shown = Browser.Script<long>(
            """
            const { building } = lintelView, z = building.offset[2];
            let shown = 0;
            for (let e = 0; 3 * e < building.columns.length; e++) {
              if (building.states.data[4 * e] !== 255) continue;
              const box = building.boxOf(e);
              if (!box.isEmpty() && box.max.z + z > 4.8 && box.min.z + z < 9.5) shown++;
            }
            return shown;
            """
        );
        Assert.True(Shown > 100, $"{Shown}");
    }

    private long Shown { get; set; }

    private void Order()
    {
        Browser.Go("/jobs/HW/handover");
        Browser.Driver.FindElements(By.CssSelector("button")).First(b => b.Text == "New order").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.Id("word-Tables")).Count > 0);
        Add(0, "only", "view", "Level 1");
        Browser.Until(() => Goes() == Shown);
        Add(1, "without", "property", "True", "Pset_WallCommon.IsExternal");
        Browser.Until(() => Browser.Find("#decides-1").Text != "0" && Goes() < Shown);
        Check("order, rules");
        Browser.Script<object?>(
            "document.querySelector('#word-Form').closest('details').open = true; document.querySelector('[value=dwg-meshes-2010]').click(); return null"
        );
        Fill("LayerTable", "Layers by discipline");
        Browser.Until(() => Browser.Find("#word-Tables").Text == "Layers by discipline");
        Fill("to", "STR");
        Fill("name", "{job}-{storey}");
        Browser.Until(() => Browser.Find("#word-To").Text == "STR");
        Browser.Script<object?>("document.querySelector('#word-Form').closest('details').open = false; return null");
        Browser.Click("#run");
        try
        {
            Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("[data-state=Done]")).Count > 0, 90);
        }
        catch (TimeoutException)
        {
            Browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(30);
            // What the server says of the run, where the page does not say that it is done.
            throw new InvalidOperationException(
                (string?)
                    Browser.Driver.ExecuteAsyncScript(
                        "const d = arguments[0]; fetch(location.pathname + '?handler=Runs').then(async r => d(r.status + ' ' + (await r.text()).slice(0, 900) + ' | ' + document.querySelector('#runs').innerHTML.slice(0, 1500)))"
                    )
            );
        }

        Assert.Contains("Balanced", Browser.Find(".run .verdict").Text, StringComparison.Ordinal);
        Check("order, run");
        // A figure opens as many elements as it counts.
        Browser.Script<object?>(
            "[...document.querySelectorAll('.run details')].find(d => d.textContent.includes('By storey and class')).open = true; return null"
        );
        Check("order, balance by class");
        var figure = Browser.Driver.FindElements(By.CssSelector(".reconciliation .sum a"))[2];
        long went = Digits(figure.Text);
        string order = Browser.Driver.Url;
        Browser.Driver.Navigate().GoToUrl(figure.GetDomProperty("href")!);
        Browser.Until(
            () => Browser.Script<bool>("return document.querySelector('#view')?.dataset.ready === 'true'"),
            120
        );
        Assert.Equal(
            went,
            Browser.Script<long>(
                "const s = lintelView.building.states.data; let n = 0; for (let e = 0; 3 * e < lintelView.building.columns.length; e++) if (s[4 * e] === 255) n++; return n;"
            )
        );
        Check("combined view, a figure");
        Browser.Driver.Navigate().GoToUrl(order);
        Browser.Until(() => Browser.Driver.FindElements(By.LinkText("Sheet")).Count > 0);
        string sheet = Browser.Driver.FindElement(By.LinkText("Sheet")).GetDomProperty("href")!;
        Browser.Driver.Navigate().GoToUrl(sheet);
        Browser.Until(() => Browser.Find("h1").Text.Contains("transmittal 1", StringComparison.Ordinal));
        Check("receipt sheet");
        Browser.Go("/jobs/HW/handover");
        Browser.Find("form.who button").Click();
        Browser.Until(() => Browser.Driver.Url.Contains("signin", StringComparison.Ordinal));
        Browser.SignIn("recipient");
        Browser.Go("/jobs/HW/delivered");
        Browser.Until(() => Browser.Driver.FindElements(By.LinkText("Download all")).Count > 0);
        Check("handed over");
        Browser.Driver.FindElements(By.CssSelector("button")).First(b => b.Text == "Confirm receipt of all").Click();
        Browser.Until(() => Browser.Find(".notice").Text.Contains("is confirmed", StringComparison.Ordinal));
        Browser.Find("form.who button").Click();
        Browser.Until(() => Browser.Driver.Url.Contains("signin", StringComparison.Ordinal));
        Browser.SignIn("coordinator");
    }

    private void Lock()
    {
        Browser.Go("/jobs/HW/receive");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector(".sources summary")).Count > 0);
        Check("receive, sources");
        Browser.Script<object?>("document.querySelector('.sources details').open = true; return null");
        Browser
            .Driver.FindElements(By.CssSelector(".sources button"))
            .First(b => b.Text.StartsWith("Lock ", StringComparison.Ordinal))
            .Click();
        Browser.Until(() => Browser.Find(".sources b.warning").Text == "Coordinator");
    }

    private void Add(int line, string verb, string what, string are, string? key = null)
    {
        Browser.Driver.FindElements(By.CssSelector("#rules button")).First(b => b.Text == "Add a rule").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.Id($"rule-{line}-do")).Count > 0);
        Fill($"rule-{line}-what", what);
        Browser.Until(() =>
            Browser.Script<string>($"return document.getElementById('rule-{line}-what').value") == what
        );
        if (key is not null)
            Fill($"rule-{line}-key", key);
        Fill($"rule-{line}-are", are);
        Fill($"rule-{line}-do", verb);
    }

    private void Draw()
    {
        Browser.Go("/jobs/HW/handover");
        Browser.Driver.FindElements(By.CssSelector("button")).First(b => b.Text == "New order").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.Id("word-Drawn")).Count > 0);
        Browser.Script<object?>(
            "document.querySelector('#word-Form').closest('details').open = true; document.querySelector('[value=dwg-section-2010]').click(); return null"
        );
        Browser.Until(() => Browser.Find("#word-Drawn").Text == "along no line yet");
        Browser.Script<object?>(
            "document.querySelector('#word-Form').closest('details').open = false; document.querySelector('#word-Drawn').closest('details').open = true; return null"
        );
        Browser
            .Driver.FindElements(By.CssSelector("button"))
            .First(b => b.Text.StartsWith("Around the building", StringComparison.Ordinal))
            .Click();
        Browser.Until(() =>
            Browser
                .Script<string>("return document.getElementById('lines').value")
                .StartsWith("South: ", StringComparison.Ordinal)
        );
        Fill("hiddenedges", "out");
        Fill("name", "{section}");
        Browser.Until(() =>
            Browser
                .Find("#word-Drawn")
                .Text.Contains("along South, East and 4 more, hidden edges out", StringComparison.Ordinal)
        );
        Check("order, line work");
    }

    private long Goes() => Digits(Browser.Find("#goes").Text);

    private static long Digits(string text) =>
        long.Parse(new string([.. text.Where(char.IsAsciiDigit)]), System.Globalization.CultureInfo.InvariantCulture);
}
