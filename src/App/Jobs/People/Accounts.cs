using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Accounts of the site, beside what signs them in.</summary>
/// <param name="db">The database.</param>
public sealed class Accounts(LintelDb db)
{
    /// <summary>Whether there is any.</summary>
    public Task<bool> AnyAsync(CancellationToken cancel = default) => db.Users.AnyAsync(cancel);

    /// <summary>Whether a person runs the site.</summary>
    public Task<bool> IsAdministratorAsync(Guid user, CancellationToken cancel) =>
        db.Users.AnyAsync(u => u.Id == user && u.IsAdministrator, cancel);

    /// <summary>Makes the first account; one at a time, since two first accounts are one too many.</summary>
    /// <param name="make">Makes it.</param>
    /// <param name="address">From where.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The account; null where there is one already.</returns>
    public async Task<AppUser?> MakeFirstAsync(Func<Task<AppUser>> make, string address, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"LOCK TABLE \"AspNetUsers\" IN EXCLUSIVE MODE", cancel);
        if (await db.Users.AnyAsync(cancel))
            return null;
        var user = await make();
        db.Note(new Actor(user.Id, address), null, "made the first account", user.Email!);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return user;
    }

    /// <summary>Uses a step of an authenticator's code (RFC 6238, 5.2: each code is good once).</summary>
    /// <returns>Whether it was still good: one of many at the same time gets it.</returns>
    public async Task<bool> UseStepAsync(Guid user, long step) =>
        await db
            .Users.Where(u => u.Id == user && u.LastCodeStep < step)
            .ExecuteUpdateAsync(u => u.SetProperty(p => p.LastCodeStep, step)) == 1;

    /// <summary>Sends a link for a new password.</summary>
    public async Task SendResetAsync(AppUser user, string site, string token, Actor by, CancellationToken cancel)
    {
        Mailbox.Write(
            db,
            user.Email!,
            "A new password",
            $"Somebody, probably you, asked for a new password at {site}.\n\nOpen this link within two hours to choose one:\n"
                + $"{site}/forgot?id={user.Id}&token={Uri.EscapeDataString(token)}\n\nIf it was not you, nothing has changed; ignore this mail."
        );
        db.Note(by, null, "was sent a link for a new password", user.Email!);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Notes what somebody did with an account.</summary>
    public async Task NoteAsync(Actor by, string did, string email, CancellationToken cancel)
    {
        db.Note(by, null, did, email);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Forgets what was begun and refused: it is not to be saved with what comes next.</summary>
    public void Forget() => db.ChangeTracker.Clear();
}
