using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What a topic went through: who owed the answer when, and what was said in between.</summary>
/// <param name="From">When it was asked.</param>
/// <param name="To">When it was closed, else now.</param>
/// <param name="Spans">Who owed the answer, one after the other; empty for the coordinators, null where it is not known.</param>
/// <param name="Answers">When comments were written, and by whom.</param>
/// <param name="Statuses">When the status changed, and to what.</param>
public sealed record TopicLife(
    DateTime From,
    DateTime To,
    IReadOnlyList<(DateTime From, DateTime To, string? Owes)> Spans,
    IReadOnlyList<(DateTime At, string By)> Answers,
    IReadOnlyList<(DateTime At, string Status)> Statuses
)
{
    // Two things that one step did.
    private static readonly TimeSpan Together = TimeSpan.FromSeconds(1);

    /// <summary>The life of a topic.</summary>
    /// <param name="page">The topic.</param>
    /// <param name="now">The time, UTC.</param>
    public static TopicLife Of(TopicPage page, DateTime now)
    {
        var row = page.Row;
        var end = row.ClosedAt ?? now;
        var handed = page.Events.Where(e => e.Did == TopicAction.Assigned).ToList();
        var answers = page
            .Topic.Comments.Select(c => (At: TopicDates.Of(c.Date).UtcDateTime, By: c.Author ?? ""))
            .Where(c => c.At > DateTime.UnixEpoch)
            .OrderBy(c => c.At)
            .ToList();
        // What was written elsewhere before it came here is part of its life.
        var from = answers.Select(a => a.At).Append(row.CreatedAt).Min();
        if (end < from)
            end = from;
        var spans = new List<(DateTime, DateTime, string?)>();
        // A topic that nobody handed on is with whom it is now; of one that was, who had it first is not always known.
        string? owes = handed.Count == 0 ? row.Assigned : null;
        var since = from;
        foreach (var e in handed)
        {
            var at =
                e == handed[0] && e.At - row.CreatedAt < Together ? from
                : e.At < end ? e.At
                : end;
            if (at > since)
                spans.Add((since, at, owes));
            (since, owes) = (at, e.Value);
        }

        if (end > since || spans.Count == 0)
            spans.Add((since, end, owes));
        return new TopicLife(
            from,
            end,
            spans,
            answers,
            [
                .. page
                    .Events.Where(e => e.Did == TopicAction.Status && e.At <= end + Together)
                    .Select(e => (e.At, e.Value)),
            ]
        );
    }

    /// <summary>How far along its life a time is, 0 to 1.</summary>
    public double Along(DateTime at) =>
        To <= From ? 0 : Math.Clamp((at - From).TotalSeconds / (To - From).TotalSeconds, 0, 1);
}
