using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Accepts settings-out and takes them back. Everything downstream reads what holds, so nothing else has to be notified.</summary>
/// <param name="db">The database.</param>
public sealed class SettingOuts(LintelDb db)
{
    private const int LongestReason = 500;

    /// <summary>Accepts a setting-out.</summary>
    /// <param name="source">The source, of the job.</param>
    /// <param name="job">The job.</param>
    /// <param name="document">The setting-out.</param>
    /// <param name="preparation">Of a drawing: how it is prepared; null for a model.</param>
    /// <param name="fromRevision">The first revision that it holds for.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The reason is too long.</exception>
    public async Task AcceptAsync(
        Source source,
        Guid job,
        SettingOutDocument document,
        PreparationDocument? preparation,
        int fromRevision,
        Actor by,
        CancellationToken cancel
    )
    {
        document = document with { Why = InputRules.Of(document.Why, "The reason", LongestReason, false) };
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.SettingOuts.Add(
            new SettingOutRow
            {
                Id = Guid.NewGuid(),
                SourceId = source.Id,
                FromRevision = fromRevision,
                Document = document.Write(),
                Preparation = preparation is { Steps.Count: > 0 } ? preparation.Write() : null,
                AcceptedAt = DateTime.UtcNow,
                AcceptedBy = by.User,
            }
        );
        db.Note(
            by,
            job,
            "set out",
            string.Create(
                System.Globalization.CultureInfo.InvariantCulture,
                $"{source.Party.Code} {source.Name}: {document.Shift[0]:0.000}, {document.Shift[1]:0.000}, {document.Shift[2]:0.000} m, {document.TurnDegrees:0.0000}°"
            )
        );
        await db.SaveChangesAsync(cancel);
        await JobLevels.RematchAsync(db, job, source.Id, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Takes a setting-out back; what held before holds again.</summary>
    /// <exception cref="RefusedException">It does not hold.</exception>
    public async Task TakeBackAsync(Source source, Guid job, Guid id, Actor by, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        int taken = await db
            .SettingOuts.Where(s => s.Id == id && s.SourceId == source.Id && s.TakenBackAt == null)
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.TakenBackAt, DateTime.UtcNow), cancel);
        if (taken == 0)
            throw new RefusedException(
                RefusalKind.Conflict,
                "This setting-out does not hold any more; look at the history again."
            );
        db.Note(by, job, "took a setting-out back", $"{source.Party.Code} {source.Name}");
        await db.SaveChangesAsync(cancel);
        await JobLevels.RematchAsync(db, job, source.Id, cancel);
        await transaction.CommitAsync(cancel);
    }
}
