using System.Collections.Concurrent;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Has work done by processes of their own, watches them, and ends those that do not stop when asked or take too long.</summary>
internal sealed class Runners(
    IConfiguration configuration,
    WorkOptions options,
    WorkFolder folder,
    ILogger<Runners> log
) : IDisposable
{
    // Fresh after so many, whatever a package may have kept.
    private const int MaxWorks = 50;

    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(400),
        Grace = TimeSpan.FromMilliseconds(1200);

    private readonly ConcurrentBag<Runner> _idle = [];

    /// <summary>Has a work done until it is in a final state.</summary>
    /// <param name="kind">The word for it.</param>
    /// <param name="work">The kind of work.</param>
    /// <param name="id">The work.</param>
    /// <param name="stopping">The server is ending.</param>
    /// <returns>Whether it is to be tried again later.</returns>
    public async Task<WorkEnd> DoAsync<T>(string kind, BackgroundWork<T> work, Guid id, CancellationToken stopping)
        where T : class, IWork
    {
        while (true)
        {
            var runner =
                _idle.TryTake(out var idle) && idle.IsAlive
                    ? idle
                    : new Runner(configuration, options.MemoryMb, folder.New(), log);
            bool kept = false;
            try
            {
                var (end, asked) = await WatchAsync(runner, kind, work, id, stopping);
                switch (end)
                {
                    case null:
                        runner.Dispose();
                        await work.KilledAsync(id, asked, options.Limit);
                        return WorkEnd.Over;
                    case RunnerEnd.Died:
                        if (!await work.DiedAsync(id, runner.Ending))
                            return WorkEnd.Over;
                        break;
                    default:
                        kept = runner.Works < MaxWorks;
                        if (kept)
                            _idle.Add(runner);
                        return end == RunnerEnd.Over ? WorkEnd.Over : WorkEnd.Later;
                }
            }
            catch (OperationCanceledException) when (stopping.IsCancellationRequested)
            {
                runner.Dispose();
                await work.ReleaseAsync(id);
                throw;
            }
            finally
            {
                if (!kept)
                    runner.Dispose();
            }
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        while (_idle.TryTake(out var runner))
            runner.Dispose();
    }

    // How it ended; null when it has to be ended, because somebody asked or because it takes too long.
    private async Task<(RunnerEnd? End, bool Asked)> WatchAsync<T>(
        Runner runner,
        string kind,
        BackgroundWork<T> work,
        Guid id,
        CancellationToken stopping
    )
        where T : class, IWork
    {
        var doing = runner.DoAsync(kind, id, stopping);
        var limit = Task.Delay(options.Limit, stopping);
        while (!doing.IsCompleted)
        {
            await Task.WhenAny(doing, limit, Task.Delay(Look, stopping));
            if (doing.IsCompleted)
                break;
            stopping.ThrowIfCancellationRequested();
            if (limit.IsCompleted)
                return (null, false);
            if (!await IsAskedAsync(work, id, stopping))
                continue;
            await Task.WhenAny(doing, Task.Delay(Grace, stopping));
            if (!doing.IsCompleted)
                return (null, true);
        }

        return (await doing, false);
    }

    private async Task<bool> IsAskedAsync<T>(BackgroundWork<T> work, Guid id, CancellationToken stopping)
        where T : class, IWork
    {
        try
        {
            return await work.IsCancelAskedAsync(id, stopping);
        }
        catch (Exception e) when (e is System.Data.Common.DbException or InvalidOperationException)
        {
            log.LogWarning(
                "The database did not answer whether work {Work} is to be cancelled: {Reason}",
                id,
                e.Message
            );
            return false;
        }
    }
}
