using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A name of the job that a name table has no row for.</summary>
/// <param name="Kind">What it is of.</param>
/// <param name="Name">The name.</param>
/// <param name="Count">How many elements have it.</param>
/// <param name="Best">The receiver's name that is most alike; null where none is.</param>
public sealed record UnmatchedRow(NameKind Kind, string Name, int Count, NameMatch? Best);

/// <summary>Matches a job's names with a receiver's.</summary>
/// <param name="db">The database.</param>
/// <param name="library">Where tables are kept.</param>
public sealed class NameMatching(LintelDb db, JobLibrary library)
{
    /// <summary>The names of a job that a table does not match, with the best match of each; the most frequent first.</summary>
    public async Task<IReadOnlyList<UnmatchedRow>> OpenAsync(JobState state, NameTable table, CancellationToken cancel)
    {
        var names = new List<(NameKind Kind, string Name, int Count)>();
        var ids = state.Sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        var elements = db.Elements.AsNoTracking().Where(e => ids.Contains(e.RevisionId));
        names.AddRange(
            (
                await elements
                    .Where(e => e.TypeName != "")
                    .GroupBy(e => e.TypeName)
                    .Select(g => new { g.Key, Count = g.Count() })
                    .ToListAsync(cancel)
            ).Select(g => (NameKind.Type, g.Key, g.Count))
        );
        names.AddRange(
            (
                await db
                    .Database.SqlQuery<Named>(
                        $"SELECT m AS name, count(*)::integer AS count FROM elements, unnest(materials) AS m WHERE revision_id = ANY({ids}) AND m <> '' GROUP BY m"
                    )
                    .ToListAsync(cancel)
            ).Select(g => (NameKind.Material, g.Name, g.Count))
        );
        foreach (var storey in state.Storeys.Where(s => s.Name.Length > 0).GroupBy(s => s.Name))
            names.Add(
                (
                    NameKind.Storey,
                    storey.Key,
                    storey.Sum(s => state.Facets[s.Source].Where(f => f.Storey == s.Number).Sum(f => f.Count))
                )
            );
        var receivers = Enum.GetValues<NameKind>().ToDictionary(k => k, table.Receivers);
        return
        [
            .. names
                .Where(n => table.Find(n.Kind, n.Name) is null)
                .OrderBy(n => n.Kind)
                .ThenByDescending(n => n.Count)
                .ThenBy(n => n.Name, StringComparer.Ordinal)
                .Select(n => new UnmatchedRow(n.Kind, n.Name, n.Count, NameMatch.Best(n.Name, receivers[n.Kind]))),
        ];
    }

    /// <summary>Takes matches into the table, as its next version.</summary>
    /// <param name="job">The job.</param>
    /// <param name="name">The table.</param>
    /// <param name="pairs">Kind, our name and the receiver's.</param>
    /// <param name="by">Who confirms them.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is no such table, or nothing to take.</exception>
    public async Task<int> ConfirmAsync(
        Guid job,
        string name,
        IReadOnlyList<(NameKind Kind, string From, string To)> pairs,
        Actor by,
        CancellationToken cancel
    )
    {
        if (pairs.Count == 0)
            throw new RefusedException(RefusalKind.Wrong, "Select the matches to accept.");
        int? version = (await library.ListAsync(job, cancel))
            .FirstOrDefault(i => i.Kind == LibraryKind.Names && i.Name == name)
            ?.Version;
        byte[] content = await library.ContentAsync(job, LibraryKind.Names, name, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "The job has no such name table.");
        var table = NameTable.Read(TableFile.Read(content));
        var rows = table
            .Rows.Where(r =>
                !pairs.Any(p => p.Kind == r.Kind && r.From.Equals(p.From, StringComparison.OrdinalIgnoreCase))
            )
            .Concat(pairs.Select(p => new NameRow(p.Kind, p.From, p.To)));
        await library.KeepAsync(
            job,
            LibraryKind.Names,
            name,
            TableFile.WriteCsv(new NameTable([.. rows]).ToRows()),
            by,
            cancel,
            version
        );
        return pairs.Count;
    }

    private sealed record Named(string Name, int Count);
}
