using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Fits a setting-out to control points by least squares.</summary>
/// <remarks>In plan the closed form of Umeyama (1991) for two dimensions; heights on their own. Coordinates count from the points'
/// centroids,
/// so that nothing is lost at map coordinates. No solution mirrors.</remarks>
public static class SettingOutFit
{
    /// <summary>Points nearer to one another than this say nothing about a turn, metres.</summary>
    private const double MinSpread = 1e-3;

    /// <summary>Residuals below this are never outliers, metres: what people measure and models carry is no better.</summary>
    private const double Fine = 2e-3;

    // How much better the others must agree without a point, and how far it must lie off them, to be called an outlier.
    private const double Better = 2,
        Off = 4;

    // How much better mirrored points must agree to be called mirrored.
    private const double Mirrored = 3;

    // Of a line: how wide its points may spread beside how long.
    private const double LineRatio = 1e-3;

    /// <summary>Fits.</summary>
    /// <param name="points">The points; those not in use only get residuals.</param>
    /// <param name="freeScale">Whether the scale is fitted too; held at 1 otherwise.</param>
    public static FitResult Fit(IReadOnlyList<ControlPoint> points, bool freeScale = false)
    {
        var plan = points.Where(p => p is { Used: true, HasPlan: true }).ToList();
        var heights = points.Where(p => p is { Used: true, HasHeight: true }).ToList();
        var solved = PlanFit.Of(plan, freeScale);
        double scale = solved.Scale;
        double z = heights.Count == 0 ? 0 : heights.Average(p => p.Job.Z - (scale * p.Source.Z));
        var shift = new Vec3(solved.Shift.X, solved.Shift.Y, z);
        var outliers = Outliers(plan, freeScale).Concat(HeightOutliers(heights, scale)).ToHashSet();
        var residuals = points.Select(p => Residual(p, solved, z, outliers.Contains(p))).ToList();
        var used = residuals.Where((_, i) => points[i].Used).ToList();
        return new FitResult(
            shift,
            SettingOutDocument.Degrees(solved.Turn),
            scale,
            PlanFit.Of(plan, true) is { IsTurned: true } free ? free.Scale : null,
            used.Count == 0 ? 0 : Math.Sqrt(used.Average(r => r.Length * r.Length)),
            used.Select(r => r.Length).DefaultIfEmpty().Max(),
            residuals,
            Undetermined(plan, heights, solved),
            Doubt(plan, solved, freeScale) ?? Tilted(points, used, freeScale)
        )
        {
            Centre = solved.Centre,
            PlanPoints = plan.Count,
            Sigma = solved.Sigma,
            SigmaTurn = solved.SigmaTurn,
            SigmaScale =
                freeScale ? solved.SigmaTurn
                : solved.Sigma is null ? null
                : 0,
        };
    }

    private static PointResidual Residual(ControlPoint p, PlanFit fit, double z, bool outlier)
    {
        var plan = p.HasPlan ? fit.Residual(p) : default;
        double height = p.HasHeight ? (fit.Scale * p.Source.Z) + z - p.Job.Z : 0;
        var residual = new Vec3(plan.X, plan.Y, height);
        return new PointResidual(p.Name, residual, residual.Length, outlier);
    }

    // Leave one out: without it the others agree much better, and it lies far from where they put it. Where several are wrong, the points
    // that
    // one pair of points agrees with, if that is more than half.
    private static IEnumerable<ControlPoint> Outliers(List<ControlPoint> points, bool freeScale)
    {
        if (points.Count < 4)
            return [];
        var all = PlanFit.Of(points, freeScale);
        double rms = all.Rms(points);
        if (rms < Fine)
            return [];
        var single = points
            .Where(p =>
            {
                var others = points.Where(o => o != p).ToList();
                var without = PlanFit.Of(others, freeScale);
                double left = without.Rms(others);
                return left * Better < rms && without.Residual(p).Length > Off * Math.Max(left, Fine);
            })
            .ToList();
        if (single.Count > 0)
            single = [single.MaxBy(p => all.Residual(p).Length)!];
        var agreed = Agreement(points, freeScale);
        return agreed.Count * 2 > points.Count && agreed.Count >= 3
            ? points.Except(agreed).Union(single.Except(agreed))
            : single;
    }

