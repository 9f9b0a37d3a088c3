using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Asks, answers, hands on, closes and changes topics.</summary>
/// <param name="db">The database.</param>
/// <param name="space">Says whether there is room for pictures and files.</param>
public sealed partial class TopicEditing(LintelDb db, StorageQuota space)
{
    /// <summary>The longest title.</summary>
    public const int LongestTitle = 200;

    /// <summary>The longest comment or description.</summary>
    public const int LongestText = 20_000;

    /// <summary>The largest picture, bytes.</summary>
    public const int LargestPicture = 16 << 20;

    // Metres: the height of the camera above a place, and what it sees.
    private const double Above = 10,
        Across = 12;

    private const int LongestWord = 100,
        MostLabels = 20;

    /// <summary>Asks something.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="wish">What is asked.</param>
    /// <param name="by">Who asks.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The topic's number, and whether it is new: what it is made from may have an open topic already.</returns>
    /// <exception cref="RefusedException">A word is wrong, or the person may not ask.</exception>
    public async Task<(int Number, bool IsNew)> AskAsync(
        JobState state,
        JobPermissions who,
        TopicWish wish,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who.MayWriteTopics);
        var board = await TopicBoard.LoadAsync(db, state.Job, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockJobAsync(state.Job, cancel);
        if (
            wish.Cause is { } cause
            && await db.Topics.FirstOrDefaultAsync(t => t.JobId == state.Job && t.Cause == cause && !t.Closed, cancel)
                is { } known
        )
            return (known.Number, false);
        string author = board.AuthorOf(by);
        string? own = wish.Guid?.ToString();
        if (own is not null && await db.Topics.AnyAsync(t => t.JobId == state.Job && t.Guid == own, cancel))
            throw new RefusedException(RefusalKind.Conflict, $"The job has a topic {own} already.");
        var asked = Asked(wish, board, author);
        if (wish.More is { } more)
            asked = Sound(more(asked), asked, board);
        var view = wish.View ?? Pointing(wish.Elements) ?? (wish.At is { } at ? LookingDown(at) : null);
        var topic = Added(asked, view, wish.Picture, wish.Drawn, out _);
        var row = new TopicRow
        {
            Id = Guid.NewGuid(),
            JobId = state.Job,
            Guid = topic.Guid,
            Number = 1 + (await db.Topics.Where(t => t.JobId == state.Job).MaxAsync(t => (int?)t.Number, cancel) ?? 0),
            Cause = wish.Cause,
        };
        TopicRows.Write(row, topic, board, Frame.Identity, DateTime.UtcNow);
        row.Level = wish.Level ?? (await TopicPlaces.LevelsAsync(db, state, [row.Elements], cancel))[0];
        db.Topics.Add(row);
        await KeepAsync(row, topic, [], by, cancel);
        Note(row, by, author, TopicAction.TopicCreated, topic.Title!);
        // Who owed the first answer is part of what the topic went through.
        if (topic.AssignedTo is { } first)
            Note(row, by, author, TopicAction.Assigned, first);
        db.Note(by, state.Job, "asked", $"T-{row.Number} {topic.Title}");
        await TellAsync(board, row, by, wish.Description, cancel);
        await SendSoonAsync(state.Job, cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return (row.Number, true);
    }

    /// <summary>Answers: comment, view, files, status and who owes the next answer, in one step.</summary>
    /// <exception cref="RefusedException">A word is wrong, there is nothing in it, or the person may not answer.</exception>
    public async Task AnswerAsync(
        JobState state,
        JobPermissions who,
        int number,
        TopicAnswer answer,
        Actor by,
        CancellationToken cancel
    )
    {
        await EditAsync(
            state,
            who,
            who.MayAnswerTopics,
            number,
            by,
            "answered",
            open =>
            {
                var (row, before, board, author) = open;
                string text = InputRules.Lines(answer.Text, "The comment", LongestText, false);
                var topic = Added(
                    before,
                    Owned(state, row, answer.View),
                    answer.Picture,
                    answer.Drawn,
                    out string? view
                );
                if (view is not null)
                    Note(row, by, author, TopicAction.Viewpoint, view);
                topic = Attached(topic, row, answer.Files, by, author);
                if (text.Length > 0 || view is not null)
                {
                    var comment = new TopicComment
                    {
                        Guid = NewGuid(),
                        Date = Now(),
                        Author = author,
                        Text = text,
                        Viewpoint = view ?? before.Viewpoints.FirstOrDefault(v => v.Guid == answer.About)?.Guid,
                    };
                    topic = topic with { Comments = [.. topic.Comments, comment] };
                    Note(row, by, author, TopicAction.CommentCreated, text, comment.Guid);
                }

                // A recipient answers; whether that is enough, and who is next, others say.
                if (who.MayWriteTopics)
                    topic = Changed(topic, row, board, answer.Status, answer.Assigned, by, author);
                return ReferenceEquals(topic, before)
                    ? throw new RefusedException(
                        RefusalKind.Wrong,
                        "Write a comment, or change the status or who answers next."
                    )
                    : (topic, text);
            },
            cancel
        );
    }

    /// <summary>Changes what a topic says of itself.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="number">Which topic.</param>
    /// <param name="version">The version that the person saw.</param>
    /// <param name="wish">What it says from now on; its view is not looked at.</param>
    /// <param name="status">Its status.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">A word is wrong, somebody else changed it meanwhile, or the person may not.</exception>
    public async Task ChangeAsync(
        JobState state,
        JobPermissions who,
        int number,
        int version,
        TopicWish wish,
        string? status,
        Actor by,
        CancellationToken cancel
    )
    {
        await EditAsync(
            state,
            who,
            who.MayWriteTopics,
            number,
            by,
            "changed",
            open =>
            {
                var (row, before, board, author) = open;
                if (row.Version != version)
                    throw new RefusedException(
                        RefusalKind.Conflict,
                        "Somebody changed this topic while you were writing. It is shown as it is now; change it again."
                    );
                var asked = Asked(wish, board, author);
                var topic = before with
                {
                    Title = asked.Title,
                    Description = asked.Description,
                    Type = asked.Type,
                    Priority = asked.Priority,
                    Stage = asked.Stage,
                    Labels = asked.Labels,
                    DueDate = asked.DueDate,
                };
                NoteChanges(row, before, topic, by, author);
                row.Level = wish.Level;
                return (Changed(topic, row, board, status, wish.Assigned ?? "", by, author), "");
            },
            cancel
        );
    }

    /// <summary>Edits one's own comment, or withdraws it; its text before is in the topic's history.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="number">Which topic.</param>
    /// <param name="comment">Which comment.</param>
    /// <param name="text">The new text; null withdraws it.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">It is somebody else's, or not there.</exception>
    public async Task EditCommentAsync(
        JobState state,
        JobPermissions who,
        int number,
        string comment,
        string? text,
        Actor by,
        CancellationToken cancel
    )
    {
        await EditAsync(
            state,
            who,
            who.MayAnswerTopics,
            number,
            by,
            text is null ? "withdrew a comment of" : "edited a comment of",
            open =>
            {
                var (row, before, _, author) = open;
                var known = before.Comments.FirstOrDefault(c => c.Guid == comment)
                    ?? throw new RefusedException(RefusalKind.Unknown, "There is no such comment any more.");
                if (!string.Equals(known.Author, author, StringComparison.OrdinalIgnoreCase))
                    throw new RefusedException(
                        RefusalKind.Forbidden,
                        "Everybody edits and withdraws their own comments."
                    );
                string? wanted = text is null ? null : InputRules.Lines(text, "The comment", LongestText);
                var comments = before.Comments.ToList();
                int at = comments.IndexOf(known);
                if (wanted is null)
                    comments.RemoveAt(at);
                else
                    comments[at] = known with { Text = wanted, ModifiedDate = Now(), ModifiedAuthor = author };
                Note(
                    row,
                    by,
                    author,
                    wanted is null ? TopicAction.CommentDeleted : TopicAction.CommentText,
                    known.Text ?? "",
                    comment
                );
                return (before with { Comments = comments }, "");
            },
            cancel
        );
    }

    // Any change: the topic is locked until it is saved, so that answers that come at once follow one another; whoever owes the next
    // answer since, and whoever the text mentions, gets a mail.
    private async Task EditAsync(
        JobState state,
        JobPermissions who,
        bool may,
        int number,
        Actor by,
        string did,
        Func<OpenTopic, (Topic Topic, string Text)> change,
        CancellationToken cancel
    )
    {
        Allow(may);
        var board = await TopicBoard.LoadAsync(db, state.Job, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (row, before) = await LoadAsync(state.Job, who, number, cancel);
        string author = board.AuthorOf(by);
        bool wasClosed = row.Closed;
        var (topic, text) = change(new OpenTopic(row, before, board, author));
        bool handed = !string.Equals(before.AssignedTo, topic.AssignedTo, StringComparison.OrdinalIgnoreCase);
        TopicRows.Write(
            row,
            topic with
            {
                ModifiedDate = Now(),
                ModifiedAuthor = author,
            },
            board,
            TopicQuery.FrameOf(state.Model, row.FrameOf),
            DateTime.UtcNow
        );
        await KeepAsync(row, topic, null, by, cancel);
        db.Note(by, state.Job, row.Closed && !wasClosed ? $"{did} and closed" : did, $"T-{row.Number} {row.Title}");
        if (handed && !row.Closed)
            await TellAsync(board, row, by, text, cancel);
        await TellMentionedAsync(board, row, by, text, cancel);
        await SendSoonAsync(state.Job, cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private sealed record OpenTopic(TopicRow Row, Topic Topic, TopicBoard Board, string Author);

    private async Task<(TopicRow Row, Topic Topic)> LoadAsync(
        Guid job,
        JobPermissions who,
        int number,
        CancellationToken cancel
    )
    {
        var row = await db
            .Topics.FromSql($"SELECT * FROM topics WHERE job_id = {job} AND number = {number} FOR UPDATE")
            .FirstOrDefaultAsync(cancel);
        if (row is null || (!who.MaySeeJob && !row.HandedTo.Contains(who.Party ?? Guid.Empty)))
            throw new RefusedException(RefusalKind.Unknown, "There is no such topic.");
        var parts = await db.TopicParts.AsNoTracking().Where(p => p.TopicId == row.Id).ToListAsync(cancel);
        return (row, TopicRows.Read(row) with { Parts = new TopicParts(db).Of(parts) });
    }

    private async Task KeepAsync(
        TopicRow row,
        Topic topic,
        IReadOnlyList<TopicPartRow>? known,
        Actor by,
        CancellationToken cancel
    )
    {
        if (TopicParts.NewBytes(topic) is > 0 and var more)
            await space.CheckAsync(row.JobId, by.User, more, cancel);
        await new TopicParts(db).ReplaceAsync(row.JobId, row.Id, topic.Parts, known, cancel);
    }

    private Task LockJobAsync(Guid job, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {job} FOR UPDATE", cancel);

    private static void Allow(bool may)
    {
        if (!may)
            throw new RefusedException(
                RefusalKind.Forbidden,
                "Coordinators and contributors write topics; recipients answer those that were handed to them."
            );
    }

    private static string Now() => DateTime.UtcNow.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", null);

    private static string NewGuid() => Guid.NewGuid().ToString();

    // A place that no view was taken of is seen from above.
    private static ViewInfo LookingDown(Vec3 at) =>
        new()
        {
            Guid = NewGuid(),
            Orthogonal = new ViewCamera(at + (Vec3.AxisZ * Above), -Vec3.AxisZ, Vec3.AxisY, Across, null),
        };

    private static ViewInfo? Pointing(IReadOnlyList<string> elements) =>
        elements.Count == 0
            ? null
            : new ViewInfo
            {
                Guid = NewGuid(),
                Selection = [.. elements.Select(e => new ViewComponent(e, null, null))],
                Visibility = new ViewVisibility(true, [], null),
            };
}
