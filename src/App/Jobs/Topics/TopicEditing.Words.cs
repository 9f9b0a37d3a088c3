using System.Globalization;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

// What a topic says: checked words, views with their pictures, attached files, and who gets a mail.
public sealed partial class TopicEditing
{
    private static Topic Asked(TopicWish wish, TopicBoard board, string author)
    {
        string description = InputRules.Lines(wish.Description, "The description", LongestText, false);
        if (wish.Labels.Count > MostLabels)
            throw new RefusedException(RefusalKind.Wrong, $"A topic has at most {MostLabels} labels.");
        return new Topic
        {
            Guid = wish.Guid is { } own ? own.ToString() : NewGuid(),
            Title = InputRules.Of(wish.Title, "The title", LongestTitle),
            Description = description.Length > 0 ? description : null,
            Type = Known(wish.Type, board.Words.Types, "type"),
            Status = board.Words.Statuses.Count > 0 ? board.Words.Statuses[0] : "Open",
            Priority = Known(wish.Priority, board.Words.Priorities, "priority"),
            Stage = Known(wish.Stage, board.Words.Stages, "stage"),
            Labels =
            [
                .. wish
                    .Labels.Select(l => InputRules.Of(l, "A label", LongestWord, false))
                    .Where(l => l.Length > 0)
                    .Distinct(StringComparer.OrdinalIgnoreCase),
            ],
            AssignedTo = Answerer(wish.Assigned, board),
            DueDate = wish.Due is { } due
                ? due.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) + "T00:00:00Z"
                : null,
            CreationDate = Now(),
            CreationAuthor = author,
        };
    }

    // A word of the job's list; a topic that came from elsewhere may have another, which is shown and can stay as it is.
    private static string? Known(string? word, IReadOnlyList<string> words, string what, string? before = null)
    {
        string typed = (word ?? "").Trim();
        if (typed.Length == 0)
            return null;
        return words.FirstOrDefault(w => w.Equals(typed, StringComparison.OrdinalIgnoreCase))
            ?? (typed == before ? before : null)
            ?? throw new RefusedException(
                RefusalKind.Wrong,
                $"'{typed}' is no {what} of this job. It has: {string.Join(", ", words)}."
            );
    }

    private static string? Answerer(string? word, TopicBoard board, string? before = null)
    {
        string typed = (word ?? "").Trim();
        if (typed.Length == 0)
            return null;
        return board.Answerers.Any(a => a.Word.Equals(typed, StringComparison.OrdinalIgnoreCase)) || typed == before
            ? typed
            : throw new RefusedException(
                RefusalKind.Wrong,
                $"'{typed}' is neither a party nor a member of this job; choose one of the list."
            );
    }

    private Topic Changed(
        Topic topic,
        TopicRow row,
        TopicBoard board,
        string? status,
        string? assigned,
        Actor by,
        string author
    )
    {
        if (status is not null && status != topic.Status)
        {
            topic = topic with { Status = Known(status, board.Words.Statuses, "status", topic.Status) };
            Note(row, by, author, TopicAction.Status, topic.Status ?? "");
        }

        if (assigned is not null && assigned != (topic.AssignedTo ?? ""))
        {
            topic = topic with { AssignedTo = Answerer(assigned, board, topic.AssignedTo) };
            Note(row, by, author, TopicAction.Assigned, topic.AssignedTo ?? "");
        }

        return topic;
    }

    // The topic with one more view; its picture is a file beside it.
    private static Topic Added(
        Topic topic,
        ViewInfo? view,
        byte[]? picture,
        (PictureMarks Marks, byte[] Plain)? drawn,
        out string? guid
    )
    {
        guid = null;
        if (view is null && picture is null)
            return topic;
        guid = view?.Guid ?? NewGuid();
        string? name = picture is null ? null : $"snapshot-{guid}.{PictureKind(picture)}";
        var point = new Viewpoint
        {
            Guid = guid,
            File = view is null ? null : $"{guid}.bcfv",
            Snapshot = name,
            Info = view,
        };
        return topic with
        {
            Viewpoints = [.. topic.Viewpoints, point],
            Parts =
            [
                .. topic.Parts,
                .. name is null ? [] : new[] { TopicPart.Of(name, picture!) },
                .. drawn is var (marks, plain)
                    ?
                    [
                        TopicPart.Of(PlainOf(guid), plain),
                        TopicPart.Of(MarksOf(guid), System.Text.Encoding.UTF8.GetBytes(marks.Write())),
                    ]
                    : Array.Empty<TopicPart>(),
            ],
        };
    }

    /// <summary>The extension of a picture: <c>png</c> or <c>jpg</c>, by its first bytes.</summary>
    /// <exception cref="RefusedException">It is none, or too large.</exception>
    public static string PictureKind(byte[] picture)
    {
        if (picture.Length > LargestPicture)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"The picture has more than {LargestPicture >> 20} MB; take a smaller one."
            );
        return picture switch
        {
            [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, ..] => "png",
            [0xFF, 0xD8, 0xFF, ..] => "jpg",
            _ => throw new RefusedException(RefusalKind.Wrong, "The picture is neither PNG nor JPEG."),
        };
    }

    /// <summary>The file with what is drawn on the picture of a view.</summary>
    public static string MarksOf(string view) => $"marks-{view}.json";

    /// <summary>The file with the picture of a view without what is drawn on it.</summary>
    public static string PlainOf(string view) => $"plain-{view}.png";

    // Files that are attached are documents of the topic, beside it as in 2.1; 3.0 gets its list when it is written.
    private Topic Attached(
        Topic topic,
        TopicRow row,
        IReadOnlyList<(string Name, byte[] Content)> files,
        Actor by,
        string author
    )
    {
        foreach (var (given, content) in files)
        {
            string name = FreeName(topic, SteadyLintel.Cad.LayerNames.Clean(Path.GetFileName(given)));
            topic = topic with
            {
                Parts = [.. topic.Parts, TopicPart.Of(name, content)],
                Documents =
                [
                    .. topic.Documents,
                    new DocumentReference
                    {
                        Guid = NewGuid(),
                        Path = name,
                        Description = name,
                    },
                ],
            };
            Note(row, by, author, TopicAction.Document, name);
        }

        return topic;
    }

    private static string FreeName(Topic topic, string name)
    {
        string free =
            name.Length == 0 || name.Equals("markup.bcf", StringComparison.OrdinalIgnoreCase) ? $"file-{name}" : name;
        string stem = Path.GetFileNameWithoutExtension(free),
            end = Path.GetExtension(free);
        for (int n = 2; topic.Parts.Any(p => p.Name.Equals(free, StringComparison.OrdinalIgnoreCase)); n++)
            free = $"{stem}-{n}{end}";
        return free;
    }

    // Views are in the frame that the topic's views are in.
    private static ViewInfo? Owned(JobState state, TopicRow row, ViewInfo? view) =>
        view is null || row.FrameOf is null
            ? view
            : ViewMove.Into(view, TopicQuery.FrameOf(state.Model, row.FrameOf).Inverse());

    private void Note(TopicRow row, Actor by, string author, string did, string value, string? comment = null) =>
        db.TopicEvents.Add(
            new TopicEvent
            {
                TopicId = row.Id,
                At = DateTime.UtcNow,
                By = by.User,
                Author = author,
                Comment = comment,
                Did = did,
                Value = StoredText.Clean(value),
            }
        );

    private void NoteChanges(TopicRow row, Topic before, Topic now, Actor by, string author)
    {
        foreach (
            var (did, was, value) in new[]
            {
                (TopicAction.Title, before.Title, now.Title),
                (TopicAction.Description, before.Description, now.Description),
                (TopicAction.Type, before.Type, now.Type),
                (TopicAction.Priority, before.Priority, now.Priority),
                (TopicAction.Stage, before.Stage, now.Stage),
                (TopicAction.Due, before.DueDate, now.DueDate),
            }
        )
            if ((was ?? "") != (value ?? ""))
                Note(row, by, author, did, value ?? "");
        foreach (string label in now.Labels.Except(before.Labels))
            Note(row, by, author, TopicAction.LabelAdded, label);
        foreach (string label in before.Labels.Except(now.Labels))
            Note(row, by, author, TopicAction.LabelRemoved, label);
    }

    // A mail to whoever owes the next answer: the person, or those of the party.
    private async Task TellAsync(TopicBoard board, TopicRow row, Actor by, string? text, CancellationToken cancel)
    {
        var person = board.PersonOf(row.Assigned);
        var people = db.Memberships.Where(m => m.JobId == row.JobId && m.UserId != by.User);
        people =
            person.Id is { } one ? people.Where(m => m.UserId == one)
            : person.Party is { } party ? people.Where(m => m.PartyId == party)
            : people.Where(m => m.Role == MemberRole.Coordinator);
        await MailAsync(
            row,
            [.. await people.Select(m => m.UserId).ToListAsync(cancel)],
            $"you owe the next answer to T-{row.Number}",
            text,
            cancel
        );
    }

    // A whole word: x@structure.example mentions no STR.
    private static bool Mentions(string text, string word)
    {
        for (int at = 0; (at = text.IndexOf(word, at, StringComparison.OrdinalIgnoreCase)) >= 0; at++)
        {
            int end = at + word.Length;
            if (
                (at == 0 || !char.IsLetterOrDigit(text[at - 1]))
                && (end == text.Length || !(char.IsLetterOrDigit(text[end]) || text[end] is '-' or '_' or '@'))
            )
                return true;
        }

        return false;
    }

    // @ and a mail address, or @ and the code of a party.
    private async Task TellMentionedAsync(
        TopicBoard board,
        TopicRow row,
        Actor by,
        string text,
        CancellationToken cancel
    )
    {
        var named = board.Answerers.Where(a => Mentions(text, "@" + a.Word)).Select(a => a.Person).ToList();
        if (named.Count == 0)
            return;
        var people = named.Select(p => p.Id).OfType<Guid>().ToList();
        var parties = named.Where(p => p.Id is null).Select(p => p.Party).ToList();
        var to = await db
            .Memberships.Where(m =>
                m.JobId == row.JobId
                && m.UserId != by.User
                && m.Role != MemberRole.Recipient
                && (people.Contains(m.UserId) || parties.Contains(m.PartyId))
            )
            .Select(m => m.UserId)
            .ToListAsync(cancel);
        await MailAsync(row, to, $"you are mentioned in T-{row.Number}", text, cancel);
    }

    private async Task MailAsync(
        TopicRow row,
        IReadOnlyList<Guid> people,
        string what,
        string? text,
        CancellationToken cancel
    )
    {
        if (people.Count == 0)
            return;
        var job = await db.Jobs.Where(j => j.Id == row.JobId).Select(j => new { j.Code, j.Name }).FirstAsync(cancel);
        string body =
            $"T-{row.Number} {row.Title}\n{(row.Due is { } due ? $"Due {due:yyyy-MM-dd}.\n" : "")}\n{text}\n\n"
            + $"{Mailbox.Site}/jobs/{job.Code}/topics/{row.Number}\n";
        foreach (
            var person in await db
                .Memberships.Where(m => m.JobId == row.JobId && people.Contains(m.UserId))
                .Join(
                    db.Users,
                    m => m.UserId,
                    u => u.Id,
                    (m, u) =>
                        new
                        {
                            m.UserId,
                            m.TopicMails,
                            u.Email,
                        }
                )
                .ToListAsync(cancel)
        )
            if (person.TopicMails == TopicMails.AtOnce)
                Mailbox.Write(db, person.Email!, $"{job.Name}: {what}", body);
            else if (person.TopicMails == TopicMails.Daily)
                db.TopicNews.Add(
                    new TopicNews
                    {
                        JobId = row.JobId,
                        UserId = person.UserId,
                        At = DateTime.UtcNow,
                        Line = StoredText.Clean(what),
                        Text = StoredText.Clean(body),
                    }
                );
    }
}
