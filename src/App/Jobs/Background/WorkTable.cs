#pragma warning disable EF1002 // Only the names of tables and columns below are put together; values are parameters.
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A kind of work as the database keeps it: who is on it, whether it is alive, how it ends. All times are the
/// database's.</summary>
/// <remarks>Whoever works holds a lease that each sign of life renews; when it runs out, anybody may take the work over.</remarks>
public sealed class WorkTable
{
    /// <summary>Work that ended its process so often is set aside.</summary>
    public const int MaxDeaths = 2;

    /// <summary>Work that failed so often for faults that may pass has failed.</summary>
    public const int MaxAttempts = 6;

    /// <summary>Deliveries that have arrived.</summary>
    public static readonly WorkTable Deliveries = new(
        "deliveries",
        (int)DeliveryState.Received,
        (int)DeliveryState.Storing,
        (int)DeliveryState.Refused,
        (int)DeliveryState.Cancelled
    );

    /// <summary>Runs of orders.</summary>
    public static readonly WorkTable Transmittals = new(
        "transmittals",
        (int)TransmittalState.Waiting,
        (int)TransmittalState.Running,
        (int)TransmittalState.Failed,
        (int)TransmittalState.Cancelled
    );

    private readonly string _name,
        _open;
    private readonly int _failed,
        _cancelled;

    private WorkTable(string name, int firstOpen, int lastOpen, int failed, int cancelled)
    {
        (_name, _failed, _cancelled) = (name, failed, cancelled);
        _open = $"state BETWEEN {firstOpen} AND {lastOpen}";
    }

    /// <summary>Takes work that is open and that nobody is alive on.</summary>
    /// <returns>Whether it is the caller's now.</returns>
    public async Task<bool> ClaimAsync(LintelDb db, Guid id, Guid worker, TimeSpan lease, CancellationToken cancel) =>
        await db.Database.ExecuteSqlRawAsync(
            $$"""
            UPDATE {{_name}} SET worker = {0}, beat = now()
            WHERE id = {1} AND {{_open}} AND (worker IS NULL OR beat < now() - {2})
            """,
            [worker, id, lease],
            cancel
        ) == 1;

    /// <summary>A sign of life.</summary>
    /// <param name="db">The database.</param>
    /// <param name="id">The work.</param>
    /// <param name="worker">The worker.</param>
    /// <param name="state">The state it is in.</param>
    /// <param name="sentence">What is going on; null leaves the sentence.</param>
    /// <param name="share">The share of the step that is done.</param>
    /// <returns>Whether somebody asked to cancel it ; null when the work is not the worker's any more.</returns>
    public bool? Beat(LintelDb db, Guid id, Guid worker, int state, string? sentence, double share)
    {
        var kept = new Npgsql.NpgsqlParameter
        {
            Value = sentence is null ? DBNull.Value : StoredText.Clean(sentence),
            NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Text,
        };
        var asked = db
            .Database.SqlQueryRaw<bool>(
                $$"""
                UPDATE {{_name}} SET beat = now(), state = {0}, progress = {1}, sentence = coalesce({2}, sentence)
                WHERE id = {3} AND worker = {4} AND {{_open}} RETURNING cancel_requested AS "Value"
                """,
                state,
                share,
                kept,
                id,
                worker
            )
            .AsEnumerable()
            .ToList();
        return asked.Count == 0 ? null : asked[0];
    }

    /// <summary>Makes sure, in the caller's transaction, that the work is still the worker's.</summary>
    /// <exception cref="OperationCanceledException">Somebody else has taken it over, or it was ended.</exception>
    public async Task HoldAsync(LintelDb db, Guid id, Guid worker, CancellationToken cancel)
    {
        int held = await db
            .Database.SqlQueryRaw<int>(
                $$"""SELECT 1 AS "Value" FROM {{_name}} WHERE id = {0} AND worker = {1} FOR UPDATE""",
                id,
                worker
            )
            .CountAsync(cancel);
        if (held == 0)
            throw new OperationCanceledException("The work was taken over or ended meanwhile.");
    }

