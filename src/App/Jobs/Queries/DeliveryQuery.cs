using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What the pages of the first stop ask of a job.</summary>
/// <param name="db">The database.</param>
public sealed class DeliveryQuery(LintelDb db)
{
    /// <summary>The newest deliveries.</summary>
    /// <param name="job">The job.</param>
    /// <param name="party">Those of one party; null for all.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="cancel">Stops it.</param>
    public Task<List<Delivery>> NewestAsync(Guid job, Guid? party, int most, CancellationToken cancel) =>
        db
            .Deliveries.AsNoTracking()
            .Where(d => d.Source.JobId == job && (party == null || d.Source.PartyId == party))
            .OrderByDescending(d => d.ReceivedAt)
            .Take(most)
            .Select(Revisions.Line)
            .ToListAsync(cancel);

    /// <summary>What a model says of itself; none where it was read before this was stored.</summary>
    public async Task<IReadOnlyList<ModelDatum>> ModelDataAsync(Guid revision, CancellationToken cancel)
    {
        string json = (
            await db
                .Database.SqlQuery<string>(
                    $"SELECT coalesce(report -> 'data', '[]')::text AS \"Value\" FROM revisions WHERE id = {revision}"
                )
                .ToListAsync(cancel)
        )[0];
        return JsonSerializer.Deserialize<List<ModelDatum>>(json, IntakeStore.Json) ?? [];
    }

    /// <summary>The sources in use with where each is.</summary>
    public Task<IReadOnlyList<SourceLine>> LinesAsync(Guid job, string? sort, CancellationToken cancel) =>
        SourceLine.ListAsync(db, job, sort, cancel);

    /// <summary>The sources that deliveries can be for, by name.</summary>
    public Task<List<Source>> SourcesAsync(Guid job, CancellationToken cancel) =>
        db
            .Sources.AsNoTracking()
            .Where(Revisions.IsSeen)
            .Where(s => s.JobId == job && s.RetiredAt == null)
            .OrderBy(s => s.Name)
            .ToListAsync(cancel);

    /// <summary>All sources with how many revisions each has, those in use first, by party and name.</summary>
    public async Task<IReadOnlyList<(Source Source, int Revisions)>> AllSourcesAsync(Guid job, CancellationToken cancel)
    {
        var rows = await db
            .Sources.AsNoTracking()
            .Include(s => s.Party)
            .Where(s => s.JobId == job)
            .OrderBy(s => s.RetiredAt != null)
            .ThenBy(s => s.Party.Code)
            .ThenBy(s => s.Name)
            .Select(s => new { Source = s, Revisions = s.Revisions.Count })
            .ToListAsync(cancel);
        return [.. rows.Select(r => (r.Source, r.Revisions))];
    }

    /// <summary>The party of a source; null where it is none of this job's.</summary>
    public Task<Guid?> PartyOfAsync(Guid job, Guid source, CancellationToken cancel) =>
        db
            .Sources.Where(s => s.Id == source && s.JobId == job)
            .Select(s => (Guid?)s.PartyId)
            .FirstOrDefaultAsync(cancel);

    /// <summary>The party and source that a file is likely for; null where nothing says.</summary>
    public Task<SourceSuggestion?> SuggestAsync(
        Guid job,
        IReadOnlyList<Party> parties,
        string fileName,
        string? project,
        Guid user,
        CancellationToken cancel
    ) => SourceSuggestion.OfAsync(db, job, parties, fileName, project, user, cancel);

    /// <summary>The SHA-256 of each piece of a delivery that is here.</summary>
    public Task<IReadOnlyList<string>> HeldAsync(Delivery delivery) => db.Blobs.HashesAsync(delivery.BlobId);

    /// <summary>Who decided about a delivery; empty where nobody had to.</summary>
    public async Task<string> DeciderAsync(Delivery delivery, CancellationToken cancel) =>
        delivery.DecidedBy is not { } by
            ? ""
            : await db.Users.Where(u => u.Id == by).Select(u => u.DisplayName).FirstOrDefaultAsync(cancel)
                ?? "somebody who left";

    /// <summary>The numbers of some elements of a revision, by GlobalId.</summary>
    public async Task<IReadOnlyDictionary<string, int>> NumbersAsync(
        Guid revision,
        IReadOnlyList<string> ids,
        CancellationToken cancel
    ) =>
        ids.Count == 0
            ? new Dictionary<string, int>()
            : (
                await db
                    .Elements.Where(e => e.RevisionId == revision && ids.Contains(e.GlobalId))
                    .Select(e => new { e.GlobalId, e.Number })
                    .ToListAsync(cancel)
            )
                .DistinctBy(e => e.GlobalId)
                .ToDictionary(e => e.GlobalId, e => e.Number);

    /// <summary>The content of a delivery's original; null where it is not here.</summary>
    /// <remarks>The same bytes are kept once: of a delivery that brought nothing new they are those of the revision it is the same
    /// as.</remarks>
    public async Task<Guid?> OriginalAsync(Delivery delivery, CancellationToken cancel)
    {
        var (held, _) = await db.Blobs.HeldAsync(delivery.BlobId, cancel);
        if (held == delivery.Length)
            return delivery.BlobId;
        return await db
            .Deliveries.Where(d =>
                d.SourceId == delivery.SourceId && d.Sha256 != null && d.Sha256 == delivery.Sha256 && d.Revision != null
            )
            .Select(d => (Guid?)d.BlobId)
            .FirstOrDefaultAsync(cancel);
    }

    /// <summary>Writes a content.</summary>
    public Task CopyToAsync(Guid blob, Stream target, CancellationToken cancel) =>
        db.Blobs.CopyToAsync(blob, target, cancel);

    /// <summary>Writes the originals of all newest revisions that may be seen, as one archive.</summary>
    public Task WriteNewestAsync(JobState state, Func<Guid, bool> maySee, Stream target, CancellationToken cancel) =>
        NewestOriginals.WriteAsync(db, state, maySee, target, cancel);
}
