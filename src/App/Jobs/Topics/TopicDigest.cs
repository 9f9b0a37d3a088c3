using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Mails of the day about topics: one for each person and job that wants them gathered.</summary>
/// <param name="db">The database.</param>
public sealed class TopicDigest(LintelDb db)
{
    /// <summary>The hour they are sent at, in the person's own time.</summary>
    public const int Hour = 6;

    /// <summary>Writes those that are due.</summary>
    /// <param name="now">The time, UTC.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>How many.</returns>
    public async Task<int> WriteDueAsync(DateTime now, CancellationToken cancel)
    {
        var waiting = await db
            .TopicNews.GroupBy(n => new { n.JobId, n.UserId })
            .Select(g => new
            {
                g.Key.JobId,
                g.Key.UserId,
                First = g.Min(n => n.At),
            })
            .Join(
                db.Users,
                n => n.UserId,
                u => u.Id,
                (n, u) =>
                    new
                    {
                        n.JobId,
                        n.UserId,
                        n.First,
                        u.TimeZone,
                        u.Email,
                    }
            )
            .ToListAsync(cancel);
        int written = 0;
        foreach (var w in waiting.Where(w => w.First < LastHour(now, w.TimeZone)))
            if (await WriteAsync(w.JobId, w.UserId, w.Email!, cancel))
                written++;
        return written;
    }

    /// <summary>The last time that mails of the day were due for somebody, UTC.</summary>
    /// <param name="now">The time, UTC.</param>
    /// <param name="zone">The person's time zone (IANA name); empty for UTC.</param>
    public static DateTime LastHour(DateTime now, string zone)
    {
        var own = TimeZoneInfo.TryFindSystemTimeZoneById(zone, out var found) ? found : TimeZoneInfo.Utc;
        var local = TimeZoneInfo.ConvertTimeFromUtc(now, own);
        var due = local.Date.AddHours(Hour);
        if (due > local)
            due = due.AddDays(-1);
        // An hour that a change of clocks leaves out is the next one.
        if (own.IsInvalidTime(due))
            due = due.AddHours(1);
        return TimeZoneInfo.ConvertTimeToUtc(due, own);
    }

    // The lines go with the mail in one transaction: a process that ends in between sends nothing twice and loses nothing.
    private async Task<bool> WriteAsync(Guid job, Guid user, string address, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var news = await db
            .TopicNews.FromSql(
                $"SELECT * FROM topic_news WHERE job_id = {job} AND user_id = {user} ORDER BY id FOR UPDATE SKIP LOCKED"
            )
            .ToListAsync(cancel);
        if (news.Count == 0)
            return false;
        string name = await db.Jobs.Where(j => j.Id == job).Select(j => j.Name).FirstAsync(cancel);
        string what = news.Count == 1 ? news[0].Line : $"{news.Count} answers and questions about topics";
        Mailbox.Write(
            db,
            address,
            $"{name}: {what}",
            string.Join("\n----\n\n", news.Select(n => $"{Sentence(n.Line)}\n\n{n.Text}"))
        );
        db.TopicNews.RemoveRange(news);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        db.ChangeTracker.Clear();
        return true;
    }

    private static string Sentence(string line) => char.ToUpperInvariant(line[0]) + line[1..] + ".";
}
