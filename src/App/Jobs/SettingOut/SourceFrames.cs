using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Where the sources of a job lie: the settings-out that hold, by source and revision.</summary>
public sealed class SourceFrames
{
    private readonly ILookup<Guid, (SettingOutRow Row, SettingOutDocument Document)> _held;

    private SourceFrames(IEnumerable<SettingOutRow> rows) =>
        _held = rows.OrderByDescending(r => r.AcceptedAt)
            .ToLookup(r => r.SourceId, r => (r, SettingOutDocument.Read(r.Document)));

    /// <summary>Loads those of a job.</summary>
    public static async Task<SourceFrames> LoadAsync(LintelDb db, Guid job, CancellationToken cancel) =>
        new(
            await db
                .SettingOuts.AsNoTracking()
                .Where(s => s.TakenBackAt == null && db.Sources.Any(o => o.Id == s.SourceId && o.JobId == job))
                .ToListAsync(cancel)
        );

    /// <summary>The setting-out that holds for a revision of a source: the newest that was accepted for it or an earlier one; null when it
    /// is
    /// not set out.</summary>
    public SettingOutDocument? Of(Guid source, int revision) => Holding(source, revision)?.Document;

    /// <summary>The setting-out that holds for a revision, with its identity; null when it is not set out.</summary>
    public (Guid Id, SettingOutDocument Document)? Holding(Guid source, int revision)
    {
        foreach (var (row, document) in _held[source])
            if (row.FromRevision <= revision)
                return (row.Id, document);
        return null;
    }

    /// <summary>The frame of a revision; where it is not set out, as it came.</summary>
    public Frame FrameOf(Guid source, int revision) => Of(source, revision)?.Frame ?? Frame.Identity;
}
