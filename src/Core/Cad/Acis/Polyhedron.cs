using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A body bounded by plane faces: the boundary representation behind a 3DSOLID.</summary>
/// <remarks>Made from a closed mesh: triangles in one plane that meet at an edge become one face. Every edge belongs to two faces, which
/// run along it in opposite senses.</remarks>
public sealed class Polyhedron
{
    private const double Flat = 1e-9;

    private Polyhedron(Vec3[] points, List<PlanarFace> faces, List<int[]> shells) =>
        (Points, Faces, Shells) = (points, faces, shells);

    /// <summary>The points.</summary>
    public IReadOnlyList<Vec3> Points { get; }

    /// <summary>The faces.</summary>
    public IReadOnlyList<PlanarFace> Faces { get; }

    /// <summary>The faces of each connected shell, by number.</summary>
    public IReadOnlyList<int[]> Shells { get; }

    /// <summary>The body of a mesh; null when its surface is open, or an edge belongs to more than two triangles.</summary>
    /// <param name="mesh">The mesh; points at one place are taken as one.</param>
    public static Polyhedron? Of(Mesh mesh)
    {
        var builder = new MeshBuilder();
        builder.Add(mesh);
        var welded = builder.ToMesh();
        return Twins(welded.Triangles) is { } twins ? Of(welded, twins) : null;
    }

    /// <summary>The body of faces that are known; <see cref="Problem"/> tells whether they bound one.</summary>
    /// <param name="points">The points.</param>
    /// <param name="faces">The faces.</param>
    public static Polyhedron Of(IReadOnlyList<Vec3> points, IReadOnlyList<PlanarFace> faces)
    {
        // Faces that meet at an edge belong to one shell.
        var first = new Dictionary<(int, int), int>();
        int[] above = [.. Enumerable.Range(0, faces.Count)];
        for (int f = 0; f < faces.Count; f++)
            foreach (var loop in faces[f].Loops)
                for (int i = 0; i < loop.Length; i++)
                {
                    int a = loop[i],
                        b = loop[(i + 1) % loop.Length];
                    if (!first.TryAdd((Math.Min(a, b), Math.Max(a, b)), f))
                        above[Top(f)] = Top(first[(Math.Min(a, b), Math.Max(a, b))]);
                }

        return new Polyhedron(
            [.. points],
            [.. faces],
            [.. Enumerable.Range(0, faces.Count).GroupBy(Top).Select(g => g.ToArray())]
        );

        int Top(int face)
        {
            while (above[face] != face)
                face = above[face] = above[above[face]];
            return face;
        }
    }

    /// <summary>What is wrong with the topology; null when nothing is: every edge used twice in opposite senses, loops closed, and V − E +
    /// F − R = 2 (S − G) with a whole genus (Euler and Poincaré).</summary>
    public string? Problem()
    {
        var edges = new HashSet<(int, int)>();
        int rings = 0;
        foreach (var face in Faces)
        {
            rings += face.Loops.Count - 1;
            foreach (var loop in face.Loops)
            {
                if (loop.Length < 3)
                    return "a loop has fewer than three corners";
                for (int i = 0; i < loop.Length; i++)
                    if (!edges.Add((loop[i], loop[(i + 1) % loop.Length])))
                        return "an edge is used twice in one sense";
            }
        }

        if (edges.Any(e => !edges.Contains((e.Item2, e.Item1))))
            return "an edge is used once only";
        int euler = Points.Count - (edges.Count / 2) + Faces.Count - rings;
        return euler % 2 != 0 || euler > 2 * Shells.Count
            ? $"V - E + F - R is {euler} for {Shells.Count} shells"
            : null;
    }

