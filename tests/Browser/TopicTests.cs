using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace SteadyLintel.Tests;

/// <summary>A question by one, with a picture; answered by another; looked at again, and closed: two people at once.</summary>
public sealed class TopicTests(DemoSite site) : DemoBrowser(site)
{
    // Projects a corner of the first picked or marked element: where it is in the picture, points.
    private const string Corner =
        "const v = lintelView, b = v.building; const e = arguments[0]; const box = b.boxOf(e);"
        + "const p = box.max.clone().project(b.camera); const c = b.canvas;"
        + "return [e, (p.x + 1) / 2 * c.clientWidth, (1 - p.y) / 2 * c.clientHeight].join(' ')";

    [Fact]
    public void Two_people_ask_answer_and_close_a_topic_and_its_view_is_found_to_the_pixel()
    {
        using var other = new BrowserSession(Address);
        Browser.SignIn("coordinator");
        Browser.Go("/jobs/HW/resolve");
        Browser.Until(() => Browser.Driver.PageSource.Contains("No topic is open", StringComparison.Ordinal));
        Check("resolve without topics");
        Open("/jobs/HW/combine#eye=30.5,-12.25,15&at=24,12,5&cut=0,7.5");
        Pick();
        double[] before = Pixel();
        Ask();
        Check("topic");
        Assert.True(
            Browser.Script<bool>(
                "const i = document.querySelector('.topicpicture img'); return i.complete && i.naturalWidth > 600"
            )
        );
        Browser.Click(".topicviews .btn");
        Ready();
        Check("combined view of a topic");
        double[] after = Pixel((int)before[0]);
        Assert.True(
            Math.Abs(before[1] - after[1]) < 1 && Math.Abs(before[2] - after[2]) < 1,
            $"{before[1]} {before[2]} became {after[1]} {after[2]}"
        );
        Assert.Equal("0 7.5", Cut());
        Answer(other);
        Close();
        Share();
    }

    private void Open(string path)
    {
        Browser.Go(path);
        Ready();
    }

    private void Ready() =>
        Browser.Until(() => Browser.Script<bool>("return document.getElementById('view')?.dataset.ready === 'true'"));

    private void Pick()
    {
        Browser.Script<object?>(
            "const c = document.getElementById('canvas'), r = c.getBoundingClientRect(), at = { clientX: r.x + r.width / 2, clientY: r.y + r.height / 2, bubbles: true };"
                + "c.dispatchEvent(new PointerEvent('pointerdown', at)); c.dispatchEvent(new MouseEvent('click', at)); return null"
        );
        Browser.Until(() => Browser.Script<long>("return lintelView.picked") >= 0);
    }

    private double[] Pixel(int? element = null) =>
        [
            .. Browser
                .Script<string>(Corner, element ?? (int)Browser.Script<long>("return lintelView.picked"))
                .Split(' ')
                .Select(w => double.Parse(w, System.Globalization.CultureInfo.InvariantCulture)),
        ];

    private string Cut() =>
        Browser.Script<string>(
            "const c = lintelView.building.uniforms.cut.value, z = lintelView.building.offset[2]; return [c.x + z, c.y + z].map((n) => Math.round(n * 1000) / 1000).join(' ')"
        );

    private void Ask()
    {
        Browser.Click("#askbox summary");
        Browser.Find("#ask-title").SendKeys("Which beam carries this?");
        Browser.Find("#ask-text").SendKeys("The plan shows two.");
        Fill("ask-to", "STR");
        Browser.Click("#topicform button");
        Browser.Until(() => Browser.Driver.Url.EndsWith("/topics/1", StringComparison.Ordinal));
    }

    // By keyboard alone, and in a browser of their own.
    private static void Answer(BrowserSession other)
    {
        other.SignIn("services");
        other.Go("/jobs/HW/resolve");
        var link = other.Find("a.topic");
        Assert.Contains("Which beam carries this?", link.Text, StringComparison.Ordinal);
        link.SendKeys(Keys.Enter);
        other.Until(() => other.Driver.Url.EndsWith("/topics/1", StringComparison.Ordinal));
        var text = other.Find("#a-text");
        text.SendKeys("The second one. @ARC" + Keys.Tab + Keys.Tab + Keys.Tab);
        other.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        other.Until(() => other.Driver.PageSource.Contains("The answer is sent", StringComparison.Ordinal));
        Assert.Contains(
            "The second one. @ARC",
            other.Driver.FindElements(By.CssSelector("article .said")).Select(e => e.Text)
        );
    }