    /// <summary>Ends work that failed; what has ended already stays as it is.</summary>
    public Task<bool> FailAsync(LintelDb db, Guid id, string sentence, CancellationToken cancel) =>
        EndAsync(db, id, _failed, sentence, cancel);

    /// <summary>Ends work that was cancelled; what has ended already stays as it is.</summary>
    public Task<bool> CancelledAsync(LintelDb db, Guid id, string sentence, CancellationToken cancel) =>
        EndAsync(db, id, _cancelled, sentence, cancel);

    /// <summary>Ends work in a state. The sentence may quote the file, so it is kept as the database can keep it: work that cannot say
    /// why it ended would not end.</summary>
    /// <returns>Whether it was open.</returns>
    public async Task<bool> EndAsync(LintelDb db, Guid id, int state, string sentence, CancellationToken cancel) =>
        await db.Database.ExecuteSqlRawAsync(
            $$"""UPDATE {{_name}} SET state = {0}, sentence = {1}, worker = NULL WHERE id = {2} AND {{_open}}""",
            [state, StoredText.Clean(sentence), id],
            cancel
        ) == 1;

    /// <summary>Lets go of work so that anybody may take it at once.</summary>
    public Task ReleaseAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        db.Database.ExecuteSqlRawAsync(
            $$"""UPDATE {{_name}} SET worker = NULL WHERE id = {0} AND {{_open}}""",
            [id],
            cancel
        );

    /// <summary>Counts a try that a passing fault ended.</summary>
    /// <returns>How many there have been.</returns>
    public Task<int> CountAttemptAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        CountAsync(db, id, "attempts", cancel);

    /// <summary>Counts a process that came to its end with the work.</summary>
    /// <returns>How many there have been.</returns>
    public Task<int> CountDeathAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        CountAsync(db, id, "deaths", cancel);

    /// <summary>Whether somebody asked to cancel it while it is open.</summary>
    public async Task<bool> IsCancelAskedAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        (
            await db
                .Database.SqlQueryRaw<bool>(
                    $$"""SELECT cancel_requested AS "Value" FROM {{_name}} WHERE id = {0} AND {{_open}}""",
                    id
                )
                .ToListAsync(cancel)
        )
            is [true];

    /// <summary>Asks to cancel work ; what nobody is alive on ends at once.</summary>
    public async Task AskCancelAsync(LintelDb db, Guid id, string sentence, TimeSpan lease, CancellationToken cancel) =>
        await db.Database.ExecuteSqlRawAsync(
            $$"""
            UPDATE {{_name}} SET cancel_requested = true,
              state = CASE WHEN worker IS NULL OR beat < now() - {0} THEN {{_cancelled}} ELSE state END,
              sentence = CASE WHEN worker IS NULL OR beat < now() - {0} THEN {1} ELSE sentence END
            WHERE id = {2} AND {{_open}}
            """,
            [lease, sentence, id],
            cancel
        );

    /// <summary>Open work that nobody is alive on: its worker is silent, or it has waited so long that the queue may have lost it. Each is
    /// reported once a while.</summary>
    public Task<List<Guid>> ForgottenAsync(LintelDb db, TimeSpan lease, TimeSpan wait, CancellationToken cancel) =>
        db
            .Database.SqlQueryRaw<Guid>(
                $$"""
                UPDATE {{_name}} SET worker = NULL, beat = now()
                WHERE {{_open}} AND ((worker IS NOT NULL AND beat < now() - {0})
                  OR (worker IS NULL AND coalesce(beat, {{Since}}) < now() - {1}))
                RETURNING id AS "Value"
                """,
                lease,
                wait
            )
            .ToListAsync(cancel);

    private string Since => _name == "deliveries" ? "received_at" : "ran_at";

    private async Task<int> CountAsync(LintelDb db, Guid id, string column, CancellationToken cancel) =>
        (
            await db
                .Database.SqlQueryRaw<int>(
                    $$"""UPDATE {{_name}} SET {{column}} = {{column}} + 1, worker = NULL WHERE id = {0} RETURNING {{column}} AS "Value" """,
                    id
                )
                .ToListAsync(cancel)
        ).FirstOrDefault();
}
