using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>A change of a topic by a program.</summary>
/// <param name="Topic">The topic afterwards.</param>
/// <param name="Happened">What happened beside changed words: what, the comment it is about, the value.</param>
public sealed record TopicChange(
    Topic Topic,
    IReadOnlyList<(string Did, string? Comment, string Value)>? Happened = null
);

// What programs change: anything that BCF has, by the same rules as pages.
public sealed partial class TopicEditing
{
    /// <summary>Changes a topic.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="guid">The topic's GUID.</param>
    /// <param name="version">The version that the program saw; null where it does not say.</param>
    /// <param name="answers">Whether the change is an answer, which recipients may give too.</param>
    /// <param name="change">Changes it.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is no such topic, it changed meanwhile, a word is wrong, or the person may not.</exception>
    public async Task ApplyAsync(
        JobState state,
        JobPermissions who,
        string guid,
        int? version,
        bool answers,
        Func<Topic, string, TopicChange> change,
        Actor by,
        CancellationToken cancel
    )
    {
        int number = await db
            .Topics.Where(t => t.JobId == state.Job && t.Guid == guid.ToLowerInvariant())
            .Select(t => t.Number)
            .FirstOrDefaultAsync(cancel);
        await EditAsync(
            state,
            who,
            answers ? who.MayAnswerTopics : who.MayWriteTopics,
            number,
            by,
            "changed by a program",
            open =>
            {
                var (row, before, board, author) = open;
                if (version is { } seen && seen != row.Version)
                    throw new RefusedException(RefusalKind.Conflict, "The topic changed meanwhile; get it again.");
                var (changed, happened) = change(before, author);
                var topic = Sound(changed, before, board);
                NoteChanges(row, before, topic, by, author);
                string? status = topic.Status,
                    assigned = topic.AssignedTo ?? "";
                topic = Changed(
                    topic with
                    {
                        Status = before.Status,
                        AssignedTo = before.AssignedTo,
                    },
                    row,
                    board,
                    status,
                    assigned,
                    by,
                    author
                );
                foreach (var (did, comment, value) in happened ?? [])
                    Note(row, by, author, did, value, comment);
                return (topic, happened?.FirstOrDefault(h => h.Did == TopicAction.CommentCreated).Value ?? "");
            },
            cancel
        );
    }

    // What a program says is held to the same words and lengths as what a page says.
    private static Topic Sound(Topic topic, Topic before, TopicBoard board)
    {
        if (topic.Labels.Count > MostLabels)
            throw new RefusedException(RefusalKind.Wrong, $"A topic has at most {MostLabels} labels.");
        if (topic.DueDate is { } due && due != before.DueDate && !TopicDates.TryRead(due, out _))
            throw new RefusedException(RefusalKind.Wrong, $"'{due}' is no date.");
        return topic with
        {
            Title = InputRules.Of(topic.Title, "The title", LongestTitle),
            Description = topic.Description is { } text
                ? InputRules.Lines(text, "The description", LongestText, false)
                : null,
            Type = Known(topic.Type, board.Words.Types, "type", before.Type),
            Status = Known(topic.Status, board.Words.Statuses, "status", before.Status),
            Priority = Known(topic.Priority, board.Words.Priorities, "priority", before.Priority),
            Stage = Known(topic.Stage, board.Words.Stages, "stage", before.Stage),
            AssignedTo = Answerer(topic.AssignedTo, board, before.AssignedTo),
            Labels =
            [
                .. topic.Labels.Select(l => InputRules.Of(l, "A label", LongestWord, false)).Where(l => l.Length > 0),
            ],
            ReferenceLinks = [.. topic.ReferenceLinks.Where(l => !string.IsNullOrEmpty(l))],
        };
    }
}
