using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Something a job keeps under a name, without its content.</summary>
/// <param name="Id">The newest version.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Name">Its name.</param>
/// <param name="Version">Its newest version.</param>
/// <param name="MadeAt">When that was kept.</param>
/// <param name="By">Who kept it.</param>
public sealed record KeptItem(Guid Id, LibraryKind Kind, string Name, int Version, DateTime MadeAt, string By);

/// <summary>What a job's orders can name: sets, views, and mapping tables, the newest version of each.</summary>
/// <param name="db">The database.</param>
public sealed class JobLibrary(LintelDb db)
{
    /// <summary>The longest name.</summary>
    public const int LongestName = 80;

    /// <summary>The largest content, bytes.</summary>
    public const int MostBytes = 16 << 20;

    private const int Most = 1000;

    /// <summary>What a job keeps, by kind and name; details of drawings are not among it.</summary>
    public async Task<IReadOnlyList<KeptItem>> ListAsync(Guid job, CancellationToken cancel)
    {
        var rows = await db.NewestItems(job)
            .Where(i => i.Kind != LibraryKind.Detail)
            .OrderBy(i => i.Kind)
            .ThenBy(i => i.Name)
            .Select(i => new
            {
                i.Id,
                i.Kind,
                i.Name,
                i.Version,
                i.MadeAt,
                By = db.Users.Where(u => u.Id == i.MadeBy).Select(u => u.DisplayName).FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return rows.ConvertAll(r => new KeptItem(r.Id, r.Kind, r.Name, r.Version, r.MadeAt, r.By ?? ""));
    }

    /// <summary>Keeps something; under a name that is there it becomes the next version.</summary>
    /// <param name="job">The job.</param>
    /// <param name="kind">What it is.</param>
    /// <param name="name">Its name.</param>
    /// <param name="content">The thing itself, in the form of its kind.</param>
    /// <param name="by">Who saves it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="from">The version that the content was made from; null where nobody knows, or where it does not matter.</param>
    /// <returns>The version.</returns>
    /// <exception cref="RefusedException">The name or the content is missing, too long, or cannot be read; or somebody saved another
    /// version since <paramref name="from"/>.</exception>
    public async Task<int> KeepAsync(
        Guid job,
        LibraryKind kind,
        string? name,
        byte[] content,
        Actor by,
        CancellationToken cancel,
        int? from = null
    )
    {
        string word = InputRules.Of(name, $"The {kind.Word()}'s name", LongestName);
        if (content.Length > MostBytes)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"The {kind.Word()} has {content.Length >> 20} MB; {MostBytes >> 20} are the most."
            );
        var kept = new OrderLibrary();
        try
        {
            // What cannot be read is not kept; a list that contradicts itself is refused row by row.
            Add(ref kept, kind, word, content);
        }
        catch (OrderException e)
        {
            throw new RefusedException(RefusalKind.Wrong, $"Nothing was saved. {e.Message}");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {job} FOR NO KEY UPDATE", cancel);
        var versions = await db
            .Library.Where(i => i.JobId == job && i.Kind == kind)
            .Select(i => new { i.Name, i.Version })
            .ToListAsync(cancel);
        if (versions.Count >= Most)
            throw new RefusedException(
                RefusalKind.Conflict,
                $"The library has {Most} versions of this kind; remove some that nobody needs."
            );
        int version = versions.Where(v => v.Name == word).Select(v => v.Version).DefaultIfEmpty(0).Max() + 1;
        if (from is { } old && old < version - 1)
            throw await NewerAsync(job, kind, word, old, cancel);
        db.Library.Add(
            new LibraryItem
            {
                Id = Guid.NewGuid(),
                JobId = job,
                Kind = kind,
                Name = word,
                Version = version,
                Content = content,
                MadeAt = DateTime.UtcNow,
                MadeBy = by.User,
            }
        );
        db.Note(by, job, $"saved the {kind.Word()}", $"{word} v{version}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return version;
    }

    private async Task<RefusedException> NewerAsync(
        Guid job,
        LibraryKind kind,
        string name,
        int from,
        CancellationToken cancel
    )
    {
        var newest = (await ListAsync(job, cancel)).First(i => i.Kind == kind && i.Name == name);
        return new RefusedException(
            RefusalKind.Conflict,
            $"Nothing was saved. The file was made from version {from} of {name}, and {newest.By} has saved version {newest.Version} since. "
                + "Download that version and make your changes there, or import the file again and choose to replace it."
        );
    }

    /// <summary>Removes something with all its versions.</summary>
    /// <exception cref="RefusedException">It is not there, or an order names it.</exception>
    public async Task RemoveAsync(Guid job, LibraryKind kind, string name, Actor by, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var orders = await db
            .Orders.AsNoTracking()
            .Where(o => o.JobId == job)
            .Select(o => new
            {
                o.Number,
                o.Title,
                o.Spec,
            })
            .ToListAsync(cancel);
        if (
            orders.FirstOrDefault(o =>
                LibraryKinds.NamedBy(StoredOrder.Read(o.Spec).Document).Contains((kind, name))
            ) is
            { } user
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                $"Order {user.Number} {user.Title} names the {kind.Word()} {name}; take it out of the order first."
            );
        int gone = await db
            .Library.Where(i => i.JobId == job && i.Kind == kind && i.Name == name)
            .ExecuteDeleteAsync(cancel);
        if (gone == 0)
            throw new RefusedException(RefusalKind.Conflict, $"This {kind.Word()} is not in the library any more.");
        db.Note(by, job, $"removed the {kind.Word()}", name);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>The content of one; null where the job has none of this name.</summary>
    public Task<byte[]?> ContentAsync(Guid job, LibraryKind kind, string name, CancellationToken cancel) =>
        db.NewestItems(job)
            .Where(i => i.Kind == kind && i.Name == name)
            .Select(i => i.Content)
            .FirstOrDefaultAsync(cancel);

    /// <summary>Loads what an order names: of tables no other is read. Sets and views may name one another, and come all where one is
    /// named; where a name is not there, all of its kind come, so that the nearest can be named.</summary>
    public async Task<OrderLibrary> LoadAsync(Guid job, OrderDocument document, CancellationToken cancel)
    {
        var named = LibraryKinds.NamedBy(document).ToList();
        if (named.Count == 0)
            return OrderLibrary.Empty;
        var there = await db.NewestItems(job)
            .Where(i => i.Kind != LibraryKind.Detail)
            .Select(i => new
            {
                i.Id,
                i.Kind,
                i.Name,
            })
            .ToListAsync(cancel);
        bool chooses = named.Exists(n => n.Kind is LibraryKind.Set or LibraryKind.View);
        var missing = named
            .Where(n => !there.Exists(t => t.Kind == n.Kind && t.Name == n.Name))
            .Select(n => n.Kind)
            .ToHashSet();
        var ids = there
            .Where(t =>
                named.Contains((t.Kind, t.Name))
                || missing.Contains(t.Kind)
                || (chooses && (t.Kind is LibraryKind.Set or LibraryKind.View))
            )
            .Select(t => t.Id)
            .ToList();
        var rows = await db
            .Library.AsNoTracking()
            .Where(i => ids.Contains(i.Id))
            .Select(i => new
            {
                i.Kind,
                i.Name,
                i.Content,
            })
            .ToListAsync(cancel);
        var library = new OrderLibrary();
        foreach (var row in rows)
            Add(ref library, row.Kind, row.Name, row.Content);
        return library;
    }

    private static void Add(ref OrderLibrary library, LibraryKind kind, string name, byte[] content)
    {
        library = kind switch
        {
            LibraryKind.Set => library with
            {
                Sets = With(library.Sets, name, SetDocument.Read(Encoding.UTF8.GetString(content))),
            },
            LibraryKind.View => library with
            {
                Views = With(library.Views, name, ViewDocument.Read(Encoding.UTF8.GetString(content))),
            },
            LibraryKind.Template when TemplateDocument.Read(Encoding.UTF8.GetString(content)) is not null => library,
            LibraryKind.Layers => library with
            {
                Layers = With(library.Layers, name, LayerTable.Read(TableFile.Read(content))),
            },
            LibraryKind.Classes => library with
            {
                Classes = With(library.Classes, name, ClassTable.Read(TableFile.Read(content))),
            },
            LibraryKind.Names => library with
            {
                Names = With(library.Names, name, NameTable.Read(TableFile.Read(content))),
            },
            LibraryKind.Properties => library with
            {
                Properties = With(library.Properties, name, PropertyList.Read(TableFile.Read(content))),
            },
            _ => library,
        };
    }

    private static Dictionary<string, T> With<T>(IReadOnlyDictionary<string, T> known, string name, T value) =>
        new(known) { [name] = value };
}
