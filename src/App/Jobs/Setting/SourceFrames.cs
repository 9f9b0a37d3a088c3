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
        _held = rows.OrderByDescending(r => r.AcceptedAt).ToLookup(r => r.SourceId, r => (r, SettingOutDocument.Read(r.Document)));

    /// <summary>Loads those of a job.</summary>
    public static async Task<SourceFrames> LoadAsync(LintelDb db, Guid job, CancellationToken cancel) => new(await db.SettingOuts
        .AsNoTracking().Where(s => s.TakenBackAt == null && db.Sources.Any(o => o.Id == s.SourceId && o.JobId == job)).ToListAsync(cancel));

    /// <summary>The setting-out that holds for a revision of a source: the newest that was accepted for it or an earlier one; null when it
    /// is
    /// not set out.</summary>
    public SettingOutDocument? Of(Guid source, int revision) => Holding(source, revision)?.Document;

    /// <summary>The setting-out that holds for a revision, with its identity; null when it is not set out.</summary>
    public (Guid Id, SettingOutDocument Document)? Holding(Guid source, int revision)
    {
        foreach (var (row, document) in _held[source])
            if (row.FromRevision <= revision) return (row.Id, document);
        return null;
    }

    /// <summary>The frame of a revision; where it is not set out, as it came.</summary>
    public Frame FrameOf(Guid source, int revision) => Of(source, revision)?.Frame ?? Frame.Identity;

    /// <summary>The storeys of revisions as they lie in the job.</summary>
    /// <param name="storeys">As the files say, by revision.</param>
    /// <param name="frame">The frame of a revision, by its number in the list.</param>
    /// <remarks>A storey's Elevation counts from the building's own zero (ISO 16739-1, IfcBuildingStorey), which need not be the file's:
    /// where
    /// most storeys are placed a like distance from what they say, the building's zero lies there.</remarks>
    internal static IReadOnlyList<SourceStorey> InJob(IReadOnlyList<SourceStorey> storeys, Func<int, Frame> frame)
    {
        var zeros = storeys.Where(s => s.PlacementZ is not null).GroupBy(s => s.Source).ToDictionary(g => g.Key,
            g => g.Select(s => s.PlacementZ!.Value - s.Elevation).Order().ElementAt((g.Count() - 1) / 2));
        return [.. storeys.Select(s =>
        {
            var f = frame(s.Source);
            return s with { Elevation = Height(s.Elevation + zeros.GetValueOrDefault(s.Source), f), PlacementZ = s.PlacementZ is { } z
                ? Height(z, f) : null };
        })];

        static double Height(double z, Frame f) => (z * f.Z.Z) + f.Origin.Z;
    }
}
