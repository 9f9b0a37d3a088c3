using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The sheets of a job's newest drawings, out of their reports.</summary>
public static class DrawingSheets
{
    /// <summary>The layouts of each drawing that has some, by revision.</summary>
    public static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<DrawingLayout>>> LoadAsync(
        LintelDb db,
        JobState state,
        CancellationToken cancel
    )
    {
        var ids = state.Drawings.Select(d => d.Latest!.Id).ToList();
        // The layouts alone: a report may be long.
        var rows = await db
            .Database.SqlQuery<Row>(
                $"SELECT id, coalesce(report -> 'layouts', '[]')::text AS layouts FROM revisions WHERE id = ANY({ids})"
            )
            .ToListAsync(cancel);
        return rows.ToDictionary(
            r => r.Id,
            IReadOnlyList<DrawingLayout> (r) =>
                JsonSerializer.Deserialize<List<DrawingLayout>>(r.Layouts, IntakeStore.Json) ?? []
        );
    }

    private sealed record Row(Guid Id, string Layouts);
}
