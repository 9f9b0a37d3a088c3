using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Makes control points of grid tags that a source and the job share, and fits to them.</summary>
/// <param name="Points">Where two shared axes meet, on both sides; switched off where they do not agree.</param>
/// <param name="Fit">The fit; null where there are no points.</param>
/// <param name="Notes">Tags that are wrong, doubled, or on one side only, in sentences.</param>
public sealed record GridMatch(IReadOnlyList<ControlPoint> Points, FitResult? Fit, IReadOnlyList<string> Notes)
{
    // An axis lies where another of the job's does, metres.
    private const double Same = 0.05;

    /// <summary>Matches.</summary>
    /// <param name="source">The source's axes in its own frame, metres.</param>
    /// <param name="job">The axes of the reference, in the job's frame, metres.</param>
    /// <param name="freeScale">Whether the scale is fitted too.</param>
    public static GridMatch Of(IReadOnlyList<PlanAxis> source, IReadOnlyList<PlanAxis> job, bool freeScale = false)
    {
        var notes = new List<string>();
        var ours = Once(source, "The source", notes);
        var theirs = Once(job, "The reference", notes);
        var shared = ours.Keys.Intersect(theirs.Keys).Order(StringComparer.Ordinal).ToList();
        if (shared.Count < 2)
        {
            notes.Add(
                source.Count == 0 ? "The source has no grid."
                : job.Count == 0 ? "The reference has no grid."
                : $"{(shared.Count == 0 ? "No tag is" : "Only one tag is")} on both sides; axes that meet need two."
            );
            return new GridMatch([], null, notes);
        }

        var points = Intersections(ours, theirs, shared);
        var fit = SettingOutFit.Fit(points, freeScale);
        points = [.. points.Select((p, i) => p with { Used = !fit.Points[i].Outlier })];
        fit = SettingOutFit.Fit(points, freeScale);
        Name(ours, theirs, shared, points, fit, notes);
        string[] only = [.. ours.Keys.Except(theirs.Keys).Select(k => ours[k].Tag)];
        if (only.Length > 0)
            notes.Add($"Only the source has {string.Join(", ", only.Order(StringComparer.Ordinal))}.");
        return new GridMatch(points, fit, notes);
    }

    private static Dictionary<string, PlanAxis> Once(IReadOnlyList<PlanAxis> axes, string who, List<string> notes)
    {
        foreach (var twice in axes.GroupBy(a => a.Key).Where(g => g.Count() > 1))
            notes.Add($"{who} has the tag {twice.First().Tag} {twice.Count()} times; it is left out.");
        return axes.GroupBy(a => a.Key).Where(g => g.Count() == 1).ToDictionary(g => g.Key, g => g.First());
    }

    // Where a line meets an arc twice, nothing says which place is which: such pairs are left out.
    private static List<ControlPoint> Intersections(
        Dictionary<string, PlanAxis> ours,
        Dictionary<string, PlanAxis> theirs,
        List<string> shared
    )
    {
        var points = new List<ControlPoint>();
        for (int i = 0; i < shared.Count; i++)
        {
            for (int j = i + 1; j < shared.Count; j++)
            {
                var here = Within(ours[shared[i]], ours[shared[j]]);
                var there = Within(theirs[shared[i]], theirs[shared[j]]);
                if (here.Count != 1 || there.Count != 1)
                    continue;
                points.Add(
                    new ControlPoint(
                        $"{theirs[shared[i]].Tag} / {theirs[shared[j]].Tag}",
                        new Vec3(here[0].X, here[0].Y, 0),
                        new Vec3(there[0].X, there[0].Y, 0),
                        HasHeight: false
                    )
                );
            }
        }

        return points;
    }

    // Of two places the one that lies on the axes as they are drawn, or a little beyond.
    private static List<Vec2> Within(PlanAxis a, PlanAxis b)
    {
        var meet = a.Meet(b);
        return meet.Count < 2 ? [.. meet] : [.. meet.Where(p => Near(a, p) && Near(b, p))];

        static bool Near(PlanAxis axis, Vec2 p)
        {
            if (axis.Centre is { } c)
            {
                // On the drawn side of the chord, or near an end.
                Vec2 chord = axis.End - axis.Start,
                    middle = axis.Start + (chord * 0.5);
                return (p - axis.Start).Length < PlanAxis.Overrun
                    || (p - axis.End).Length < PlanAxis.Overrun
                    || (p - middle).Length <= (chord.Length / 2) + PlanAxis.Overrun
                    || chord.Cross(p - axis.Start) * chord.Cross(c - axis.Start) < 0;
            }

            var u = (axis.End - axis.Start).Unit();
            double along = (p - axis.Start).Dot(u);
            return along > -PlanAxis.Overrun && along < (axis.End - axis.Start).Length + PlanAxis.Overrun;
        }
    }

    // A tag of which nothing agrees is another axis's.
    private static void Name(
        Dictionary<string, PlanAxis> ours,
        Dictionary<string, PlanAxis> theirs,
        List<string> shared,
        List<ControlPoint> points,
        FitResult fit,
        List<string> notes
    )
    {
        foreach (string key in shared)
        {
            string tag = theirs[key].Tag;
            var of = points.Where(p => p.Name.Split(" / ").Contains(tag)).ToList();
            if (of.Count == 0 || of.Exists(p => p.Used))
                continue;
            var moved = ours[key].In(fit.Frame);
            var meant = theirs.Values.FirstOrDefault(a =>
                a.Key != key && a.Off(moved.Start) < Same && a.Off(moved.End) < Same
            );
            double off = theirs[key].Off(moved.Start + ((moved.End - moved.Start) * 0.5));
            notes.Add(
                meant is null
                    ? string.Create(
                        System.Globalization.CultureInfo.InvariantCulture,
                        $"The source's axis {ours[key].Tag} is {off:0.000} m from the reference's {tag}; it is switched off."
                    )
                    : $"The source's axis {ours[key].Tag} is where the reference has {meant.Tag}: one of them is misnamed. It is switched off."
            );
        }
    }
}
