using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Drawings of a job as they are worked on: read from their originals, prepared, placed.</summary>
public static class SheetDesk
{
    /// <summary>Reads the original of a drawing.</summary>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public static async Task<Drawing> ReadAsync(LintelDb db, Guid blob, CancellationToken cancel)
    {
        using var bytes = new MemoryStream();
        await new Blobs(db).CopyToAsync(blob, bytes, cancel);
        return await Task.Run(() => CadFile.Read(bytes.ToArray(), cancel).Drawing, cancel);
    }

    /// <summary>Where a drawing lies: its own units into the job's metres, at the height of its level as the schedule stands now.</summary>
    public static Frame FrameOf(SettingOutDocument document, LevelSchedule schedule)
    {
        var frame = document.Frame;
        var rung = document.Level is { } level ? schedule.Rungs.FirstOrDefault(r => r.Level == level) : null;
        return rung is null ? frame : frame with { Origin = frame.Origin with { Z = rung.Elevation } };
    }
}
