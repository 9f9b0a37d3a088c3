using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A member of a job.</summary>
public sealed record JobPerson(Membership Member, string Name, string Email);

/// <summary>A line of the activity log as it is shown.</summary>
public sealed record ActivityRow(DateTime At, string Who, string Did, string Subject, string Address);

/// <summary>Who belongs to a job, and what they did.</summary>
/// <param name="db">The database.</param>
public sealed class PeopleQuery(LintelDb db)
{
    /// <summary>An account; null where there is none.</summary>
    public Task<AppUser?> UserAsync(Guid id, CancellationToken cancel) =>
        db.Users.AsNoTracking().FirstOrDefaultAsync(u => u.Id == id, cancel);

    /// <summary>The members, coordinators first, by name.</summary>
    public async Task<IReadOnlyList<JobPerson>> MembersAsync(Guid job, CancellationToken cancel)
    {
        var rows = await db
            .Memberships.AsNoTracking()
            .Where(m => m.JobId == job)
            .Join(db.Users, m => m.UserId, u => u.Id, (m, u) => new JobPerson(m, u.DisplayName, u.Email ?? ""))
            .ToListAsync(cancel);
        return
        [
            .. rows.OrderByDescending(r => r.Member.Role == MemberRole.Coordinator)
                .ThenBy(r => r.Name, StringComparer.Ordinal),
        ];
    }

    /// <summary>The open invitations, the newest first.</summary>
    public Task<List<Invitation>> InvitationsAsync(Guid job, CancellationToken cancel) =>
        db
            .Invitations.AsNoTracking()
            .Where(i => i.JobId == job && i.EndedAt == null && i.ExpiresAt > DateTime.UtcNow)
            .OrderByDescending(i => i.SentAt)
            .ToListAsync(cancel);

    /// <summary>What was done in a job, the newest first.</summary>
    /// <param name="job">The job.</param>
    /// <param name="find">Only lines that hold this; null for all.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="cancel">Stops it.</param>
    public Task<List<ActivityRow>> ActivityAsync(Guid job, string? find, int most, CancellationToken cancel)
    {
        var lines = db
            .Record.AsNoTracking()
            .Where(r => r.JobId == job)
            .GroupJoin(db.Users, r => r.UserId, u => u.Id, (r, u) => new { Line = r, Users = u })
            .SelectMany(x => x.Users.DefaultIfEmpty(), (x, u) => new { x.Line, Who = u == null ? "" : u.DisplayName });
        if (find?.Trim() is { Length: > 0 } words)
            lines = lines.Where(l =>
                EF.Functions.ILike(
                    l.Line.Did + " " + l.Line.Subject + " " + l.Who,
                    "%" + words.Replace("%", "", StringComparison.Ordinal) + "%"
                )
            );
        return lines
            .OrderByDescending(l => l.Line.Id)
            .Take(most)
            .Select(l => new ActivityRow(l.Line.At, l.Who, l.Line.Did, l.Line.Subject, l.Line.Address))
            .ToListAsync(cancel);
    }
}
