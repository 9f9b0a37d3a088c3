namespace SteadyLintel.Geometry;

/// <summary>Turns meshes into facets for cutting, and cut facets back into a mesh whose edges meet.</summary>
internal static class FacetMesher
{
    // Cut points that should be one differ by rounding; this is far above that and far below anything built.
    private const double Weld = 1e-6;

    public static List<Facet> ToFacets(Mesh mesh)
    {
        var facets = new List<Facet>(mesh.TriangleCount);
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            Vec3[] corners =
            [
                mesh.Points[mesh.Triangles[i]],
                mesh.Points[mesh.Triangles[i + 1]],
                mesh.Points[mesh.Triangles[i + 2]],
            ];
            if (Plane.Through(corners) is not { } plane)
                continue;
            // Two triangles of a quadrilateral are cut as one facet: fewer slivers.
            if (facets.Count > 0 && Quadrilateral(facets[^1], corners, plane) is { } joined)
                facets[^1] = joined;
            else
                facets.Add(new Facet(corners, plane));
        }

        return facets;
    }

    public static Mesh ToMesh(List<Facet> facets)
    {
        var points = new List<Vec3>();
        var grid = new Dictionary<(long, long, long), int>();
        var loops = facets.Select(f => Loop(f, points, grid)).Where(l => l.Length >= 3).ToList();
        var order = Enumerable.Range(0, points.Count).ToArray();
        var xs = points.Select(p => p.X).ToArray();
        Array.Sort(xs, order);
        var triangles = new List<int>();
        foreach (var loop in loops)
            if (WithoutSpikes(WithPointsOnEdges(loop, points, order, xs)) is { Count: >= 3 } whole)
                Fill(whole, points, triangles);
        return new Mesh([.. points], WithoutPairs(triangles));
    }

    // Two triangles over the same corners that face each other are what is left of a gap thinner than the weld.
    private static int[] WithoutPairs(List<int> triangles)
    {
        var open = new Dictionary<(int, int, int), int>(triangles.Count / 3);
        var kept = new bool[triangles.Count / 3];
        bool all = true;
        for (int t = 0; t < kept.Length; t++)
        {
            var (a, b, c) = (triangles[3 * t], triangles[(3 * t) + 1], triangles[(3 * t) + 2]);
            // Turned until the least is first; the one that faces it turns the other two around.
            var (i, j, k) =
                a < b && a < c ? (a, b, c)
                : b < c ? (b, c, a)
                : (c, a, b);
            kept[t] = !open.Remove((i, k, j), out int other);
            if (kept[t])
                open[(i, j, k)] = t;
            else
                kept[other] = all = false;
        }

        return all
            ? [.. triangles]
            : [.. Enumerable.Range(0, triangles.Count).Where(n => kept[n / 3]).Select(n => triangles[n])];
    }

    private static Facet? Quadrilateral(Facet last, Vec3[] corners, Plane plane)
    {
        if (
            last.Corners.Length != 3
            || last.Plane.Normal.Dot(plane.Normal) < 1 - 1e-12
            || Math.Abs(last.Plane.Offset - plane.Offset) > 1e-9
        )
            return null;
        var first = last.Corners;
        for (int i = 0; i < 3; i++)
        {
            for (int j = 0; j < 3; j++)
            {
                if (first[i] != corners[(j + 1) % 3] || first[(i + 1) % 3] != corners[j])
                    continue;
                Vec3[] quad = [first[i], corners[(j + 2) % 3], first[(i + 1) % 3], first[(i + 2) % 3]];
                return IsConvex(quad, plane.Normal) ? new Facet(quad, plane) : null;
            }
        }

        return null;
    }

    private static bool IsConvex(Vec3[] loop, Vec3 normal)
    {
        for (int i = 0; i < loop.Length; i++)
        {
            Vec3 a = loop[i],
                b = loop[(i + 1) % loop.Length],
                c = loop[(i + 2) % loop.Length];
            if ((b - a).Cross(c - b).Dot(normal) <= 0)
                return false;
        }

        return true;
    }

    private static int[] Loop(Facet facet, List<Vec3> points, Dictionary<(long, long, long), int> grid)
    {
        WorkBudget.Spend(20);
        var loop = new List<int>(facet.Corners.Length);
        foreach (var corner in facet.Corners)
        {
            int n = Number(corner, points, grid);
            if (loop.Count == 0 || loop[^1] != n)
                loop.Add(n);
        }

        while (loop.Count > 1 && loop[0] == loop[^1])
            loop.RemoveAt(loop.Count - 1);
        return [.. loop];
    }

    private static int Number(Vec3 p, List<Vec3> points, Dictionary<(long, long, long), int> grid)
    {
        long x = (long)Math.Floor(p.X / Weld),
            y = (long)Math.Floor(p.Y / Weld),
            z = (long)Math.Floor(p.Z / Weld);
        for (long dx = -1; dx <= 1; dx++)
        for (long dy = -1; dy <= 1; dy++)
        for (long dz = -1; dz <= 1; dz++)
            if (grid.TryGetValue((x + dx, y + dy, z + dz), out int near) && (points[near] - p).Length < Weld)
                return near;
        grid[(x, y, z)] = points.Count;
        points.Add(p);
        return points.Count - 1;
    }

    // A corner of one facet on the edge of another would leave a gap in the topology: the edge takes the corner in.
    private static List<int> WithPointsOnEdges(int[] loop, List<Vec3> points, int[] order, double[] xs)
    {
        var result = new List<int>(loop.Length);
        var on = new List<(double T, int N)>();
        for (int i = 0; i < loop.Length; i++)
        {
            int from = loop[i],
                to = loop[(i + 1) % loop.Length];
            Vec3 a = points[from],
                ab = points[to] - a;
            double length = ab.Length;
            on.Clear();
            int k = Array.BinarySearch(xs, Math.Min(a.X, a.X + ab.X) - Weld);
            for (k = k < 0 ? ~k : k; k < xs.Length && xs[k] <= Math.Max(a.X, a.X + ab.X) + Weld; k++)
            {
                int n = order[k];
                if (n == from || n == to)
                    continue;
                var ap = points[n] - a;
                double t = ap.Dot(ab) / length;
                if (t > Weld && t < length - Weld && (ap - (ab * (t / length))).Length < Weld)
                    on.Add((t, n));
            }

            on.Sort();
            result.Add(from);
            result.AddRange(on.Select(o => o.N));
        }

        return result;
    }

    // A sliver thinner than the weld runs out along its edge and back over the same points: it bounds nothing.
    private static List<int> WithoutSpikes(List<int> loop)
    {
        for (int i = 0; i < loop.Count && loop.Count >= 3; )
        {
            int before = (i + loop.Count - 1) % loop.Count,
                after = (i + 1) % loop.Count;
            if (loop[before] != loop[after])
            {
                i++;
                continue;
            }

            loop.RemoveAt(Math.Max(i, after));
            loop.RemoveAt(Math.Min(i, after));
            i = Math.Max(0, i - 2);
        }

        return loop;
    }

    // A convex loop that may have corners in a row: clip the corner whose triangle is fattest, so that none is flat before its time.
    private static void Fill(List<int> loop, List<Vec3> points, List<int> triangles)
    {
        while (loop.Count > 3)
        {
            int best = 0;
            double fattest = -1;
            for (int i = 0; i < loop.Count; i++)
            {
                Vec3 a = points[loop[(i + loop.Count - 1) % loop.Count]],
                    b = points[loop[i]],
                    c = points[loop[(i + 1) % loop.Count]];
                double quality = (b - a).Cross(c - b).Length / ((c - a).Dot(c - a) + 1e-30);
                if (quality > fattest)
                    (best, fattest) = (i, quality);
            }

            triangles.AddRange([loop[(best + loop.Count - 1) % loop.Count], loop[best], loop[(best + 1) % loop.Count]]);
            loop.RemoveAt(best);
        }

        triangles.AddRange(loop);
    }
}
