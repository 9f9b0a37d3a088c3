using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Orders whose last transmittal no longer is what they would give now.</summary>
public static class Staleness
{
    /// <summary>Why the orders of a job are stale, by order; those that are not, or were never run, are missing.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="only">One order alone; null for all.</param>
    public static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<string>>> OfAsync(
        LintelDb db,
        JobState state,
        CancellationToken cancel,
        Guid? only = null
    )
    {
        var rows = await db
            .Orders.AsNoTracking()
            .Where(o => o.JobId == state.Job && (only == null || o.Id == only))
            .Select(o => new
            {
                Order = o,
                Last = o
                    .Transmittals.OrderByDescending(t => t.Number)
                    .Where(t => t.State == TransmittalState.Done)
                    .Select(t => new
                    {
                        t.Spec,
                        t.Basis,
                        t.Revisions,
                    })
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        var stale = new Dictionary<Guid, IReadOnlyList<string>>();
        foreach (var row in rows.Where(r => r.Last is not null))
        {
            if (
                StoredOrder.Read(row.Order.Spec).Problem is not null
                || StoredOrder.Read(row.Last!.Spec).Problem is not null
            )
            {
                stale[row.Order.Id] = ["the order cannot be read"];
                continue;
            }

            var reasons =
                OrderBasis.Read(row.Last!.Basis) is { } basis
                    ? basis
                        .ChangesTo(
                            OrderBasis.Of(state.Model, StoredOrder.Read(row.Order.Spec).Document, row.Order.SavedAt)
                        )
                        .ToList()
                : row.Last.Revisions.Any(r => !state.Newest.Contains(r)) ? ["a source has a newer revision"]
                : [];
            if (OrderDocument.Read(row.Last.Spec).Write() != OrderDocument.Read(row.Order.Spec).Write())
                reasons.Add("the order was changed");
            if (reasons.Count > 0)
                stale[row.Order.Id] = reasons;
        }

        return stale;
    }
}
