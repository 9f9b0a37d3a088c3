using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Files;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>The other files of topics: pictures, documents, what no standard names.</summary>
/// <param name="db">The database.</param>
internal sealed class TopicParts(LintelDb db)
{
    /// <summary>Makes what a job keeps equal to a topic's parts; what is the same is not written again.</summary>
    /// <param name="job">The job.</param>
    /// <param name="topic">The topic; null for the files of all topics together.</param>
    /// <param name="parts">What it has.</param>
    /// <param name="known">What the job keeps of it; null where that is not known yet.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Contents that are no longer used; they are deleted once this is saved.</returns>
    public async Task<IReadOnlyList<Guid>> ReplaceAsync(
        Guid job,
        Guid? topic,
        IReadOnlyList<TopicPart> parts,
        IReadOnlyList<TopicPartRow>? known,
        CancellationToken cancel
    )
    {
        known ??= await db.TopicParts.Where(p => p.JobId == job && p.TopicId == topic).ToListAsync(cancel);
        var byName = known.ToLookup(p => p.Name, StringComparer.Ordinal);
        var used = new HashSet<Guid>();
        foreach (var part in parts)
        {
            // A part that comes from here is where it was.
            if (
                part.CopyTo.Target is StoredPart stored
                && byName[part.Name].FirstOrDefault(k => k.BlobId == stored.Blob) is { } there
            )
            {
                used.Add(there.Id);
                continue;
            }

            var (blob, length, sha) = await PutAsync(part, cancel);
            if (byName[part.Name].FirstOrDefault(k => k.Sha256 == sha && !used.Contains(k.Id)) is { } same)
            {
                used.Add(same.Id);
                await db.Blobs.DeleteAsync(blob, cancel);
                continue;
            }

            Add(job, topic, part.Name, blob, length, sha);
        }

        var gone = known.Where(k => !used.Contains(k.Id)).ToList();
        db.TopicParts.RemoveRange(gone);
        return [.. gone.Select(g => g.BlobId)];
    }

    /// <summary>Adds a file of all topics together.</summary>
    public async Task AddAsync(Guid job, TopicPart part, CancellationToken cancel)
    {
        var (blob, length, sha) = await PutAsync(part, cancel);
        Add(job, null, part.Name, blob, length, sha);
    }

    /// <summary>The bytes of those parts of a topic that are not kept yet.</summary>
    public static long NewBytes(Topic topic) =>
        topic.Parts.Where(p => p.CopyTo.Target is not StoredPart).Sum(p => p.Length);

    /// <summary>The parts of rows, with contents that are read when they are asked for.</summary>
    public IReadOnlyList<TopicPart> Of(IEnumerable<TopicPartRow> rows) =>
        [
            .. rows.OrderBy(r => r.Name, StringComparer.Ordinal)
                .Select(r =>
                {
                    var stored = new StoredPart(db, r.BlobId);
                    return new TopicPart(r.Name, r.Length, stored.CopyTo, stored.Head);
                }),
        ];

    private void Add(Guid job, Guid? topic, string name, Guid blob, long length, string sha) =>
        db.TopicParts.Add(
            new TopicPartRow
            {
                Id = Guid.NewGuid(),
                JobId = job,
                TopicId = topic,
                Name = name,
                Length = length,
                Sha256 = sha,
                BlobId = blob,
            }
        );

    private async Task<(Guid Blob, long Length, string Sha)> PutAsync(TopicPart part, CancellationToken cancel)
    {
        var blob = Guid.NewGuid();
        await using var file = TemporaryFile.Open();
        part.CopyTo(file, cancel);
        file.Position = 0;
        string sha = Convert.ToHexStringLower(await SHA256.HashDataAsync(file, cancel));
        file.Position = 0;
        await StorageQuota.KeepAsync(() => db.Blobs.PutAllAsync(blob, file, cancel));
        return (blob, file.Length, sha);
    }

    // The content of a part, read from where it is kept.
    private sealed class StoredPart(LintelDb db, Guid blob)
    {
        public Guid Blob => blob;

        public void CopyTo(Stream target, CancellationToken cancel) =>
            db.Blobs.CopyToAsync(Blob, target, cancel).GetAwaiter().GetResult();

        public byte[] Head() => db.Blobs.HeadAsync(Blob, 8).GetAwaiter().GetResult();
    }
}
