using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Has revisions read again of which an older version of the program computed less than this one does, and the newest of sources
/// about which something else is said since.</summary>
/// <remarks>A few at a time, the newest of each source first, so that what people deliver meanwhile does not wait. The revision stays as it
/// was until the new reading is complete.</remarks>
/// <param name="db">The database.</param>
/// <param name="queue">Takes the work.</param>
public sealed class ReadAgain(LintelDb db, IWorkQueue queue)
{
    private const int AtOnce = 2;

    /// <summary>What a revision says that waits for it.</summary>
    public const string Sentence = "An older version of the program read this file; it is being read again.";

    /// <summary>What a revision says that waits to be read with other amendments.</summary>
    public const string Amended = "Its amendments changed; it is being read with them.";

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
            .Where(r => r.Number > 0 && r.Delivery.State == DeliveryState.Ready)
            .Where(r =>
                r.Derived < IntakeStore.Derived
                || (
                    r.Kind == RevisionKind.Model
                    && r.Amendments != r.Delivery.Source.Amendments
                    && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
                )
            )
            .OrderBy(r => db.Revisions.Count(o => o.SourceId == r.SourceId && o.Number > r.Number))
            .ThenBy(r => r.Id)
            .Select(r => r.Id)
            .Take(AtOnce - underway)
            .ToListAsync(cancel);
        foreach (var id in due)
        {
            string sentence = await SentenceAsync(id, cancel);
            int moved = await db
                .Deliveries.Where(d => d.Id == id && d.State == DeliveryState.Ready)
                .ExecuteUpdateAsync(
                    u =>
                        u.SetProperty(d => d.State, DeliveryState.Received)
                            .SetProperty(d => d.Sentence, sentence)
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

    private async Task<string> SentenceAsync(Guid id, CancellationToken cancel) =>
        await db.Revisions.AnyAsync(r => r.Id == id && r.Derived < IntakeStore.Derived, cancel) ? Sentence : Amended;

    // What cannot be read again stays as the older version read it, and says so.
    private Task EndFailedAsync(CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            WITH failed AS (
                UPDATE revisions r SET derived = {IntakeStore.Derived}, amendments = s.amendments
                FROM deliveries d JOIN sources s ON s.id = d.source_id WHERE d.id = r.id AND r.number > 0
                    AND (r.derived < {IntakeStore.Derived} OR r.amendments <> s.amendments)
                    AND d.state IN ({(int)DeliveryState.Refused}, {(int)DeliveryState.Cancelled})
                RETURNING r.id)
            UPDATE deliveries d SET state = {(int)DeliveryState.Ready},
                sentence = 'This file is used as it was read before, since it could not be read again: ' || d.sentence
            FROM failed WHERE failed.id = d.id
            """,
            cancel
        );
}
