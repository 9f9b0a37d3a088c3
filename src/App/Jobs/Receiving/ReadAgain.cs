using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Has revisions read again of which an older version of the program computed less than this one does.</summary>
/// <remarks>A few at a time, the newest of each source first, so that what people deliver meanwhile does not wait. The revision stays as it
/// was until the new reading is complete.</remarks>
/// <param name="db">The database.</param>
/// <param name="queue">Takes the work.</param>
public sealed class ReadAgain(LintelDb db, IWorkQueue queue)
{
    private const int AtOnce = 2;

    /// <summary>What a revision says that waits for it.</summary>
    public const string Sentence = "An older version of the program read this file; it is being read again.";

    /// <summary>Begins with the next ones.</summary>
    /// <returns>How many were begun.</returns>
    public async Task<int> BeginAsync(CancellationToken cancel)
    {
        await EndFailedAsync(cancel);
        int underway = await db.Deliveries.CountAsync(
            d =>
                d.State > DeliveryState.Receiving
                && d.State < DeliveryState.Ready
                && db.Revisions.Any(r => r.Id == d.Id && r.Number > 0),
            cancel
        );
        if (underway >= AtOnce)
            return 0;
        var due = await db
            .Revisions.AsNoTracking()
            .Where(r => r.Derived < IntakeStore.Derived && r.Number > 0 && r.Delivery.State == DeliveryState.Ready)
            .OrderBy(r => db.Revisions.Count(o => o.SourceId == r.SourceId && o.Number > r.Number))
            .ThenBy(r => r.Id)
            .Select(r => r.Id)
            .Take(AtOnce - underway)
            .ToListAsync(cancel);
        foreach (var id in due)
        {
            int moved = await db
                .Deliveries.Where(d => d.Id == id && d.State == DeliveryState.Ready)
                .ExecuteUpdateAsync(
                    u =>
                        u.SetProperty(d => d.State, DeliveryState.Received)
                            .SetProperty(d => d.Sentence, Sentence)
                            .SetProperty(d => d.Worker, (Guid?)null)
                            .SetProperty(d => d.Beat, (DateTime?)null)
                            .SetProperty(d => d.Progress, 0)
                            .SetProperty(d => d.Attempts, 0)
                            .SetProperty(d => d.Deaths, 0)
                            .SetProperty(d => d.CancelRequested, false),
                    cancel
                );
            if (moved == 1)
                queue.Read(id);
        }

        return due.Count;
    }

    // What cannot be read again stays as the older version read it, and says so.
    private Task EndFailedAsync(CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            WITH failed AS (
                UPDATE revisions r SET derived = {IntakeStore.Derived} FROM deliveries d WHERE d.id = r.id AND r.number > 0
                    AND r.derived < {IntakeStore.Derived} AND d.state IN ({(int)DeliveryState.Refused}, {(int)
                DeliveryState.Cancelled})
                RETURNING r.id)
            UPDATE deliveries d SET state = {(int)DeliveryState.Ready},
                sentence = 'An older version of the program read this file, and it could not be read again: ' || d.sentence
            FROM failed WHERE failed.id = d.id
            """,
            cancel
        );
}
