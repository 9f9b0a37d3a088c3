namespace SteadyLintel.Geometry;

/// <summary>Triangles over shared points, counter-clockwise seen from outside.</summary>
/// <param name="Points">Points in metres, in the frame of whoever holds the mesh.</param>
/// <param name="Triangles">Three point numbers a triangle.</param>
public sealed record Mesh(Vec3[] Points, int[] Triangles)
{
    /// <summary>The mesh of nothing.</summary>
    public static readonly Mesh Empty = new([], []);

    /// <summary>How many triangles there are.</summary>
    public int TriangleCount => Triangles.Length / 3;

    /// <summary>The box around the points.</summary>
    public Box Bounds() => Box.Of(Points);

    /// <summary>The mesh mapped by a frame; a mirroring frame turns the triangles so that they still face outward.</summary>
    /// <param name="frame">From the frame of the mesh into the outer one.</param>
    public Mesh Map(Frame frame)
    {
        WorkBudget.Spend(Points.Length);
        var points = new Vec3[Points.Length];
        for (int i = 0; i < points.Length; i++)
            points[i] = frame.Point(Points[i]);
        return frame.Determinant < 0 ? new Mesh(points, FlippedTriangles()) : new Mesh(points, Triangles);
    }

    /// <summary>All meshes in one.</summary>
    /// <param name="meshes">In one frame.</param>
    public static Mesh Join(IReadOnlyList<Mesh> meshes)
    {
        if (meshes.Count == 1)
            return meshes[0];
        WorkBudget.Spend(meshes.Sum(m => (long)m.Points.Length + m.Triangles.Length));
        var points = new Vec3[meshes.Sum(m => m.Points.Length)];
        var triangles = new int[meshes.Sum(m => m.Triangles.Length)];
        int p = 0,
            t = 0;
        foreach (var mesh in meshes)
        {
            mesh.Points.CopyTo(points, p);
            foreach (int corner in mesh.Triangles)
                triangles[t++] = corner + p;
            p += mesh.Points.Length;
        }

        return new Mesh(points, triangles);
    }

    /// <summary>The mesh without triangles lower than a height, metres: they show nothing, and what a graphics card interpolates over them
    /// is noise. It need not be closed any more.</summary>
    /// <param name="height">Of a triangle over its longest side, metres.</param>
    public Mesh WithoutSlivers(double height)
    {
        var kept = new List<int>(Triangles.Length);
        for (int i = 0; i < Triangles.Length; i += 3)
        {
            Vec3 a = Points[Triangles[i]],
                b = Points[Triangles[i + 1]],
                c = Points[Triangles[i + 2]];
            double longest = Math.Max((b - a).Length, Math.Max((c - b).Length, (a - c).Length));
            if ((b - a).Cross(c - a).Length > height * longest)
                kept.AddRange([Triangles[i], Triangles[i + 1], Triangles[i + 2]]);
        }

        return kept.Count == Triangles.Length ? this : this with { Triangles = [.. kept] };
    }

    /// <summary>The mesh facing the other way.</summary>
    public Mesh Flipped() => this with { Triangles = FlippedTriangles() };

    private int[] FlippedTriangles()
    {
        var flipped = Triangles.ToArray();
        for (int i = 0; i < flipped.Length; i += 3)
            (flipped[i + 1], flipped[i + 2]) = (flipped[i + 2], flipped[i + 1]);
        return flipped;
    }
}
