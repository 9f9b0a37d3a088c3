using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>Where the rungs, ticks and leader lines of a ladder picture go, in pixels.</summary>
public sealed class Ladder
{
    private readonly double _low,
        _high,
        _top,
        _bottom;

    /// <summary>Lays out a ladder to scale between two heights of the picture.</summary>
    public Ladder(LevelSchedule schedule, double top, double bottom)
    {
        (_top, _bottom) = (top, bottom);
        _low = schedule.Rungs.Count == 0 ? 0 : schedule.Rungs[0].Elevation;
        _high = schedule.Rungs.Count == 0 ? 1 : schedule.Rungs[^1].Elevation;
        if (_high - _low < 1)
            _high = _low + 1;
        var labels = new List<double>();
        // Names of levels close together are set apart; their ticks stay true.
        foreach (var rung in schedule.Rungs)
            labels.Add(labels.Count == 0 ? Y(rung.Elevation) : Math.Min(Y(rung.Elevation), labels[^1] - 16));
        Labels = labels;
    }

    /// <summary>The heights of the rungs' labels, lowest rung first.</summary>
    public IReadOnlyList<double> Labels { get; }

    /// <summary>From the line of one source to that of the next: wide for few, and never so narrow that their ticks touch.</summary>
    public static int Rail(int sources) => sources <= 4 ? 28 : 22;

    /// <summary>The right end of the levels' lines: some way beyond the last source's.</summary>
    public static int Right(int sources) => Math.Max(186, 92 + (Rail(sources) * (sources - 1)) + 14);

    /// <summary>The picture's height of an elevation.</summary>
    public double Y(double elevation) => _bottom - ((elevation - _low) / (_high - _low) * (_bottom - _top));

    /// <summary>Whether a storey is off its rung by more than a millimetre in what it says or where it is; the sentence for
    /// it.</summary>
    public static string? Off(Rung rung, SourceStorey storey)
    {
        double says = storey.Elevation - rung.Elevation,
            stands = (storey.PlacementZ ?? storey.Elevation) - storey.Elevation;
        if (Math.Abs(stands) > 0.001)
            return $"{storey.Name} states {DisplayText.Height(storey.Elevation)} and is placed at {DisplayText.Height(storey.PlacementZ!.Value)}";
        return Math.Abs(says) > 0.001
            ? $"{storey.Name} is at {DisplayText.Height(storey.Elevation)}, the job's level at {DisplayText.Height(rung.Elevation)}"
            : null;
    }
}
