using System.Data.Common;
using System.Net.Sockets;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>How a try at some work ended.</summary>
public enum WorkEnd
{
    /// <summary>The work is in a final state, or another worker's.</summary>
    Over,

    /// <summary>A fault that may pass; it is to be tried again later.</summary>
    Later,
}

/// <summary>How a work ended.</summary>
/// <param name="State">Its state, in a word.</param>
/// <param name="Failed">Whether there is no result, though nobody called it off.</param>
/// <param name="Bytes">The length of what was read; 0 for other work.</param>
public sealed record WorkOutcome(string State, bool Failed, long Bytes);

/// <summary>How work is watched.</summary>
public sealed record WorkOptions
{
    /// <summary>How long a worker may be silent before its work may be taken over.</summary>
    public TimeSpan Lease { get; init; } = TimeSpan.FromSeconds(30);

    /// <summary>How long one work may take.</summary>
    public TimeSpan Limit { get; init; } = TimeSpan.FromHours(1);

    /// <summary>How long work may wait before the queue is thought to have lost it.</summary>
    public TimeSpan Wait { get; init; } = TimeSpan.FromMinutes(10);

    /// <summary>What one process that works may take, MB of managed memory.</summary>
    public int MemoryMb { get; init; } = 4096;
}

/// <summary>A kind of work: claimed, done, and ended in a final state whatever happens. Doing it again after a crash starts over.</summary>
/// <typeparam name="T">What keeps its state.</typeparam>
public abstract class BackgroundWork<T>(IDbContextFactory<LintelDb> contexts, WorkOptions options, ILogger log)
    where T : class, IWork
{
    /// <summary>Where the state is kept.</summary>
    protected abstract WorkTable Table { get; }

    /// <summary>The sentence of work that was cancelled.</summary>
    protected abstract string CalledOff { get; }

    /// <summary>What failed, as the beginning of a sentence.</summary>
    protected abstract string Subject { get; }

    /// <summary>Whether an exception is one whose message is for people.</summary>
    protected abstract bool IsForPeople(Exception e);

    /// <summary>Does the work and leaves it in a final state of its own.</summary>
    /// <param name="db">The database.</param>
    /// <param name="work">The work.</param>
    /// <param name="worker">Who does it, for <see cref="WorkTable.HoldAsync"/>.</param>
    /// <param name="folder">A folder of its own, removed afterwards.</param>
    /// <param name="progress">Told how far it is.</param>
    protected abstract Task DoAsync(LintelDb db, T work, Guid worker, string folder, WorkProgress progress);

    /// <summary>The state and sentence of a step.</summary>
    protected abstract (int State, string? Sentence) StateOf(string step);

    /// <summary>Loads the work.</summary>
    protected abstract Task<T> LoadAsync(LintelDb db, Guid id, CancellationToken cancel);

    /// <summary>What is let go of once work was cancelled.</summary>
    protected virtual Task LetGoAsync(LintelDb db, Guid id, CancellationToken cancel) => Task.CompletedTask;

    /// <summary>Does the work, on any process.</summary>
    public async Task<WorkEnd> RunAsync(Guid id, CancellationToken stopping)
    {
        await using var db = await contexts.CreateDbContextAsync(stopping);
        var worker = Guid.NewGuid();
        if (!await Table.ClaimAsync(db, id, worker, options.Lease, stopping))
            return WorkEnd.Over;
        using var progress = new WorkProgress((step, share) => Beat(id, worker, step, share), stopping);
        string folder = Directory.CreateTempSubdirectory("lintel-").FullName;
        try
        {
            var work = await LoadAsync(db, id, stopping);
            if (work.CancelRequested)
                await CancelledAsync(id);
            else
                await DoAsync(db, work, worker, folder, progress);
        }
        catch (OperationCanceledException) when (progress.Asked)
        {
            await CancelledAsync(id);
        }
        catch (OperationCanceledException) when (stopping.IsCancellationRequested)
        {
            await using var fresh = await contexts.CreateDbContextAsync(CancellationToken.None);
            await Table.ReleaseAsync(fresh, id, CancellationToken.None);
            return WorkEnd.Later;
        }
        catch (OperationCanceledException) when (progress.Token.IsCancellationRequested)
        {
            log.LogWarning("Work {Work} was taken over by another process", id);
        }
        catch (Exception e)
        {
            return await FailedAsync(id, e);
        }
        finally
        {
            Directory.Delete(folder, true);
        }

        return WorkEnd.Over;
    }

    /// <summary>The process that worked on it came to its end.</summary>
    /// <returns>Whether it is to be tried again.</returns>
    public async Task<bool> DiedAsync(Guid id, string how)
    {
        await using var db = await contexts.CreateDbContextAsync();
        string reference = Reference();
        int deaths = await Table.CountDeathAsync(db, id, CancellationToken.None);
        log.LogError(
            "The process that worked on {Work} ended ({How}), {Deaths} times so far; reference {Reference}",
            id,
            how,
            deaths,
            reference
        );
        if (deaths < WorkTable.MaxDeaths)
            return true;
        await Table.FailAsync(
            db,
            id,
            $"{Subject} could not be finished: it ended the program {deaths} times ({how}), so it is set aside. "
                + $"The original is stored. Reference {reference}.",
            CancellationToken.None
        );
        return false;
    }

    /// <summary>The work did not stop by itself and was ended.</summary>
    public Task KilledAsync(Guid id, bool asked, TimeSpan limit) =>
        asked ? CancelledAsync(id) : TooLongAsync(id, limit);

    /// <summary>Whether somebody asked to call the work off.</summary>
    public async Task<bool> IsCancelAskedAsync(Guid id, CancellationToken cancel)
    {
        await using var db = await contexts.CreateDbContextAsync(cancel);
        return await Table.IsCancelAskedAsync(db, id, cancel);
    }

    /// <summary>How a work ended, for whoever counts.</summary>
    public async Task<WorkOutcome> OutcomeAsync(Guid id)
    {
        await using var db = await contexts.CreateDbContextAsync();
        return Outcome(await LoadAsync(db, id, CancellationToken.None));
    }

    /// <summary>How a work ended, from its row.</summary>
    protected abstract WorkOutcome Outcome(T work);

    /// <summary>Lets go of work that another process is to do.</summary>
    public async Task ReleaseAsync(Guid id)
    {
        await using var db = await contexts.CreateDbContextAsync();
        await Table.ReleaseAsync(db, id, CancellationToken.None);
    }

    private bool? Beat(Guid id, Guid worker, string step, double share)
    {
        using var db = contexts.CreateDbContext();
        var (state, sentence) = StateOf(step);
        return Table.Beat(db, id, worker, state, sentence, share);
    }

    private async Task CancelledAsync(Guid id)
    {
        await using var db = await contexts.CreateDbContextAsync();
        if (await Table.CancelledAsync(db, id, CalledOff, CancellationToken.None))
            await LetGoAsync(db, id, CancellationToken.None);
    }

    private async Task TooLongAsync(Guid id, TimeSpan limit)
    {
        await using var db = await contexts.CreateDbContextAsync();
        await Table.FailAsync(
            db,
            id,
            $"{Subject} took longer than {limit.TotalMinutes:0} minutes and was ended. The original is stored.",
            CancellationToken.None
        );
    }

    private async Task<WorkEnd> FailedAsync(Guid id, Exception e)
    {
        await using var db = await contexts.CreateDbContextAsync();
        if (IsForPeople(e))
        {
            await Table.FailAsync(db, id, e.Message, CancellationToken.None);
            return WorkEnd.Over;
        }

        if (StorageQuota.IsFull(e))
        {
            log.LogError("Work {Work} found the disk full: {Reason}", id, e.Message);
            await Table.FailAsync(
                db,
                id,
                $"{Subject} needs room on the server's disk, which is full. The original is stored. "
                    + "Tell your administrator.",
                CancellationToken.None
            );
            return WorkEnd.Over;
        }

        string reference = Reference();
        bool passing = MayPass(e);
        int attempts = passing ? await Table.CountAttemptAsync(db, id, CancellationToken.None) : 0;
        log.LogError(e, "Work {Work} failed, attempt {Attempt}; reference {Reference}", id, attempts, reference);
        if (passing && attempts < WorkTable.MaxAttempts)
            return WorkEnd.Later;
        string why = e is OutOfMemoryException or InsufficientExecutionStackException
            ? "needs more memory than one work may take"
            : "could not be finished: something went wrong in the program";
        await Table.FailAsync(
            db,
            id,
            $"{Subject} {why}. The original is stored; your administrator finds the cause under reference {reference}.",
            CancellationToken.None
        );
        return WorkEnd.Over;
    }

    // Lost connections, a database that restarts, a lock: what another try in a while may find mended.
    private static bool MayPass(Exception e) =>
        e is DbException { IsTransient: true } or SocketException or TimeoutException
        || (e is DbUpdateException or InvalidOperationException && e.InnerException is { } inner && MayPass(inner));

    private static string Reference() => Guid.NewGuid().ToString("N")[..8].ToUpperInvariant();
}
