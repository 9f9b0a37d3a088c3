using OpenQA.Selenium;
using SteadyLintel.Demo;

namespace SteadyLintel.Tests;

/// <summary>The drawing desk in the real interface: a plan in paper scale is scaled with evidence, prepared, edited, placed at its level
/// by its
/// grid, seen among the models, and its next revision runs through the same steps.</summary>
public sealed class DeskTests(DemoSite site) : DemoBrowser(site)
{
    [Fact]
    public void A_plan_in_paper_scale_lies_under_the_model_at_its_level()
    {
        Browser.SignIn("coordinator");
        Deliver(HeronWharf.Plans[0]);
        Browser.Go("/jobs/HW/setout");
        Browser
            .Driver.FindElements(By.CssSelector("tr"))
            .First(r => r.Text.Contains("Concourse plan", StringComparison.Ordinal))
            .FindElement(By.LinkText("Scale and place"))
            .Click();
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
        Browser.Go("/jobs/HW/combine");
        Browser.Until(() => Browser.Find("#view").GetDomAttribute("data-ready") == "true", 90);
        Assert.Equal(
            1L,
            Browser.Script<long>(
                "return lintelView.building.edges.children.filter((c) => c.userData.z !== undefined && c.visible).length"
            )
        );
        // r2 lies at the concourse too, its wall moved; it went through the same steps.
        Assert.Equal(
            4.8,
            Browser.Script<double>(
                "return lintelView.building.edges.children.find((c) => c.userData.z !== undefined).userData.z"
            ),
            3
        );
        PickInSpace();
        HandOver();
        KeepAndLayOver();
        Deliver(HeronWharf.Sheets[0], "HW-ARC-X-walls.dwg");
        Browser.Go("/jobs/HW/combine");
        Browser.Until(() => Browser.Find("#view").GetDomAttribute("data-ready") == "true", 90);
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("[data-sheet]")).Count == 1);
        Browser.Script<object?>("document.querySelector('[data-kind=sheet]').open = true; return null");
        Browser.Until(() =>
            Browser.Find("#drawings").Text.Contains("Sheet A-201 Concourse 841 × 594 mm", StringComparison.Ordinal)
        );
        Assert.Contains("Detail Corner", Browser.Find("#drawings").Text, StringComparison.Ordinal);
        Check("combined view, list of drawings");
        Browser.Script<object?>(
            "[...document.querySelectorAll('[data-beside]')].find((b) => b.textContent.includes('A-201')).click(); return null"
        );
        // The sheet with what is attached to it.
        Browser.Until(
            () =>
                Browser.Script<bool>(
                    "const p = document.getElementById('besidepicture'); return p.complete && p.naturalWidth > 0"
                ),
            30
        );
        Browser.Script<object?>(
            "document.querySelector('[data-act=fold]').click(); document.querySelector('[data-sheet]').click(); return null"
        );
        Browser.Until(() =>
            Browser.Script<string>("return location.hash").Contains("sheet=ARC", StringComparison.Ordinal)
        );
        Browser.Until(() =>
            Browser.Script<bool>(
                "return lintelView.building.edges.children.every((c) => c.userData.z === undefined || !c.visible)"
            )
        );
    }

    // The bubble of an axis, which no element hides: picked, it says what it is; its line catches a measure.
    private void PickInSpace()
    {
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("[data-sheet]")).Count == 1);
        Browser.Script<object?>("location.hash = 'eye=24,11.9,80&at=24,12,4.8'; location.reload(); return null");
        Browser.Until(
            () => Browser.Script<bool>("return document.querySelector('#view')?.dataset.ready === 'true'"),
            90
        );
        const string point = """
            const { building, sheets } = lintelView, [entry] = sheets.sheets, lines = entry.lines, p = lines.geometry.attributes.position.array;
            let at = -1;
            for (let i = 0; i < p.length && at < 0; i += 6) if (p[i + 1] + lines.position.y + building.offset[1] > 26.2) at = i;
            const v = lines.position.clone().set((p[at] + p[at + 3]) / 2, (p[at + 1] + p[at + 4]) / 2, p[at + 2]).applyMatrix4(lines.matrixWorld).project(building.camera);
            const x = (v.x + 1) / 2 * building.canvas.clientWidth, y = (1 - v.y) / 2 * building.canvas.clientHeight;
            """;
        Browser.Script<object?>(
            point
                + """
                const box = building.canvas.getBoundingClientRect(), where = { bubbles: true, clientX: box.left + x, clientY: box.top + y, pointerId: 1 };
                building.canvas.dispatchEvent(new PointerEvent('pointerdown', where));
                building.canvas.dispatchEvent(new MouseEvent('click', where));
                return null;
                """
        );
        Browser.Until(() => Browser.Find("#slip").Text.Contains("Layer A-GRID", StringComparison.Ordinal), 30);
        Assert.Contains("Concourse plan r2", Browser.Find("#slip").Text, StringComparison.Ordinal);
        Assert.True(Browser.Script<bool>(point + "return sheets.pick(x, y, 14).end !== null"));
        Check("combined view, a drawing's line picked");
    }

    private void KeepAndLayOver()
    {
        Browser.Go("/jobs/HW/setout");
        Browser
            .Driver.FindElements(By.CssSelector("tr"))
            .First(r => r.Text.Contains("Concourse plan", StringComparison.Ordinal))
            .FindElement(By.LinkText("Drawing preparation"))
            .Click();
        Ready();
        Browser.Script<object?>("document.querySelector('[data-tool=cut]').click(); return null");
        foreach (var (x, y) in new[] { (40, 335), (100, 360), (60, 348) })
            Pick(x, y);
        Browser.Until(() => Browser.Driver.FindElements(By.Id("keeping")).Count > 0);
        Browser.Script<object?>(
            "document.getElementById('keepas').value = 'Corner'; document.querySelector('#keeping button').click(); return null"
        );
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("Corner is in the library of details", StringComparison.Ordinal)
        );
        Ready();
        Browser.Script<object?>(
            "document.querySelector('#detail').closest('details').open = true; document.querySelector('[data-tool=place]').click(); return null"
        );
        Pick(300, 200);
        Browser.Until(() => Desk.Contains("place the detail Corner at 300", StringComparison.Ordinal));
        // A wall of the model against the wall of the plan.
        Browser.Script<object?>(
            """
            const over = document.getElementById('over');
            over.selectedIndex = [...over.options].findIndex((o) => o.text.includes('Architecture'));
            over.dispatchEvent(new Event('input'));
            return null;
            """
        );
        Browser.Until(() => Browser.Find("#desk-reading").Text.Contains("lines over it", StringComparison.Ordinal), 30);
        Check("desk with another source over it");
        Browser.Go("/jobs/HW/details");
        Assert.Matches(@"Corner\s+v1", Browser.Find("main").Text);
        Check("library of details");
    }

    private string Desk => Browser.Find("#desk").Text;

    private void Prepare()
    {
        Browser.Script<object?>("document.querySelector('[data-tool=window]').click(); return null");
        Pick(10, 10);
        Pick(570, 350);
        Browser.Until(() => Desk.Contains("keep the window", StringComparison.Ordinal));
        Assert.Contains("56 of 61", Desk, StringComparison.Ordinal);
        Browser.Script<object?>(
            "document.querySelector('#desk details').open = true; for (const b of document.querySelectorAll('[name=\"Form.Layer\"]')) if (/TTLB|DIMS/.test(b.value)) b.checked = true; return null"
        );
        Press("Delete the selected layers");
        Browser.Until(() => Desk.Contains("delete layers", StringComparison.Ordinal));
        Press("off", 1);
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("#desk s")).Count == 1);
        Press("on", 1);
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("#desk s")).Count == 0);
        Press("↑", 2);
        Browser.Until(() =>
            Desk.IndexOf("delete layers", StringComparison.Ordinal)
            < Desk.IndexOf("keep the window", StringComparison.Ordinal)
        );
    }

    private void Measure()
    {
        Browser.Script<object?>("document.querySelector('[data-tool=measure]').click(); return null");
        Pick(60, 80);
        Pick(540, 80);
        Browser.Until(() => Browser.Find("#desk-reading").Text.Contains("48.000 m", StringComparison.Ordinal));
        Browser.Script<object?>("document.querySelector('[data-tool=angle]').click(); return null");
        foreach (var (x, y) in new[] { (60, 80), (540, 80), (60, 320) })
            Pick(x, y);
        Browser.Until(() => Browser.Find("#desk-reading").Text.Contains("90.000°", StringComparison.Ordinal));
        // 48 by 24 metres; the first corner once more closes it.
        Browser.Script<object?>("document.querySelector('[data-tool=area]').click(); return null");
        foreach (var (x, y) in new[] { (60, 80), (540, 80), (540, 320), (60, 320), (60, 80) })
            Pick(x, y);
        Browser.Until(() => Browser.Find("#desk-reading").Text.Contains("1152.000 m²", StringComparison.Ordinal));
    }

    // The plan goes out in the job's frame, in metres, under another layer's name; no model goes with it.
    private void HandOver()
    {
        Browser.Go("/jobs/HW/handover");
        Browser.Script<object?>("document.querySelector('main form button.btn').click(); return null");
        Browser.Until(() => Browser.Driver.FindElements(By.Id("word-Drawings")).Count > 0);
        Browser.Find("#word-Drawings").Click();
        Check("order with drawings");
        Browser.Script<object?>(
            """
            for (const [name, value] of [['Form', 'none'], ['Unit', 'm'], ['Frame', 'job'], ['Drawings', 'prepared']]) document.querySelector(`[name=${name}][value="${value}"]`).checked = true;
            for (const box of document.querySelectorAll('[name=DrawingSources]')) box.checked = box.closest('label').textContent.includes('Concourse plan');
            document.getElementById('drawingfile').value = 'dxf-2013';
            document.getElementById('drawinglayers').value = 'A-WALL = WALLS';
            document.getElementById('drawinglayers').dispatchEvent(new Event('change', { bubbles: true }));
            return null;
            """
        );
        Browser.Until(() => Browser.Find("#preview").Text.Contains("Concourse plan", StringComparison.Ordinal));
        Assert.Contains(
            "Concourse plan prepared, as DXF 2013",
            Browser.Find(".sentence").Text,
            StringComparison.Ordinal
        );
        Browser.Find("#run").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector(".run[data-state=Done]")).Count > 0, 60);
        Assert.Contains("Concourse plan 75 26 0 49 0 Balanced", Browser.Find("#runs").Text, StringComparison.Ordinal);
        Assert.Contains("HW-ARC-Concourse plan-Concourse.dxf", Browser.Find("#runs").Text, StringComparison.Ordinal);
        Check("transmittal of a drawing");
    }

    private void Edit()
    {
        Browser.Script<object?>("document.querySelector('[data-tool=pick]').click(); return null");
        // The tag of axis A, in its bubble.
        Pick(60, 348);
        Browser.Until(() => Desk.Contains("TEXT", StringComparison.Ordinal), 30);
        Fill("to", "A.1");
        Press("Change the text");
        Browser.Until(() => Desk.Contains("text becomes “A.1”", StringComparison.Ordinal));
        Press("×", 3);
        Browser.Until(() => !Desk.Contains("A.1", StringComparison.Ordinal));
    }

    private void Place()
    {
        Fill("way", "grids");
        Browser.Until(
            () =>
                Desk.Contains("origin at -6.000 m, -8.000 m", StringComparison.Ordinal)
                && Desk.Contains("largest residual", StringComparison.Ordinal),
            30
        );
        Browser.Script<object?>(
            "const s = document.getElementById('level'); s.value = [...s.options].find((o) => o.text.includes('Concourse')).value; return null"
        );
        Check("desk, placed");
        Browser.Find("#accept").Click();
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("is scaled, prepared and placed", StringComparison.Ordinal)
        );
        Assert.Contains("1 unit is 100 mm", Browser.Find("main").Text, StringComparison.Ordinal);
        Browser.Go("/jobs/HW/setout");
        Assert.Contains("by grid tags", Browser.Find("main").Text, StringComparison.Ordinal);
    }

    // The wall of r2: two lines and six doors.
    private void Compare()
    {
        Browser.Go("/jobs/HW/setout");
        Browser
            .Driver.FindElements(By.CssSelector("tr"))
            .First(r => r.Text.Contains("Concourse plan", StringComparison.Ordinal))
            .FindElement(By.LinkText("Changes"))
            .Click();
        Ready();
        Assert.Contains("0 added 0 removed, 14 changed", Browser.Find("main").Text, StringComparison.Ordinal);
        Assert.Equal(3L, Browser.Script<long>("return document.querySelectorAll('#paper > svg').length"));
        Check("what changed in the drawing");
    }

    private void Ready() => Browser.Until(() => Browser.Find("#paper").GetDomAttribute("data-ready") == "true", 60);

    // A click on the picture where a point of the drawing lies.
    private void Pick(double x, double y) =>
        Browser.Script<object?>(
            FormattableString.Invariant(
                $$"""
                const paper = document.getElementById('paper'), svg = paper.querySelector('svg');
                const [cx, cy] = svg.dataset.corner.split(' ').map(Number), unit = Number(svg.dataset.unit);
                const p = new DOMPoint(({{x}} - cx) / unit, (cy - {{y}}) / unit).matrixTransform(svg.getScreenCTM());
                const at = { clientX: p.x, clientY: p.y, pointerId: 1, bubbles: true };
                paper.dispatchEvent(new PointerEvent('pointerdown', at));
                paper.dispatchEvent(new MouseEvent('click', at));
                return null;
                """
            )
        );

    private void Press(string text, int step = 0)
    {
        string within = step > 0 ? $"tr:nth-child({step}) .steptools" : "";
        Browser.Script<object?>(
            $"[...document.querySelectorAll('#desk {within} button')].find((b) => b.textContent.trim() === '{text}').click(); return null"
        );
    }

    private void Deliver(DemoDelivery demo, string? row = null)
    {
        string path = Path.Combine(Browser.Downloads, demo.FileName);
        using (var file = File.Create(path))
            demo.Write(file);
        Browser.Go("/jobs/HW/receive");
        Browser.Find("#source").Clear();
        Browser.Find("#source").SendKeys(demo.Source);
        Browser.Find("#files").SendKeys(path);
        Browser.Until(
            () =>
                Browser
                    .Driver.FindElements(By.CssSelector("tr[data-state=Ready]"))
                    .Any(r => r.Text.Contains(row ?? demo.FileName, StringComparison.Ordinal)),
            90
        );
    }
}
