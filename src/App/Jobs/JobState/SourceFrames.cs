using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Loads where the sources of a job lie.</summary>
public static class SourceFrames
{
    /// <summary>The settings-out that were accepted and that nobody has undone.</summary>
    public static async Task<SourcePlaces> LoadAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var rows = await db
            .SettingOuts.AsNoTracking()
            .Where(s => s.TakenBackAt == null && db.Sources.Any(o => o.Id == s.SourceId && o.JobId == job))
            .ToListAsync(cancel);
        return new SourcePlaces(
            rows.Select(r => new AcceptedPlace(
                r.Id,
                r.SourceId,
                r.FromRevision,
                r.AcceptedAt,
                SettingOutDocument.Read(r.Document)
            )
            {
                Preparation = PreparationDocument.Read(r.Preparation),
            })
        );
    }
}
