using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A height found from levels alone.</summary>
/// <param name="Height">What is added to the source's heights, metres; null where no levels say.</param>
/// <param name="Points">The levels that agree and those that do not, as control points without a plan.</param>
/// <param name="Sentence">How many agree, and which do not.</param>
public sealed record LevelFit(double? Height, IReadOnlyList<ControlPoint> Points, string Sentence)
{
    // Levels of one name, or of no other, that lie nearer agree; metres.
    private const double Agree = 0.01;

    /// <summary>Fits.</summary>
    /// <param name="source">The source's storeys: name and height in its own frame, metres.</param>
    /// <param name="job">The levels: name and height in the job.</param>
    public static LevelFit Of(IReadOnlyList<(string Name, double Z)> source, IReadOnlyList<(string Name, double Z)> job)
    {
        if (source.Count == 0 || job.Count == 0)
            return new LevelFit(null, [], source.Count == 0 ? "The source has no storeys." : "The job has no levels.");
        // Every pair of levels proposes a height; the one that most agree on counts, by names where several are as good.
        var (height, _, _) = source
            .SelectMany(s => job.Select(j => j.Z - s.Z))
            .Select(h =>
                (
                    Height: h,
                    Count: Matches(source, job, h).Count(),
                    Named: Matches(source, job, h).Count(m => SameName(m.Source.Name, m.Job.Name))
                )
            )
            .MaxBy(c => (c.Named + c.Count, c.Named, -Math.Abs(c.Height)));
        var agreeing = Matches(source, job, height).ToList();
        height = agreeing.Average(m => m.Job.Z - m.Source.Z);
        var points = agreeing.ConvertAll(m => Point(m.Source.Name, m.Source.Z, m.Job.Z, true));
        var left = source.Where(s => !agreeing.Exists(m => m.Source == s)).ToList();
        foreach (var s in left)
        {
            var named = job.FirstOrDefault(j => SameName(s.Name, j.Name));
            if (named.Name is not null)
                points.Add(Point(s.Name, s.Z, named.Z, false));
        }

        string others =
            left.Count == 0
                ? ""
                : ", "
                    + string.Join(
                        ", ",
                        left.Select(s =>
                            points.Find(p => !p.Used && p.Name == s.Name) is { } p
                                ? string.Create(
                                    CultureInfo.InvariantCulture,
                                    $"{s.Name} is {p.Source.Z + height - p.Job.Z:+0.000;−0.000} m off"
                                )
                                : $"{s.Name} has no level"
                        )
                    );
        return new LevelFit(height, points, $"levels: {agreeing.Count} of {source.Count} agree{others}");
    }

    private static IEnumerable<((string Name, double Z) Source, (string Name, double Z) Job)> Matches(
        IReadOnlyList<(string Name, double Z)> source,
        IReadOnlyList<(string Name, double Z)> job,
        double height
    )
    {
        foreach (var s in source)
        {
            var near = job.Where(j => Math.Abs(s.Z + height - j.Z) <= Agree).ToList();
            if (near.Count > 0)
                yield return (s, near.MinBy(j => (SameName(s.Name, j.Name) ? 0 : 1, Math.Abs(s.Z + height - j.Z))));
        }
    }

    private static bool SameName(string a, string b) =>
        string.Equals(a.Trim(), b.Trim(), StringComparison.OrdinalIgnoreCase);

    private static ControlPoint Point(string name, double source, double job, bool used) =>
        new(name, new Vec3(0, 0, source), new Vec3(0, 0, job), HasPlan: false, Used: used);
}
