namespace SteadyLintel.Geometry;

/// <summary>Cuts meshes with level planes and takes their visible edges, for plans.</summary>
public static class Section
{
    // Faces that meet more flatly than this show no edge; chords of a 48-sided circle meet at 7.5°.
    private static readonly double FlatCosine = Math.Cos(20 * Math.PI / 180);
    private const double Weld = 1e-6;

    /// <summary>The lines in which a level plane cuts a mesh, chained. A closed line's first point is repeated at its end.</summary>
    /// <param name="mesh">Metres.</param>
    /// <param name="z">The height of the plane in the frame of the mesh, metres.</param>
    public static IReadOnlyList<IReadOnlyList<Vec2>> Cut(Mesh mesh, double z)
    {
        var next = new Dictionary<(long, long), List<(Vec2 From, Vec2 To)>>();
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            if (
                CutTriangle(
                    mesh.Points[mesh.Triangles[i]],
                    mesh.Points[mesh.Triangles[i + 1]],
                    mesh.Points[mesh.Triangles[i + 2]],
                    z
                )
                is not { } segment
            )
                continue;
            var key = Key(segment.From);
            if (!next.TryGetValue(key, out var list))
                next[key] = list = [];
            list.Add(segment);
        }

        return Chain(next);
    }

    /// <summary>Edges between faces that meet at an angle, and edges of open surfaces.</summary>
    /// <param name="mesh">Metres.</param>
    public static IReadOnlyList<(Vec3 A, Vec3 B)> FeatureEdges(Mesh mesh) =>
        [.. EdgeCorners(mesh).Chunk(2).Select(e => (mesh.Points[e[0]], mesh.Points[e[1]]))];

    /// <summary>The feature edges, and those where a rounded surface turns away from a viewer who looks down along −Z.</summary>
    /// <param name="mesh">Metres, Z up.</param>
    public static IReadOnlyList<(Vec3 A, Vec3 B)> EdgesFromAbove(Mesh mesh) =>
        [.. EdgeCorners(mesh, true).Chunk(2).Select(e => (mesh.Points[e[0]], mesh.Points[e[1]]))];

    /// <summary>The same edges as pairs of the mesh's points; points at one place count as one.</summary>
    /// <param name="mesh">The mesh.</param>
    /// <param name="outlines">Whether also edges that part what faces upwards from what does not.</param>
    public static IReadOnlyList<int> EdgeCorners(Mesh mesh, bool outlines = false)
    {
        var first = new Dictionary<(Vec3, Vec3), (Vec3 Normal, int P, int Q)>();
        var edges = new List<int>();
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            int ia = mesh.Triangles[i],
                ib = mesh.Triangles[i + 1],
                ic = mesh.Triangles[i + 2];
            Vec3 a = mesh.Points[ia],
                b = mesh.Points[ib],
                c = mesh.Points[ic];
            var normal = (b - a).Cross(c - a).Unit();
            if (normal == Vec3.Zero)
                continue;
            Meet(ia, ib, normal);
            Meet(ib, ic, normal);
            Meet(ic, ia, normal);
        }

        foreach (var (_, p, q) in first.Values)
            edges.AddRange([p, q]);
        return edges;

        void Meet(int p, int q, Vec3 normal)
        {
            Vec3 from = mesh.Points[p],
                to = mesh.Points[q];
            if (!first.Remove((to, from), out var other))
                first[(from, to)] = (normal, p, q);
            else if (normal.Dot(other.Normal) < FlatCosine || (outlines && FacesUp(normal) != FacesUp(other.Normal)))
                edges.AddRange([p, q]);
        }
    }

    // Upright faces do not, whichever way rounding turns them.
    private static bool FacesUp(Vec3 normal) => normal.Z > 1e-6;

    // Corners exactly in the plane count as above it, so every closed mesh gives closed lines. The solid lies to the left.
    private static (Vec2 From, Vec2 To)? CutTriangle(Vec3 a, Vec3 b, Vec3 c, double z)
    {
        Span<Vec3> p = [a, b, c];
        Vec2? up = null,
            down = null;
        for (int i = 0; i < 3; i++)
        {
            Vec3 from = p[i],
                to = p[(i + 1) % 3];
            bool below = from.Z < z,
                endBelow = to.Z < z;
            if (below == endBelow)
                continue;
            // The same edge must give the same point from both its triangles.
            Vec3 low = below ? from : to,
                high = below ? to : from;
            var at = (low + ((high - low) * ((z - low.Z) / (high.Z - low.Z)))).XY;
            if (below)
                up = at;
            else
                down = at;
        }

        return up is { } u && down is { } d && (u - d).Length > 1e-9 ? (d, u) : null;
    }

    private static List<IReadOnlyList<Vec2>> Chain(Dictionary<(long, long), List<(Vec2 From, Vec2 To)>> next)
    {
        var lines = new List<IReadOnlyList<Vec2>>();
        foreach (var start in next.Values)
        {
            while (start.Count > 0)
            {
                var line = new List<Vec2>();
                var at = start[^1];
                start.RemoveAt(start.Count - 1);
                line.Add(at.From);
                line.Add(at.To);
                while (next.TryGetValue(Key(line[^1]), out var following) && following.Count > 0)
                {
                    Append(line, following[^1].To);
                    following.RemoveAt(following.Count - 1);
                }

                lines.Add(line);
            }
        }

        return lines;
    }

    // Goes on, or only moves the end when the line runs straight through.
    private static void Append(List<Vec2> line, Vec2 p)
    {
        Vec2 a = line[^2],
            b = line[^1],
            ab = b - a,
            bp = p - b;
        if (Math.Abs(ab.Cross(bp)) < 1e-9 * (ab.Length + bp.Length) && ab.Dot(bp) > 0)
            line[^1] = p;
        else
            line.Add(p);
    }

    private static (long, long) Key(Vec2 p) => ((long)Math.Round(p.X / Weld), (long)Math.Round(p.Y / Weld));
}
