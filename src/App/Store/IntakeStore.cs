using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using SteadyLintel.Exchange;

namespace SteadyLintel.Store;

/// <summary>Stores what was read of a revision: all of it or nothing.</summary>
public sealed class IntakeStore(LintelDb db)
{
    /// <summary>How reports, orders and results are written as JSON.</summary>
    public static JsonSerializerOptions Json { get; } = new(
        JsonSerializerDefaults.Web)
    {
        NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.AllowNamedFloatingPointLiterals,
        Converters = { new StoredText.Converter() },
    };

    /// <summary>Stores a revision and gives it its number. Doing it again replaces what was there.</summary>
    /// <param name="delivery">The delivery.</param>
    /// <param name="report">Its report.</param>
    /// <param name="snapshot">The model.</param>
    /// <param name="elements">Its elements.</param>
    /// <param name="sets">Contents of their property sets.</param>
    /// <param name="chunks">Its geometry.</param>
    /// <param name="within">What else belongs to the same transaction; given the job.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The revision's number.</returns>
    public async Task<int> SaveAsync(Guid delivery, IntakeReport report, ModelSnapshot snapshot, IReadOnlyList<ElementRow> elements,
        IReadOnlyList<PropertySetRow> sets, IReadOnlyList<GeometryChunk> chunks, Func<Guid, Task>? within, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Deliveries.Include(d => d.Source).Include(d => d.Revision).FirstAsync(d => d.Id == delivery, cancel);
        string json = JsonSerializer.Serialize(report, Json);
        var revision = await EndAsync(row, RevisionKind.Model, json, report.Elements, report.Findings, cancel);
        await db.Elements.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Facets.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Levels.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Chunks.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await db.PropertySets.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await CopyElements(connection, elements, cancel);
        await CopySets(connection, sets, cancel);
        await CopyChunks(connection, delivery, chunks, cancel);
        db.Levels.AddRange(snapshot.Structure.Storeys.Select(
            (s, n) => new LevelRow
            {
                RevisionId = delivery,
                Number = n,
                Name = Clean(s.Name),
                Elevation = s.Level,
                PlacementZ = s.PlacementZ
            }));
        db.Facets.AddRange(elements.CountBy(e => (e.Storey, e.Class, e.Layer, Shaped: e.Box is not null, e.Drawn))
            .Select((f, n) => new FacetRow
            {
                Number = n,
                RevisionId = delivery,
                Storey = f.Key.Storey,
                Class = Clean(f.Key.Class),
                Layer = Clean(f.Key.Layer),
                Shaped = f.Key.Shaped,
                Drawn = f.Key.Drawn,
                Count = f.Value
            }));
        await db.SaveChangesAsync(cancel);
        if (within is not null) await within(row.Source.JobId);
        await transaction.CommitAsync(cancel);
        return revision.Number;
    }

    /// <summary>Stores the report of a drawing as a revision and gives it its number.</summary>
    /// <returns>The revision's number.</returns>
    public async Task<int> SaveAsync(Guid delivery, DrawingReport report, Func<Guid, Task>? within, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Deliveries.Include(d => d.Source).Include(d => d.Revision).FirstAsync(d => d.Id == delivery, cancel);
        string json = JsonSerializer.Serialize(report, Json);
        var revision = await EndAsync(row, RevisionKind.Drawing, json, report.Entities.Sum(e => e.Count), report.Findings, cancel);
        if (within is not null) await within(row.Source.JobId);
        await transaction.CommitAsync(cancel);
        return revision.Number;
    }

    // The delivery has become a revision, with the next number of its source.
    private async Task<Revision> EndAsync(Delivery delivery, RevisionKind kind, string report, int elements,
        IReadOnlyList<Finding> findings, CancellationToken cancel)
    {
        // Revisions of one source are numbered one at a time.
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM sources WHERE id = {delivery.SourceId} FOR UPDATE", cancel);
        int last = await db.Revisions.Where(r => r.SourceId == delivery.SourceId).MaxAsync(r => (int?)r.Number, cancel) ?? 0;
        var revision = delivery.Revision ??= new Revision { Id = delivery.Id, SourceId = delivery.SourceId, Number = last + 1 };
        (revision.Kind, revision.Report, revision.Elements) = (kind, report, elements);
        revision.Findings = findings.Count(f => f.Severity > Severity.Note);
        (delivery.State, delivery.Progress, delivery.Sentence) = (DeliveryState.Ready, 1, "");
        await db.SaveChangesAsync(cancel);
        return revision;
    }