    // The largest set of points that the fit of one pair meets, refitted: robust against many wrong points.
    private static List<ControlPoint> Agreement(List<ControlPoint> points, bool freeScale)
    {
        const int MaxPairs = 3000;
        var best = new List<ControlPoint>();
        double bestRms = double.PositiveInfinity;
        int step = Math.Max(1, points.Count * (points.Count - 1) / 2 / MaxPairs),
            n = 0;
        double tolerance = Tolerance(points, freeScale);
        for (int i = 0; i < points.Count; i++)
        {
            for (int j = i + 1; j < points.Count; j++)
            {
                if (n++ % step != 0)
                    continue;
                var pair = PlanFit.Of([points[i], points[j]], freeScale);
                if (!pair.IsTurned)
                    continue;
                var near = points.Where(p => pair.Residual(p).Length <= tolerance).ToList();
                if (near.Count < Math.Max(3, best.Count))
                    continue;
                double rms = PlanFit.Of(near, freeScale).Rms(near);
                if (near.Count == best.Count && rms >= bestRms)
                    continue;
                (best, bestRms) = (near, rms);
            }
        }

        return best;
    }

    // What the better half of the points agrees within, as the median of the residuals of the pair that is best by it.
    private static double Tolerance(List<ControlPoint> points, bool freeScale)
    {
        const int MaxPairs = 1000;
        double best = double.PositiveInfinity;
        int step = Math.Max(1, points.Count * (points.Count - 1) / 2 / MaxPairs),
            n = 0;
        for (int i = 0; i < points.Count; i++)
        {
            for (int j = i + 1; j < points.Count; j++)
            {
                if (n++ % step != 0)
                    continue;
                var pair = PlanFit.Of([points[i], points[j]], freeScale);
                if (!pair.IsTurned)
                    continue;
                var lengths = points.Select(p => pair.Residual(p).Length).Order().ToList();
                best = Math.Min(best, lengths[lengths.Count / 2]);
            }
        }

        return Off * Math.Max(Fine / 2, best);
    }

    private static IEnumerable<ControlPoint> HeightOutliers(List<ControlPoint> points, double scale)
    {
        if (points.Count < 3)
            return [];
        var offsets = points.ConvertAll(p => p.Job.Z - (scale * p.Source.Z));
        var sorted = offsets.Order().ToList();
        double median = sorted[sorted.Count / 2];
        double spread = offsets.Select(o => Math.Abs(o - median)).Order().ElementAt(offsets.Count / 2);
        return points.Where((_, i) => Math.Abs(offsets[i] - median) > Off * Math.Max(spread, Fine));
    }

    private static string? Undetermined(List<ControlPoint> plan, List<ControlPoint> heights, PlanFit fit)
    {
        var missing = new List<string>();
        if (plan.Count == 0)
            missing.Add("Its place in plan is not stated: add two points.");
        else if (plan.Count == 1)
            missing.Add("One point gives a translation but no rotation: add a second, far from it.");
        else if (!fit.IsTurned)
            missing.Add("The points are at the same place, so they give no rotation: add one far from them.");
        if (heights.Count == 0)
            missing.Add("No point has a height: add one, or match levels.");
        return missing.Count == 0 ? null : string.Join(" ", missing);
    }

    // A source that leans fits much better in space: what no setting-out can mend is said.
    private static string? Tilted(IReadOnlyList<ControlPoint> points, List<PointResidual> used, bool freeScale)
    {
        if (used.Count < 4 || SpaceFit.Of(points, freeScale) is not { } space)
            return null;
        double rms = Math.Sqrt(used.Average(r => r.Length * r.Length));
        return rms > Fine && space.Rms * 3 < rms && space.TiltDegrees > 0.001
            ? string.Create(
                System.Globalization.CultureInfo.InvariantCulture,
                $"Tilted by {space.TiltDegrees:0.000}° the points would agree to {space.Rms * 1000:0.0} mm: the source does not stand upright, which no setting-out mends. Ask the sender."
            )
            : null;
    }

