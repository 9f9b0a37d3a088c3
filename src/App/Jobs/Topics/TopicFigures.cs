using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What a party did about topics.</summary>
/// <param name="Party">The party; null for the coordinators and people outside.</param>
/// <param name="Asked">Topics that it asked.</param>
/// <param name="Owes">Open topics that it owes an answer.</param>
/// <param name="Answers">Comments on topics of others.</param>
/// <param name="Days">Mean days from the question to its first answer; null where it answered none.</param>
public sealed record PartyFigures(Party? Party, int Asked, int Owes, int Answers, double? Days);

/// <summary>Figures of the topics of a job.</summary>
/// <param name="Weeks">The last weeks, the oldest first: its Monday, and how many topics were asked, answered and closed.</param>
/// <param name="Parties">By party.</param>
/// <param name="Topics">How many topics were counted.</param>
public sealed record TopicFigures(
    IReadOnlyList<(DateOnly Monday, int Asked, int Answered, int Closed)> Weeks,
    IReadOnlyList<PartyFigures> Parties,
    int Topics
)
{
    /// <summary>So many weeks are shown.</summary>
    public const int MostWeeks = 12;

    private const int MostTopics = 20_000;

    /// <summary>Counts them.</summary>
    public static async Task<TopicFigures> LoadAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var board = await TopicBoard.LoadAsync(db, job, cancel);
        var rows = await db
            .Topics.AsNoTracking()
            .Where(t => t.JobId == job)
            .OrderByDescending(t => t.Number)
            .Take(MostTopics)
            .Select(t => new
            {
                t.Author,
                t.CreatedAt,
                t.ClosedAt,
                t.Closed,
                t.OwedBy,
                t.Comments,
                Document = t.Comments > 0 ? t.Document : null,
            })
            .ToListAsync(cancel);
        var monday = MondayOf(DateTime.UtcNow);
        var first = monday.AddDays(-7 * (MostWeeks - 1));
        var weeks = new (int Asked, int Answered, int Closed)[MostWeeks];
        var counted = board
            .Parties.Select(p => (Guid?)p.Id)
            .Append(null)
            .Select(p => (Party: p, Count: new Counted()))
            .ToList();
        Counted Of(Guid? party) => counted.FirstOrDefault(c => c.Party == party).Count ?? counted[^1].Count;
        void Week(DateTime at, Func<(int, int, int), (int, int, int)> add)
        {
            int n = (MondayOf(at).DayNumber - first.DayNumber) / 7;
            if (n is >= 0 and < MostWeeks && MondayOf(at) >= first)
                weeks[n] = add(weeks[n]);
        }

        foreach (var row in rows)
        {
            Of(board.PersonOf(row.Author).Party).Asked++;
            if (!row.Closed)
                Of(board.PartyOf(row.OwedBy)?.Id).Owes++;
            Week(row.CreatedAt, w => (w.Item1 + 1, w.Item2, w.Item3));
            if (row.ClosedAt is { } closed)
                Week(closed, w => (w.Item1, w.Item2, w.Item3 + 1));
            if (row.Document is null)
                continue;
            bool answered = false;
            foreach (var comment in TopicJson.Read(row.Document).Comments.OrderBy(c => TopicDates.Of(c.Date)))
            {
                if (string.Equals(comment.Author, row.Author, StringComparison.OrdinalIgnoreCase))
                    continue;
                var at = TopicDates.Of(comment.Date).UtcDateTime;
                var by = Of(board.PersonOf(comment.Author ?? "").Party);
                by.Answers++;
                if (answered)
                    continue;
                answered = true;
                Week(at, w => (w.Item1, w.Item2 + 1, w.Item3));
                by.Days.Add(Math.Max(0, (at - row.CreatedAt).TotalDays));
            }
        }

        return new TopicFigures(
            [.. weeks.Select((w, n) => (first.AddDays(7 * n), w.Asked, w.Answered, w.Closed))],
            [
                .. counted.Select(c => new PartyFigures(
                    board.PartyOf(c.Party),
                    c.Count.Asked,
                    c.Count.Owes,
                    c.Count.Answers,
                    c.Count.Days.Count > 0 ? c.Count.Days.Average() : null
                )),
            ],
            rows.Count
        );
    }

    private static DateOnly MondayOf(DateTime at)
    {
        var day = DateOnly.FromDateTime(at);
        return day.AddDays(-(((int)day.DayOfWeek + 6) % 7));
    }

    private sealed class Counted
    {
        public int Asked,
            Owes,
            Answers;

        public List<double> Days { get; } = [];
    }
}
