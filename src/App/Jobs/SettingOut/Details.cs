using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What lists show of a detail.</summary>
/// <param name="MetresPerUnit">How long its unit is.</param>
/// <param name="Width">Metres.</param>
/// <param name="Height">Metres.</param>
/// <param name="From">The drawing it was kept from, with its revision.</param>
public sealed record DetailFacts(double MetresPerUnit, double Width, double Height, string From);

/// <summary>A detail of the library, without its content.</summary>
public sealed record KeptDetail(Guid Id, string Name, int Version, DetailFacts Facts, DateTime MadeAt, string By);

/// <summary>A job's library of details: parts of drawings under names, the newest version of each.</summary>
/// <param name="db">The database.</param>
public sealed class Details(LintelDb db)
{
    /// <summary>The longest name.</summary>
    public const int LongestName = 80;

    private const int MostBytes = 16 << 20,
        Most = 1000;

    /// <summary>The details of a job, by name.</summary>
    public async Task<IReadOnlyList<KeptDetail>> ListAsync(Guid job, CancellationToken cancel)
    {
        var rows = await Newest(job)
            .OrderBy(i => i.Name)
            .GroupJoin(db.Users, i => i.MadeBy, u => u.Id, (i, u) => new { Item = i, Users = u })
            .SelectMany(
                x => x.Users.DefaultIfEmpty(),
                (x, u) =>
                    new
                    {
                        x.Item.Id,
                        x.Item.Name,
                        x.Item.Version,
                        x.Item.Facts,
                        x.Item.MadeAt,
                        By = u == null ? "" : u.DisplayName,
                    }
            )
            .ToListAsync(cancel);
        return rows.ConvertAll(r => new KeptDetail(r.Id, r.Name, r.Version, Facts(r.Facts), r.MadeAt, r.By));
    }

    /// <summary>Keeps a detail; under a name that is there it becomes the next version.</summary>
    /// <returns>The version.</returns>
    /// <exception cref="RefusedException">The name is missing or too long, or the detail too large.</exception>
    public async Task<int> KeepAsync(
        Guid job,
        string? name,
        byte[] content,
        DetailFacts facts,
        Actor by,
        CancellationToken cancel
    )
    {
        string word = InputRules.Of(name, "The detail's name", LongestName);
        if (content.Length > MostBytes)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"The detail has {content.Length >> 20} MB; {MostBytes >> 20} are the most. Draw a smaller window."
            );
        var versions = await db
            .Library.Where(i => i.JobId == job && i.Kind == LibraryKind.Detail)
            .Select(i => new { i.Name, i.Version })
            .ToListAsync(cancel);
        if (versions.Count >= Most)
            throw new RefusedException(
                RefusalKind.Conflict,
                $"The library has {Most} versions of details; remove some that nobody needs."
            );
        int version = versions.Where(v => v.Name == word).Select(v => v.Version).DefaultIfEmpty(0).Max() + 1;
        db.Library.Add(
            new LibraryItem
            {
                Id = Guid.NewGuid(),
                JobId = job,
                Kind = LibraryKind.Detail,
                Name = word,
                Version = version,
                Content = content,
                Facts = JsonSerializer.Serialize(facts, JsonSerializerOptions.Web),
                MadeAt = DateTime.UtcNow,
                MadeBy = by.User,
            }
        );
        db.Note(by, job, "saved the detail", $"{word} v{version} from {facts.From}");
        await db.SaveChangesAsync(cancel);
        return version;
    }

    /// <summary>Removes a detail with all its versions; drawings that place it say so.</summary>
    /// <exception cref="RefusedException">It is not there.</exception>
    public async Task RemoveAsync(Guid job, string? name, Actor by, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        int gone = await db
            .Library.Where(i => i.JobId == job && i.Kind == LibraryKind.Detail && i.Name == name)
            .ExecuteDeleteAsync(cancel);
        if (gone == 0)
            throw new RefusedException(RefusalKind.Conflict, "This detail is not in the library any more.");
        db.Note(by, job, "removed the detail", name ?? "");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>The content of a detail; null where the job has none of this identity.</summary>
    public async Task<byte[]?> ContentAsync(Guid job, Guid id, CancellationToken cancel) =>
        await db
            .Library.AsNoTracking()
            .Where(i => i.Id == id && i.JobId == job && i.Kind == LibraryKind.Detail)
            .Select(i => i.Content)
            .FirstOrDefaultAsync(cancel);

    /// <summary>What a drawing's steps are, with the details that they place.</summary>
    public async Task<PreparationDocument> WithAsync(Guid job, PreparationDocument steps, CancellationToken cancel)
    {
        var names = steps.DetailNames.ToList();
        if (names.Count == 0)
            return steps;
        var found = await Newest(job)
            .Where(i => names.Contains(i.Name))
            .Select(i => new { i.Name, i.Content })
            .ToListAsync(cancel);
        return steps with { Details = found.ToDictionary(f => f.Name, f => f.Content) };
    }

    private IQueryable<LibraryItem> Newest(Guid job) => db.NewestItems(job).Where(i => i.Kind == LibraryKind.Detail);

    private static DetailFacts Facts(string json) =>
        JsonSerializer.Deserialize<DetailFacts>(json, JsonSerializerOptions.Web)!;
}
