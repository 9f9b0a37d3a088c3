using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The rows of a job's library.</summary>
internal static class LibraryRows
{
    /// <summary>The newest version of each thing that a job keeps.</summary>
    public static IQueryable<LibraryItem> NewestItems(this LintelDb db, Guid job) =>
        db
            .Library.AsNoTracking()
            .Where(i =>
                i.JobId == job
                && !db.Library.Any(o => o.JobId == job && o.Kind == i.Kind && o.Name == i.Name && o.Version > i.Version)
            );
}
