using System.Buffers.Binary;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What is kept of a revision to compare it with others: read as columns, compared by the one rule in Core.</summary>
public static class StoredFingerprints
{
    /// <summary>Loads two revisions' prints, side by side; null for one that was read before prints were kept.</summary>
    public static async Task<(RevisionFingerprint? Old, RevisionFingerprint? Now)> LoadAsync(
        LintelDb db,
        Guid old,
        Guid now,
        CancellationToken cancel
    )
    {
        // A connection of its own for each: the database sends both while both are read.
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, db.Database.GetConnectionString()!);
        await using var other = new LintelDb(options.Options);
        var (first, second) = (
            Task.Run(() => LoadAsync(db, old, cancel), cancel),
            Task.Run(() => LoadAsync(other, now, cancel), cancel)
        );
        return (await first, await second);
    }

    /// <summary>Loads a revision's print; null where it was read before prints were kept.</summary>
    public static async Task<RevisionFingerprint?> LoadAsync(LintelDb db, Guid revision, CancellationToken cancel)
    {
        var levels = await db
            .Levels.AsNoTracking()
            .Where(l => l.RevisionId == revision)
            .OrderBy(l => l.Number)
            .ToListAsync(cancel);
        var storeys = levels.ToDictionary(l => l.Number, KeyOf);
        var sets = await db
            .PropertySets.AsNoTracking()
            .Where(p => p.RevisionId == revision)
            .OrderBy(p => p.Number)
            .Select(p => new { p.Name, p.Values })
            .ToListAsync(cancel);
        var (elements, kept) = await ElementsAsync(db, revision, storeys, cancel);
        return kept || elements.Count == 0
            ? new RevisionFingerprint(elements, sets.ConvertAll(s => new PrintedSet(s.Name, Properties(s.Values))))
            {
                Storeys = levels.ConvertAll(l => new PrintedStorey(KeyOf(l), l.Name, l.Elevation, l.PlacementZ)),
            }
            : null;
    }

    private static string KeyOf(LevelRow level) => level.GlobalId.Length > 0 ? level.GlobalId : level.Name;

    // Straight from the reader: what tracks, names and boxes columns for other uses costs twice as much as the columns.
    private static async Task<(List<ElementFingerprint> Elements, bool Kept)> ElementsAsync(
        LintelDb db,
        Guid revision,
        Dictionary<int, string> storeys,
        CancellationToken cancel
    )
    {
        var elements = new List<(int Number, ElementFingerprint Print)>();
        var words = new Dictionary<string, string>();
        bool kept = false;
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var export = await ((NpgsqlConnection)db.Database.GetDbConnection()).BeginBinaryExportAsync(
                "COPY (SELECT number, global_id, class, type_name, name, storey, array_to_string(layers, E'\\n'), array_send(place), array_send(shape), sets, "
                    + $"{Lines("materials")}, predefined, {Lines("groups")}, {Lines("classifications")}, relations FROM elements "
                    + $"WHERE revision_id = '{revision}') TO STDOUT (FORMAT BINARY)",
                cancel
            );
            while (export.StartRow() >= 0)
            {
                cancel.ThrowIfCancellationRequested();
                int number = export.Read<int>();
                string id = export.Read<string>(),
                    type = Word(export.Read<string>()),
                    typeName = Word(export.Read<string>()),
                    name = export.Read<string>();
                int storey = export.Read<int>();
                string layers = Word(export.Read<string>());
                double[]? place = Numbers(export),
                    shape = Numbers(export);
                kept |= place is not null;
                elements.Add(
                    (
                        number,
                        new ElementFingerprint(
                            id,
                            type,
                            typeName,
                            name,
                            storeys.GetValueOrDefault(storey, ""),
                            layers,
                            place is null ? null : ElementPlace.Of(place),
                            shape is { } s ? new ShapeMeasure(s[0], s[1], s[2], s[3], default) : null,
                            export.Read<int[]>()
                        )
                        {
                            Materials = Word(export.Read<string>()),
                            Predefined = Word(export.Read<string>()),
                            Groups = Word(export.Read<string>()),
                            Classifications = Word(export.Read<string>()),
                            Relations = export.Read<string[]>(),
                        }
                    )
                );
            }
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }

        // Mostly they come in order; the database need not sort what is sorted here in no time.
        elements.Sort(static (a, b) => a.Number.CompareTo(b.Number));
        return (elements.ConvertAll(e => e.Print), kept);

        // Classes, types and layers repeat: one text for all who have it.
        string Word(string text) => words.TryGetValue(text, out string? known) ? known : words[text] = text;
    }

    // As ElementFingerprint.Lines joins them: in the order of their bytes, each once.
    private static string Lines(string column) =>
        $"array_to_string(ARRAY(SELECT DISTINCT w COLLATE \"C\" FROM unnest({column}) w WHERE w <> '' ORDER BY 1), E'\\n')";

    // As PostgreSQL sends an array: number of dimensions, flags, kind, length, lower bound, then a length before each value.
    private static double[]? Numbers(NpgsqlBinaryExporter export)
    {
        const int Header = 20,
            Value = 12;
        if (export.IsNull)
        {
            export.Skip();
            return null;
        }

        ReadOnlySpan<byte> sent = export.Read<byte[]>();
        if (sent.Length < Header)
            return null;
        var numbers = new double[(sent.Length - Header) / Value];
        for (int i = 0; i < numbers.Length; i++)
            numbers[i] = BinaryPrimitives.ReadDoubleBigEndian(sent[(Header + (i * Value) + 4)..]);
        return numbers;
    }

    // As PropertySetStore writes them: name, value, measure, unit.
    private static List<PrintedProperty> Properties(string values)
    {
        using var document = JsonDocument.Parse(values);
        return
        [
            .. document
                .RootElement.EnumerateArray()
                .Select(p => new PrintedProperty(p[0].GetString()!, PropertySetStore.Text(p[1]), p[3].GetString()!)),
        ];
    }
}
