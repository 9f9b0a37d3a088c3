using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What is kept of a revision to compare it with others: read as columns, compared by the one rule in Core.</summary>
public static class StoredPrints
{
    /// <summary>Loads a revision's print; null where it was read before prints were kept.</summary>
    public static async Task<RevisionPrint?> LoadAsync(LintelDb db, Guid revision, CancellationToken cancel)
    {
        var storeys = await db.Levels.AsNoTracking().Where(l => l.RevisionId == revision)
            .ToDictionaryAsync(l => l.Number, l => l.GlobalId.Length > 0 ? l.GlobalId : l.Name, cancel);
        var sets = await db.PropertySets.AsNoTracking().Where(p => p.RevisionId == revision).OrderBy(p => p.Number)
            .Select(p => new { p.Name, p.Values }).ToListAsync(cancel);
        var elements = new List<ElementPrint>();
        bool kept = false;
        await foreach (var e in db.Elements.AsNoTracking().Where(e => e.RevisionId == revision).OrderBy(e => e.Number)
            .Select(e => new { e.GlobalId, e.Class, e.TypeName, e.Name, e.Storey, e.Layers, e.Place, e.Shape, e.Sets }).AsAsyncEnumerable(
                ).WithCancellation(cancel))
        {
            kept |= e.Place is not null;
            elements.Add(new ElementPrint(e.GlobalId, e.Class, e.TypeName, e.Name, storeys.GetValueOrDefault(e.Storey, ""),
                e.Layers.Length switch { 0 => "", 1 => e.Layers[0], _ => string.Join('\n', e.Layers) }, e.Place is null ? null
                    : ElementPlace.Of(e.Place),
                e.Shape is { } s ? new ShapeMeasure(s[0], s[1], s[2], s[3], default) : null, e.Sets));
        }

        return kept || elements.Count == 0 ? new RevisionPrint(elements, sets.ConvertAll(s => new PrintedSet(s.Name, Properties(
            s.Values)))) : null;
    }

    // As PropertySetStore writes them: name, value, measure, unit.
    private static List<PrintedProperty> Properties(string values)
    {
        using var document = JsonDocument.Parse(values);
        return [.. document.RootElement.EnumerateArray().Select(p => new PrintedProperty(p[0].GetString()!, PropertySetStore.Text(p[1]),
            p[3].GetString()!))];
    }
}
