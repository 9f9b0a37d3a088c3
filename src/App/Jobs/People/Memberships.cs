using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Invites people into a job, changes what they may do, lets them go.</summary>
/// <param name="db">The database.</param>
public sealed class Memberships(LintelDb db)
{
    /// <summary>How long a link is good.</summary>
    public static readonly TimeSpan GoodFor = TimeSpan.FromDays(14);

    private const int LongestEmail = 254,
        MaxOpen = 200;

    /// <summary>Invites somebody; the link goes by mail and is good once. An older invitation of the same person is withdrawn.</summary>
    /// <param name="job">The job.</param>
    /// <param name="email">The address.</param>
    /// <param name="role">The role.</param>
    /// <param name="party">The party, for contributors and recipients.</param>
    /// <param name="site">The site's address, for the link.</param>
    /// <param name="by">Who invites.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The link.</returns>
    /// <exception cref="RefusedException">The address or the role is wrong, or the person is a member already.</exception>
    public async Task<string> InviteAsync(
        Job job,
        string? email,
        MemberRole role,
        Guid? party,
        string site,
        Actor by,
        CancellationToken cancel
    )
    {
        string address = InputRules.Of(email, "The e-mail address", LongestEmail).ToLowerInvariant();
        if (!System.Net.Mail.MailAddress.TryCreate(address, out var parsed) || parsed.Address != address)
            throw new RefusedException(RefusalKind.Wrong, $"'{email}' is no e-mail address.");
        var of = await PartyOfAsync(job.Id, role, party, cancel);
        string normal = address.ToUpperInvariant();
        if (
            await db.Memberships.AnyAsync(
                m => m.JobId == job.Id && db.Users.Any(u => u.Id == m.UserId && u.NormalizedEmail == normal),
                cancel
            )
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                $"{address} belongs to this job already; change the role in the list."
            );
        if (
            await db.Invitations.CountAsync(
                i => i.JobId == job.Id && i.EndedAt == null && i.ExpiresAt > DateTime.UtcNow,
                cancel
            ) >= MaxOpen
        )
            throw new RefusedException(RefusalKind.Conflict, $"{MaxOpen} invitations are open; withdraw some first.");
        foreach (
            var older in await db
                .Invitations.Where(i => i.JobId == job.Id && i.Email == address && i.EndedAt == null)
                .ToListAsync(cancel)
        )
            older.EndedAt = DateTime.UtcNow;
        string secret = Secrets.New(),
            link = $"{site}/invitation/{secret}";
        var now = DateTime.UtcNow;
        db.Invitations.Add(
            new Invitation
            {
                Id = Guid.NewGuid(),
                JobId = job.Id,
                Email = address,
                Role = role,
                PartyId = of?.Id,
                SecretHash = Secrets.Hash(secret),
                SentBy = by.User,
                SentAt = now,
                ExpiresAt = now + GoodFor,
            }
        );
        Mailbox.Write(
            db,
            address,
            $"{job.Name}: an invitation",
            $"You are invited into the job {job.Name} ({job.Code}) as {role.ToString().ToLowerInvariant()}{(of is null ? "" : $" for {of.Code}")}.\n\n"
                + $"Open this link to accept; it can be used once and expires on {now + GoodFor:d MMMM yyyy}:\n{link}\n\nIf you do not know what this is about, ignore this mail."
        );
        db.Note(by, job.Id, "invited", $"{address}, {Part(role, of)}");
        await db.SaveChangesAsync(cancel);
        return link;
    }

