namespace SteadyLintel.Cad;

/// <summary>Angles of arcs, which come from strangers.</summary>
public static class ArcAngles
{
    /// <summary>Where an arc ends: behind its beginning, by whole turns. Angles so large that a turn is lost in them end where they
    /// begin.</summary>
    /// <param name="from">Where it begins, radians.</param>
    /// <param name="to">Where it ends.</param>
    public static double End(double from, double to)
    {
        if (to > from + 1e-12)
            return to - from <= 100 ? to : from;
        double end = to + (2 * Math.PI * Math.Max(1, Math.Ceiling((from + 1e-12 - to) / (2 * Math.PI))));
        return end > from && end - from <= 100 ? end : from;
    }
}
