namespace SteadyLintel.Tests;

/// <summary>A test in the real interface: a server with the demo on a database of its own, and a browser before it.</summary>
public abstract class DemoBrowser : IAsyncLifetime
{
    private ServerProcess _server = null!;

    /// <summary>The browser.</summary>
    protected BrowserSession Browser { get; private set; } = null!;

    /// <summary>Where the server answers.</summary>
    protected Uri Address => _server.Address;

    public async ValueTask InitializeAsync()
    {
        _server = await ServerProcess.StartAsync(await DemoDatabase.NewAsync(), demo: true);
        Browser = new BrowserSession(_server.Address);
    }

    public ValueTask DisposeAsync()
    {
        Browser.Dispose();
        _server.Dispose();
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    /// <summary>Nothing on the page keeps anybody from using it, as far as axe can tell.</summary>
    protected void Check(string page)
    {
        var faults = Browser.Accessibility();
        Assert.True(faults.Count == 0, $"{page}: {string.Join("\n", faults)}");
    }

    /// <summary>Chooses in a list, or fills a field, as somebody would.</summary>
    protected void Fill(string id, string value) => Browser.Script<object?>(
        $"const s = document.getElementById('{id}'); s.value = '{value}'; s.dispatchEvent(new Event('change', {{ bubbles: true }})); return null");
}
