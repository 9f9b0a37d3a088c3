using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

// The words of a job's topics, and what closes them.
public sealed partial class TopicEditing
{
    private const int MostWords = 200,
        MostFilters = 30;

    /// <summary>Says which words the job uses, and what closes a topic.</summary>
    /// <exception cref="RefusedException">A word is wrong, or the person may not say so.</exception>
    public async Task WordsAsync(
        Guid job,
        JobPermissions who,
        TopicExtensions words,
        TopicSettings settings,
        Actor by,
        CancellationToken cancel
    )
    {
        if (!who.MayManageTopics)
            throw new RefusedException(RefusalKind.Forbidden, "Coordinators change the words for topics.");
        var board = await TopicBoard.LoadAsync(db, job, cancel);
        var checkedWords = words with
        {
            Types = Checked(words.Types, "A type"),
            Statuses = Checked(words.Statuses, "A status"),
            Priorities = Checked(words.Priorities, "A priority"),
            Labels = Checked(words.Labels, "A label"),
            Stages = Checked(words.Stages, "A stage"),
            SnippetTypes = board.Words.SnippetTypes,
            Users = board.Words.Users,
            Extras = board.Words.Extras,
        };
        if (checkedWords.Statuses.Count == 0)
            throw new RefusedException(RefusalKind.Wrong, "Topics need at least one status, that of a new topic.");
        var rules = settings with
        {
            Closing = Checked(settings.Closing, "A status that closes"),
            Filters = board.Settings.Filters,
        };
        if (
            rules.Closing.FirstOrDefault(c => !checkedWords.Statuses.Contains(c, StringComparer.OrdinalIgnoreCase)) is
            { } odd
        )
            throw new RefusedException(RefusalKind.Wrong, $"'{odd}' closes a topic and is not among the statuses.");
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockJobAsync(job, cancel);
        await TopicBoard.NoteAsync(db, job, board.Project with { Extensions = checkedWords }, rules, cancel);
        string[] closing = [.. rules.Closing.Select(c => c.ToLowerInvariant())];
        // What another status closes, or no longer does, is closed and open from now on.
        await db
            .Topics.Where(t => t.JobId == job && !t.Closed && closing.Contains(t.Status.ToLower()))
            .ExecuteUpdateAsync(
                u => u.SetProperty(t => t.Closed, true).SetProperty(t => t.ClosedAt, t => t.ModifiedAt),
                cancel
            );
        await db
            .Topics.Where(t => t.JobId == job && t.Closed && !closing.Contains(t.Status.ToLower()))
            .ExecuteUpdateAsync(
                u => u.SetProperty(t => t.Closed, false).SetProperty(t => t.ClosedAt, (DateTime?)null),
                cancel
            );
        db.Note(by, job, "changed the words for topics", string.Join(", ", checkedWords.Statuses));
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Stores a filter of the topic list under a name, for everybody in the job; one of that name is replaced.</summary>
    /// <exception cref="RefusedException">The name is wrong, there are too many, or the person may not.</exception>
    public Task SaveFilterAsync(
        Guid job,
        JobPermissions who,
        string? name,
        string query,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who.MayWriteTopics);
        var filter = new SavedTopicFilter(
            InputRules.Of(name, "The name", LongestWord),
            InputRules.Of(query, "The filter", 1000)
        );
        return ChangeFiltersAsync(
            job,
            who,
            filters => [.. filters.Where(f => f.Name != filter.Name), filter],
            "stored a filter",
            filter.Name,
            by,
            cancel
        );
    }

    /// <summary>Removes a stored filter.</summary>
    public Task RemoveFilterAsync(Guid job, JobPermissions who, string? name, Actor by, CancellationToken cancel) =>
        ChangeFiltersAsync(
            job,
            who,
            filters => [.. filters.Where(f => f.Name != name)],
            "removed a filter",
            name ?? "",
            by,
            cancel
        );

    /// <summary>Says when somebody gets mails about the topics of a job.</summary>
    public Task MailsAsync(Guid job, TopicMails when, Actor by, CancellationToken cancel) =>
        db
            .Memberships.Where(m => m.JobId == job && m.UserId == by.User)
            .ExecuteUpdateAsync(
                u => u.SetProperty(m => m.TopicMails, Enum.IsDefined(when) ? when : TopicMails.AtOnce),
                cancel
            );

    private async Task ChangeFiltersAsync(
        Guid job,
        JobPermissions who,
        Func<IReadOnlyList<SavedTopicFilter>, IReadOnlyList<SavedTopicFilter>> change,
        string did,
        string name,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who.MayWriteTopics);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockJobAsync(job, cancel);
        var board = await TopicBoard.LoadAsync(db, job, cancel);
        var filters = change(board.Settings.Filters);
        if (filters.Count > MostFilters)
            throw new RefusedException(RefusalKind.Conflict, $"{MostFilters} filters are the most; remove one first.");
        await TopicBoard.NoteAsync(db, job, board.Project, board.Settings with { Filters = filters }, cancel);
        db.Note(by, job, did, name);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static string[] Checked(IReadOnlyList<string> words, string what) =>
        words.Count > MostWords
            ? throw new RefusedException(RefusalKind.Wrong, $"{MostWords} words a list are the most.")
            : [.. words.Select(w => InputRules.Of(w, what, LongestWord)).Distinct(StringComparer.OrdinalIgnoreCase)];
}
