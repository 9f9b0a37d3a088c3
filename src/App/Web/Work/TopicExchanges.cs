using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Exchanges topics with other servers whenever one is due.</summary>
internal sealed class TopicExchanges(IServiceProvider services, ILogger<TopicExchanges> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                bool again = true;
                while (again)
                {
                    await using var scope = services.CreateAsyncScope();
                    again = await scope.ServiceProvider.GetRequiredService<TopicSync>().RunDueAsync(stoppingToken);
                }
            }
            catch (Exception e)
                when ((e.InnerException ?? e) is System.Data.Common.DbException or InvalidOperationException)
            {
                log.LogWarning("Other servers were not looked for: {Reason}", e.Message);
            }
        }
    }
}
