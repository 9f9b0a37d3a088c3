using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>An amendment that somebody wants to make.</summary>
/// <param name="Source">The source.</param>
/// <param name="Amendment">The amendment.</param>
/// <param name="Over">The amendment about the same that they saw; null where they saw none.</param>
public sealed record AmendmentWish(Guid Source, Amendment Amendment, Guid? Over);

/// <summary>Makes, withdraws and decides about what is said beside the files of sources.</summary>
/// <param name="db">The database.</param>
/// <param name="again">Has revisions read with it.</param>
public sealed partial class AmendmentEditing(LintelDb db, ReadAgain again)
{
    /// <summary>The most amendments that are made at once.</summary>
    public const int Most = 10_000;

    private const int LongestReason = 1000;

    /// <summary>Makes amendments, all or none.</summary>
    /// <param name="job">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="wishes">The amendments.</param>
    /// <param name="template">What types properties have; null for none.</param>
    /// <param name="why">Why; may be empty.</param>
    /// <param name="by">Who.</param>
    /// <param name="ask">Whether those that the person may not make are asked for instead of refused.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>How many were made, and how many asked for.</returns>
    /// <exception cref="RefusedException">One is wrong, may not be made, or somebody else said something about the same since.</exception>
    public async Task<(int Made, int Asked)> SaveAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<AmendmentWish> wishes,
        TemplateDocument? template,
        string? why,
        Actor by,
        bool ask,
        CancellationToken cancel
    )
    {
        if (wishes.Count is 0 or > Most)
            throw new RefusedException(
                RefusalKind.Wrong,
                wishes.Count == 0 ? "Nothing was changed." : $"At most {Most} changes can be saved at once."
            );
        string reason = InputRules.Of(why, "The reason", LongestReason, false);
        var sources = await SourcesAsync(job, wishes.Select(w => w.Source), cancel);
        var sound = wishes.Select(w => w with { Amendment = Typed(w.Amendment, template) }).ToList();
        Check(sound, template);
        await CheckElementsAsync(sound, cancel);
        var author = await AuthorAsync(job, by, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockAsync(sources.Keys, cancel);
        var batch = Guid.NewGuid();
        var now = DateTime.UtcNow;
        var added = new List<AmendmentRow>();
        int made = 0,
            asked = 0;
        foreach (var group in sound.GroupBy(w => w.Source))
        {
            var source = sources[group.Key];
            var protection = SourceProtection.Read(source.Protection);
            var subjects = group.Select(w => w.Amendment.Subject).ToList();
            var known = await db
                .Amendments.Where(a =>
                    a.SourceId == source.Id
                    && subjects.Contains(a.Subject)
                    && a.Step >= AmendmentStep.Holds
                    && a.Step <= AmendmentStep.Refused
                )
                .ToDictionaryAsync(a => a.Subject, cancel);
            // What the file says now: whether a next revision says otherwise is judged by it.
            var says = await new StoredStatements(db).OfAsync(
                source.Id,
                [.. group.Select(w => w.Amendment).Where(a => !known.ContainsKey(a.Subject))],
                cancel
            );
            foreach (var wish in group)
            {
                bool may = who.MayAmend(source.PartyId, protection, wish.Amendment.Kind.Reach());
                if (!may && !(ask && who.MayAskForAmendments))
                    throw Forbidden(source, protection, wish.Amendment);
                known.TryGetValue(wish.Amendment.Subject, out var before);
                if (before?.Id != wish.Over)
                    throw await ConflictAsync(wish.Amendment, before, cancel);
                if (may && before is not null)
                    (before.Step, before.EndedBy, before.EndedAt) = (AmendmentStep.Replaced, by.User, now);
                var was = says.GetValueOrDefault(wish.Amendment.Subject) ?? wish.Amendment.Was;
                added.Add(Row(source, wish.Amendment with { Was = was }, before, may, batch, author, reason, by, now));
                if (may)
                    made++;
                else
                    asked++;
            }

            if (group.Any(w => who.MayAmend(source.PartyId, protection, w.Amendment.Kind.Reach())))
                Count(source, now);
            db.Note(
                by,
                job,
                asked > 0 ? "asked for amendments of" : "amended",
                $"{source.Party.Code} {source.Name}: {string.Join(", ", group.Take(5).Select(w => w.Amendment.About).Distinct())}, {group.Count()} in all"
            );
            if (asked > 0)
                await MailAsync(job, source, $"{asked} amendments are asked for", reason, cancel);
        }

        // Of two about the same one is in force: the one before has to end first.
        await db.SaveChangesAsync(cancel);
        db.Amendments.AddRange(added);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        if (made > 0)
            await again.BeginAsync(cancel);
        return (made, asked);
    }

    /// <summary>Withdraws amendments: the file's own words hold again.</summary>
    /// <exception cref="RefusedException">One is not in force, or the person may not amend its source.</exception>
    public Task WithdrawAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        CancellationToken cancel
    ) =>
        ChangeAsync(
            job,
            who,
            ids,
            by,
            "withdrew amendments of",
            a => a.IsInForce,
            (a, now) => (a.Step, a.EndedBy, a.EndedAt) = (AmendmentStep.Withdrawn, by.User, now),
            cancel
        );

    /// <summary>Takes what the sender's file says in place of amendments that contradict it.</summary>
    /// <exception cref="RefusedException">One does not wait for a decision, or the person may not amend its source.</exception>
    public Task TakeTheirsAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        CancellationToken cancel
    ) =>
        ChangeAsync(
            job,
            who,
            ids,
            by,
            "took the sender's values for",
            a => a.Step is AmendmentStep.Contradicts or AmendmentStep.Gone or AmendmentStep.Refused,
            (a, now) => (a.Step, a.EndedBy, a.EndedAt) = (AmendmentStep.TheirsTaken, by.User, now),
            cancel
        );

    /// <summary>Keeps amendments that contradict the sender's file: they hold over what it says now.</summary>
    /// <exception cref="RefusedException">One does not wait for a decision, or the person may not amend its source.</exception>
    public Task KeepOursAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        CancellationToken cancel
    ) =>
        ChangeAsync(
            job,
            who,
            ids,
            by,
            "chose amendments over the file of",
            a => a.Step == AmendmentStep.Contradicts,
            (a, _) =>
            {
                a.Spec = SourceAmendments.Write(SourceAmendments.Read(a) with { Was = SourceAmendments.FileOf(a) });
                a.Step = AmendmentStep.Holds;
            },
            cancel
        );

    private async Task ChangeAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        Actor by,
        string did,
        Func<AmendmentRow, bool> may,
        Action<AmendmentRow, DateTime> change,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var rows = await LoadAsync(job, ids, cancel);
        await LockAsync(rows.Select(r => r.SourceId), cancel);
        if (rows.Find(r => !may(r)) is not null)
            throw new RefusedException(
                RefusalKind.Conflict,
                "An amendment is in another state by now; look at the list again."
            );
        foreach (var row in rows)
        {
            var amendment = SourceAmendments.Read(row);
            var protection = SourceProtection.Read(row.Source.Protection);
            if (
                !who.MayAmend(row.Source.PartyId, protection, amendment.Kind.Reach())
                && !(row.MadeBy == by.User && who.MayAskForAmendments)
            )
                throw Forbidden(row.Source, protection, amendment);
        }

        var now = DateTime.UtcNow;
        rows.ForEach(r => change(r, now));
        foreach (var source in rows.Select(r => r.Source).Distinct())
        {
            Count(source, now);
            db.Note(
                by,
                job,
                did,
                $"{source.Party.Code} {source.Name}, {rows.Count(r => r.SourceId == source.Id)} in all"
            );
        }

        await db.SaveChangesAsync(cancel);
        await new TopicCauses(db).LookAsync(job, "a decision about an amendment", cancel);
        await transaction.CommitAsync(cancel);
        await again.BeginAsync(cancel);
    }

    private async Task<List<AmendmentRow>> LoadAsync(Guid job, IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        var rows = await db
            .Amendments.Include(a => a.Source)
                .ThenInclude(s => s.Party)
            .Where(a => ids.Contains(a.Id) && a.Source.JobId == job)
            .ToListAsync(cancel);
        return rows.Count == ids.Distinct().Count() && rows.Count > 0
            ? rows
            : throw new RefusedException(RefusalKind.Unknown, "The job has no such amendment.");
    }

    private async Task<Dictionary<Guid, Source>> SourcesAsync(Guid job, IEnumerable<Guid> ids, CancellationToken cancel)
    {
        Guid[] wanted = [.. ids.Distinct()];
        var sources = await db
            .Sources.Include(s => s.Party)
            .Where(s => s.JobId == job && wanted.Contains(s.Id))
            .ToDictionaryAsync(s => s.Id, cancel);
        return sources.Count == wanted.Length
            ? sources
            : throw new RefusedException(RefusalKind.Unknown, "The job has no such source.");
    }

    // One at a time for a source; in one order, so that two people never wait for one another.
    private Task LockAsync(IEnumerable<Guid> sources, CancellationToken cancel)
    {
        Guid[] ids = [.. sources.Distinct()];
        return db.Database.ExecuteSqlAsync(
            $"SELECT 1 FROM sources WHERE id = ANY({ids}) ORDER BY id FOR NO KEY UPDATE",
            cancel
        );
    }

    private static void Count(Source source, DateTime now)
    {
        source.Amendments++;
        source.AmendedAt = now;
    }

    private static Amendment Typed(Amendment amendment, TemplateDocument? template) =>
        amendment.Kind == AmendmentKind.Property
        && template?.Find(amendment.Set ?? "", amendment.Name ?? "") is { } known
            ? amendment with
            {
                Type = amendment.Type ?? known.Type,
                Form = amendment.Form ?? known.Form,
                Unit = amendment.Unit ?? (known.Unit.Length > 0 ? known.Unit : null),
                NotForExchange = known.NotForExchange ? true : null,
            }
            : amendment;

    private static void Check(List<AmendmentWish> wishes, TemplateDocument? template)
    {
        var problems = new List<string>();
        foreach (var wish in wishes)
            if (ProblemOf(wish.Amendment, template) is { } problem)
                problems.Add($"{wish.Amendment.About} of {wish.Amendment.Element}: {problem}");
        if (
            wishes.CountBy(w => (w.Source, w.Amendment.Subject)).FirstOrDefault(c => c.Value > 1).Key.Subject is
            { } twice
        )
            problems.Add($"{twice.Replace('\t', ' ')} is there twice.");
        if (problems.Count > 0)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"Nothing was saved. {string.Join(" ", problems.Take(3))}{(problems.Count > 3 ? $" And {problems.Count - 3} more." : "")}"
            );
    }

    /// <summary>What is wrong with an amendment on its own and by a template, a sentence; null when nothing is.</summary>
    public static string? ProblemOf(Amendment amendment, TemplateDocument? template)
    {
        if (amendment.Problem() is { } problem)
            return problem;
        if (amendment.Kind != AmendmentKind.Property)
            return null;
        try
        {
            var known = template?.Find(amendment.Set!, amendment.Name!);
            if (known is not null)
                known.Read(amendment.Value!);
            else
                TypedValue.Read(
                    amendment.Value!,
                    PropertyForms.Find(amendment.Form ?? "") ?? PropertyForm.Single,
                    PropertyTypes.Find(amendment.Type ?? "") ?? TypedValue.TypeOf(amendment.Value!)
                );
            return null;
        }
        catch (FormatException e)
        {
            return e.Message;
        }
    }

    private async Task CheckElementsAsync(List<AmendmentWish> wishes, CancellationToken cancel)
    {
        foreach (var group in wishes.Where(w => w.Amendment.Kind != AmendmentKind.Model).GroupBy(w => w.Source))
        {
            string[] ids = [.. group.Select(w => w.Amendment.Element).Distinct()];
            var there = await db
                .Elements.Where(e =>
                    ids.Contains(e.GlobalId)
                    && db.Revisions.Any(r =>
                        r.Id == e.RevisionId
                        && r.SourceId == group.Key
                        && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
                    )
                )
                .Select(e => e.GlobalId)
                .Distinct()
                .ToListAsync(cancel);
            if (ids.Except(there).FirstOrDefault() is { } missing)
                throw new RefusedException(
                    RefusalKind.Wrong,
                    $"Nothing was saved. The newest revision has no element {missing}; load the page again."
                );
        }
    }

    private async Task<(string Name, string Party)> AuthorAsync(Guid job, Actor by, CancellationToken cancel)
    {
        string name = await db.Users.Where(u => u.Id == by.User).Select(u => u.DisplayName).FirstOrDefaultAsync(cancel)
            ?? "";
        string party = await db
            .Memberships.Where(m => m.JobId == job && m.UserId == by.User && m.PartyId != null)
            .Join(db.Parties, m => m.PartyId, p => p.Id, (_, p) => p.Code)
            .FirstOrDefaultAsync(cancel)
            ?? "";
        return (name, party);
    }

    private static AmendmentRow Row(
        Source source,
        Amendment amendment,
        AmendmentRow? before,
        bool may,
        Guid batch,
        (string Name, string Party) author,
        string reason,
        Actor by,
        DateTime now
    )
    {
        var said = amendment with
        {
            // What the file itself said stays known through all that is said over it.
            Was = before is null ? amendment.Was : SourceAmendments.Read(before).Was,
            By = author.Name,
            Party = author.Party.Length > 0 ? author.Party : null,
            At = now,
            Why = reason.Length > 0 ? reason : null,
            Batch = batch.ToString(),
        };
        return new AmendmentRow
        {
            Id = Guid.NewGuid(),
            SourceId = source.Id,
            Element = said.Element,
            Subject = said.Subject,
            Spec = SourceAmendments.Write(said),
            Step = may ? AmendmentStep.Holds : AmendmentStep.Requested,
            File = before?.File,
            MadeBy = by.User,
            MadeAt = now,
            Batch = batch,
        };
    }

    private async Task<RefusedException> ConflictAsync(Amendment wanted, AmendmentRow? now, CancellationToken cancel)
    {
        if (now is null)
            return new RefusedException(
                RefusalKind.Conflict,
                $"Nothing was saved. Somebody withdrew what was said about {wanted.About} of {wanted.Element} meanwhile; load the page again."
            );
        string name = await db
            .Users.Where(u => u.Id == now.MadeBy)
            .Select(u => u.DisplayName)
            .FirstOrDefaultAsync(cancel)
            ?? "Somebody";
        return new RefusedException(
            RefusalKind.Conflict,
            $"Nothing was saved. {name} has set {wanted.About} of {wanted.Element} to '{SourceAmendments.Read(now).Value}' meanwhile; load the page again and repeat your change."
        );
    }

    private static RefusedException Forbidden(Source source, SourceProtection protection, Amendment amendment)
    {
        string Label(string word) => AmendmentKinds.Reaches.FirstOrDefault(r => r.Word == word)?.Label ?? word;
        return new RefusedException(
            RefusalKind.Forbidden,
            $"{source.Party.Code} {source.Name} lets coordinators amend {Label(protection.Coordinator)}, its own party {Label(protection.Party)}, and other parties {Label(protection.Others)}; {amendment.About} is beyond that. You can ask {source.Party.Code} for it."
        );
    }
}