    /// <summary>Facts as they are kept.</summary>
    public static byte[] Pack(ElementFacts facts)
    {
        using var packed = new MemoryStream();
        using (var deflate = new DeflateStream(packed, CompressionLevel.Fastest)) JsonSerializer.Serialize(deflate, facts, Json);
        return packed.ToArray();
    }

    /// <summary>Facts as they were.</summary>
    public static ElementFacts Unpack(byte[] packed)
    {
        using var deflate = new DeflateStream(new MemoryStream(packed), CompressionMode.Decompress);
        return JsonSerializer.Deserialize<ElementFacts>(deflate, Json)!;
    }

    private static async Task CopyElements(NpgsqlConnection connection, IReadOnlyList<ElementRow> elements, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY elements (revision_id, number, global_id, class, name, storey, layer, layers, type_name, materials, sets, box, volume, area, facts) FROM STDIN (FORMAT BINARY)", cancel);
        foreach (var e in elements)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(e.RevisionId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(e.Number, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(StoredText.Clean(e.GlobalId, StoredText.MaxIndexed), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Clean(e.Class), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Clean(e.Name), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(e.Storey, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(Clean(e.Layer), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Array.ConvertAll(e.Layers, Clean), NpgsqlDbType.Array | NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Clean(e.TypeName), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(Array.ConvertAll(e.Materials, Clean), NpgsqlDbType.Array | NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(e.Sets, NpgsqlDbType.Array | NpgsqlDbType.Integer, cancel);
            if (e.Box is null) await copy.WriteNullAsync(cancel);
            else await copy.WriteAsync(e.Box, NpgsqlDbType.Array | NpgsqlDbType.Double, cancel);
            await copy.WriteAsync(e.Volume, NpgsqlDbType.Double, cancel);
            await copy.WriteAsync(e.Area, NpgsqlDbType.Double, cancel);
            await copy.WriteAsync(e.Facts, NpgsqlDbType.Bytea, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static async Task CopySets(NpgsqlConnection connection, IReadOnlyList<PropertySetRow> sets, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY property_sets (revision_id, number, name, values) FROM STDIN (FORMAT BINARY)", cancel);
        foreach (var set in sets)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(set.RevisionId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(set.Number, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(Clean(set.Name), NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(set.Values, NpgsqlDbType.Jsonb, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static async Task CopyChunks(NpgsqlConnection connection, Guid delivery,
        IReadOnlyList<GeometryChunk> chunks, CancellationToken cancel)
    {
        foreach (var batch in chunks.DistinctBy(c => c.Hash).Chunk(64))
        {
            await using var insert = new NpgsqlCommand(
                "INSERT INTO chunk_contents (hash, bytes) SELECT * FROM unnest($1, $2) ON CONFLICT DO NOTHING", connection);
            insert.Parameters.Add(new NpgsqlParameter { Value = batch.Select(c => c.Hash).ToArray() });
            insert.Parameters.Add(new NpgsqlParameter { Value = batch.Select(c => c.Packed).ToArray() });
            await insert.ExecuteNonQueryAsync(cancel);
        }

        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY chunks (revision_id, number, storey, class, hash, triangles, length) FROM STDIN (FORMAT BINARY)", cancel);
        for (int n = 0; n < chunks.Count; n++)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(delivery, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(n, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(chunks[n].Storey, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(chunks[n].Class, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(chunks[n].Hash, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(chunks[n].Triangles, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync(chunks[n].Packed.Length, NpgsqlDbType.Integer, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static string Clean(string text) => StoredText.Clean(text);
}
