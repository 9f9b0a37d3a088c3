using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What waits in a job, as the list of jobs shows it.</summary>
/// <param name="Underway">Deliveries being read.</param>
/// <param name="Findings">Errors and warnings of the newest revisions, models and drawings.</param>
/// <param name="Sources">Sources with a model.</param>
/// <param name="Orders">Saved orders.</param>
/// <param name="HasRun">Whether one has ever run; whether it is stale is asked later.</param>
public sealed record JobOverview(int Underway, int Findings, int Sources, int Orders, bool HasRun)
{
    private static readonly JobOverview Nothing = new(0, 0, 0, 0, false);

    /// <summary>Loads it for many jobs, in three queries.</summary>
    public static async Task<IReadOnlyDictionary<Guid, JobOverview>> LoadAsync(
        LintelDb db,
        IReadOnlyCollection<Guid> jobs,
        CancellationToken cancel
    )
    {
        var underway = await db
            .Deliveries.Where(d => jobs.Contains(d.Source.JobId) && d.State < DeliveryState.Ready)
            .GroupBy(d => d.Source.JobId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        var latest = await db
            .Revisions.Where(r =>
                jobs.Contains(r.Delivery.Source.JobId)
                && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
            )
            .GroupBy(r => r.Delivery.Source.JobId)
            .Select(g => new
            {
                g.Key,
                Findings = g.Sum(r => r.Findings),
                Models = g.Count(r => r.Kind == RevisionKind.Model),
            })
            .ToDictionaryAsync(g => g.Key, cancel);
        var orders = await db
            .Orders.Where(o => jobs.Contains(o.JobId))
            .GroupBy(o => o.JobId)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                HasRun = g.Any(o => o.Transmittals.Any(t => t.State == TransmittalState.Done)),
            })
            .ToDictionaryAsync(g => g.Key, cancel);
        return jobs.ToDictionary(
            j => j,
            j =>
                Nothing with
                {
                    Underway = underway.GetValueOrDefault(j),
                    Findings = latest.GetValueOrDefault(j)?.Findings ?? 0,
                    Sources = latest.GetValueOrDefault(j)?.Models ?? 0,
                    Orders = orders.GetValueOrDefault(j)?.Count ?? 0,
                    HasRun = orders.GetValueOrDefault(j)?.HasRun == true,
                }
        );
    }
}
