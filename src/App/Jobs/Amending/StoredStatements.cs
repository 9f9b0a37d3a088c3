using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What stored elements have under a property: as amended once the revision was read with its amendments.</summary>
/// <param name="db">The database.</param>
internal sealed class StoredStatements(LintelDb db)
{
    /// <summary>The properties of elements.</summary>
    /// <param name="revision">The revision.</param>
    /// <param name="elements">The elements, with the numbers of their sets.</param>
    /// <param name="sets">The names of the sets that are asked for.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>For each element what it has, by set and property.</returns>
    public async Task<
        IReadOnlyDictionary<int, IReadOnlyDictionary<(string Set, string Property), FileStatement>>
    > OfAsync(
        Guid revision,
        IReadOnlyList<(int Number, int[] Sets)> elements,
        IReadOnlyCollection<string> sets,
        CancellationToken cancel
    )
    {
        int[] numbers = [.. elements.SelectMany(e => e.Sets).Distinct()];
        var rows = await db
            .PropertySets.AsNoTracking()
            .Where(p => p.RevisionId == revision && numbers.Contains(p.Number) && sets.Contains(p.Name))
            .ToListAsync(cancel);
        var known = rows.ToDictionary(r => r.Number, r => (r.Name, Properties: Read(r.Values)));
        var found = new Dictionary<int, IReadOnlyDictionary<(string, string), FileStatement>>();
        foreach (var (number, own) in elements)
        {
            var statements = new Dictionary<(string, string), FileStatement>();
            foreach (int set in own)
                if (known.TryGetValue(set, out var row))
                    foreach (var (name, statement) in row.Properties)
                        statements.TryAdd((row.Name, name), statement);
            found[number] = statements;
        }

        return found;
    }

    /// <summary>What the newest revision of a source says of what amendments are about, where it is stored: properties, names, types,
    /// storeys, layers and materials.</summary>
    /// <remarks>Only for what nothing else is said about: a stored element is as amended.</remarks>
    /// <param name="source">The source.</param>
    /// <param name="amendments">The amendments.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyDictionary<string, FileStatement>> OfAsync(
        Guid source,
        IReadOnlyList<Amendment> amendments,
        CancellationToken cancel
    )
    {
        var ids = amendments.Select(a => a.Element).ToHashSet();
        var elements = await db
            .Elements.AsNoTracking()
            .Where(e =>
                ids.Contains(e.GlobalId)
                && db.Revisions.Any(r =>
                    r.Id == e.RevisionId
                    && r.SourceId == source
                    && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
                )
            )
            .OrderBy(e => e.Number)
            .Select(e => new
            {
                e.RevisionId,
                e.Number,
                e.GlobalId,
                e.Name,
                e.TypeName,
                e.Layers,
                e.Materials,
                e.Sets,
                Storey = db
                    .Levels.Where(l => l.RevisionId == e.RevisionId && l.Number == e.Storey)
                    .Select(l => l.Name)
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        if (elements.Count == 0)
            return new Dictionary<string, FileStatement>();
        var properties = await OfAsync(
            elements[0].RevisionId,
            elements.ConvertAll(e => (e.Number, e.Sets)),
            [.. amendments.Select(a => a.Set ?? "").Distinct()],
            cancel
        );
        var byId = elements.GroupBy(e => e.GlobalId).ToDictionary(g => g.Key, g => g.First());
        var found = new Dictionary<string, FileStatement>();
        foreach (var a in amendments)
        {
            if (!byId.TryGetValue(a.Element, out var e))
                continue;
            FileStatement? says = a.Kind switch
            {
                AmendmentKind.Property or AmendmentKind.RemoveProperty => properties[e.Number]
                    .GetValueOrDefault((a.Set!, a.Name!)) ?? FileStatement.None,
                AmendmentKind.Name => Named(e.Name),
                AmendmentKind.Type => Named(e.TypeName),
                AmendmentKind.Storey => Named(e.Storey ?? ""),
                AmendmentKind.Layer => Named(string.Join(", ", e.Layers)),
                AmendmentKind.Material => Named(string.Join(", ", e.Materials.Where(m => m.Length > 0))),
                _ => null,
            };
            if (says is not null)
                found[a.Subject] = says;
        }

        return found;
    }

    /// <summary>The property sets that elements of a revision have, each with the classes that have it, as a template.</summary>
    public async Task<TemplateDocument> TemplateAsync(Guid revision, CancellationToken cancel)
    {
        var uses = await db
            .Database.SqlQuery<SetUse>(
                $"SELECT DISTINCT e.class, p.name, p.number FROM elements e, unnest(e.sets) s JOIN property_sets p ON p.number = s AND p.revision_id = {revision} WHERE e.revision_id = {revision}"
            )
            .ToListAsync(cancel);
        int[] numbers = [.. uses.Select(u => u.Number).Distinct()];
        var contents = await db
            .PropertySets.AsNoTracking()
            .Where(p => p.RevisionId == revision && numbers.Contains(p.Number))
            .ToDictionaryAsync(p => p.Number, p => p.Values, cancel);
        return new TemplateDocument
        {
            Sets =
            [
                .. uses.Where(u => u.Name.Length > 0 && !u.Name.StartsWith("Qto_", StringComparison.Ordinal))
                    .GroupBy(u => u.Name)
                    .OrderBy(g => g.Key, StringComparer.Ordinal)
                    .Select(g => new PropertySetTemplate
                    {
                        Name = g.Key,
                        Classes = [.. g.Select(u => u.Class).Distinct().Order(StringComparer.Ordinal)],
                        Properties =
                        [
                            .. g.Select(u => u.Number)
                                .Distinct()
                                .SelectMany(n => Types(contents[n]))
                                .DistinctBy(p => p.Name)
                                .Select(p => new PropertyTemplate { Name = p.Name, Type = p.Type }),
                        ],
                    }),
            ],
        };
    }

    private static List<(string Name, string Type)> Types(string values)
    {
        using var document = JsonDocument.Parse(values);
        return
        [
            .. document
                .RootElement.EnumerateArray()
                .Select(p => (p[0].GetString()!, PropertyTypes.Find(p[2].GetString()!) ?? "IfcLabel"))
                .Where(p => p.Item1.Length > 0),
        ];
    }

    private sealed record SetUse(string Class, string Name, int Number);

    // An empty text is stored for what is missing too.
    private static FileStatement Named(string text) => FileStatement.Of(text.Length > 0 ? text : null);

    private static List<(string Name, FileStatement Statement)> Read(string values)
    {
        using var document = JsonDocument.Parse(values);
        return
        [
            .. document
                .RootElement.EnumerateArray()
                .Select(p =>
                    (
                        p[0].GetString()!,
                        FileStatement.Of(
                            PropertySetStore.Text(p[1]),
                            p[1].ValueKind == JsonValueKind.Null ? "" : p[3].GetString()!
                        )
                    )
                ),
        ];
    }
}
