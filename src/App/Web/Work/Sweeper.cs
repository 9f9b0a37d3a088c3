using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Finds what nobody is at any more: work whose worker is silent or that the queue has lost, uploads that were given up.</summary>
internal sealed class Sweeper(IServiceProvider services, WorkOptions options, Telemetry telemetry, ILogger<Sweeper> log)
    : BackgroundService
{
    private static readonly TimeSpan GivenUp = TimeSpan.FromDays(1),
        Daily = TimeSpan.FromDays(1);

    private DateTime _swept;

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(options.Lease / 2);
        do
        {
            try
            {
                await SweepAsync(stoppingToken);
            }
            catch (Exception e)
                when (e is System.Data.Common.DbException or InvalidOperationException or TimeoutException)
            {
                log.LogWarning("Forgotten work was not looked for: {Reason}", e.Message);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task SweepAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        var queue = scope.ServiceProvider.GetRequiredService<IWorkQueue>();
        telemetry.Queue(await QueueState.LoadAsync(db, cancel));
        foreach (var id in await WorkTable.Deliveries.ForgottenAsync(db, options.Lease, options.Wait, cancel))
            queue.Read(id);
        foreach (var id in await WorkTable.Transmittals.ForgottenAsync(db, options.Lease, options.Wait, cancel))
            queue.Run(id);
        foreach (var id in await scope.ServiceProvider.GetRequiredService<Receiving>().GiveUpAsync(GivenUp, cancel))
            log.LogInformation("The upload of delivery {Delivery} was given up", id);
        if (await scope.ServiceProvider.GetRequiredService<ReadAgain>().BeginAsync(cancel) is > 0 and var again)
            log.LogInformation("{Revisions} revisions of an older version are being read again", again);
        if (await scope.ServiceProvider.GetRequiredService<Orders>().RunDueAsync(cancel) is > 0 and var due)
            log.LogInformation("{Orders} orders were run on a new revision", due);
        await scope.ServiceProvider.GetRequiredService<TopicDigest>().WriteDueAsync(DateTime.UtcNow, cancel);
        if (DateTime.UtcNow - _swept < Daily)
            return;
        _swept = DateTime.UtcNow;
        if (await db.Blobs.SweepAsync(cancel) is > 0 and var swept)
            log.LogInformation("{Contents} contents without a row were removed", swept);
    }
}
