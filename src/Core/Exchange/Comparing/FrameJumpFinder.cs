using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Finds the transform that most elements share between two revisions, by consensus over pairs.</summary>
internal static class FrameJumpFinder
{
    // Metres: nearer is the same place; and how far two elements lie apart to say something about a turn.
    private const double Near = 1e-3,
        Apart = 0.5;

    // Below this the frame stayed: half a millimetre, and a turn that moves the far end of a building by as much.
    private const double Still = 5e-4,
        StillTurn = 5e-4;

    private const int MaxPairs = 400,
        MaxTried = 800;

    /// <summary>Finds it.</summary>
    /// <param name="old">Where elements lay, metres.</param>
    /// <param name="now">Where the same elements lie, in the same order.</param>
    /// <returns>The transform; null where most elements stayed, or no transform is shared by half of them.</returns>
    public static FrameJump? Find(IReadOnlyList<Vec3> old, IReadOnlyList<Vec3> now)
    {
        if (old.Count < 2)
            return null;
        int still = Enumerable.Range(0, old.Count).Count(i => (now[i] - old[i]).Length < Still);
        if (still * 2 >= old.Count)
            return null;
        var tried = Sample(old.Count);
        (int Count, Vec3 Shift, double Turn) best = (0, Vec3.Zero, 0);
        foreach (var (a, b) in Pairs(old, now))
        {
            var candidate = Solve([(old[a], now[a]), (old[b], now[b])]);
            int agree = tried.Count(i => (Apply(candidate, old[i]) - now[i]).Length < Near);
            if (agree > best.Count)
                best = (agree, candidate.Shift, candidate.Turn);
        }

        // Elements that all lie on one spot say nothing about a turn, but may share a shift.
        if (best.Count * 2 < tried.Count)
            return null;
        var solved = (best.Shift, best.Turn);
        var inliers = new List<(Vec3, Vec3)>();
        for (int round = 0; round < 2; round++)
        {
            inliers =
            [
                .. Enumerable
                    .Range(0, old.Count)
                    .Where(i => (Apply(solved, old[i]) - now[i]).Length < Near)
                    .Select(i => (old[i], now[i])),
            ];
            if (inliers.Count * 2 < old.Count)
                return null;
            solved = Solve(inliers);
        }

        double degrees = SettingOutDocument.Degrees(solved.Turn);
        // A turn that moves nothing anywhere near is the noise of the numbers.
        double reach = inliers.Max(p => (p.Item1 - inliers[0].Item1).Length);
        if (Math.Abs(solved.Turn) * Math.Max(reach, 1) < Near / 10)
        {
            var mean = inliers.Aggregate(Vec3.Zero, (sum, p) => sum + (p.Item2 - p.Item1)) * (1.0 / inliers.Count);
            (solved, degrees) = ((mean, 0), 0);
        }

        return solved.Shift.Length < Still && Math.Abs(solved.Turn) < StillTurn / Math.Max(reach, 1)
            ? null
            : new FrameJump(solved.Shift, degrees, inliers.Count);
    }

    private static Vec3 Apply((Vec3 Shift, double Turn) jump, Vec3 p)
    {
        var (s, c) = Math.SinCos(jump.Turn);
        return new Vec3((c * p.X) - (s * p.Y), (s * p.X) + (c * p.Y), p.Z) + jump.Shift;
    }

    // Closed form in plan about the centroids, heights on their own.
    private static (Vec3 Shift, double Turn) Solve(IReadOnlyList<(Vec3 Old, Vec3 Now)> pairs)
    {
        Vec3 a = Vec3.Zero,
            b = Vec3.Zero;
        foreach (var (o, n) in pairs)
            (a, b) = (a + o, b + n);
        (a, b) = (a * (1.0 / pairs.Count), b * (1.0 / pairs.Count));
        double cos = 0,
            sin = 0;
        foreach (var (o, n) in pairs)
        {
            double x = o.X - a.X,
                y = o.Y - a.Y,
                u = n.X - b.X,
                v = n.Y - b.Y;
            (cos, sin) = (cos + (x * u) + (y * v), sin + (x * v) - (y * u));
        }

        double turn = cos == 0 && sin == 0 ? 0 : Math.Atan2(sin, cos);
        return (b - Apply((Vec3.Zero, turn), a), turn);
    }

    // Always the same ones, so that the same files give the same answer.
    private static List<int> Sample(int count)
    {
        if (count <= MaxTried)
            return [.. Enumerable.Range(0, count)];
        var random = new Random(1);
        return [.. Enumerable.Range(0, MaxTried).Select(_ => random.Next(count))];
    }

    private static IEnumerable<(int A, int B)> Pairs(IReadOnlyList<Vec3> old, IReadOnlyList<Vec3> now)
    {
        var random = new Random(2);
        for (int n = 0, found = 0; n < 50 * MaxPairs && found < MaxPairs; n++)
        {
            int a = random.Next(old.Count),
                b = random.Next(old.Count);
            if (a == b)
                continue;
            double before = (old[a] - old[b]).Length,
                after = (now[a] - now[b]).Length;
            Vec3 apart = old[a] - old[b];
            if (Math.Abs(before - after) > Near || (apart.X * apart.X) + (apart.Y * apart.Y) < Apart * Apart)
                continue;
            found++;
            yield return (a, b);
        }
    }
}