    // For each half-edge (three a triangle) the one that runs back along it.
    private static int[]? Twins(int[] triangles)
    {
        var open = new Dictionary<(int, int), int>(triangles.Length);
        var twins = new int[triangles.Length];
        Array.Fill(twins, -1);
        for (int h = 0; h < triangles.Length; h++)
        {
            var (a, b) = (triangles[h], triangles[Next(h)]);
            if (open.Remove((b, a), out int twin))
                (twins[h], twins[twin]) = (twin, h);
            else if (!open.TryAdd((a, b), h))
                return null;
        }

        return triangles.Length > 0 && open.Count == 0 ? twins : null;
    }

    private static int Next(int h) => h % 3 == 2 ? h - 2 : h + 1;

    private static Polyhedron? Of(Mesh mesh, int[] twins)
    {
        int[] region = Regions(mesh, twins);
        var faces = new SortedDictionary<int, List<int[]>>();
        var seen = new bool[twins.Length];
        for (int h = 0; h < twins.Length; h++)
        {
            if (seen[h] || region[h / 3] == region[twins[h] / 3])
                continue;
            var loop = Loop(h, mesh.Triangles, twins, region, seen);
            if (!faces.TryGetValue(region[h / 3], out var loops))
                faces[region[h / 3]] = loops = [];
            loops.Add(loop);
        }

        var numbers = faces.Keys.Select((r, n) => (r, n)).ToDictionary(p => p.r, p => p.n);
        var normals = mesh
            .Triangles.Chunk(3)
            .Select(t => (mesh.Points[t[1]] - mesh.Points[t[0]]).Cross(mesh.Points[t[2]] - mesh.Points[t[0]]))
            .ToArray();
        var planar = faces.Select(f => new PlanarFace(OuterFirst(f.Value, mesh.Points, normals[f.Key]))).ToList();
        var shells = Shelled(twins, region)
            .GroupBy(t => t.Shell)
            .Select(g => g.Select(t => numbers[region[t.Triangle]]).Distinct().ToArray())
            .ToList();
        return Compact(mesh.Points, Straight(mesh.Points, planar), shells);
    }

    // A corner at which only two edges meet, in one line, is none.
    private static List<PlanarFace> Straight(Vec3[] points, List<PlanarFace> faces)
    {
        var beside = new Dictionary<int, HashSet<int>>();
        foreach (var loop in faces.SelectMany(f => f.Loops))
            for (int i = 0; i < loop.Length; i++)
            {
                int a = loop[i],
                    b = loop[(i + 1) % loop.Length];
                (beside.TryGetValue(a, out var ofA) ? ofA : beside[a] = []).Add(b);
                (beside.TryGetValue(b, out var ofB) ? ofB : beside[b] = []).Add(a);
            }

        var needless = beside
            .Where(b => b.Value.Count == 2 && InLine(points[b.Key], points[b.Value.First()], points[b.Value.Last()]))
            .Select(b => b.Key)
            .ToHashSet();
        return needless.Count == 0
            ? faces
            :
            [
                .. faces.Select(f => new PlanarFace([
                    .. f.Loops.Select(l => l.Where(c => !needless.Contains(c)).ToArray()),
                ])),
            ];
    }

    private static bool InLine(Vec3 at, Vec3 before, Vec3 after)
    {
        Vec3 u = at - before,
            v = after - at;
        return u.Cross(v).Length < 1e-9 * u.Length * v.Length && u.Dot(v) > 0;
    }

    // Points within faces, where triangles met, belong to no edge any more.
    private static Polyhedron Compact(Vec3[] points, List<PlanarFace> faces, List<int[]> shells)
    {
        var kept = new List<Vec3>();
        int[] number = [.. Enumerable.Repeat(-1, points.Length)];
        foreach (int corner in faces.SelectMany(f => f.Loops).SelectMany(l => l))
        {
            if (number[corner] >= 0)
                continue;
            number[corner] = kept.Count;
            kept.Add(points[corner]);
        }

        return new Polyhedron(
            [.. kept],
            [.. faces.Select(f => new PlanarFace([.. f.Loops.Select(l => Array.ConvertAll(l, c => number[c]))]))],
            shells
        );
    }