    private static string? Doubt(List<ControlPoint> plan, PlanFit fit, bool freeScale)
    {
        if (plan.Count < 2)
            return null;
        if (plan.Count >= 3 && !IsLine(plan))
        {
            // Points that are mirrored and symmetric give no turn at all, so this is asked before whether they do.
            var other = plan.ConvertAll(p => p with { Source = p.Source with { Y = -p.Source.Y } });
            double rms = fit.Rms(plan),
                mirrored = PlanFit.Of(other, freeScale).Rms(other);
            return rms > Fine && mirrored * Mirrored < rms
                ? "The pairs are mirrored: y of one side runs the other way, or x and y are swapped. Nothing is mirrored automatically; correct the points."
                : null;
        }

        if (!fit.IsTurned)
            return null;

        return plan.Count == 2
            ? "Two points agree with any error that leaves their distance as it is: add a third."
            : "All points are in one line, so an error across it does not show: add one beside the line.";
    }

    private static bool IsLine(List<ControlPoint> points)
    {
        var centre = new Vec2(points.Average(p => p.Source.X), points.Average(p => p.Source.Y));
        double xx = 0,
            xy = 0,
            yy = 0;
        foreach (var p in points)
        {
            double x = p.Source.X - centre.X,
                y = p.Source.Y - centre.Y;
            (xx, xy, yy) = (xx + (x * x), xy + (x * y), yy + (y * y));
        }

        // The narrower of the principal spreads.
        double half = (xx + yy) / 2,
            root = Math.Sqrt(((xx - yy) / 2 * ((xx - yy) / 2)) + (xy * xy));
        return Math.Max(0, half - root) <= LineRatio * LineRatio * (half + root);
    }

    /// <summary>The fit in plan.</summary>
    private sealed record PlanFit(
        Vec2 Centre,
        Vec2 JobCentre,
        double Turn,
        double Scale,
        bool IsTurned,
        double? Sigma,
        double? SigmaTurn
    )
    {
        public Vec2 Shift => JobCentre - Turned(Centre);

        public static PlanFit Of(IReadOnlyList<ControlPoint> points, bool freeScale)
        {
            if (points.Count == 0)
                return new PlanFit(default, default, 0, 1, false, null, null);
            var centre = new Vec2(points.Average(p => p.Source.X), points.Average(p => p.Source.Y));
            var job = new Vec2(points.Average(p => p.Job.X), points.Average(p => p.Job.Y));
            double cos = 0,
                sin = 0,
                spread = 0;
            foreach (var p in points)
            {
                double x = p.Source.X - centre.X,
                    y = p.Source.Y - centre.Y,
                    u = p.Job.X - job.X,
                    v = p.Job.Y - job.Y;
                (cos, sin, spread) = (cos + (x * u) + (y * v), sin + (x * v) - (y * u), spread + (x * x) + (y * y));
            }

            bool turned = spread > MinSpread * MinSpread && (cos * cos) + (sin * sin) > 0;
            double turn = turned ? Math.Atan2(sin, cos) : 0,
                scale = turned && freeScale ? Math.Sqrt((cos * cos) + (sin * sin)) / spread : 1;
            var fit = new PlanFit(centre, job, turn, scale, turned, null, null);
            int over = (2 * points.Count) - (freeScale ? 4 : 3);
            if (!turned || over <= 0)
                return fit;
            double sigma = Math.Sqrt(points.Sum(p => fit.Residual(p) is var r ? (r.X * r.X) + (r.Y * r.Y) : 0) / over);
            return fit with { Sigma = sigma, SigmaTurn = sigma / Math.Sqrt(spread) };
        }

        public Vec2 Residual(ControlPoint p) =>
            Turned(new Vec2(p.Source.X - Centre.X, p.Source.Y - Centre.Y))
            - new Vec2(p.Job.X - JobCentre.X, p.Job.Y - JobCentre.Y);

        public double Rms(IReadOnlyList<ControlPoint> points) =>
            points.Count == 0
                ? 0
                : Math.Sqrt(points.Average(p => Residual(p) is var r ? (r.X * r.X) + (r.Y * r.Y) : 0));

        private Vec2 Turned(Vec2 p)
        {
            double c = Math.Cos(Turn) * Scale,
                s = Math.Sin(Turn) * Scale;
            return new Vec2((c * p.X) - (s * p.Y), (s * p.X) + (c * p.Y));
        }
    }
}
