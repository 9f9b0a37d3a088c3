using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The work that waits or is under way.</summary>
/// <param name="Length">How many.</param>
/// <param name="Oldest">How long the oldest has been there.</param>
public sealed record QueueState(int Length, TimeSpan Oldest)
{
    /// <summary>Asks the database.</summary>
    public static async Task<QueueState> LoadAsync(LintelDb db, CancellationToken cancel)
    {
        var waiting = await db
            .Deliveries.Where(d => d.State > DeliveryState.Receiving && d.State < DeliveryState.Ready)
            .Select(d => d.ReceivedAt)
            .Concat(db.Transmittals.Where(t => t.State < TransmittalState.Done).Select(t => t.RanAt))
            .GroupBy(_ => 1)
            .Select(g => new { Count = g.Count(), First = g.Min() })
            .SingleOrDefaultAsync(cancel);
        return waiting is null ? new(0, TimeSpan.Zero) : new(waiting.Count, DateTime.UtcNow - waiting.First);
    }
}

/// <summary>A work that failed.</summary>
public sealed record FailedWork(
    DateTime At,
    string Job,
    string Kind,
    string Name,
    string Sentence,
    int Attempts,
    int Deaths
);

/// <summary>Mails that are not sent yet.</summary>
/// <param name="Waiting">How many.</param>
/// <param name="Failing">How many of them could not be sent at least once.</param>
public sealed record MailState(int Waiting, int Failing);

/// <summary>How a whole site is, for whoever runs it.</summary>
/// <param name="Queue">What waits.</param>
/// <param name="Failed">What failed last, newest first.</param>
/// <param name="Accounts">How many accounts.</param>
/// <param name="Sessions">How many browsers are signed in.</param>
/// <param name="Jobs">How many jobs, those archived included.</param>
/// <param name="Originals">Bytes of originals.</param>
/// <param name="HandedOver">Bytes of transmittals.</param>
/// <param name="Database">Bytes of the database.</param>
/// <param name="Mails">Mails that wait.</param>
public sealed record SiteState(
    QueueState Queue,
    IReadOnlyList<FailedWork> Failed,
    int Accounts,
    int Sessions,
    int Jobs,
    long Originals,
    long HandedOver,
    long Database,
    MailState Mails
)
{
    private const int Shown = 25;

    /// <summary>Asks the database.</summary>
    public static async Task<SiteState> LoadAsync(LintelDb db, CancellationToken cancel)
    {
        var deliveries = await db
            .Deliveries.AsNoTracking()
            .Where(d => d.State == DeliveryState.Refused)
            .OrderByDescending(d => d.ReceivedAt)
            .Take(Shown)
            .Select(d => new FailedWork(
                d.ReceivedAt,
                db.Jobs.First(j => j.Id == d.Source.JobId).Code,
                "delivery",
                d.FileName,
                d.Sentence,
                d.Attempts,
                d.Deaths
            ))
            .ToListAsync(cancel);
        var runs = await db
            .Transmittals.AsNoTracking()
            .Where(t => t.State == TransmittalState.Failed)
            .OrderByDescending(t => t.RanAt)
            .Take(Shown)
            .Select(t => new FailedWork(
                t.RanAt,
                db.Jobs.First(j => j.Id == t.Order.JobId).Code,
                "run",
                t.Order.Title,
                t.Sentence,
                t.Attempts,
                t.Deaths
            ))
            .ToListAsync(cancel);
        var mails = db.Mails.Where(m => m.EndedAt == null);
        return new SiteState(
            await QueueState.LoadAsync(db, cancel),
            [.. deliveries.Concat(runs).OrderByDescending(f => f.At).Take(Shown)],
            await db.Users.CountAsync(cancel),
            await db.Sessions.CountAsync(s => s.EndedAt == null, cancel),
            await db.Jobs.CountAsync(cancel),
            await db.Deliveries.Where(d => d.Revision != null).SumAsync(d => (long?)d.Length, cancel) ?? 0,
            await db.TransmittalFiles.SumAsync(f => (long?)f.Length, cancel) ?? 0,
            await db
                .Database.SqlQuery<long>($"SELECT pg_database_size(current_database()) AS \"Value\"")
                .SingleAsync(cancel),
            new MailState(await mails.CountAsync(cancel), await mails.CountAsync(m => m.Attempts > 0, cancel))
        );
    }
}
