using Hangfire;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Hands work to the queue in the database, which any process may take it from.</summary>
public sealed class HangfireQueue(IBackgroundJobClient client) : IWorkQueue
{
    /// <inheritdoc/>
    public void Read(Guid delivery) => client.Enqueue<IntakeWork>(w => w.RunAsync(delivery, CancellationToken.None));

    /// <inheritdoc/>
    public void Run(Guid transmittal) => client.Enqueue<HandoverWork>(w => w.RunAsync(transmittal, CancellationToken.None));
}

/// <summary>Reading a delivery, as the queue names it.</summary>
public sealed class IntakeWork(ReadDelivery read)
{
    /// <summary>Reads a delivery.</summary>
    [AutomaticRetry(Attempts = 2)]
    public Task RunAsync(Guid id, CancellationToken stopping) => read.RunAsync(id, stopping);
}

/// <summary>Running an order, as the queue names it.</summary>
public sealed class HandoverWork(RunOrder run)
{
    /// <summary>Makes a transmittal.</summary>
    [AutomaticRetry(Attempts = 2)]
    public Task RunAsync(Guid id, CancellationToken stopping) => run.RunAsync(id, stopping);
}
