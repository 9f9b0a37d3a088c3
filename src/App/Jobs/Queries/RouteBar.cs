using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What waits at each stop of the job.</summary>
/// <param name="Underway">Deliveries being read.</param>
/// <param name="Findings">Errors and warnings of the newest revisions, models and drawings.</param>
/// <param name="Sources">Sources with a model.</param>
/// <param name="Elements">Their elements, without annotations and rooms.</param>
/// <param name="Orders">Saved orders.</param>
/// <param name="Stale">Orders of which something they rest on has changed since their last run.</param>
/// <param name="NotSetOut">Sources with a model that nobody has set out, or whose frame jumped since.</param>
/// <param name="NotPlaced">Drawings that nobody has scaled and placed.</param>
public sealed record RouteBar(
    int Underway,
    int Findings,
    int Sources,
    int Elements,
    int Orders,
    int Stale,
    int NotSetOut,
    int NotPlaced
)
{
    /// <summary>Deliveries that are held until a coordinator decides.</summary>
    public int Held { get; init; }

    /// <summary>Amendments that wait for a decision or an answer.</summary>
    public int Waiting { get; init; }

    /// <summary>Open topics that the reader owes the next answer.</summary>
    public int Owed { get; init; }

    /// <summary>Loads the counts of a job.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job.</param>
    /// <param name="who">What the reader may do.</param>
    /// <param name="state">Loads what it holds; asked only where an order has run.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<RouteBar> LoadAsync(
        LintelDb db,
        Guid job,
        JobPermissions who,
        Func<Task<JobState>> state,
        CancellationToken cancel
    )
    {
        var deliveries = db.Deliveries.AsNoTracking().Where(d => d.Source.JobId == job);
        int underway = await deliveries.CountAsync(d => d.State < DeliveryState.Ready, cancel);
        int held = await deliveries.CountAsync(d => d.State == DeliveryState.Held, cancel);
        var latest = await db
            .Revisions.AsNoTracking()
            .Where(r =>
                r.Delivery.Source.JobId == job
                && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
            )
            .Select(r => new
            {
                Elements = r.Elements - r.Bodiless - r.Rooms,
                r.Findings,
                IsSetOut = db.SettingOuts.Any(s =>
                    s.SourceId == r.SourceId
                    && s.TakenBackAt == null
                    && s.FromRevision <= r.Number
                    && (r.Jump == null || s.FromRevision == r.Number)
                ),
                IsModel = r.Kind == RevisionKind.Model,
            })
            .ToListAsync(cancel);
        int orders = await db.Orders.CountAsync(o => o.JobId == job, cancel);
        bool ran = await db.Transmittals.AnyAsync(
            t => t.Order.JobId == job && t.State == TransmittalState.Done,
            cancel
        );
        int stale = ran ? (await Staleness.OfAsync(db, await state(), cancel)).Count : 0;
        var models = latest.Where(l => l.IsModel).ToList();
        return new RouteBar(
            underway,
            latest.Sum(l => l.Findings),
            models.Count,
            models.Sum(l => l.Elements),
            orders,
            stale,
            models.Count(m => !m.IsSetOut),
            latest.Count(l => !l.IsModel && !l.IsSetOut)
        )
        {
            Held = held,
            Waiting = await AmendmentQuery.WaitingAsync(db, job, cancel),
            Owed = await TopicQuery.OwedAsync(db, job, who, cancel),
        };
    }
}
