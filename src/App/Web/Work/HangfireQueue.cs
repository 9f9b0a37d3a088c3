using Hangfire;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Hands work to the queue in the database, which any process may take it from.</summary>
public sealed class HangfireQueue(IBackgroundJobClient client) : IWorkQueue
{
    /// <inheritdoc/>
    public void Read(Guid delivery) => client.Enqueue<QueuedWork>(w => w.ReadAsync(delivery, CancellationToken.None));

    /// <inheritdoc/>
    public void Run(Guid transmittal) => client.Enqueue<QueuedWork>(w => w.RunAsync(transmittal, CancellationToken.None));
}

/// <summary>Work, as the queue names it.</summary>
internal sealed class QueuedWork(Runners runners, ReadDelivery read, RunOrder run, IBackgroundJobClient client)
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(5);

    /// <summary>Reads a delivery.</summary>
    [AutomaticRetry(Attempts = 20)]
    public async Task ReadAsync(Guid id, CancellationToken stopping)
    {
        if (await runners.DoAsync(RunnerLoop.Read, read, id, stopping) == WorkEnd.Later)
            client.Schedule<QueuedWork>(w => w.ReadAsync(id, CancellationToken.None), Pause);
    }

    /// <summary>Makes a transmittal.</summary>
    [AutomaticRetry(Attempts = 20)]
    public async Task RunAsync(Guid id, CancellationToken stopping)
    {
        if (await runners.DoAsync(RunnerLoop.Run, run, id, stopping) == WorkEnd.Later)
            client.Schedule<QueuedWork>(w => w.RunAsync(id, CancellationToken.None), Pause);
    }
}
