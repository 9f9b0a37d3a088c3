using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Looks whether what topics were made from is still there, whenever something arrived, was written or was decided.</summary>
/// <param name="db">The database.</param>
internal sealed class TopicCauses(LintelDb db)
{
    private readonly Dictionary<Guid, HashSet<string>?> _findings = [];

    /// <summary>Notes on each open topic of a job that its cause is gone or is back, and closes it where the job wishes so.</summary>
    /// <param name="job">The job.</param>
    /// <param name="what">What happened, in words: <c>r3 of ARC Architecture</c>.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task LookAsync(Guid job, string what, CancellationToken cancel)
    {
        var topics = await db
            .Topics.Where(t => t.JobId == job && !t.Closed && t.Cause != null)
            .OrderBy(t => t.Number)
            .ToListAsync(cancel);
        if (topics.Count == 0)
            return;
        TopicBoard? board = null;
        foreach (var topic in topics)
        {
            if (await IsThereAsync(topic.Cause!, cancel) is not { } there || there == topic.CauseGoneAt is null)
                continue;
            topic.CauseGoneAt = there ? null : DateTime.UtcNow;
            Note(topic, there ? TopicAction.CauseBack : TopicAction.CauseGone, what);
            if (there)
                continue;
            board ??= await TopicBoard.LoadAsync(db, job, cancel);
            if (!board.Settings.ClosesWhenGone)
                continue;
            string status = board.Settings.ClosingOf(board.Words);
            var closed = TopicRows.Read(topic) with
            {
                Status = status,
                ModifiedDate = DateTime.UtcNow.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", null),
            };
            TopicRows.Write(topic, closed, board, null, DateTime.UtcNow);
            Note(topic, TopicAction.Status, status);
        }

        await db.SaveChangesAsync(cancel);
    }

    /// <summary>The same after a run of an order.</summary>
    public async Task LookAfterAsync(Guid transmittal, CancellationToken cancel)
    {
        var run = await db
            .Transmittals.Where(t => t.Id == transmittal)
            .Select(t => new
            {
                t.Order.JobId,
                Order = t.Order.Number,
                t.Number,
            })
            .FirstAsync(cancel);
        await LookAsync(run.JobId, $"order {run.Order}, transmittal {run.Number}", cancel);
    }

    private void Note(TopicRow topic, string did, string value) =>
        db.TopicEvents.Add(
            new TopicEvent
            {
                TopicId = topic.Id,
                At = DateTime.UtcNow,
                Did = did,
                Value = value,
            }
        );

    // Null where nothing says: a change stays a change.
    private async Task<bool?> IsThereAsync(string cause, CancellationToken cancel)
    {
        string[] words = cause.Split(' ');
        if (words.Length < 2 || !Guid.TryParse(words[1], out var id))
            return null;
        switch (words[0])
        {
            case "finding" when words.Length == 3:
                return await HasFindingAsync(id, words[2], cancel);
            case "amendment":
                return await db.Amendments.AnyAsync(
                    a =>
                        a.Id == id
                        && (
                            a.Step == AmendmentStep.Contradicts
                            || a.Step == AmendmentStep.Gone
                            || a.Step == AmendmentStep.Refused
                        ),
                    cancel
                );
            case "order":
                return await db
                        .Transmittals.Where(t => t.OrderId == id && t.State == TransmittalState.Done)
                        .OrderByDescending(t => t.Number)
                        .Select(t => (bool?)t.Balanced)
                        .FirstOrDefaultAsync(cancel) == false;
            default:
                return null;
        }
    }

    // A report is large, and many topics may be about one.
    private async Task<bool?> HasFindingAsync(Guid source, string code, CancellationToken cancel)
    {
        if (!_findings.TryGetValue(source, out var codes))
        {
            string? report = await db
                .Revisions.Where(r => r.SourceId == source)
                .OrderByDescending(r => r.Number)
                .Select(r => r.Report)
                .FirstOrDefaultAsync(cancel);
            codes = report is null
                ? null
                : JsonSerializer
                    .Deserialize<Reported>(report, IntakeStore.Json)
                    ?.Findings?.Select(f => f.Code)
                    .ToHashSet();
            _findings[source] = codes;
        }

        return codes?.Contains(code);
    }

    // What reports of models and of drawings both have.
    private sealed record Reported(IReadOnlyList<ReportedFinding>? Findings);

    private sealed record ReportedFinding(string Code);
}