    // Along the border of a region: behind a corner, around it through the region's own triangles to the next border edge.
    private static int[] Loop(int first, int[] triangles, int[] twins, int[] region, bool[] seen)
    {
        var corners = new List<int>();
        int h = first;
        do
        {
            seen[h] = true;
            corners.Add(triangles[h]);
            h = Next(h);
            while (region[h / 3] == region[twins[h] / 3])
                h = Next(twins[h]);
        } while (h != first);

        return [.. corners];
    }

    // Triangles that meet at an edge and lie in one plane, named by the first of them.
    private static int[] Regions(Mesh mesh, int[] twins)
    {
        int[] region = [.. Enumerable.Repeat(-1, twins.Length / 3)];
        double size = mesh.Bounds().Size.Length;
        var open = new Stack<int>();
        // Flat triangles have no plane of their own: they go with a neighbour.
        foreach (int t in Enumerable.Range(0, region.Length).OrderBy(t => IsFlat(mesh, t)))
        {
            if (region[t] >= 0)
                continue;
            region[t] = t;
            var plane = Plane.Through([.. mesh.Triangles[(3 * t)..((3 * t) + 3)].Select(p => mesh.Points[p])]);
            open.Push(t);
            while (plane is { } own && open.TryPop(out int at))
            {
                for (int h = 3 * at; h < (3 * at) + 3; h++)
                {
                    int other = twins[h] / 3;
                    if (region[other] >= 0 || !Lies(mesh, other, own, size))
                        continue;
                    region[other] = t;
                    open.Push(other);
                }
            }

            open.Clear();
        }

        return region;
    }

    private static bool Lies(Mesh mesh, int triangle, Plane plane, double size)
    {
        Vec3 a = mesh.Points[mesh.Triangles[3 * triangle]],
            b = mesh.Points[mesh.Triangles[(3 * triangle) + 1]],
            c = mesh.Points[mesh.Triangles[(3 * triangle) + 2]];
        return Math.Abs(plane.Distance(a)) + Math.Abs(plane.Distance(b)) + Math.Abs(plane.Distance(c))
                < Flat * Math.Max(1, size)
            && (IsFlat(mesh, triangle) || (b - a).Cross(c - a).Dot(plane.Normal) > 0);
    }

    private static bool IsFlat(Mesh mesh, int triangle)
    {
        Vec3 a = mesh.Points[mesh.Triangles[3 * triangle]],
            b = mesh.Points[mesh.Triangles[(3 * triangle) + 1]],
            c = mesh.Points[mesh.Triangles[(3 * triangle) + 2]];
        Vec3 u = b - a,
            v = c - a;
        return u.Cross(v).Length <= Flat * Math.Max(u.Dot(u), v.Dot(v));
    }

    private static IEnumerable<(int Triangle, int Shell)> Shelled(int[] twins, int[] region)
    {
        int[] shell = [.. Enumerable.Repeat(-1, region.Length)];
        var open = new Stack<int>();
        for (int t = 0; t < shell.Length; t++)
        {
            if (shell[t] < 0)
            {
                shell[t] = t;
                open.Push(t);
                while (open.TryPop(out int at))
                    for (int h = 3 * at; h < (3 * at) + 3; h++)
                    {
                        if (shell[twins[h] / 3] >= 0)
                            continue;
                        shell[twins[h] / 3] = t;
                        open.Push(twins[h] / 3);
                    }
            }

            yield return (t, shell[t]);
        }
    }

    // The outer loop turns the way of the face, holes the other way.
    private static List<int[]> OuterFirst(List<int[]> loops, Vec3[] points, Vec3 normal)
    {
        if (loops.Count == 1)
            return loops;
        double Turn(int[] loop)
        {
            var sum = Vec3.Zero;
            for (int i = 1; i + 1 < loop.Length; i++)
                sum += (points[loop[i]] - points[loop[0]]).Cross(points[loop[i + 1]] - points[loop[0]]);
            return sum.Dot(normal);
        }

        return [.. loops.OrderByDescending(Turn)];
    }
}
