namespace SteadyLintel.Geometry;

/// <summary>Volume, area and soundness of a mesh.</summary>
/// <param name="Volume">Enclosed volume, m³, by the divergence theorem; positive when triangles face outward. Meaningless for an open
/// mesh.</param>
/// <param name="Area">Surface, m².</param>
/// <param name="Closed">Whether every edge is used as often in one direction as in the other.</param>
/// <param name="Bounds">The box.</param>
public readonly record struct MassProperties(double Volume, double Area, bool Closed, Box Bounds)
{
    /// <summary>Measures a mesh, relative to its own middle so that far coordinates lose nothing.</summary>
    /// <param name="mesh">Metres, in any frame.</param>
    public static MassProperties Of(Mesh mesh)
    {
        var box = mesh.Bounds();
        var centre = box.IsEmpty ? Vec3.Zero : box.Centre;
        double volume = 0,
            area = 0;
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            Vec3 a = mesh.Points[mesh.Triangles[i]] - centre,
                b = mesh.Points[mesh.Triangles[i + 1]] - centre,
                c = mesh.Points[mesh.Triangles[i + 2]] - centre;
            var cross = (b - a).Cross(c - a);
            area += cross.Length / 2;
            volume += a.Dot(b.Cross(c)) / 6;
        }

        return new MassProperties(volume, area, IsClosed(mesh), box);
    }

    private static bool IsClosed(Mesh mesh)
    {
        if (mesh.Triangles.Length == 0)
            return false;
        var weld = Weld(mesh);
        // A balanced mesh has as many edges a→b as b→a, so equal multisets once sorted.
        var forth = new List<long>(mesh.Triangles.Length);
        var back = new List<long>(mesh.Triangles.Length);
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            int a = weld[mesh.Triangles[i]],
                b = weld[mesh.Triangles[i + 1]],
                c = weld[mesh.Triangles[i + 2]];
            Edge(a, b, forth, back);
            Edge(b, c, forth, back);
            Edge(c, a, forth, back);
        }

        if (forth.Count != back.Count)
            return false;
        forth.Sort();
        back.Sort();
        return System
            .Runtime.InteropServices.CollectionsMarshal.AsSpan(forth)
            .SequenceEqual(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(back));
    }

    private static void Edge(int a, int b, List<long> forth, List<long> back)
    {
        if (a < b)
            forth.Add(((long)a << 32) | (uint)b);
        else if (b < a)
            back.Add(((long)b << 32) | (uint)a);
    }

    // Points of equal coordinates count as one, whoever owns them.
    private static int[] Weld(Mesh mesh)
    {
        var seen = new Dictionary<Vec3, int>(mesh.Points.Length);
        var weld = new int[mesh.Points.Length];
        for (int i = 0; i < weld.Length; i++)
        {
            if (!seen.TryGetValue(mesh.Points[i], out weld[i]))
                seen[mesh.Points[i]] = weld[i] = i;
        }

        return weld;
    }
}
