using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

// What comes from another server.
public sealed partial class TopicEditing
{
    private static readonly TimeSpan Soon = TimeSpan.FromSeconds(10);

    /// <summary>Writes what a topic is once another server's changes are in it.</summary>
    /// <param name="state">The job.</param>
    /// <param name="board">Words, parties and people.</param>
    /// <param name="seen">Our row as it was merged; null for a new topic.</param>
    /// <param name="before">Our topic then.</param>
    /// <param name="topic">Both as one.</param>
    /// <param name="frameOf">The source in whose frame a new topic's views are.</param>
    /// <param name="server">The server.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The row as it is now; null where somebody changed the topic meanwhile, and nothing was written.</returns>
    internal async Task<TopicRow?> ReceiveAsync(
        JobState state,
        TopicBoard board,
        TopicRow? seen,
        Topic? before,
        Topic topic,
        Guid? frameOf,
        TopicServer server,
        CancellationToken cancel
    )
    {
        var by = new Actor(server.AddedBy, "");
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockJobAsync(state.Job, cancel);
        var row = seen is null
            ? await NewRowAsync(state.Job, topic, frameOf, cancel)
            : await db
                .Topics.FromSql($"SELECT * FROM topics WHERE id = {seen.Id} FOR UPDATE")
                .FirstOrDefaultAsync(cancel);
        if (row is null || (seen is not null && row.Version != seen.Version))
            return null;
        string assigned = row.Assigned;
        TopicRows.Write(row, topic, board, TopicQuery.FrameOf(state.Model, row.FrameOf), DateTime.UtcNow);
        if (seen is null)
        {
            row.Level = (await TopicPlaces.LevelsAsync(db, state, [row.Elements], cancel))[0];
            Note(row, Actor.Program, topic.CreationAuthor ?? server.Name, TopicAction.Received, server.Name);
        }
        else
        {
            NoteReceived(row, before!, topic, by, topic.ModifiedAuthor ?? server.Name);
        }

        await KeepAsync(row, topic, seen is null ? [] : null, by, cancel);
        if (!row.Closed && row.Assigned != assigned)
            await TellAsync(
                board,
                row,
                Actor.Program,
                topic.Comments.LastOrDefault()?.Text ?? topic.Description,
                cancel
            );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row;
    }

    // What changed here goes to other servers soon, and not with the next look at them.
    private Task SendSoonAsync(Guid job, CancellationToken cancel)
    {
        var soon = DateTime.UtcNow + Soon;
        return db
            .TopicServers.Where(s => s.JobId == job && s.NextAt > soon)
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.NextAt, soon), cancel);
    }

    private async Task<TopicRow?> NewRowAsync(Guid job, Topic topic, Guid? frameOf, CancellationToken cancel)
    {
        string guid = topic.Guid.ToLowerInvariant();
        if (await db.Topics.AnyAsync(t => t.JobId == job && t.Guid == guid, cancel))
            return null;
        var row = new TopicRow
        {
            Id = Guid.NewGuid(),
            JobId = job,
            Guid = guid,
            Number = 1 + (await db.Topics.Where(t => t.JobId == job).MaxAsync(t => (int?)t.Number, cancel) ?? 0),
            FrameOf = frameOf,
        };
        db.Topics.Add(row);
        return row;
    }

    // The history has every word that was there before.
    private void NoteReceived(TopicRow row, Topic before, Topic now, Actor by, string author)
    {
        NoteChanges(row, before, now, by, author);
        if ((before.Status ?? "") != (now.Status ?? ""))
            Note(row, by, author, TopicAction.Status, now.Status ?? "");
        if ((before.AssignedTo ?? "") != (now.AssignedTo ?? ""))
            Note(row, by, author, TopicAction.Assigned, now.AssignedTo ?? "");
        var old = before.Comments.ToDictionary(c => c.Guid, StringComparer.OrdinalIgnoreCase);
        foreach (var comment in now.Comments)
            if (!old.Remove(comment.Guid, out var was))
                Note(row, by, comment.Author ?? author, TopicAction.CommentCreated, comment.Text ?? "", comment.Guid);
            else if (was.Text != comment.Text)
                Note(row, by, comment.ModifiedAuthor ?? author, TopicAction.CommentText, was.Text ?? "", comment.Guid);
        foreach (var gone in old.Values)
            Note(row, by, author, TopicAction.CommentDeleted, gone.Text ?? "", gone.Guid);
    }
}
