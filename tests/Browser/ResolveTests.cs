using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace SteadyLintel.Tests;

/// <summary>What is missing is filled in beside the files: a template, the grid by keyboard, an element by mouse, and taken back.</summary>
public sealed class ResolveTests(DemoSite site) : DemoBrowser(site)
{
    [Fact]
    public void A_template_is_created_and_its_grid_filled_in_by_keyboard_alone()
    {
        Browser.SignIn("coordinator");
        Browser.Go("/jobs/HW/properties");
        Check("properties without a template");
        Browser.Go("/jobs/HW/library");
        Import(
            "set,classes,property,type,unit,words,required\nPset_DoorCommon,IfcDoor,FireRating,,,EI 30; EI 60; EI 90,yes\nDoor schedule,IfcDoor,Clear width,length,mm,,\nDoor schedule,IfcDoor,Leaves,integer,,,\n"
        );
        Browser.Go("/jobs/HW/properties");
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("#grid tbody tr")).Count == 57);
        Check("properties");
        Type();
        Paste();
        Save();
        // Read again with them, the elements have the values themselves.
        string element = Browser.Script<string>("return document.querySelector('#grid tbody tr').dataset.element");
        Browser.Until(() => Fact(element, "FireRating") == "EI 60");
        Element();
    }

    private void Import(string csv)
    {
        string path = Path.Combine(Browser.Downloads, "Doors.csv");
        File.WriteAllText(path, csv);
        Fill("kind", "Template");
        Browser.Find("#libraryfile").SendKeys(path);
        Browser.Script<object?>("document.getElementById('libraryfile').form.requestSubmit(); return null");
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("Doors is saved as version 1", StringComparison.Ordinal)
        );
    }

    private IWebElement Cell(int row, int column) =>
        Browser
            .Driver.FindElements(By.CssSelector("#grid tbody tr"))[row]
            .FindElements(By.CssSelector("[role=gridcell]"))[column];

    private void Keys(params string[] keys)
    {
        foreach (string key in keys)
            new Actions(Browser.Driver).SendKeys(key).Perform();
    }

    private void Type()
    {
        Browser.Script<object?>("document.querySelector('#grid [role=gridcell]').focus(); return null");
        // A word that is not of the list is refused at once, and nothing can be saved.
        Keys("EI60", OpenQA.Selenium.Keys.Enter);
        Browser.Until(() => Cell(0, 0).Text.Contains("'EI 60'", StringComparison.Ordinal));
        Assert.False(Browser.Find("#gridsave").Enabled);
        Check("properties with a wrong value");
        Keys(OpenQA.Selenium.Keys.ArrowUp, OpenQA.Selenium.Keys.Enter);
        Browser.Until(() => Cell(0, 0).FindElements(By.CssSelector("input")).Count == 1);
        new Actions(Browser.Driver)
            .KeyDown(OpenQA.Selenium.Keys.Control)
            .SendKeys("a")
            .KeyUp(OpenQA.Selenium.Keys.Control)
            .Perform();
        Keys("EI 60", OpenQA.Selenium.Keys.Enter);
        Browser.Until(() => Browser.Find("#gridsave").Enabled);
        // Undone and done again.
        new Actions(Browser.Driver)
            .KeyDown(OpenQA.Selenium.Keys.Control)
            .SendKeys("z")
            .KeyUp(OpenQA.Selenium.Keys.Control)
            .Perform();
        Browser.Until(() => Cell(0, 0).Text.Contains("'EI 60'", StringComparison.Ordinal));
        new Actions(Browser.Driver)
            .KeyDown(OpenQA.Selenium.Keys.Control)
            .SendKeys("y")
            .KeyUp(OpenQA.Selenium.Keys.Control)
            .Perform();
        Browser.Until(() => Browser.Find("#gridsave").Text == "Save 1 change");
    }

    // A block of a spreadsheet; and the first of some cells filled down.
    private void Paste()
    {
        Browser.Script<object?>(
            "const cell = document.querySelectorAll('#grid tbody tr')[1].querySelectorAll('[role=gridcell]')[1]; cell.focus();"
                + "const data = new DataTransfer(); data.setData('text/plain', '900\\t1\\n1.2 m\\t2');"
                + "cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })); return null"
        );
        Browser.Until(() => Browser.Find("#gridsave").Text == "Save 5 changes");
        Browser.Script<object?>(
            "document.querySelectorAll('#grid tbody tr')[0].querySelectorAll('[role=gridcell]')[0].dispatchEvent(new MouseEvent('mousedown', { bubbles: true })); return null"
        );
        new Actions(Browser.Driver)
            .KeyDown(OpenQA.Selenium.Keys.Shift)
            .SendKeys(OpenQA.Selenium.Keys.ArrowDown + OpenQA.Selenium.Keys.ArrowDown)
            .KeyUp(OpenQA.Selenium.Keys.Shift)
            .KeyDown(OpenQA.Selenium.Keys.Control)
            .SendKeys("d")
            .KeyUp(OpenQA.Selenium.Keys.Control)
            .Perform();
        Browser.Until(() => Browser.Find("#gridsave") is { Enabled: true, Text: "Save 7 changes" });
    }

    private void Save()
    {
        Browser.Find("#gridwhy").SendKeys("fire concept");
        Browser.Find("#gridsave").Click();
        Browser.Until(() =>
            Browser.Driver.PageSource.Contains("7 values are saved beside the files", StringComparison.Ordinal)
        );
        Assert.Equal("EI 60", Cell(2, 0).FindElement(By.CssSelector(".ours")).Text);
    }

    private string? Fact(string element, string property)
    {
        Browser.Go($"/jobs/HW/elements/{element}");
        return Browser
            .Driver.FindElements(By.CssSelector(".thirds p"))
            .FirstOrDefault(p => p.Text.StartsWith(property, StringComparison.Ordinal))
            ?.FindElement(By.CssSelector("b"))
            .Text;
    }

    // By mouse: another name, and the value withdrawn.
    private void Element()
    {
        Check("element");
        Fill("a-do", "name");
        Browser.Find("#a-value").SendKeys("D-101");
        Browser.Find(".amend .btn").Click();
        Browser.Until(() => Browser.Driver.FindElements(By.CssSelector("td b.ours")).Any(b => b.Text == "D-101"));
        Browser.Go("/jobs/HW/amendments");
        Check("amendments");
        var box = Browser
            .Driver.FindElements(By.CssSelector("tbody tr"))
            .First(r => r.Text.Contains("D-101", StringComparison.Ordinal));
        box.FindElement(By.CssSelector("input")).Click();
        Browser.Driver.FindElement(By.CssSelector("button[value=withdraw]")).Click();
        Browser.Driver.SwitchTo().Alert().Accept();
        Browser.Until(() => Browser.Driver.PageSource.Contains("The amendment is withdrawn", StringComparison.Ordinal));
        Browser.Script<object?>("document.querySelector('a[href*=\"/model\"]').click(); return null");
        Browser.Until(() => Browser.Driver.Url.EndsWith("/model", StringComparison.Ordinal));
        Check("model data");
    }
}
