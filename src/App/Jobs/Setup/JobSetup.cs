using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Makes jobs and changes them: names, parties, sources; puts them away, brings them back, deletes them.</summary>
/// <param name="db">The database.</param>
public sealed class JobSetup(LintelDb db)
{
    private const int LongestCode = 12,
        LongestName = 120,
        LongestText = 400;

    /// <summary>Makes a job, whose maker is its coordinator.</summary>
    /// <param name="code">Its code, unique on the site.</param>
    /// <param name="name">Its name.</param>
    /// <param name="description">A line about it.</param>
    /// <param name="like">A job whose parties, sources and orders are taken over; null for none. The maker coordinates it.</param>
    /// <param name="by">Who makes it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The code is taken, a word is wrong, or the person may not.</exception>
    public async Task<Job> MakeAsync(
        string? code,
        string? name,
        string? description,
        Guid? like,
        Actor by,
        CancellationToken cancel
    )
    {
        if (!await MayMakeAsync(by.User, cancel))
            throw new RefusedException(RefusalKind.Forbidden, "Only administrators and coordinators make jobs.");
        var job = new Job
        {
            Id = Guid.NewGuid(),
            Code = InputRules.Code(code, "The code", LongestCode),
            Name = InputRules.Of(name, "The name", LongestName),
            Description = InputRules.Of(description, "The description", LongestText, false),
        };
        if (await db.Jobs.AnyAsync(j => j.Code == job.Code, cancel))
            throw new RefusedException(RefusalKind.Conflict, $"There is a job {job.Code} already; take another code.");
        db.Jobs.Add(job);
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Id,
                UserId = by.User,
                Role = MemberRole.Coordinator,
            }
        );
        if (like is { } from)
            await CopyAsync(from, job, by, cancel);
        db.Note(by, job.Id, "made the job", $"{job.Code} {job.Name}");
        await db.SaveChangesAsync(cancel);
        return job;
    }

    /// <summary>Whether a person may make jobs: administrators, and whoever coordinates one.</summary>
    public Task<bool> MayMakeAsync(Guid user, CancellationToken cancel) =>
        db.Users.AnyAsync(
            u =>
                u.Id == user
                && (u.IsAdministrator || db.Memberships.Any(m => m.UserId == user && m.Role == MemberRole.Coordinator)),
            cancel
        );

    /// <summary>Renames a job and says what is shared in it.</summary>
    public async Task ChangeAsync(
        Guid id,
        string? name,
        string? description,
        bool sharesOriginals,
        Actor by,
        CancellationToken cancel
    )
    {
        var job = await db.Jobs.FirstAsync(j => j.Id == id, cancel);
        (string oldName, bool shared) = (job.Name, job.SharesOriginals);
        job.Name = InputRules.Of(name, "The name", LongestName);
        job.Description = InputRules.Of(description, "The description", LongestText, false);
        job.SharesOriginals = sharesOriginals;
        db.Note(by, id, "changed the job", oldName == job.Name ? job.Name : $"{oldName} → {job.Name}");
        if (shared != sharesOriginals)
            db.Note(
                by,
                id,
                sharesOriginals ? "opened the originals to all contributors" : "closed the originals to other parties",
                job.Name
            );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Sets the smallest part of an inch that lengths are shown in.</summary>
    /// <exception cref="RefusedException">It is not among those offered.</exception>
    public async Task InchesAsync(Guid id, int parts, Actor by, CancellationToken cancel)
    {
        if (!JobSettings.InchPartsOffered.Contains(parts))
            throw new RefusedException(RefusalKind.Wrong, "Choose a part of an inch from the list.");
        var job = await db.Jobs.FirstAsync(j => j.Id == id, cancel);
        job.Settings = (JobSettings.Read(job.Settings) with { InchParts = parts }).Write();
        db.Note(by, id, "changed how inches are shown", $"1/{parts}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Puts a job away, or brings it back.</summary>
    public async Task ArchiveAsync(Guid id, bool away, Actor by, CancellationToken cancel)
    {
        var job = await db.Jobs.FirstAsync(j => j.Id == id, cancel);
        job.ArchivedAt = away ? DateTime.UtcNow : null;
        db.Note(by, id, away ? "archived the job" : "restored the job", job.Name);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Deletes a job with everything that belongs to it.</summary>
    /// <param name="id">The job.</param>
    /// <param name="typed">Its code, typed by the person.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The code is not the job's, or work is under way.</exception>
    public async Task DeleteAsync(Guid id, string? typed, Actor by, CancellationToken cancel)
    {
        var job = await db.Jobs.AsNoTracking().FirstAsync(j => j.Id == id, cancel);
        if (!string.Equals(typed?.Trim(), job.Code, StringComparison.OrdinalIgnoreCase))
            throw new RefusedException(
                RefusalKind.Wrong,
                $"Type {job.Code} to delete the job; '{typed}' is another word."
            );
        var read = db.Deliveries.Where(d => d.State > DeliveryState.Receiving && d.State < DeliveryState.Ready);
        if (
            await read.AnyAsync(d => d.Source.JobId == id, cancel)
            || await db.Transmittals.AnyAsync(t => t.Order.JobId == id && t.State < TransmittalState.Done, cancel)
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                "Work is under way in this job; wait for it or cancel it first."
            );
        var blobs = await db
            .Deliveries.Where(d => d.Source.JobId == id)
            .Select(d => d.BlobId)
            .Concat(
                db.TransmittalFiles.Where(f => db.Transmittals.Any(t => t.Id == f.TransmittalId && t.Order.JobId == id))
                    .Select(f => f.BlobId)
            )
            .Concat(db.TopicParts.Where(p => p.JobId == id).Select(p => p.BlobId))
            .Concat(db.TopicImports.Where(i => i.JobId == id).Select(i => i.BlobId))
            .ToListAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync(
            $"""
            DELETE FROM pieces WHERE blob_id IN (SELECT d.blob_id FROM deliveries d
              JOIN sources s ON s.id = d.source_id WHERE s.job_id = {id}
              UNION SELECT f.blob_id FROM transmittal_files f JOIN transmittals t ON t.id = f.transmittal_id
              JOIN orders o ON o.id = t.order_id WHERE o.job_id = {id}
              UNION SELECT blob_id FROM topic_parts WHERE job_id = {id}
              UNION SELECT blob_id FROM topic_imports WHERE job_id = {id});
            DELETE FROM transmittals WHERE order_id IN (SELECT id FROM orders WHERE job_id = {id});
            DELETE FROM orders WHERE job_id = {id};
            DELETE FROM deliveries WHERE source_id IN (SELECT id FROM sources WHERE job_id = {id});
            DELETE FROM sources WHERE job_id = {id};
            DELETE FROM invitations WHERE job_id = {id};
            DELETE FROM memberships WHERE job_id = {id};
            DELETE FROM parties WHERE job_id = {id};
            DELETE FROM jobs WHERE id = {id};
            DELETE FROM chunk_contents c WHERE NOT EXISTS (SELECT 1 FROM chunks k WHERE k.hash = c.hash);
            """,
            cancel
        );
        db.Note(by, id, "deleted the job", $"{job.Code} {job.Name}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        // What is in a folder takes no part in the transaction; what is left there if this ends now is swept later.
        if (db.Folder is { } folder)
            blobs.ForEach(folder.Delete);
    }

    /// <summary>Adds a party, or changes one.</summary>
    public async Task PartyAsync(Guid job, Guid? id, Party wanted, Actor by, CancellationToken cancel)
    {
        var party = id is null
            ? new Party { Id = Guid.NewGuid(), JobId = job }
            : await db.Parties.FirstOrDefaultAsync(p => p.Id == id && p.JobId == job, cancel)
                ?? throw new RefusedException(RefusalKind.Unknown, "There is no such party in this job.");
        party.Code = InputRules.Code(wanted.Code, "The party's code", LongestCode);
        party.Name = InputRules.Of(wanted.Name, "The party's name", LongestName, false);
        party.Discipline = InputRules.Of(wanted.Discipline, "The discipline", LongestName);
        party.Contact = InputRules.Of(wanted.Contact, "The contact", LongestText, false);
        party.Colour = PartyColours.Checked(wanted.Colour);
        if (await db.Parties.AnyAsync(p => p.JobId == job && p.Code == party.Code && p.Id != party.Id, cancel))
            throw new RefusedException(
                RefusalKind.Conflict,
                $"There is a party {party.Code} in this job already; take another code."
            );
        if (id is null)
            db.Parties.Add(party);
        db.Note(by, job, id is null ? "added the party" : "changed the party", $"{party.Code} {party.Discipline}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Removes a party that nothing depends on.</summary>
    /// <exception cref="RefusedException">It has sources or people.</exception>
    public async Task RemovePartyAsync(Guid job, Guid id, Actor by, CancellationToken cancel)
    {
        var party = await db.Parties.FirstOrDefaultAsync(p => p.Id == id && p.JobId == job, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such party in this job.");
        if (await db.Sources.AnyAsync(s => s.PartyId == id, cancel))
            throw new RefusedException(
                RefusalKind.Conflict,
                $"{party.Code} has sources; move them to another party first."
            );
        if (
            await db.Memberships.AnyAsync(m => m.PartyId == id, cancel)
            || await db.Invitations.AnyAsync(i => i.PartyId == id && i.EndedAt == null, cancel)
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                $"People belong to {party.Code}, or are invited for it; give them another party first."
            );
        db.Parties.Remove(party);
        db.Note(by, job, "removed the party", $"{party.Code} {party.Discipline}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Adds a source, or changes one: name, party, what is expected and by when.</summary>
    public async Task SourceAsync(Guid job, Guid? id, Source wanted, Actor by, CancellationToken cancel)
    {
        var source = id is null
            ? new Source { Id = Guid.NewGuid(), JobId = job }
            : await SourceAsync(job, id.Value, cancel);
        if (!await db.Parties.AnyAsync(p => p.Id == wanted.PartyId && p.JobId == job, cancel))
            throw new RefusedException(RefusalKind.Wrong, "Choose a party of this job.");
        source.PartyId = wanted.PartyId;
        source.Name = InputRules.Of(wanted.Name, "The source's name", Receiving.LongestName);
        source.Kind = wanted.Kind;
        source.Expected = InputRules.Of(wanted.Expected, "What is expected", LongestText, false);
        source.Due = wanted.Due;
        if (
            await db.Sources.AnyAsync(
                s => s.PartyId == source.PartyId && s.Name == source.Name && s.Id != source.Id,
                cancel
            )
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                $"The party has a source '{source.Name}' already; take another name."
            );
        if (id is null)
            db.Sources.Add(source);
        db.Note(by, job, id is null ? "added the source" : "changed the source", source.Name);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Takes a source out of use, or back into it; its deliveries stay.</summary>
    public async Task RetireAsync(Guid job, Guid id, bool retired, Actor by, CancellationToken cancel)
    {
        var source = await SourceAsync(job, id, cancel);
        source.RetiredAt = retired ? DateTime.UtcNow : null;
        db.Note(by, job, retired ? "retired the source" : "took the source back into use", source.Name);
        await db.SaveChangesAsync(cancel);
    }

    private async Task<Source> SourceAsync(Guid job, Guid id, CancellationToken cancel) =>
        await db.Sources.FirstOrDefaultAsync(s => s.Id == id && s.JobId == job, cancel)
        ?? throw new RefusedException(RefusalKind.Unknown, "There is no such source in this job.");

    // Parties, sources and orders of another job, with new identities; deliveries, people and transmittals stay there.
    private async Task CopyAsync(Guid from, Job job, Actor by, CancellationToken cancel)
    {
        if (
            !await db.Memberships.AnyAsync(
                m => m.JobId == from && m.UserId == by.User && m.Role == MemberRole.Coordinator,
                cancel
            )
        )
            throw new RefusedException(RefusalKind.Forbidden, "Only its coordinators may copy a job.");
        var parties = await db.Parties.AsNoTracking().Where(p => p.JobId == from).ToListAsync(cancel);
        var newParties = parties.ToDictionary(p => p.Id, _ => Guid.NewGuid());
        var sources = await db
            .Sources.AsNoTracking()
            .Where(s => s.JobId == from && s.RetiredAt == null)
            .ToListAsync(cancel);
        var newSources = sources.ToDictionary(s => s.Id, _ => Guid.NewGuid());
        db.Parties.AddRange(
            parties.Select(p => new Party
            {
                Id = newParties[p.Id],
                JobId = job.Id,
                Code = p.Code,
                Name = p.Name,
                Discipline = p.Discipline,
                Colour = p.Colour,
                Contact = p.Contact,
            })
        );
        db.Sources.AddRange(
            sources.Select(s => new Source
            {
                Id = newSources[s.Id],
                JobId = job.Id,
                PartyId = newParties[s.PartyId],
                Name = s.Name,
                Kind = s.Kind,
                Expected = s.Expected,
            })
        );
        foreach (var order in await db.Orders.AsNoTracking().Where(o => o.JobId == from).ToListAsync(cancel))
        {
            var document = StoredOrder.Read(order.Spec).Document;
            document = document with
            {
                Sources =
                [
                    .. document.Sources.Select(s =>
                        Guid.TryParse(s, out var id) && newSources.TryGetValue(id, out var copy) ? copy.ToString() : s
                    ),
                ],
            };
            db.Orders.Add(
                new OrderRow
                {
                    Id = Guid.NewGuid(),
                    JobId = job.Id,
                    Number = order.Number,
                    Title = order.Title,
                    Spec = document.Write(),
                    SavedAt = DateTime.UtcNow,
                    SavedBy = by.User,
                }
            );
        }
    }
}
