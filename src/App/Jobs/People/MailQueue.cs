using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The mails that wait to be sent.</summary>
/// <param name="db">The database.</param>
public sealed class MailQueue(LintelDb db)
{
    /// <inheritdoc cref="Mailbox.SendDueAsync"/>
    public Task<int> SendDueAsync(Func<OutgoingMail, Task> send, CancellationToken cancel) =>
        Mailbox.SendDueAsync(db, send, cancel);
}
