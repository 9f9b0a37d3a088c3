using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Deliveries that were read and are not used: held until a coordinator decides, turned down, or withdrawn.</summary>
/// <param name="db">The database.</param>
public sealed class HeldDeliveries(LintelDb db)
{
    private const int LongestWord = 1000;

    /// <summary>Holds a delivery that has just become a revision, where it has errors of reading or far less than the revision before; in
    /// the
    /// caller's transaction.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job.</param>
    /// <param name="id">The delivery.</param>
    /// <param name="findings">What was found in it.</param>
    /// <param name="drawing">Its counts, when it is a drawing; null for a model, whose counts are stored.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Whether it is held.</returns>
    internal static async Task<bool> ReviewAsync(
        LintelDb db,
        Guid job,
        Guid id,
        IReadOnlyList<Finding> findings,
        DeliveryCounts? drawing,
        CancellationToken cancel
    )
    {
        var limits = JobSettings
            .Read(await db.Jobs.AsNoTracking().Where(j => j.Id == job).Select(j => j.Settings).FirstAsync(cancel))
            .Deliveries;
        var now = await db
            .Revisions.AsNoTracking()
            .Where(r => r.Id == id)
            .Select(r => new
            {
                r.SourceId,
                r.Number,
                r.Kind,
            })
            .FirstAsync(cancel);
        var before = await db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == now.SourceId && r.Kind == now.Kind && r.Number > 0 && r.Number < now.Number)
            .OrderByDescending(r => r.Number)
            .Select(r => (Guid?)r.Id)
            .FirstOrDefaultAsync(cancel);
        var reasons = DeliveryReview.Reasons(
            findings,
            before is { } old ? await CountsAsync(db, old, now.Kind, cancel) : null,
            drawing ?? await CountsAsync(db, id, now.Kind, cancel),
            drawing is null ? "elements" : "entities",
            limits
        );
        if (reasons.Count == 0)
            return false;
        string[] kept = [.. reasons.Select(r => StoredText.Clean(r))];
        await db.Revisions.Where(r => r.Id == id).ExecuteUpdateAsync(u => u.SetProperty(r => r.InUse, false), cancel);
        await db
            .Deliveries.Where(d => d.Id == id)
            .ExecuteUpdateAsync(
                u => u.SetProperty(d => d.State, DeliveryState.Held).SetProperty(d => d.HeldFor, kept),
                cancel
            );
        return true;
    }

    /// <summary>Sets the limits of a job.</summary>
    /// <exception cref="RefusedException">A number is out of its range.</exception>
    public async Task SetLimitsAsync(Guid job, DeliveryLimits limits, Actor by, CancellationToken cancel)
    {
        if (limits.LostShare is not (>= 0 and <= 1))
            throw new RefusedException(
                RefusalKind.Wrong,
                "The share of elements that may be gone is a number from 0 to 100 %."
            );
        if (limits.ClassSize is < 0 or > 1_000_000)
            throw new RefusedException(RefusalKind.Wrong, "The size of a class is a number from 0 to 1 000 000.");
        var row = await db.Jobs.FirstAsync(j => j.Id == job, cancel);
        row.Settings = (JobSettings.Read(row.Settings) with { Deliveries = limits }).Write();
        db.Note(
            by,
            job,
            "changed when deliveries are held",
            FormattableString.Invariant(
                $"{limits.LostShare * 100:0} % fewer, classes from {limits.ClassSize}, storeys {limits.Storeys}, errors {limits.Errors}"
            )
        );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Uses a delivery that was held, turned down or withdrawn: it becomes a revision in use, the newest unless a later one is in
    /// use.</summary>
    /// <exception cref="RefusedException">There is no such delivery, or it is in use already.</exception>
    public async Task UseAsync(Guid job, Guid id, Actor by, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var delivery = await TakeAsync(
            job,
            id,
            [DeliveryState.Held, DeliveryState.TurnedDown, DeliveryState.Withdrawn],
            DeliveryState.Ready,
            true,
            "",
            by,
            cancel
        );
        db.Note(by, job, "used the delivery", Name(delivery));
        await db.SaveChangesAsync(cancel);
        if (delivery.Revision!.Kind == RevisionKind.Model)
            await BeginUseAsync(db, job, id, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Turns a held delivery down, with a word to its sender, who gets it by mail.</summary>
    /// <param name="job">The job.</param>
    /// <param name="id">The delivery.</param>
    /// <param name="word">What the sender is asked for.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is no such delivery, it is not held, or the word is missing.</exception>
    public async Task TurnDownAsync(Guid job, Guid id, string? word, Actor by, CancellationToken cancel)
    {
        string said = InputRules.Of(word, "The word to the sender", LongestWord);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var delivery = await TakeAsync(
            job,
            id,
            [DeliveryState.Held],
            DeliveryState.TurnedDown,
            false,
            said,
            by,
            cancel
        );
        db.Note(by, job, "rejected the delivery", $"{Name(delivery)}: {said}");
        string? to = await db
            .Users.Where(u => u.Id == delivery.ReceivedBy)
            .Select(u => u.Email)
            .FirstOrDefaultAsync(cancel);
        string title = await db.Jobs.Where(j => j.Id == job).Select(j => j.Name).FirstAsync(cancel);
        if (to is not null)
            Mailbox.Write(
                db,
                to,
                $"{title}: {delivery.FileName} was rejected",
                $"{delivery.FileName}, delivered for {delivery.Source.Party.Code} {delivery.Source.Name} in {title}, is not used.\n\n{said}\n\n"
                    + $"Why it was held:\n{string.Join('\n', delivery.HeldFor.Select(r => "- " + r))}\n"
            );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Withdraws a delivery that is in use. The revision before it is the newest again; what was made of it becomes
    /// stale.</summary>
    /// <param name="job">The job.</param>
    /// <param name="id">The delivery.</param>
    /// <param name="why">Why.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is no such delivery, it is not in use, or the reason is missing.</exception>
    public async Task WithdrawAsync(Guid job, Guid id, string? why, Actor by, CancellationToken cancel)
    {
        string reason = InputRules.Of(why, "The reason", LongestWord);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var delivery = await TakeAsync(
            job,
            id,
            [DeliveryState.Ready],
            DeliveryState.Withdrawn,
            false,
            reason,
            by,
            cancel
        );
        db.Note(by, job, "withdrew the delivery", $"{Name(delivery)}: {reason}");
        await db.SaveChangesAsync(cancel);
        if (delivery.Revision!.Kind == RevisionKind.Model)
            await JobLevels.RematchAsync(db, job, delivery.SourceId, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>What follows when a revision of a model comes into use, in the caller's transaction: its frame is compared with the
    /// revision
    /// before, and its storeys are matched.</summary>
    internal static async Task BeginUseAsync(LintelDb db, Guid job, Guid revision, CancellationToken cancel)
    {
        await FrameJumps.NoteAsync(db, revision, cancel);
        await JobLevels.MatchAsync(db, job, revision, cancel);
    }

    // Of two who decide at once one comes first.
    private async Task<Delivery> TakeAsync(
        Guid job,
        Guid id,
        DeliveryState[] from,
        DeliveryState to,
        bool inUse,
        string decision,
        Actor by,
        CancellationToken cancel
    )
    {
        int taken = await db
            .Deliveries.Where(d => d.Id == id && d.Source.JobId == job && from.Contains(d.State))
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(d => d.State, to)
                        .SetProperty(d => d.DecidedBy, by.User)
                        .SetProperty(d => d.DecidedAt, DateTime.UtcNow)
                        .SetProperty(d => d.Decision, decision),
                cancel
            );
        var delivery = await db
            .Deliveries.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(d => d.Revision)
            .Include(d => d.Source)
                .ThenInclude(s => s.Party)
            .FirstOrDefaultAsync(d => d.Id == id && d.Source.JobId == job, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "The job has no such delivery.");
        if (taken == 0)
            throw new RefusedException(
                RefusalKind.Conflict,
                $"{delivery.FileName} is in another state now; look at the list of deliveries again."
            );
        await db
            .Revisions.IgnoreQueryFilters()
            .Where(r => r.Id == id)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.InUse, inUse), cancel);
        return delivery;
    }

    private static async Task<DeliveryCounts> CountsAsync(
        LintelDb db,
        Guid revision,
        RevisionKind kind,
        CancellationToken cancel
    )
    {
        if (kind == RevisionKind.Drawing)
        {
            string report = await db
                .Revisions.AsNoTracking()
                .Where(r => r.Id == revision)
                .Select(r => r.Report)
                .FirstAsync(cancel);
            return DeliveryCounts.Of(JsonSerializer.Deserialize<DrawingReport>(report, IntakeStore.Json)!);
        }

        var facets = await db
            .Facets.AsNoTracking()
            .Where(f => f.RevisionId == revision)
            .GroupBy(f => new { f.Storey, f.Class })
            .Select(g => new
            {
                g.Key.Storey,
                g.Key.Class,
                Count = g.Sum(f => f.Count),
            })
            .ToListAsync(cancel);
        var names = await db
            .Levels.AsNoTracking()
            .Where(l => l.RevisionId == revision)
            .ToDictionaryAsync(l => l.Number, l => l.Name, cancel);
        return new DeliveryCounts(
            DeliveryCounts.Sums(facets.Where(f => names.ContainsKey(f.Storey)).Select(f => (names[f.Storey], f.Count))),
            DeliveryCounts.Sums(facets.Select(f => (f.Class, f.Count)))
        );
    }

    private static string Name(Delivery delivery) =>
        $"{delivery.Source.Party.Code} {delivery.Source.Name} r{delivery.Revision!.Number}, {delivery.FileName}";
}
