using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Where topics are: by the elements that they are about.</summary>
internal static class TopicPlaces
{
    /// <summary>The elements that a topic's views pick out.</summary>
    public static IEnumerable<string> ElementsOf(Topic topic) =>
        topic.Viewpoints.SelectMany(v => v.Info?.Selection ?? []).Select(c => c.IfcGuid).OfType<string>();

    /// <summary>For each list of elements the job's level of the first that is on one; null where none is.</summary>
    public static async Task<int?[]> LevelsAsync(
        LintelDb db,
        JobState state,
        IReadOnlyList<string[]> elements,
        CancellationToken cancel
    )
    {
        string[] all = [.. elements.SelectMany(e => e).Distinct()];
        var level = new Dictionary<string, int>(StringComparer.Ordinal);
        if (all.Length > 0)
        {
            var sources = Newest(state);
            var revisions = sources.Keys.ToList();
            foreach (
                var f in await db
                    .Elements.Where(e => revisions.Contains(e.RevisionId) && all.Contains(e.GlobalId) && e.Storey >= 0)
                    .Select(e => new
                    {
                        e.RevisionId,
                        e.GlobalId,
                        e.Storey,
                    })
                    .ToListAsync(cancel)
            )
                if (state.Model.LevelOf(sources[f.RevisionId], f.Storey)?.Level is { } number)
                    level.TryAdd(f.GlobalId, number);
        }

        return
        [
            .. elements.Select(list =>
                list.Select(e => level.TryGetValue(e, out int number) ? number : (int?)null)
                    .FirstOrDefault(n => n is not null)
            ),
        ];
    }

    /// <summary>The sources whose newest revisions have some elements.</summary>
    public static async Task<IReadOnlyDictionary<string, Guid>> SourcesAsync(
        LintelDb db,
        JobState state,
        string[] elements,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<string, Guid>(StringComparer.Ordinal);
        if (elements.Length == 0)
            return found;
        var sources = Newest(state);
        var revisions = sources.Keys.ToList();
        foreach (
            var f in await db
                .Elements.Where(e => revisions.Contains(e.RevisionId) && elements.Contains(e.GlobalId))
                .Select(e => new { e.RevisionId, e.GlobalId })
                .ToListAsync(cancel)
        )
            found.TryAdd(f.GlobalId, state.Sources[sources[f.RevisionId]].Source.Id);
        return found;
    }

    /// <summary>The source whose frame a new topic's views are in: that of the model it names, else that of the elements it is about.
    /// </summary>
    public static async Task<IReadOnlyDictionary<string, Guid?>> FramesAsync(
        LintelDb db,
        JobState state,
        TopicFrame frame,
        IReadOnlyList<Topic> added,
        CancellationToken cancel
    )
    {
        if (!frame.Automatic)
            return added.ToDictionary(t => t.Guid, _ => frame.Source, StringComparer.OrdinalIgnoreCase);
        var files = await db
            .Deliveries.Where(d => d.Source.JobId == state.Job && d.Revision != null)
            .Select(d => new { d.FileName, d.SourceId })
            .Distinct()
            .ToListAsync(cancel);
        var byFile = files
            .GroupBy(f => f.FileName, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First().SourceId, StringComparer.OrdinalIgnoreCase);
        var elements = await SourcesAsync(db, state, [.. added.SelectMany(ElementsOf).Distinct()], cancel);
        return added.ToDictionary(
            t => t.Guid,
            t =>
                t.Files.Select(f => byFile.TryGetValue(f.Filename ?? "", out var id) ? id : (Guid?)null)
                    .FirstOrDefault(s => s is not null)
                ?? ElementsOf(t)
                    .Select(e => elements.TryGetValue(e, out var id) ? id : (Guid?)null)
                    .FirstOrDefault(s => s is not null),
            StringComparer.OrdinalIgnoreCase
        );
    }

    private static Dictionary<Guid, int> Newest(JobState state) =>
        state
            .Sources.Select((s, n) => (Revision: s.Latest?.Id, Source: n))
            .Where(s => s.Revision is not null)
            .ToDictionary(s => s.Revision!.Value, s => s.Source);
}
