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
    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web)
        {
            NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.AllowNamedFloatingPointLiterals,
            Converters = { new StoredText.Converter() },
        };

    /// <summary>The version of what is computed of a revision and stored with it. It counts up whenever more is computed, or otherwise;
    /// revisions with an older one are read again.</summary>
    public const int Derived = 3;

    /// <summary>Stores a revision and gives it its number. Doing it again replaces what was there.</summary>
    /// <param name="delivery">The delivery.</param>
    /// <param name="snapshot">The model.</param>
    /// <param name="read">Reads the model and passes every element on with the numbers of its property sets as soon as it is complete:
    /// millions go into the database without being held in memory. It may take as long as shaping takes, within one transaction.</param>
    /// <param name="within">What else belongs to the same transaction; given the job.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The revision's number.</returns>
    public async Task<int> SaveAsync(
        Guid delivery,
        ModelSnapshot snapshot,
        Func<Action<PackedElement, int[]>, IntakeContents> read,
        Func<Guid, Task>? within,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db
            .Deliveries.Include(d => d.Source)
            .Include(d => d.Revision)
            .FirstAsync(d => d.Id == delivery, cancel);
        if (row.Revision is null)
            await PlaceholderAsync(row, cancel);
        await ForgetAsync(delivery, cancel);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        IntakeContents contents;
        IReadOnlyList<FacetRow> facets;
        bool parts;
        await using (var elements = new ElementCopy(connection, delivery))
        {
            contents = read(elements.Add);
            facets = await elements.CompleteAsync(cancel);
            parts = elements.HasParts;
        }

        await CopySets(connection, contents.Sets, cancel);
        await CopyChunks(connection, delivery, contents.Chunks, cancel);
        db.Levels.AddRange(
            snapshot.Structure.Storeys.Select(
                (s, n) =>
                    new LevelRow
                    {
                        RevisionId = delivery,
                        Number = n,
                        Name = Clean(s.Name),
                        Elevation = s.Level,
                        PlacementZ = s.PlacementZ,
                        GlobalId = Clean(s.GlobalId),
                    }
            )
        );
        db.Facets.AddRange(facets);
        string json = JsonSerializer.Serialize(contents.Report, Json);
        var revision = await EndAsync(
            row,
            RevisionKind.Model,
            json,
            contents.Report.Elements,
            contents.Report.Findings,
            cancel
        );
        revision.HasParts = parts;
        revision.Rooms = facets.Where(f => f.IsRoom).Sum(f => f.Count);
        revision.Bodiless = facets.Where(f => !f.Shaped && !f.IsRoom).Sum(f => f.Count);
        revision.Frame = JsonSerializer.Serialize(contents.Report.Frame, Json);
        await db.SaveChangesAsync(cancel);
        if (within is not null)
            await within(row.Source.JobId);
        await transaction.CommitAsync(cancel);
        return revision.Number;
    }

    // Rows of elements refer to a revision, which gets its number only at the end: two deliveries of one source must not wait for one
    // another.
    private async Task PlaceholderAsync(Delivery delivery, CancellationToken cancel)
    {
        int number = -1 - Random.Shared.Next(int.MaxValue - 1);
        delivery.Revision = new Revision
        {
            Id = delivery.Id,
            SourceId = delivery.SourceId,
            Number = number,
            Report = "{}",
        };
        await db.SaveChangesAsync(cancel);
    }

    private async Task ForgetAsync(Guid delivery, CancellationToken cancel)
    {
        await db.Elements.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Facets.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Levels.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.Chunks.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
        await db.PropertySets.Where(e => e.RevisionId == delivery).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Stores the report of a drawing as a revision and gives it its number.</summary>
    /// <returns>The revision's number.</returns>
    public async Task<int> SaveAsync(
        Guid delivery,
        DrawingReport report,
        Func<Guid, Task>? within,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db
            .Deliveries.Include(d => d.Source)
            .Include(d => d.Revision)
            .FirstAsync(d => d.Id == delivery, cancel);
        string json = JsonSerializer.Serialize(report, Json);
        var revision = await EndAsync(
            row,
            RevisionKind.Drawing,
            json,
            report.Entities.Sum(e => e.Count),
            report.Findings,
            cancel
        );
        if (within is not null)
            await within(row.Source.JobId);
        await transaction.CommitAsync(cancel);
        return revision.Number;
    }

    // The delivery has become a revision, with the next number of its source.
    private async Task<Revision> EndAsync(
        Delivery delivery,
        RevisionKind kind,
        string report,
        int elements,
        IReadOnlyList<Finding> findings,
        CancellationToken cancel
    )
    {
        // Revisions of one source are numbered one at a time; FOR UPDATE would also wait for those that are still being shaped.
        await db.Database.ExecuteSqlAsync(
            $"SELECT 1 FROM sources WHERE id = {delivery.SourceId} FOR NO KEY UPDATE",
            cancel
        );
        int last = await db
            .Revisions.IgnoreQueryFilters()
            .Where(r => r.SourceId == delivery.SourceId && r.Number > 0)
            .MaxAsync(r => (int?)r.Number, cancel)
            ?? 0;
        var revision = delivery.Revision ??= new Revision { Id = delivery.Id, SourceId = delivery.SourceId };
        if (revision.Number <= 0)
            revision.Number = last + 1;
        (revision.Kind, revision.Report, revision.Elements, revision.Derived) = (kind, report, elements, Derived);
        revision.Findings = findings.Count(f => f.Severity > Severity.Note);
        (delivery.State, delivery.Progress, delivery.Sentence) = (DeliveryState.Ready, 1, "");
        await db.SaveChangesAsync(cancel);
        return revision;
    }

    /// <summary>What is kept of an element's facts beside its row and its property sets.</summary>
    public static byte[] Pack(ElementFacts facts) => StoredFacts.Pack(facts);

    /// <summary>The facts of an element as they were read.</summary>
    public static Task<ElementFacts> FactsAsync(LintelDb db, ElementRow row, CancellationToken cancel) =>
        StoredFacts.LoadAsync(db, row, cancel);

    private static async Task CopySets(
        NpgsqlConnection connection,
        IReadOnlyList<PropertySetRow> sets,
        CancellationToken cancel
    )
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY property_sets (revision_id, number, name, values) FROM STDIN (FORMAT BINARY)",
            cancel
        );
        copy.Timeout = Timeout.InfiniteTimeSpan;
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

    private static async Task CopyChunks(
        NpgsqlConnection connection,
        Guid delivery,
        IReadOnlyList<GeometryChunk> chunks,
        CancellationToken cancel
    )
    {
        foreach (var batch in chunks.DistinctBy(c => c.Hash).Chunk(64))
        {
            await using var insert = new NpgsqlCommand(
                "INSERT INTO chunk_contents (hash, bytes) SELECT * FROM unnest($1, $2) ON CONFLICT DO NOTHING",
                connection
            );
            insert.Parameters.Add(new NpgsqlParameter { Value = batch.Select(c => c.Hash).ToArray() });
            insert.Parameters.Add(new NpgsqlParameter { Value = batch.Select(c => c.Packed).ToArray() });
            await insert.ExecuteNonQueryAsync(cancel);
        }

        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY chunks (revision_id, number, storey, class, hash, triangles, length) FROM STDIN (FORMAT BINARY)",
            cancel
        );
        copy.Timeout = Timeout.InfiniteTimeSpan;
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

/// <summary>What was read of a model beside its elements.</summary>
/// <param name="Report">The intake report.</param>
/// <param name="Sets">Contents of the elements' property sets.</param>
/// <param name="Chunks">The geometry.</param>
public sealed record IntakeContents(
    IntakeReport Report,
    IReadOnlyList<PropertySetRow> Sets,
    IReadOnlyList<GeometryChunk> Chunks
);