    // An arrow and a text over the picture, by mouse.
    private void Draw()
    {
        Browser.Click("[data-draw]");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector(".marking canvas")).Count == 1);
        Check("drawing on a picture");
        var canvas = Browser.Find(".marking canvas");
        new Actions(Browser.Driver)
            .MoveToElement(canvas, -200, 100)
            .ClickAndHold()
            .MoveByOffset(120, -60)
            .Release()
            .Perform();
        Browser.Click(".marktools [data-kind=text]");
        Browser.Find(".marktools input").SendKeys("140 mm into the web");
        new Actions(Browser.Driver).MoveToElement(canvas, -80, 40).Click().Perform();
        // And a cloud by keys alone.
        Browser.Find(".marktools [data-kind=cloud]").SendKeys(Keys.Enter);
        canvas.SendKeys(Keys.ArrowUp + Keys.Enter + Keys.ArrowRight + Keys.ArrowRight + Keys.ArrowDown + Keys.Enter);
    }

    private void Close()
    {
        Open("/jobs/HW/combine?topic=1");
        Draw();
        Browser.Find("#ask-text").SendKeys("Good.");
        Browser.Click("#topicform button[value=close]");
        Browser.Until(() => Browser.Driver.PageSource.Contains("T-1 is closed", StringComparison.Ordinal));
        Assert.Equal(2, Browser.Driver.FindElements(By.CssSelector(".topicviews > a img")).Count);
        Browser.Driver.FindElements(By.CssSelector(".topicviews > a"))[1].Click();
        Browser.Until(() =>
            Browser.Driver.FindElements(By.CssSelector(".drawn text")).Any(t => t.Text == "140 mm into the web")
        );
        Assert.StartsWith("M", Browser.Find(".drawn path").GetDomAttribute("d"), StringComparison.Ordinal);
        Assert.Contains(
            Browser.Driver.FindElements(By.CssSelector(".drawn path")).Select(p => p.GetDomAttribute("d") ?? ""),
            d => d.EndsWith('Z')
        );
        Browser.Go("/jobs/HW/resolve?state=closed&as=list");
        Check("topics as a list");
        Assert.Contains("Which beam carries this?", Browser.Find(".topiclist").Text, StringComparison.Ordinal);
        Browser.Go("/jobs/HW/ask");
        Check("ask");
        Browser.Go("/jobs/HW/topics/words");
        Check("words for topics");
    }

    // With the server of the ferry's engineers, by keyboard alone.
    private void Share()
    {
        Browser.Go("/jobs/HW/topics/servers");
        Browser.Find("#s-address").SendKeys(Address + SteadyLintel.StandIn.TopicStandIn.Path.TrimStart('/'));
        Fill("s-way", "token");
        Browser.Find("#s-secret").SendKeys(SteadyLintel.StandIn.TopicStandIn.Token + Keys.Enter);
        Browser.Until(() => Browser.Driver.FindElements(By.Id("project")).Count == 1);
        Check("choosing a project of another server");
        Browser.Find("#choose button").SendKeys(Keys.Enter);
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector(".server[data-state=Same]")).Count == 1);
        Check("other servers");
        Browser.Click(".server form[action*=Now] button");
        Browser.Until(() =>
            Browser.Find(".server").Text.Contains("0 topics received, 0 topics sent", StringComparison.Ordinal)
        );
        Browser.Go("/jobs/HW/resolve?as=list&group=storey");
        Check("topics in groups");
        Assert.Contains("linkspan hinge", Browser.Find(".topiclist").Text, StringComparison.Ordinal);
        Browser.Find(".topicbar details summary").SendKeys(Keys.Enter);
        Browser.Find("#filter-name").SendKeys("By storey" + Keys.Enter);
        Browser.Until(() =>
            Browser.Driver.FindElements(By.CssSelector(".topicbar a[aria-current]")).Any(a => a.Text == "By storey")
        );
    }
}
