using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
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
        var (elements, kept) = await ElementsAsync(db, revision, storeys, cancel);
        return kept || elements.Count == 0 ? new RevisionPrint(elements, sets.ConvertAll(s => new PrintedSet(s.Name, Properties(
            s.Values)))) : null;
    }

    // Straight from the reader: what tracks, names and boxes columns for other uses costs twice as much as the columns.
    private static async Task<(List<ElementPrint> Elements, bool Kept)> ElementsAsync(LintelDb db, Guid revision,
        Dictionary<int, string> storeys, CancellationToken cancel)
    {
        var elements = new List<ElementPrint>();
        var words = new Dictionary<string, string>();
        bool kept = false;
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var export = await ((NpgsqlConnection)db.Database.GetDbConnection()).BeginBinaryExportAsync(
                "COPY (SELECT global_id, class, type_name, name, storey, array_to_string(layers, E'\\n'), place, shape, sets FROM elements "
                + $"WHERE revision_id = '{revision}' ORDER BY number) TO STDOUT (FORMAT BINARY)", cancel);
            while (export.StartRow() >= 0)
            {
                cancel.ThrowIfCancellationRequested();
                string id = export.Read<string>(), type = Word(export.Read<string>()), typeName = Word(export.Read<string>()),
                    name = export.Read<string>();
                int storey = export.Read<int>();
                string layers = Word(export.Read<string>());
                double[]? place = Numbers(export), shape = Numbers(export);
                kept |= place is not null;
                elements.Add(new ElementPrint(id, type, typeName, name, storeys.GetValueOrDefault(storey, ""), layers,
                    place is null ? null : ElementPlace.Of(place),
                    shape is { } s ? new ShapeMeasure(s[0], s[1], s[2], s[3], default) : null, export.Read<int[]>()));
            }
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }

        return (elements, kept);

        // Classes, types and layers repeat: one text for all who have it.
        string Word(string text) => words.TryGetValue(text, out string? known) ? known : words[text] = text;
    }

    private static double[]? Numbers(NpgsqlBinaryExporter export)
    {
        if (!export.IsNull) return export.Read<double[]>();
        export.Skip();
        return null;
    }

    // As PropertySetStore writes them: name, value, measure, unit.
    private static List<PrintedProperty> Properties(string values)
    {
        using var document = JsonDocument.Parse(values);
        return [.. document.RootElement.EnumerateArray().Select(p => new PrintedProperty(p[0].GetString()!, PropertySetStore.Text(p[1]),
            p[3].GetString()!))];
    }
}