    /// <summary>Withdraws an invitation.</summary>
    public async Task WithdrawAsync(Guid job, Guid invitation, Actor by, CancellationToken cancel)
    {
        var open = await db.Invitations.FirstOrDefaultAsync(
            i => i.Id == invitation && i.JobId == job && i.EndedAt == null,
            cancel
        ) ?? throw new RefusedException(RefusalKind.Unknown, "This invitation is not open any more.");
        open.EndedAt = DateTime.UtcNow;
        db.Note(by, job, "withdrew the invitation of", open.Email);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>The open invitation of a link; null when there is none.</summary>
    public async Task<Invitation?> FindAsync(string secret, CancellationToken cancel)
    {
        string hash = Secrets.Hash(secret);
        return await db
            .Invitations.AsNoTracking()
            .Include(i => i.Job)
            .FirstOrDefaultAsync(
                i => i.SecretHash == hash && i.EndedAt == null && i.ExpiresAt > DateTime.UtcNow,
                cancel
            );
    }

    /// <summary>Takes an invitation up; the link is good no more.</summary>
    /// <exception cref="RefusedException">It was taken up, withdrawn or has expired.</exception>
    public async Task AcceptAsync(Guid invitation, Guid user, string address, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var now = DateTime.UtcNow;
        int taken = await db
            .Invitations.Where(i => i.Id == invitation && i.EndedAt == null && i.ExpiresAt > now)
            .ExecuteUpdateAsync(u => u.SetProperty(i => i.EndedAt, now), cancel);
        if (taken == 0)
            throw new RefusedException(RefusalKind.Conflict, "This invitation is not open any more; ask for another.");
        var open = await db.Invitations.AsNoTracking().FirstAsync(i => i.Id == invitation, cancel);
        if (!await db.Memberships.AnyAsync(m => m.JobId == open.JobId && m.UserId == user, cancel))
            db.Memberships.Add(
                new Membership
                {
                    JobId = open.JobId,
                    UserId = user,
                    Role = open.Role,
                    PartyId = open.PartyId,
                }
            );
        db.Note(new Actor(user, address), open.JobId, "took up the invitation", open.Email);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Changes what a member may do.</summary>
    /// <exception cref="RefusedException">The job would lose its last coordinator.</exception>
    public async Task ChangeAsync(Guid job, Guid user, MemberRole role, Guid? party, Actor by, CancellationToken cancel)
    {
        await using var transaction = await LockedAsync(job, cancel);
        var member = await FindAsync(job, user, cancel);
        var of = await PartyOfAsync(job, role, party, cancel);
        if (member.Role == MemberRole.Coordinator && role != MemberRole.Coordinator)
            await KeepOneAsync(job, user, cancel);
        (member.Role, member.PartyId) = (role, of?.Id);
        db.Note(by, job, "changed the role of", $"{await NameAsync(user, cancel)}: {Part(role, of)}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Lets a member go.</summary>
    /// <exception cref="RefusedException">The job would lose its last coordinator.</exception>
    public async Task RemoveAsync(Guid job, Guid user, Actor by, CancellationToken cancel)
    {
        await using var transaction = await LockedAsync(job, cancel);
        var member = await FindAsync(job, user, cancel);
        if (member.Role == MemberRole.Coordinator)
            await KeepOneAsync(job, user, cancel);
        db.Memberships.Remove(member);
        db.Note(by, job, by.User == user ? "left the job" : "removed", await NameAsync(user, cancel));
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    // Members of one job are changed one at a time, so that two coordinators cannot remove each other at once.
    private async Task<Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction> LockedAsync(
        Guid job,
        CancellationToken cancel
    )
    {
        var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {job} FOR UPDATE", cancel);
        return transaction;
    }

    private async Task<Membership> FindAsync(Guid job, Guid user, CancellationToken cancel) =>
        await db.Memberships.FirstOrDefaultAsync(m => m.JobId == job && m.UserId == user, cancel)
        ?? throw new RefusedException(RefusalKind.Unknown, "This person does not belong to the job.");

    private async Task KeepOneAsync(Guid job, Guid but, CancellationToken cancel)
    {
        if (
            !await db.Memberships.AnyAsync(
                m => m.JobId == job && m.UserId != but && m.Role == MemberRole.Coordinator,
                cancel
            )
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                "A job needs a coordinator; make somebody else one first."
            );
    }

    private async Task<Party?> PartyOfAsync(Guid job, MemberRole role, Guid? party, CancellationToken cancel)
    {
        if (!Enum.IsDefined(role))
            throw new RefusedException(RefusalKind.Wrong, "Choose a role.");
        if (role is MemberRole.Coordinator or MemberRole.Reader)
            return null;
        return await db.Parties.FirstOrDefaultAsync(p => p.JobId == job && p.Id == party, cancel)
            ?? throw new RefusedException(
                RefusalKind.Wrong,
                $"Choose the party that the {role.ToString().ToLowerInvariant()} belongs to."
            );
    }

    private async Task<string> NameAsync(Guid user, CancellationToken cancel) =>
        await db.Users.Where(u => u.Id == user).Select(u => u.DisplayName).FirstOrDefaultAsync(cancel) ?? "somebody";

    private static string Part(MemberRole role, Party? party) =>
        role.ToString().ToLowerInvariant() + (party is null ? "" : $" for {party.Code}");
}
