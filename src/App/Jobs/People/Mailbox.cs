using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Mails that wait: nothing waits for them to be sent.</summary>
public static class Mailbox
{
    /// <summary>A mail is given up after so many tries: some two days.</summary>
    public const int MaxAttempts = 16;

    // Eight hours, seconds.
    private const double LongestPause = 8 * 3600;

    /// <summary>Where a text has the address of the site: it is known where mails are sent, not where work is done.</summary>
    public const string Site = "{site}";

    /// <summary>Writes a mail, saved with whatever else is saved.</summary>
    public static void Write(LintelDb db, string to, string subject, string text) =>
        db.Mails.Add(
            new OutgoingMail
            {
                Id = Guid.NewGuid(),
                To = to,
                // A header is one line.
                Subject = subject.ReplaceLineEndings(" "),
                Text = text,
                WrittenAt = DateTime.UtcNow,
                NextAt = DateTime.UtcNow,
            }
        );

    /// <summary>Sends what is due.</summary>
    /// <param name="db">The database.</param>
    /// <param name="send">Sends one; throws when it cannot.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>How many were sent.</returns>
    public static async Task<int> SendDueAsync(LintelDb db, Func<OutgoingMail, Task> send, CancellationToken cancel)
    {
        int sent = 0;
        while (true)
        {
            // Taken one by one, so that two processes never send the same.
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            var mail = await db
                .Mails.FromSql(
                    $"SELECT * FROM mails WHERE ended_at IS NULL AND next_at <= now() ORDER BY next_at LIMIT 1 FOR UPDATE SKIP LOCKED"
                )
                .FirstOrDefaultAsync(cancel);
            if (mail is null)
                return sent;
            try
            {
                await send(mail);
                // Links in it are secrets: what was sent is not kept.
                (mail.EndedAt, mail.Text, mail.Problem) = (DateTime.UtcNow, "", "");
                sent++;
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                mail.Attempts++;
                mail.Problem = StoredText.Clean(e.Message, 300);
                mail.NextAt =
                    DateTime.UtcNow + TimeSpan.FromSeconds(Math.Min(LongestPause, 2 * Math.Pow(3, mail.Attempts)));
                if (mail.Attempts >= MaxAttempts)
                    (mail.EndedAt, mail.Text) = (DateTime.UtcNow, "");
            }

            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            db.ChangeTracker.Clear();
        }
    }
}
