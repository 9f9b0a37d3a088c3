using MathNet.Numerics.LinearAlgebra;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A fit in space, tilt and all: not a setting-out, for buildings are upright, but what tells that a source does
/// not.</summary>
/// <param name="Frame">From the source's frame into the job's, the scale included.</param>
/// <param name="Scale">1 where it is held.</param>
/// <param name="Rms">Root of the mean square length of the residuals, metres.</param>
public sealed record SpaceFit(Frame Frame, double Scale, double Rms)
{
    // A second direction in which the points spread less than this share of the first is none.
    private const double Flat = 1e-6;

    /// <summary>By how much its vertical leans, degrees.</summary>
    public double TiltDegrees => Math.Atan2(Frame.Z.XY.Length, Frame.Z.Z) * 180 / Math.PI;

    /// <summary>Fits in closed form, by singular values; never mirrors.</summary>
    /// <remarks>Umeyama, Least-squares estimation of transformation parameters between two point patterns, IEEE PAMI 13 (1991), equations
    /// 40 to 43. Coordinates count from the centroids.</remarks>
    /// <param name="points">The points in use that have a place in plan and a height.</param>
    /// <param name="freeScale">Whether the scale is fitted too.</param>
    /// <returns>Null with fewer than three points, or where they lie in a line.</returns>
    public static SpaceFit? Of(IReadOnlyList<ControlPoint> points, bool freeScale = false)
    {
        var used = points.Where(p => p is { Used: true, HasPlan: true, HasHeight: true }).ToList();
        if (used.Count < 3)
            return null;
        Vec3 source = Mean(used.Select(p => p.Source)),
            job = Mean(used.Select(p => p.Job));
        var covariance = Matrix<double>.Build.Dense(3, 3);
        foreach (var p in used)
            covariance += Column(p.Job - job).OuterProduct(Column(p.Source - source)) / used.Count;
        var svd = covariance.Svd();
        if (!(svd.S[1] > Flat * svd.S[0]))
            return null;
        var sign = Matrix<double>.Build.DenseIdentity(3);
        if (svd.U.Determinant() * svd.VT.Determinant() < 0)
            sign[2, 2] = -1;
        var turn = svd.U * sign * svd.VT;
        double variance = used.Average(p => (p.Source - source).Dot(p.Source - source));
        double scale = freeScale ? (svd.S[0] + svd.S[1] + (sign[2, 2] * svd.S[2])) / variance : 1;
        var axes = new Frame(Vec3.Zero, Axis(0), Axis(1), Axis(2));
        var frame = axes with { Origin = job - axes.Direction(source) };
        // About the centroids, so that nothing is lost at map coordinates.
        double squares = used.Average(p => axes.Direction(p.Source - source) - (p.Job - job) is var r ? r.Dot(r) : 0);
        return new SpaceFit(frame, scale, Math.Sqrt(squares));

        Vec3 Axis(int n) => new Vec3(turn[0, n], turn[1, n], turn[2, n]) * scale;
    }

    private static Vec3 Mean(IEnumerable<Vec3> points) =>
        points.ToList() is var all ? all.Aggregate((a, b) => a + b) * (1.0 / all.Count) : default;

    private static Vector<double> Column(Vec3 v) => Vector<double>.Build.DenseOfArray([v.X, v.Y, v.Z]);
}
