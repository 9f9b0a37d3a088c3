using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

// What one party asks of another: about contradictions, for amendments, and who may make them.
public sealed partial class AmendmentEditing
{
    /// <summary>Accepts requests for amendments: they are made.</summary>
    /// <exception cref="RefusedException">One is no request any more, or the person may not answer it.</exception>
    public async Task AcceptAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await RequestsAsync(job, who, ids, cancel);
        var now = DateTime.UtcNow;
        foreach (var row in rows)
        {
            var before = await db
                .Amendments.Where(a =>
                    a.SourceId == row.SourceId
                    && a.Subject == row.Subject
                    && a.Step >= AmendmentStep.Holds
                    && a.Step <= AmendmentStep.Refused
                )
                .ToListAsync(cancel);
            before.ForEach(b => (b.Step, b.EndedBy, b.EndedAt) = (AmendmentStep.Replaced, by.User, now));
            await db.SaveChangesAsync(cancel);
            row.Step = AmendmentStep.Holds;
            await db.SaveChangesAsync(cancel);
        }

        foreach (var source in rows.Select(r => r.Source).Distinct())
        {
            Count(source, now);
            db.Note(by, job, "accepted requested amendments of", $"{source.Party.Code} {source.Name}");
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await again.BeginAsync(cancel);
    }

    /// <summary>Rejects requests for amendments.</summary>
    /// <exception cref="RefusedException">One is no request any more, or the person may not answer it.</exception>
    public async Task RejectAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        CancellationToken cancel
    )
    {
        var rows = await RequestsAsync(job, who, ids, cancel);
        foreach (var row in rows)
            (row.Step, row.EndedBy, row.EndedAt) = (AmendmentStep.Rejected, by.User, DateTime.UtcNow);
        foreach (var source in rows.Select(r => r.Source).Distinct())
            db.Note(by, job, "rejected requested amendments of", $"{source.Party.Code} {source.Name}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Says who may amend what of a source.</summary>
    /// <exception cref="RefusedException">The job has no such source, a word is none, or the person may not say so.</exception>
    public async Task ProtectAsync(
        Guid job,
        JobPermissions who,
        Guid source,
        SourceProtection protection,
        Actor by,
        CancellationToken cancel
    )
    {
        var row = (await SourcesAsync(job, [source], cancel))[source];
        if (!await MayProtectAsync(who, row, cancel))
            throw new RefusedException(
                RefusalKind.Forbidden,
                $"{row.Party.Code} says itself who may amend its sources; ask somebody of {row.Party.Code}."
            );
        if (protection.Problem() is { } problem)
            throw new RefusedException(RefusalKind.Wrong, problem);
        row.Protection = protection.Write();
        db.Note(
            by,
            job,
            "changed who may amend",
            $"{row.Party.Code} {row.Name}: its party {protection.Party}, coordinators {protection.Coordinator}, others {protection.Others}"
        );
        await db.SaveChangesAsync(cancel);
    }

    // The owning party; a coordinator only where nobody of the party is in the job.
    internal async Task<bool> MayProtectAsync(JobPermissions who, Source source, CancellationToken cancel) =>
        who.MayAnswerFor(source.PartyId)
        || (
            who is { IsCoordinator: true, IsArchived: false }
            && !await db.Memberships.AnyAsync(
                m => m.JobId == source.JobId && m.PartyId == source.PartyId && m.Role == MemberRole.Contributor,
                cancel
            )
        );

    private async Task<List<AmendmentRow>> RequestsAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        CancellationToken cancel
    )
    {
        var rows = await LoadAsync(job, ids, cancel);
        if (rows.Find(r => r.Step != AmendmentStep.Requested) is not null)
            throw new RefusedException(
                RefusalKind.Conflict,
                "A request was answered meanwhile; look at the list again."
            );
        return rows.Find(r => !who.MayAnswerFor(r.Source.PartyId)) is { } other
            ? throw new RefusedException(
                RefusalKind.Forbidden,
                $"{other.Source.Party.Code} answers requests for its sources itself."
            )
            : rows;
    }

    private async Task MailAsync(Guid job, Source source, string what, string text, CancellationToken cancel)
    {
        string title = await db.Jobs.Where(j => j.Id == job).Select(j => j.Name).FirstAsync(cancel),
            code = await db.Jobs.Where(j => j.Id == job).Select(j => j.Code).FirstAsync(cancel);
        var to = await db
            .Memberships.Where(m => m.JobId == job && m.PartyId == source.PartyId && m.Role == MemberRole.Contributor)
            .Join(db.Users, m => m.UserId, u => u.Id, (_, u) => u.Email)
            .ToListAsync(cancel);
        foreach (string address in to.OfType<string>())
            Mailbox.Write(
                db,
                address,
                $"{title}: {what}",
                $"{source.Party.Code} {source.Name} in {title}.\n\n{text}\n\n{Mailbox.Site}/jobs/{code}/amendments\n"
            );
    }
}
