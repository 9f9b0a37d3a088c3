namespace SteadyLintel.Geometry;

/// <summary>The direction that a body runs in, in plan.</summary>
public static class PlanBearing
{
    // A body that reaches less than a tenth further one way than across runs in no direction.
    private const double MinRatio = 1.21;

    /// <summary>The bearing of a body: that of the larger principal axis of its surface in plan.</summary>
    /// <param name="meshes">Its pieces, in one frame.</param>
    /// <returns>Degrees clockwise from the Y axis of that frame, from 0 to below 180; null where it runs in no direction: a square column,
    /// a round one, a body without surface.</returns>
    public static double? Of(IEnumerable<Mesh> meshes) => Of(SurfaceMoments.Of([.. meshes]), Frame.Identity);

    /// <summary>The bearing of a body that lies in an outer frame.</summary>
    /// <param name="moments">Its surface, in its own frame.</param>
    /// <param name="frame">From its own frame into the outer one; its axes are unit and square to each other.</param>
    /// <returns>As <see cref="Of(IEnumerable{Mesh})"/>, in the outer frame.</returns>
    public static double? Of(SurfaceMoments moments, Frame frame)
    {
        if (moments.Area <= 0)
            return null;
        var (xx, yy, xy) = moments.InPlan(frame);
        double middle = (xx + yy) / 2,
            half = Math.Sqrt((((xx - yy) / 2) * ((xx - yy) / 2)) + (xy * xy));
        if (middle + half < 1e-12 || middle + half < MinRatio * (middle - half))
            return null;
        return Normal(90 - (Math.Atan2(2 * xy, xx - yy) / 2 * 180 / Math.PI));
    }

    /// <summary>The same direction from 0 to below 180 degrees.</summary>
    /// <param name="degrees">Any direction.</param>
    public static double Normal(double degrees)
    {
        double turned = degrees % 180;
        if (turned < 0)
            turned += 180;
        // What lies within a millionth of a degree of the end is the beginning.
        return turned > 180 - 1e-6 ? 0 : turned;
    }
}
