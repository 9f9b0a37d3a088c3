using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.Logging;
using SteadyLintel.StandIn;

namespace SteadyLintel.Tests;

/// <summary>The stand-in server of topics, on a port of its own.</summary>
public sealed class StandInHost : IAsyncDisposable
{
    private WebApplication? _app;

    public TopicStandIn Server { get; } = new();

    public StandInProject Project { get; } = new("p-1", "Ferry terminal");

    public string Address => _app!.Urls.First() + TopicStandIn.Path;

    public static async Task<StandInHost> StartAsync()
    {
        var host = new StandInHost();
        host.Server.Projects.Add(host.Project);
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        host._app = builder.Build();
        host.Server.Map(host._app);
        await host._app.StartAsync();
        return host;
    }

    public async ValueTask DisposeAsync() => await _app!.DisposeAsync();
}

/// <summary>The last exception that was logged.</summary>
public sealed class LastFault<T> : ILogger<T>
{
    public Exception? Last { get; private set; }

    public IDisposable? BeginScope<TState>(TState state)
        where TState : notnull => null;

    public bool IsEnabled(LogLevel logLevel) => true;

    public void Log<TState>(
        LogLevel logLevel,
        EventId eventId,
        TState state,
        Exception? exception,
        Func<TState, Exception?, string> formatter
    ) => Last = exception ?? Last;
}

/// <summary>A line that breaks now and then, before a request arrives or before its answer does.</summary>
public sealed class BrokenLine() : DelegatingHandler(new SocketsHttpHandler())
{
    public Func<bool> Breaks { get; set; } = () => false;

    /// <summary>The whole exchange, ended with the line as when the process ends; null for the line alone.</summary>
    public CancellationTokenSource? Ends { get; set; }

    /// <summary>What becomes of the answers on the way; null for nothing.</summary>
    public Func<byte[], byte[]>? Spoils { get; set; }

    /// <summary>Whether answers are lost too, of which the server knows nothing.</summary>
    public bool LosesAnswers { get; set; } = true;

    protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancel)
    {
        if (Breaks())
        {
            Ends?.Cancel();
            cancel.ThrowIfCancellationRequested();
            throw new HttpRequestException("broken on the way there");
        }

        var answer = await base.SendAsync(request, cancel);
        if (LosesAnswers && Breaks())
            throw new HttpRequestException("broken on the way back");
        if (Spoils is { } spoil && request.Method == HttpMethod.Get)
            answer.Content = new ByteArrayContent(spoil(await answer.Content.ReadAsByteArrayAsync(cancel)));
        return answer;
    }
}
