namespace SteadyLintel.Exchange;

/// <summary>Two members of two sources that are one member of the building.</summary>
/// <param name="First">Its place in the first list.</param>
/// <param name="Second">Its place in the second.</param>
public readonly record struct MemberPair(int First, int Second);

/// <summary>Finds the members that two sources share: like direction, most of the shorter beside the longer, nearest of all.</summary>
public static class MemberPairs
{
    // Cosine of 2°: drawn to different ends of the same connection.
    private const double Parallel = 0.99939;

    // Two sections that lie apart by more than this share of their size are neighbours, not one member.
    private const double Apart = 1.25;

    private const double Cell = 2;
    private const int MaxSteps = 512;

    // More members than this in one place are one member exported many times; the work stays linear.
    private const int MaxInCell = 64;

    /// <summary>Pairs members, each with one of the other list at most.</summary>
    /// <param name="first">In the job's frame.</param>
    /// <param name="second">In the job's frame.</param>
    public static IReadOnlyList<MemberPair> Find(IReadOnlyList<Member> first, IReadOnlyList<Member> second)
    {
        var cells = new Dictionary<(int, int, int), List<int>>();
        for (int i = 0; i < first.Count; i++)
            foreach (var cell in Cells(first[i]))
                if (!cells.TryGetValue(cell, out var list))
                    cells[cell] = [i];
                else if (list.Count < MaxInCell && list[^1] != i)
                    list.Add(i);
        var found = new List<(double Distance, int First, int Second)>();
        for (int j = 0; j < second.Count; j++)
        {
            var near = new HashSet<int>();
            foreach (var (x, y, z) in Cells(second[j]))
                for (int n = 0; n < 27; n++)
                    if (cells.TryGetValue((x + (n % 3) - 1, y + (n / 3 % 3) - 1, z + (n / 9) - 1), out var list))
                        near.UnionWith(list);
            foreach (int i in near)
                if (Distance(first[i], second[j]) is { } distance)
                    found.Add((distance, i, j));
        }

        // The nearest first: what is taken is taken.
        var pairs = new List<MemberPair>();
        HashSet<int> takenFirst = [],
            takenSecond = [];
        foreach (var (_, i, j) in found.Order())
        {
            if (takenFirst.Contains(i) || takenSecond.Contains(j))
                continue;
            takenFirst.Add(i);
            takenSecond.Add(j);
            pairs.Add(new MemberPair(i, j));
        }

        return [.. pairs.OrderBy(p => p.First)];
    }

    // How far apart the bodies' middle lines are, and how much less one of them is; null where they are no one member.
    private static double? Distance(Member a, Member b)
    {
        if (Math.Abs(a.Along.Dot(b.Along)) < Parallel)
            return null;
        double from = (b.MiddleStart - a.MiddleStart).Dot(a.Along),
            to = (b.MiddleEnd - a.MiddleStart).Dot(a.Along);
        double shared = Math.Min(a.Length, Math.Max(from, to)) - Math.Max(0, Math.Min(from, to));
        double shorter = Math.Min(a.Length, b.Length);
        if (shared < shorter / 2)
            return null;
        var apart = MemberDisagreements.Apart(a, b);
        double size = Math.Max(Math.Max(a.Aside.Size, a.Above.Size), Math.Max(b.Aside.Size, b.Above.Size));
        return apart.Length > Apart * size ? null : apart.Length + (shorter - shared);
    }

    private static IEnumerable<(int, int, int)> Cells(Member member)
    {
        int steps = (int)Math.Clamp(Math.Ceiling(member.Length / Cell), 1, MaxSteps);
        for (int n = 0; n <= steps; n++)
        {
            var p = member.MiddleStart + ((member.MiddleEnd - member.MiddleStart) * ((double)n / steps));
            yield return (Index(p.X), Index(p.Y), Index(p.Z));
        }

        static int Index(double metres) => (int)Math.Clamp(Math.Floor(metres / Cell), -1e9, 1e9);
    }
}
