using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>How well a fit meets one control point.</summary>
/// <param name="Name">The point.</param>
/// <param name="Residual">Where the fit puts it minus where it lies in the job, metres; components that do not count are 0.</param>
/// <param name="Length">The length of the residual, metres.</param>
/// <param name="Outlier">Whether it disagrees with what the others agree on.</param>
public sealed record PointResidual(string Name, Vec3 Residual, double Length, bool Outlier);

/// <summary>A fitted setting-out: X_job = Shift + Scale · Rz(Turn) · X_source in plan, and Z_job = Shift.Z + Scale · Z_source.</summary>
/// <param name="Shift">Metres.</param>
/// <param name="TurnDegrees">Counter-clockwise, −180 exclusive … 180.</param>
/// <param name="Scale">1 where it is held.</param>
/// <param name="FreeScale">What the scale would be were it free; null where the points do not say.</param>
/// <param name="Rms">Root of the mean square length of the residuals of the points in use, metres.</param>
/// <param name="Largest">The longest residual of those, metres.</param>
/// <param name="Points">All points, in their order.</param>
/// <param name="Undetermined">What the points leave open, and what to add, in a sentence; null where nothing is open.</param>
/// <param name="Doubt">What the points cannot show, in a sentence; null where nothing is to be doubted.</param>
public sealed record FitResult(
    Vec3 Shift,
    double TurnDegrees,
    double Scale,
    double? FreeScale,
    double Rms,
    double Largest,
    IReadOnlyList<PointResidual> Points,
    string? Undetermined,
    string? Doubt
)
{
    /// <summary>The centre of the points in use, in the source's frame, metres.</summary>
    public Vec2 Centre { get; init; }

    /// <summary>The standard deviation of one coordinate, metres, from the residuals in plan; null where nothing is left over to judge
    /// by.</summary>
    public double? Sigma { get; init; }

    /// <summary>The standard deviation of the turn, radians; null as <see cref="Sigma"/>.</summary>
    public double? SigmaTurn { get; init; }

    /// <summary>The standard deviation of the scale, 0 where it is held; null as <see cref="Sigma"/>.</summary>
    public double? SigmaScale { get; init; }

    /// <summary>How many points in use have a place in plan.</summary>
    public int PlanPoints { get; init; }

    /// <summary>The setting-out as a frame, from the source's into the job's.</summary>
    public Frame Frame
    {
        get
        {
            var (x, y) = SettingOutDocument.Axes(TurnDegrees, Scale);
            return new Frame(Shift, x, y, Vec3.AxisZ * Scale);
        }
    }

    /// <summary>The standard deviation in plan of where a point of the source comes to lie, metres: the error of the points, grown by the
    /// turn's
    /// error times the distance from them. Null where nothing is left over to judge by.</summary>
    /// <param name="source">The point, in the source's frame, metres.</param>
    /// <remarks>The covariance of the least-squares solution: centroid, turn and scale are uncorrelated when coordinates count from the
    /// centroid.</remarks>
    public double? PlusMinusAt(Vec2 source)
    {
        if (Sigma is not { } sigma || SigmaTurn is not { } turn || SigmaScale is not { } scale || PlanPoints == 0)
            return null;
        double distance = (source - Centre).Length;
        return Math.Sqrt((2 * sigma * sigma / PlanPoints) + (distance * distance * ((turn * turn) + (scale * scale))));
    }
}
