namespace SteadyLintel.Geometry;

/// <summary>A cross-section on its way through space: loops of points, the outer one first.</summary>
/// <param name="Loops">The loops; sections that follow each other have as many loops of as many points.</param>
public sealed record LoftSection(IReadOnlyList<Vec3[]> Loops)
{
    /// <summary>A region placed in a frame.</summary>
    /// <param name="region">The region, metres.</param>
    /// <param name="frame">From the region's plane into the outer frame.</param>
    public static LoftSection Of(Region region, Frame frame) =>
        new([.. region.Loops.Select(l => Array.ConvertAll(l, p => frame.Point(new Vec3(p.X, p.Y, 0))))]);
}

/// <summary>Skins a body through cross-sections.</summary>
public static class Loft
{
    /// <summary>The body between the first section and the last, its ends filled; or a ring when the last section is followed by the
    /// first.</summary>
    /// <param name="sections">At least two.</param>
    /// <param name="cap">A flat region whose loops match the sections', to fill the ends with; null for a ring or an open skin.</param>
    /// <param name="ring">Whether the skin goes on from the last section to the first.</param>
    /// <returns>A mesh facing outward where it is closed.</returns>
    /// <exception cref="ShapeException">Two sections do not match.</exception>
    public static Mesh Through(IReadOnlyList<LoftSection> sections, Region? cap, bool ring = false)
    {
        var builder = new MeshBuilder();
        var rows = sections.Select(s => s.Loops.Select(l => l.Select(builder.Point).ToArray()).ToArray()).ToList();
        for (int s = 0; s + 1 < rows.Count + (ring ? 1 : 0); s++)
            Skin(builder, rows[s], rows[(s + 1) % rows.Count]);
        if (cap is not null && !ring)
        {
            int[] first = [.. rows[0].SelectMany(l => l)],
                last = [.. rows[^1].SelectMany(l => l)];
            var triangles = Triangulator.Triangulate(cap);
            for (int i = 0; i < triangles.Length; i += 3)
            {
                builder.Triangle(first[triangles[i]], first[triangles[i + 2]], first[triangles[i + 1]]);
                builder.Triangle(last[triangles[i]], last[triangles[i + 1]], last[triangles[i + 2]]);
            }
        }

        return builder.Outward();
    }

    private static void Skin(MeshBuilder builder, int[][] from, int[][] to)
    {
        if (from.Length != to.Length)
            throw new ShapeException("Two cross-sections have a different number of loops.");
        for (int l = 0; l < from.Length; l++)
        {
            int n = from[l].Length;
            if (n != to[l].Length)
                throw new ShapeException("Two cross-sections have a different number of corners.");
            for (int i = 0; i < n; i++)
            {
                int a = from[l][i],
                    b = from[l][(i + 1) % n],
                    c = to[l][(i + 1) % n],
                    d = to[l][i];
                builder.Triangle(a, b, c);
                builder.Triangle(a, c, d);
            }
        }
    }
}
