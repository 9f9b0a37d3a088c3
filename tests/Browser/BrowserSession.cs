using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;

namespace SteadyLintel.Tests;

/// <summary>A person at a headless Chromium.</summary>
public sealed class BrowserSession : IDisposable
{
    private static readonly string Axe = File.ReadAllText(
        Path.Combine(ServerProcess.Root(), "tests", "Browser", "node", "node_modules", "axe-core", "axe.min.js")
    );
    private readonly Uri _server;

    public BrowserSession(Uri server)
    {
        _server = server;
        Environment.SetEnvironmentVariable("SE_OFFLINE", "true");
        Downloads = Directory.CreateTempSubdirectory("lintel-browser-").FullName;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-dev-shm-usage",
            "--enable-unsafe-swiftshader",
            "--window-size=1280,800",
            "--force-device-scale-factor=1",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-quic"
        );
        options.AddUserProfilePreference("download.default_directory", Downloads);
        Driver = new ChromeDriver(
            ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"),
            options,
            TimeSpan.FromMinutes(2)
        );
    }

    public ChromeDriver Driver { get; }

    public string Downloads { get; }

    public void Go(string path) => Driver.Navigate().GoToUrl(new Uri(_server, path));

    public void SignIn(string who)
    {
        Go("/signin");
        Find("#email").SendKeys($"{who}@heron.example");
        Find("#password").SendKeys("heron-wharf-2026");
        Find("main button").Click();
        Until(() => !Driver.Url.Contains("signin", StringComparison.Ordinal));
    }

    public IWebElement Find(string css, int seconds = 45) =>
        new WebDriverWait(Driver, TimeSpan.FromSeconds(seconds)).Until(d =>
            d.FindElements(By.CssSelector(css)).FirstOrDefault(e => e.Displayed)
            ?? (
                css.Contains("file", StringComparison.Ordinal)
                    ? d.FindElements(By.CssSelector(css)).FirstOrDefault()
                    : null
            )
        )!;

    /// <summary>Clicks, again when a fragment was swapped in between.</summary>
    public void Click(string css) =>
        Until(() =>
        {
            Find(css).Click();
            return true;
        });

    public void Until(Func<bool> condition, int seconds = 90)
    {
        try
        {
            new WebDriverWait(Driver, TimeSpan.FromSeconds(seconds))
            {
                PollingInterval = TimeSpan.FromMilliseconds(150),
            }.Until(_ =>
            {
                try
                {
                    return condition();
                }
                catch (StaleElementReferenceException)
                {
                    return false;
                }
            });
        }
        catch (WebDriverTimeoutException)
        {
            throw new TimeoutException($"{Driver.Url}\n{Driver.FindElement(By.TagName("body")).Text}");
        }
    }

    public T Script<T>(string code, params object[] arguments) => (T)Driver.ExecuteScript(code, arguments)!;

    /// <summary>Serious and critical findings of axe-core on the page as it stands.</summary>
    public IReadOnlyList<string> Accessibility()
    {
        Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(120);
        // Through the debugging protocol, past the page's own policy.
        Driver.ExecuteCdpCommand("Runtime.evaluate", new Dictionary<string, object?> { ["expression"] = Axe });
        var found =
            (IReadOnlyCollection<object>)
                Driver.ExecuteAsyncScript(
                    "const done = arguments[0]; axe.run().then(r => done(r.violations.filter(v => v.impact === 'serious' || v.impact === 'critical').map(v => v.id + ': ' + v.nodes.map(n => n.html).slice(0, 3).join(' | '))));"
                )!;
        return [.. found.Cast<string>()];
    }

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        Directory.Delete(Downloads, true);
    }
}
