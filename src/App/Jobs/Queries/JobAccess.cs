using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The way into a job for the people who belong to it; to anybody else a job does not exist. What is asked for twice in one
/// request is loaded once.</summary>
/// <param name="db">The database.</param>
public sealed class JobAccess(LintelDb db)
{
    private (Guid Job, JobState State)? _state;

    /// <summary>The jobs a person belongs to.</summary>
    public Task<List<Membership>> JobsOfAsync(Guid user, CancellationToken cancel) =>
        db
            .Memberships.AsNoTracking()
            .Include(m => m.Job)
            .Where(m => m.UserId == user)
            .OrderBy(m => m.Job.Code)
            .ToListAsync(cancel);

    /// <summary>A job by its code with the person's membership; null when there is none.</summary>
    public Task<Membership?> FindAsync(string code, Guid user, CancellationToken cancel) =>
        db
            .Memberships.AsNoTracking()
            .Include(m => m.Job)
                .ThenInclude(j => j.Parties)
            .FirstOrDefaultAsync(m => m.Job.Code == code && m.UserId == user, cancel);

    /// <summary>The person's membership of a job; null when there is none.</summary>
    public Task<Membership?> MemberAsync(Guid job, Guid user, CancellationToken cancel) =>
        db
            .Memberships.AsNoTracking()
            .Include(m => m.Job)
                .ThenInclude(j => j.Parties)
            .FirstOrDefaultAsync(m => m.JobId == job && m.UserId == user, cancel);

    /// <summary>What the job holds.</summary>
    public async Task<JobState> StateAsync(Guid job, CancellationToken cancel)
    {
        if (_state is { } known && known.Job == job)
            return known.State;
        var state = await JobState.LoadAsync(db, job, cancel);
        _state = (job, state);
        return state;
    }

    /// <summary>What waits at each stop of a job.</summary>
    public Task<RouteBar> RouteAsync(Guid job, JobPermissions who, CancellationToken cancel) =>
        RouteBar.LoadAsync(db, job, who, () => StateAsync(job, cancel), cancel);

    /// <summary>What waits in many jobs, whatever their number in three queries.</summary>
    public Task<IReadOnlyDictionary<Guid, JobOverview>> OverviewAsync(
        IReadOnlyCollection<Guid> jobs,
        CancellationToken cancel
    ) => JobOverview.LoadAsync(db, jobs, cancel);

    /// <summary>How many orders of a job are stale.</summary>
    public async Task<int> StaleAsync(Guid job, CancellationToken cancel) =>
        (await Staleness.OfAsync(db, await StateAsync(job, cancel), cancel)).Count;

    /// <summary>A delivery of a job, with its source and party; null when it is none of this job's.</summary>
    /// <remarks>Those that are held, turned down or withdrawn have a revision here too, to be looked at.</remarks>
    public Task<Delivery?> DeliveryAsync(Guid job, Guid id, CancellationToken cancel) =>
        db
            .Deliveries.IgnoreQueryFilters()
            .Include(d => d.Revision)
            .Include(d => d.Source)
                .ThenInclude(s => s.Party)
            .FirstOrDefaultAsync(d => d.Id == id && d.Source.JobId == job, cancel);

    /// <summary>Forgets what was begun and refused: it is not to be saved with what comes next.</summary>
    public void Forget()
    {
        db.ChangeTracker.Clear();
        _state = null;
    }
}
