using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Writes the record: a line for every change, in the same transaction as the change.</summary>
public static class ActivityLog
{
    private const int LongestSubject = 300;

    /// <summary>Adds a line, saved with whatever else is saved.</summary>
    /// <param name="db">The database.</param>
    /// <param name="by">Who.</param>
    /// <param name="job">The job; null for accounts and the site.</param>
    /// <param name="did">What, as a verb in the past: <c>made the job</c>, <c>invited</c>.</param>
    /// <param name="subject">To what, in words that can be read when it is gone.</param>
    public static void Note(this LintelDb db, Actor by, Guid? job, string did, string subject) =>
        db.Record.Add(
            new ActivityLine
            {
                At = DateTime.UtcNow,
                JobId = job,
                UserId = by.User,
                Did = did,
                Subject = StoredText.Clean(subject, LongestSubject),
                Address = by.Address,
            }
        );
}
