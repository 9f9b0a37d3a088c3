using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Finds jobs for the people who belong to them; to anybody else a job does not exist.</summary>
public sealed class JobAccess(LintelDb db)
{
    /// <summary>The signed-in person's identity.</summary>
    public static Guid UserId(ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : Guid.Empty;

    /// <summary>Who does something, and from where.</summary>
    public static Actor Actor(HttpContext http) => new(UserId(http.User), Sessions.Address(http));

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
}
