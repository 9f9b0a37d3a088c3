using System.Diagnostics;
using Hangfire;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Hands work to the queue in the database, which any process may take it from.</summary>
public sealed class HangfireQueue(IBackgroundJobClient client) : IWorkQueue
{
    /// <inheritdoc/>
    public void Read(Guid delivery) => client.Enqueue<QueuedWork>(w => w.ReadAsync(delivery, CancellationToken.None));

    /// <inheritdoc/>
    public void Run(Guid transmittal) =>
        client.Enqueue<QueuedWork>(w => w.RunAsync(transmittal, CancellationToken.None));
}

/// <summary>Work, as the queue names it.</summary>
internal sealed class QueuedWork(
    Runners runners,
    ReadDelivery read,
    RunOrder run,
    ReadAgain again,
    IBackgroundJobClient client,
    Telemetry telemetry,
    ILogger<QueuedWork> log
)
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(5);

    /// <summary>Reads a delivery.</summary>
    [AutomaticRetry(Attempts = 20)]
    public async Task ReadAsync(Guid id, CancellationToken stopping)
    {
        if (await WatchedAsync(RunnerLoop.Read, read, id, stopping) == WorkEnd.Later)
            client.Schedule<QueuedWork>(w => w.ReadAsync(id, CancellationToken.None), Pause);
        // Something else may have been said about it while it was read.
        else
            await again.BeginAsync(stopping);
    }

    /// <summary>Makes a transmittal.</summary>
    [AutomaticRetry(Attempts = 20)]
    public async Task RunAsync(Guid id, CancellationToken stopping)
    {
        if (await WatchedAsync(RunnerLoop.Run, run, id, stopping) == WorkEnd.Later)
            client.Schedule<QueuedWork>(w => w.RunAsync(id, CancellationToken.None), Pause);
    }

    private async Task<WorkEnd> WatchedAsync<T>(
        string kind,
        BackgroundWork<T> work,
        Guid id,
        CancellationToken stopping
    )
        where T : class, IWork
    {
        // Every line of the log about this work carries its number.
        using var scope = log.BeginScope(new Dictionary<string, object> { ["Work"] = id });
        using var trace = Telemetry.Begin(kind, id);
        var clock = Stopwatch.StartNew();
        var end = await runners.DoAsync(kind, work, id, stopping);
        if (end == WorkEnd.Later)
            return end;
        var outcome = await work.OutcomeAsync(id);
        telemetry.Ended(kind, clock.Elapsed, outcome.State, outcome.Failed, outcome.Bytes);
        log.LogInformation(
            "{Kind} ended as {State} after {Seconds:0.0} s",
            kind,
            outcome.State,
            clock.Elapsed.TotalSeconds
        );
        return end;
    }
}
