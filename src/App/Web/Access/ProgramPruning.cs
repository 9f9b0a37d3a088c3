using OpenIddict.Abstractions;

namespace SteadyLintel.Web;

/// <summary>Removes tokens and consents that ended two weeks ago.</summary>
internal sealed class ProgramPruning(IServiceProvider services, ILogger<ProgramPruning> log) : BackgroundService
{
    private static readonly TimeSpan Daily = TimeSpan.FromDays(1),
        Old = TimeSpan.FromDays(14);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Daily);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = services.CreateAsyncScope();
                var before = DateTimeOffset.UtcNow - Old;
                await scope
                    .ServiceProvider.GetRequiredService<IOpenIddictTokenManager>()
                    .PruneAsync(before, stoppingToken);
                await scope
                    .ServiceProvider.GetRequiredService<IOpenIddictAuthorizationManager>()
                    .PruneAsync(before, stoppingToken);
            }
            catch (Exception e)
                when ((e.InnerException ?? e) is System.Data.Common.DbException or InvalidOperationException)
            {
                log.LogWarning("Tokens that ended were not removed: {Reason}", e.Message);
            }
        }
    }
}
