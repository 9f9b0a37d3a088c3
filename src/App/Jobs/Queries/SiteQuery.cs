using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What whoever runs the site asks of it.</summary>
/// <param name="db">The database.</param>
public sealed class SiteQuery(LintelDb db)
{
    /// <summary>How the site is.</summary>
    public Task<SiteState> StateAsync(CancellationToken cancel) => SiteState.LoadAsync(db, cancel);
}
