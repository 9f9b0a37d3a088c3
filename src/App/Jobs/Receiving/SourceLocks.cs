using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Locks on sources: while one is locked, nobody else delivers for it.</summary>
/// <param name="db">The database.</param>
public sealed class SourceLocks(LintelDb db)
{
    private const int LongestReason = 200;

    /// <summary>Locks a source.</summary>
    /// <exception cref="RefusedException">Somebody else has locked it.</exception>
    public async Task LockAsync(Guid job, Guid source, string? why, Actor by, CancellationToken cancel)
    {
        string reason = InputRules.Of(why, "The reason", LongestReason, false);
        // Of two who lock at once one comes first.
        int locked = await db
            .Sources.Where(s => s.Id == source && s.JobId == job && (s.LockedBy == null || s.LockedBy == by.User))
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(s => s.LockedBy, by.User)
                        .SetProperty(s => s.LockedAt, DateTime.UtcNow)
                        .SetProperty(s => s.LockedWhy, reason),
                cancel
            );
        var row = await RowAsync(job, source, cancel);
        if (locked == 0)
            throw new RefusedException(RefusalKind.Conflict, await SentenceAsync(db, row, cancel));
        db.Note(by, job, "locked", $"{row.Party.Code} {row.Name}{(reason.Length > 0 ? $": {reason}" : "")}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Opens a source; a coordinator can break the lock of somebody else.</summary>
    /// <param name="job">The job.</param>
    /// <param name="source">The source.</param>
    /// <param name="breaks">Whether the person may break the locks of others.</param>
    /// <param name="by">Who opens it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">It is somebody else's lock.</exception>
    public async Task UnlockAsync(Guid job, Guid source, bool breaks, Actor by, CancellationToken cancel)
    {
        var row = await RowAsync(job, source, cancel);
        if (row.LockedBy is null)
            return;
        bool own = row.LockedBy == by.User;
        if (!own && !breaks)
            throw new RefusedException(RefusalKind.Forbidden, await SentenceAsync(db, row, cancel));
        string whose = own ? "" : $", locked by {await NameAsync(db, row.LockedBy.Value, cancel)}";
        await db
            .Sources.Where(s => s.Id == source)
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(s => s.LockedBy, (Guid?)null)
                        .SetProperty(s => s.LockedAt, (DateTime?)null)
                        .SetProperty(s => s.LockedWhy, ""),
                cancel
            );
        db.Note(by, job, own ? "unlocked" : "broke the lock of", $"{row.Party.Code} {row.Name}{whose}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Refuses a delivery for a source that somebody else has locked.</summary>
    /// <exception cref="RefusedException">Somebody has.</exception>
    internal static async Task CheckAsync(LintelDb db, Source source, Actor by, CancellationToken cancel)
    {
        if (source.LockedBy is { } holder && holder != by.User)
            throw new RefusedException(RefusalKind.Conflict, await SentenceAsync(db, source, cancel));
    }

    private static async Task<string> SentenceAsync(LintelDb db, Source source, CancellationToken cancel)
    {
        string why = source.LockedWhy.Length > 0 ? $" ({source.LockedWhy})" : "";
        return $"{source.Name} is locked by {await NameAsync(db, source.LockedBy!.Value, cancel)} since {source.LockedAt:d MMM HH:mm} UTC{why}; "
            + "nothing is delivered for it by others. Ask for it to be opened, or a coordinator can break the lock.";
    }

    private static async Task<string> NameAsync(LintelDb db, Guid user, CancellationToken cancel) =>
        await db.Users.Where(u => u.Id == user).Select(u => u.DisplayName).FirstOrDefaultAsync(cancel)
        ?? "somebody who left";

    private async Task<Source> RowAsync(Guid job, Guid source, CancellationToken cancel) =>
        await db
            .Sources.AsNoTracking()
            .Include(s => s.Party)
            .FirstOrDefaultAsync(s => s.Id == source && s.JobId == job, cancel)
        ?? throw new RefusedException(RefusalKind.Unknown, "The job has no such source.");
}
