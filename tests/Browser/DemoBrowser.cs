namespace SteadyLintel.Tests;

/// <summary>A server with the demo on a database of its own, for the tests of a class.</summary>
public sealed class DemoSite : IAsyncLifetime
{
    private ServerProcess? _server;

    /// <summary>Where it answers.</summary>
    public Uri Address => _server!.Address;

    public async ValueTask InitializeAsync() =>
        _server = await ServerProcess.StartAsync(
            await DemoDatabase.NewAsync(),
            demo: true,
            ("TopicServers__StandIn", "true")
        );

    public ValueTask DisposeAsync()
    {
        _server?.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>A test in the real interface: a browser before a server with the demo.</summary>
public abstract class DemoBrowser(DemoSite site) : IClassFixture<DemoSite>, IDisposable
{
    /// <summary>The browser.</summary>
    protected BrowserSession Browser { get; } = new(site.Address);

    /// <summary>Where the server answers.</summary>
    protected Uri Address => site.Address;

    public void Dispose()
    {
        Browser.Dispose();
        GC.SuppressFinalize(this);
    }

    /// <summary>Nothing on the page keeps anybody from using it, as far as axe can tell.</summary>
    protected void Check(string page)
    {
        var faults = Browser.Accessibility();
        Assert.True(faults.Count == 0, $"{page}: {string.Join("\n", faults)}");
    }

    /// <summary>Chooses in a list, or fills a field, as somebody would.</summary>
    protected void Fill(string id, string value) =>
        Browser.Script<object?>(
            $"const s = document.getElementById('{id}'); s.value = '{value}'; s.dispatchEvent(new Event('change', {{ bubbles: true }})); return null"
        );
}
