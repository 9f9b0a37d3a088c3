namespace SteadyLintel.Geometry;

/// <summary>Turns the diagonals of a plane triangulation until no triangle's circle holds a neighbour's corner (Lawson's flips).</summary>
/// <remarks>Slivers that halving leaves behind go away, so that halving comes to an end.</remarks>
internal static class DelaunayFlips
{
    /// <summary>Flips inner edges in place.</summary>
    /// <param name="triangles">Counter-clockwise triangles.</param>
    /// <param name="at">The plane place of a corner.</param>
    /// <param name="isKept">Edges that may not be turned.</param>
    public static void Run(List<(int A, int B, int C)> triangles, Func<int, Vec2> at, Func<int, int, bool> isKept)
    {
        var sides = new Dictionary<(int, int), int>(triangles.Count * 3);
        var open = new Stack<(int, int)>();
        for (int t = 0; t < triangles.Count; t++)
        {
            var (a, b, c) = triangles[t];
            foreach (var side in new[] { (a, b), (b, c), (c, a) })
            {
                sides[side] = t;
                if (side.Item1 < side.Item2)
                    open.Push(side);
            }
        }

        for (long budget = 20L * triangles.Count; open.Count > 0 && budget > 0; budget--)
        {
            WorkBudget.Spend(1);
            var (a, b) = open.Pop();
            if (isKept(a, b) || !sides.TryGetValue((a, b), out int left) || !sides.TryGetValue((b, a), out int right))
                continue;
            int c = Opposite(triangles[left], a, b),
                d = Opposite(triangles[right], a, b);
            if (c == d || !ShouldFlip(at(a), at(b), at(c), at(d)))
                continue;
            // The square a d b c gets its other diagonal.
            triangles[left] = (a, d, c);
            triangles[right] = (d, b, c);
            sides.Remove((a, b));
            sides.Remove((b, a));
            sides[(a, d)] = left;
            sides[(d, c)] = left;
            sides[(c, a)] = left;
            sides[(d, b)] = right;
            sides[(b, c)] = right;
            sides[(c, d)] = right;
            open.Push((a, d));
            open.Push((d, b));
            open.Push((b, c));
            open.Push((c, a));
        }
    }

    private static int Opposite((int A, int B, int C) t, int a, int b) =>
        t.A != a && t.A != b ? t.A
        : t.B != a && t.B != b ? t.B
        : t.C;

    private static bool ShouldFlip(Vec2 a, Vec2 b, Vec2 c, Vec2 d)
    {
        // Only a convex square can be turned.
        if ((d - a).Cross(c - a) <= 1e-14 || (b - d).Cross(c - d) <= 1e-14)
            return false;
        Vec2 ca = a - c,
            cb = b - c,
            da = a - d,
            db = b - d;
        // The angles over the edge add up to more than a half turn.
        double sineC = ca.Cross(cb),
            cosineC = ca.Dot(cb),
            sineD = db.Cross(da),
            cosineD = da.Dot(db);
        return (sineC * cosineD) + (cosineC * sineD) < -1e-12 * (Math.Abs(sineC * cosineD) + Math.Abs(cosineC * sineD));
    }
}
