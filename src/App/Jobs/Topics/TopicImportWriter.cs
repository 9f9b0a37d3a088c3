using Microsoft.EntityFrameworkCore;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Writes what a merge made into a job, in batches: a file of ten thousand topics is no more in memory than it was.</summary>
internal sealed class TopicImportWriter(
    LintelDb db,
    JobState state,
    TopicBoard board,
    TopicFrame frame,
    string fileName,
    Actor by
)
{
    /// <summary>Writes it; the caller's transaction commits.</summary>
    /// <param name="result">The merge.</param>
    /// <param name="theirs">The file: what it says is what both know from now on.</param>
    /// <param name="rows">Our topics that it has too, by GUID.</param>
    /// <param name="batch">How many are written at once.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Contents that are no longer used.</returns>
    public async Task<IReadOnlyList<Guid>> WriteAsync(
        TopicMergeResult result,
        TopicArchive theirs,
        IReadOnlyDictionary<string, TopicRow> rows,
        int batch,
        CancellationToken cancel
    )
    {
        var gone = new List<Guid>();
        var said = theirs.Topics.ToDictionary(t => t.Guid, StringComparer.OrdinalIgnoreCase);
        int number = await db.Topics.Where(t => t.JobId == state.Job).MaxAsync(t => (int?)t.Number, cancel) ?? 0;
        var frames = await TopicPlaces.FramesAsync(db, state, frame, result.Added, cancel);
        foreach (var group in result.Archive.Topics.Chunk(batch))
        {
            var added = new List<TopicRow>();
            foreach (var topic in group)
            {
                string guid = topic.Guid.ToLowerInvariant();
                IReadOnlyList<TopicPartRow> kept = [];
                bool known = rows.TryGetValue(guid, out var row);
                if (row is null)
                {
                    row = new TopicRow
                    {
                        Id = Guid.NewGuid(),
                        JobId = state.Job,
                        Guid = guid,
                        Number = ++number,
                        FrameOf = frames.GetValueOrDefault(topic.Guid),
                    };
                    db.Topics.Add(row);
                    added.Add(row);
                }
                else
                {
                    kept = row.Parts;
                    row.Parts = [];
                    db.Topics.Attach(row);
                    db.Entry(row).State = EntityState.Modified;
                }

                string before = row.Document;
                TopicRows.Write(row, topic, board, TopicQuery.FrameOf(state.Model, row.FrameOf), DateTime.UtcNow);
                row.Common = TopicJson.Write(said.GetValueOrDefault(topic.Guid) ?? topic);
                gone.AddRange(await new TopicParts(db).ReplaceAsync(state.Job, row.Id, topic.Parts, kept, cancel));
                if (!known || row.Document != before)
                    Note(row);
            }

            await LevelsAsync(added, cancel);
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
        }

        return gone;
    }

    private void Note(TopicRow row) =>
        db.TopicEvents.Add(
            new TopicEvent
            {
                TopicId = row.Id,
                At = DateTime.UtcNow,
                By = by.User,
                Author = board.AuthorOf(by),
                Did = TopicAction.Imported,
                Value = fileName,
            }
        );

    private async Task LevelsAsync(List<TopicRow> rows, CancellationToken cancel)
    {
        var levels = await TopicPlaces.LevelsAsync(db, state, [.. rows.Select(r => r.Elements)], cancel);
        for (int n = 0; n < rows.Count; n++)
            rows[n].Level = levels[n];
    }
}
