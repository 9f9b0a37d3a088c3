namespace SteadyLintel.Geometry;

/// <summary>The outside of bodies that belong together.</summary>
public static class OuterSkin
{
    /// <summary>The surface that bodies show outwards, without the faces between bodies that touch or overlap, and without hollows that
    /// are closed all round.</summary>
    /// <param name="bodies">Meshes in one frame, metres.</param>
    /// <returns>One mesh. Bodies that cannot be united, because they are open or too fine, stay as they are beside the others.</returns>
    public static Mesh Of(IReadOnlyList<Mesh> bodies)
    {
        var skin = Mesh.Empty;
        var apart = new List<Mesh>();
        foreach (var body in bodies)
        {
            var outside = WithoutHollows(body);
            if (skin.TriangleCount == 0)
                skin = outside;
            else
            {
                try
                {
                    skin = Solids.Unite(skin, outside);
                }
                catch (ShapeException)
                {
                    apart.Add(outside);
                }
            }
        }

        return Mesh.Join([WithoutHollows(skin), .. apart]);
    }

    // Shells of a closed mesh that enclose less than nothing face inwards: they bound hollows.
    private static Mesh WithoutHollows(Mesh mesh)
    {
        var shellOf = Shells(mesh);
        var volumes = new Dictionary<int, double>();
        for (int t = 0; t < mesh.TriangleCount; t++)
        {
            Vec3 a = mesh.Points[mesh.Triangles[3 * t]],
                b = mesh.Points[mesh.Triangles[(3 * t) + 1]],
                c = mesh.Points[mesh.Triangles[(3 * t) + 2]];
            volumes[shellOf[t]] = volumes.GetValueOrDefault(shellOf[t]) + (a.Dot(b.Cross(c)) / 6);
        }

        if (volumes.Count < 2 || !MassProperties.Of(mesh).Closed)
            return mesh;
        var kept = Enumerable
            .Range(0, mesh.TriangleCount)
            .Where(t => volumes[shellOf[t]] > 0)
            .SelectMany(t => mesh.Triangles[(3 * t)..((3 * t) + 3)]);
        return mesh with { Triangles = [.. kept] };
    }

    // Triangles that meet in a point are of one shell; points at one place count as one.
    private static int[] Shells(Mesh mesh)
    {
        var parent = new Dictionary<Vec3, Vec3>();
        Vec3 Root(Vec3 p)
        {
            while (parent.TryGetValue(p, out var up) && up != p)
            {
                parent[p] = parent.GetValueOrDefault(up, up);
                p = up;
            }

            return p;
        }

        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        for (int k = 0; k < 3; k++)
        {
            Vec3 a = Root(mesh.Points[mesh.Triangles[i]]),
                b = Root(mesh.Points[mesh.Triangles[i + k]]);
            parent[a] = a;
            parent[b] = a;
        }

        var numbers = new Dictionary<Vec3, int>();
        var shells = new int[mesh.TriangleCount];
        for (int t = 0; t < shells.Length; t++)
        {
            var root = Root(mesh.Points[mesh.Triangles[3 * t]]);
            shells[t] = numbers.TryGetValue(root, out int known) ? known : numbers[root] = numbers.Count;
        }

        return shells;
    }
}
