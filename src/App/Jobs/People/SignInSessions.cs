using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Browsers that are signed in: each has a row, and is signed in as long as the row is open.</summary>
/// <param name="db">The database.</param>
public sealed class SignInSessions(LintelDb db)
{
    /// <summary>How long a session may be idle when the person does not stay signed in, and when it does.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromMinutes(30),
        Stay = TimeSpan.FromDays(30);

    private static readonly TimeSpan Tell = TimeSpan.FromMinutes(1);

    private const int LongestBrowser = 200;

    /// <summary>Begins a session.</summary>
    /// <param name="user">The person.</param>
    /// <param name="stays">Whether it outlives the browser.</param>
    /// <param name="address">The network address.</param>
    /// <param name="browser">What the browser calls itself.</param>
    public async Task<Guid> BeginAsync(AppUser user, bool stays, string address, string browser)
    {
        var now = DateTime.UtcNow;
        var session = new SignInSession
        {
            Id = Guid.NewGuid(),
            UserId = user.Id,
            BegunAt = now,
            SeenAt = now,
            Address = address,
            Browser = StoredText.Clean(browser, LongestBrowser),
            Stays = stays,
        };
        db.Sessions.Add(session);
        db.Note(new Actor(user.Id, address), null, "signed in", user.Email ?? "");
        await db.SaveChangesAsync();
        return session.Id;
    }

    /// <summary>Whether a session is open; it is seen then.</summary>
    public async Task<bool> SeeAsync(Guid id, string address)
    {
        if (
            await db.Sessions.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id && s.EndedAt == null)
            is not { } session
        )
            return false;
        var now = DateTime.UtcNow;
        if (!IsOpen(session, now))
        {
            await db.Sessions.Where(s => s.Id == id).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, now));
            return false;
        }

        if (now - session.SeenAt > Tell)
            await db
                .Sessions.Where(s => s.Id == id)
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.SeenAt, now).SetProperty(s => s.Address, address));
        return true;
    }

    /// <summary>The open sessions of a person, last seen first.</summary>
    public async Task<IReadOnlyList<SignInSession>> OfAsync(Guid user, CancellationToken cancel)
    {
        var sessions = await db
            .Sessions.AsNoTracking()
            .Where(s => s.UserId == user && s.EndedAt == null)
            .OrderByDescending(s => s.SeenAt)
            .ToListAsync(cancel);
        return [.. sessions.Where(s => IsOpen(s, DateTime.UtcNow))];
    }

    /// <summary>Ends sessions of a person at once, whichever server they are at.</summary>
    /// <param name="user">The person.</param>
    /// <param name="only">One session; null for all.</param>
    /// <param name="but">A session that goes on.</param>
    public Task EndAsync(Guid user, Guid? only = null, Guid? but = null) =>
        db
            .Sessions.Where(s =>
                s.UserId == user && s.EndedAt == null && (only == null || s.Id == only) && (but == null || s.Id != but)
            )
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, DateTime.UtcNow));

    private static bool IsOpen(SignInSession session, DateTime now) =>
        now - session.SeenAt <= (session.Stays ? Stay : Idle);
}
