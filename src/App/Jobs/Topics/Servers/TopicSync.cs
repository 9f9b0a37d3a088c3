using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Brings the topics of a job and of a project at another server together, both ways.</summary>
/// <remarks>What is to be sent is no list of its own: it is what differs from what both knew last. An exchange that is broken off at any
/// point is simply done again.</remarks>
/// <param name="db">The database.</param>
/// <param name="signIn">Lets the job in there.</param>
/// <param name="editing">Writes what came.</param>
/// <param name="options">How often, and how long.</param>
/// <param name="log">The log.</param>
public sealed class TopicSync(
    LintelDb db,
    TopicServerSignIn signIn,
    TopicEditing editing,
    TopicServerOptions options,
    ILogger<TopicSync> log
)
{
    private const int Batch = 16,
        AtOnce = 4;

    // What a server says of its time, and what it notes with a change, may be a little apart.
    private static readonly TimeSpan Overlap = TimeSpan.FromMinutes(2),
        LongestPause = TimeSpan.FromHours(1);

    private DateTime _held,
        _claimed;

    /// <summary>Exchanges with one server that is due.</summary>
    /// <returns>Whether there was one.</returns>
    public async Task<bool> RunDueAsync(CancellationToken cancel)
    {
        if (await ClaimAsync(cancel) is not { } server)
            return false;
        try
        {
            var (received, sent, left, unread) = await ExchangeAsync(server, cancel);
            (server.State, server.Failures) = (
                left > 0 || unread is not null ? TopicServerState.Left : TopicServerState.Same,
                0
            );
            server.SyncedAt = DateTime.UtcNow;
            server.NextAt = DateTime.UtcNow + options.Pause;
            server.Sentence = StoredText.Clean(
                $"{Count(received)} received, {Count(sent)} sent."
                    + (left > 0 ? $" {Count(left)} {(left == 1 ? "needs" : "need")} a look below." : "")
                    + (unread is not null ? $" Not read: {unread}." : "")
            );
        }
        catch (TopicServerException e)
        {
            server.Failures++;
            server.State = TopicServerState.Failed;
            server.Sentence = StoredText.Clean(
                e.Fault == TopicServerFault.SignIn ? e.Message + " Sign in again." : e.Message
            );
            if (e.Fault == TopicServerFault.SignIn)
                signIn.Forget(server);
            // A broken line is tried again soon, then less and less often.
            var pause = TimeSpan.FromSeconds(15 * Math.Pow(2, Math.Min(server.Failures, 10) - 1));
            server.NextAt = DateTime.UtcNow + (pause < LongestPause ? pause : LongestPause);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            (server.State, server.NextAt) = (TopicServerState.Waiting, DateTime.UtcNow);
            await FinishAsync(server, CancellationToken.None);
            throw;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            string reference = Guid.NewGuid().ToString("N")[..8].ToUpperInvariant();
            log.LogError(e, "The exchange with {Server} failed; reference {Reference}", server.Id, reference);
            server.Failures++;
            (server.State, server.NextAt) = (TopicServerState.Failed, DateTime.UtcNow + LongestPause);
            server.Sentence =
                $"Something went wrong in the program. Your administrator finds the cause under reference {reference}.";
        }

        await FinishAsync(server, cancel);
        return true;
    }

    private static string Count(int topics) => topics == 1 ? "1 topic" : $"{topics} topics";

    private async Task<TopicServer?> ClaimAsync(CancellationToken cancel)
    {
        _held = Until();
        _claimed = DateTime.UtcNow;
        var claimed = await db
            .TopicServers.FromSql(
                $"""
                UPDATE topic_servers SET held_until = {_held}, state = {(int)TopicServerState.Underway}
                WHERE id = (
                  SELECT s.id FROM topic_servers s JOIN jobs j ON j.id = s.job_id
                  WHERE s.project <> '' AND s.next_at <= {_claimed} AND j.archived_at IS NULL
                    AND (s.held_until IS NULL OR s.held_until < {_claimed})
                  ORDER BY s.next_at LIMIT 1 FOR UPDATE OF s SKIP LOCKED
                ) RETURNING *
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        return claimed.FirstOrDefault();
    }

    // Whole milliseconds: what the database returns is what was written.
    private DateTime Until()
    {
        var at = DateTime.UtcNow + options.Lease;
        return new DateTime(at.Ticks - (at.Ticks % TimeSpan.TicksPerMillisecond), DateTimeKind.Utc);
    }

    // Still ours? Somebody may have removed it, or another process taken it over.
    private async Task HoldAsync(TopicServer server, CancellationToken cancel)
    {
        var until = Until();
        int held = await db
            .TopicServers.Where(s => s.Id == server.Id && s.HeldUntil == _held)
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.HeldUntil, until), cancel);
        if (held == 0)
            throw new TopicServerException(TopicServerFault.Away, "The exchange was ended.");
        _held = until;
    }

    private Task FinishAsync(TopicServer server, CancellationToken cancel) =>
        db
            .TopicServers.Where(s => s.Id == server.Id && s.HeldUntil == _held)
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(s => s.State, server.State)
                        .SetProperty(s => s.Sentence, server.Sentence)
                        // Whoever asked for an exchange meanwhile gets one.
                        .SetProperty(s => s.NextAt, s => s.NextAt > _claimed ? s.NextAt : server.NextAt)
                        .SetProperty(s => s.SyncedAt, server.SyncedAt)
                        .SetProperty(s => s.TheirTime, s => s.NextAt > _claimed ? s.TheirTime : server.TheirTime)
                        .SetProperty(s => s.Failures, server.Failures)
                        .SetProperty(s => s.HeldUntil, (DateTime?)null),
                cancel
            );

    private async Task<(int Received, int Sent, int Left, string? Unread)> ExchangeAsync(
        TopicServer server,
        CancellationToken cancel
    )
    {
        string renewal = server.Renewal;
        var client = await signIn.ClientAsync(server, cancel);
        // A renewed secret is good once: it is kept before anything else happens.
        if (server.Renewal != renewal)
            await db
                .TopicServers.Where(s => s.Id == server.Id)
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.Renewal, server.Renewal), cancel);
        var run = new TopicSyncRun(
            server,
            await JobState.LoadAsync(db, server.JobId, cancel),
            await TopicBoard.LoadAsync(db, server.JobId, cancel),
            client
        );
        var since = server.TheirTime is { } last ? last - Overlap : (DateTime?)null;
        var (listed, onlyChanged) = await run.There.ListAsync(since, cancel);
        var theirTime = client.TheirTime ?? DateTime.UtcNow;
        var work = await WorkAsync(run, listed, onlyChanged, cancel);
        foreach (var some in work.Chunk(Batch))
        {
            await HoldAsync(server, cancel);
            var steps = new TopicSyncStep[some.Length];
            for (int n = 0; n < some.Length; n++)
                steps[n] = await LoadAsync(run, some[n], cancel);
            await ParallelAsync(steps, s => s.ReadAsync(run, cancel), cancel);
            await SourcesAsync(run, steps, cancel);
            foreach (var step in steps)
                await MergeAsync(run, step, cancel);
            // What came is noted before anything is sent: a line that breaks now leaves nothing in doubt.
            await NoteAsync(run, steps, cancel);
            await HoldAsync(server, cancel);
            try
            {
                await ParallelAsync(steps, s => s.SendAsync(run, cancel), cancel);
            }
            finally
            {
                // Whatever was sent before the line broke is known too.
                await NoteAsync(run, steps, CancellationToken.None);
            }
        }

        // What could not be read is asked for again, and not only once it changes.
        if (run.Unread.IsEmpty)
            server.TheirTime = theirTime;
        int left = await db.TopicServerTopics.CountAsync(t => t.ServerId == server.Id && t.Problem != "", cancel);
        return (run.Received, run.Sent, left, run.Unread.FirstOrDefault());
    }

    // Whatever has changed on either side, or was decided.
    private async Task<IReadOnlyList<(string? Ours, string? Theirs)>> WorkAsync(
        TopicSyncRun run,
        IReadOnlyList<BcfTopic> listed,
        bool onlyChanged,
        CancellationToken cancel
    )
    {
        var links = await db
            .TopicServerTopics.Where(t => t.ServerId == run.Server.Id)
            .Select(t => new
            {
                t.Guid,
                t.TheirGuid,
                t.Version,
                t.TheirModified,
                Decided = t.Decisions != null,
                Sent = t.TheirGuid.StartsWith(TopicSyncStep.NotThere) ? t.Theirs : null,
            })
            .ToListAsync(cancel);
        var ours = await db
            .Topics.Where(t => t.JobId == run.Server.JobId)
            .OrderBy(t => t.Number)
            .Select(t => new { t.Guid, t.Version })
            .ToListAsync(cancel);
        var byOurs = links.ToDictionary(l => l.Guid, StringComparer.OrdinalIgnoreCase);
        foreach (var l in links.Where(l => !TopicSyncStep.IsNotThere(l.TheirGuid)))
            run.TheirGuids[l.Guid] = l.TheirGuid;
        var pending = links
            .Where(l => l.Sent is not null)
            .Select(l => (l.Guid, Topic: TopicJson.Read(l.Sent!)))
            .Select(l => (l.Guid, l.Topic.Title, Text: l.Topic.Description ?? ""))
            .ToList();
        var work = new List<(string?, string?)>();
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var byTheirs = links.ToDictionary(l => l.TheirGuid, StringComparer.OrdinalIgnoreCase);
        var known = ours.Select(t => t.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var topic in listed)
        {
            string theirs = topic.Guid!;
            string? own =
                byTheirs.TryGetValue(theirs, out var link) ? link.Guid
                : known.Contains(theirs)
                && (!byOurs.TryGetValue(theirs, out var ownLink) || TopicSyncStep.IsNotThere(ownLink.TheirGuid))
                    ? theirs.ToLowerInvariant()
                : null;
            // One that was sent, and broken off before the GUID was known that the server gave it.
            if (own is null && topic.CreationAuthor == run.Server.Account)
                own = pending
                    .Find(l => !taken.Contains(l.Guid) && l.Title == topic.Title && l.Text == (topic.Description ?? ""))
                    .Guid;
            if (link is not null && !onlyChanged && link.TheirModified == topic.ModifiedDate)
                continue;
            work.Add((own, theirs));
            if (own is not null)
                taken.Add(own);
        }

        foreach (var topic in ours.Where(t => !taken.Contains(t.Guid)))
            if (byOurs.TryGetValue(topic.Guid, out var link))
            {
                if (link.Version != topic.Version || link.Decided)
                    work.Add((topic.Guid, TopicSyncStep.IsNotThere(link.TheirGuid) ? null : link.TheirGuid));
            }
            else if (run.Server.SendsOwn)
            {
                work.Add((topic.Guid, null));
            }

        return work;
    }

    private static Task ParallelAsync(
        IEnumerable<TopicSyncStep> steps,
        Func<TopicSyncStep, Task> what,
        CancellationToken cancel
    ) =>
        Parallel.ForEachAsync(
            steps,
            new ParallelOptions { MaxDegreeOfParallelism = AtOnce, CancellationToken = cancel },
            (step, _) => new ValueTask(what(step))
        );

    private async Task<TopicSyncStep> LoadAsync(
        TopicSyncRun run,
        (string? Ours, string? Theirs) what,
        CancellationToken cancel
    )
    {
        var step = new TopicSyncStep { TheirGuid = what.Theirs };
        if (what.Ours is not { } guid)
            return step;
        step.Row = await db
            .Topics.AsNoTracking()
            .Include(t => t.Parts)
            .FirstOrDefaultAsync(t => t.JobId == run.Server.JobId && t.Guid == guid, cancel);
        step.Ours = step.Row is { } row ? TopicRows.Read(row) with { Parts = new TopicParts(db).Of(row.Parts) } : null;
        step.Link = await db
            .TopicServerTopics.AsNoTracking()
            .FirstOrDefaultAsync(t => t.ServerId == run.Server.Id && t.Guid == guid, cancel);
        step.Names = SharedNames.Read(step.Link?.Names);
        return step;
    }

    // New topics: the sources whose frames their views are in.
    private async Task SourcesAsync(TopicSyncRun run, TopicSyncStep[] steps, CancellationToken cancel)
    {
        var added = steps.Where(s => s.Row is null && s.There is not null).ToList();
        var frames = await TopicPlaces.FramesAsync(db, run.State, run.Frame, [.. added.Select(s => s.There!)], cancel);
        foreach (var step in added)
            step.FrameOf = frames.GetValueOrDefault(step.There!.Guid);
    }

    private async Task MergeAsync(TopicSyncRun run, TopicSyncStep step, CancellationToken cancel)
    {
        if (!step.Merge(run))
            return;
        if (step.Merged is { } merged && (step.Ours is null || !TopicMerge.AreSame(step.Ours, merged)))
        {
            step.Row = await editing.ReceiveAsync(
                run.State,
                run.Board,
                step.Row,
                step.Ours,
                merged,
                step.FrameOf,
                run.Server,
                cancel
            );
            db.ChangeTracker.Clear();
            // Somebody answers at this moment: the next exchange has both.
            if (step.Row is null)
                return;

            run.Received++;
        }

        step.Prepare(run);
    }

    private async Task NoteAsync(TopicSyncRun run, TopicSyncStep[] steps, CancellationToken cancel)
    {
        foreach (var step in steps.Where(s => s.Note is not null))
        {
            var note = step.Note!;
            note.ServerId = run.Server.Id;
            if (step.Link is null)
                db.TopicServerTopics.Add(note);
            else
                db.TopicServerTopics.Update(note);
            (step.Link, step.Note) = (note, null);
            if (!TopicSyncStep.IsNotThere(note.TheirGuid))
                run.TheirGuids[note.Guid] = note.TheirGuid;
            if (step.HasSent)
                run.Sent++;
        }

        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();
    }
}
