using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What is said beside the files of sources, as it is stored.</summary>
public static class SourceAmendments
{
    /// <summary>How amendments are stored as JSON.</summary>
    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web)
        {
            DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull,
        };

    /// <summary>The amendment of a row.</summary>
    public static Amendment Read(AmendmentRow row) => JsonSerializer.Deserialize<Amendment>(row.Spec, Json)!;

    /// <summary>An amendment as it is stored.</summary>
    public static string Write(Amendment amendment) => JsonSerializer.Serialize(amendment, Json);

    /// <summary>What a file says, as it is stored.</summary>
    public static FileStatement? FileOf(AmendmentRow row) =>
        row.File is null ? null : JsonSerializer.Deserialize<FileStatement>(row.File, Json);

    /// <summary>The amendments of a source that count, and those that are settled and would count again if the sender took theirs
    /// back.</summary>
    public static async Task<List<AmendmentRow>> OfAsync(LintelDb db, Guid source, CancellationToken cancel)
    {
        var rows = await db
            .Amendments.AsNoTracking()
            .Where(a => a.SourceId == source && a.Step >= AmendmentStep.Holds && a.Step <= AmendmentStep.Settled)
            .OrderBy(a => a.MadeAt)
            .ThenBy(a => a.Id)
            .ToListAsync(cancel);
        // One that is settled gives way to whatever was said about the same since.
        var last = rows.GroupBy(a => a.Subject)
            .Select(g => (g.LastOrDefault(a => a.IsInForce) ?? g.Last()).Id)
            .ToHashSet();
        return rows.FindAll(a => last.Contains(a.Id));
    }

    /// <summary>The amendments of a source that hold for a revision, in the order in which they were made.</summary>
    /// <param name="db">The database.</param>
    /// <param name="source">The source.</param>
    /// <param name="revision">The revision's model.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<IReadOnlyList<Amendment>> HoldingAsync(
        LintelDb db,
        Guid source,
        ModelSnapshot revision,
        CancellationToken cancel
    )
    {
        var rows = await OfAsync(db, source, cancel);
        return
        [
            .. AmendmentCarry
                .To(revision, rows.ConvertAll(Read), new Dictionary<string, string>())
                .Where(c => c.State == AmendmentState.Holds)
                .Select(c => c.Amendment),
        ];
    }
}
