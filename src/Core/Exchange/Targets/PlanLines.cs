using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The lines of an element in a plan, metres in the world frame.</summary>
/// <param name="Cut">Where the plane cuts it; closed lines repeat their first point.</param>
/// <param name="Below">Edges below the plane, seen looking down. Hidden lines are not taken away.</param>
/// <param name="Above">Edges above the plane.</param>
internal sealed record PlanLines(IReadOnlyList<IReadOnlyList<Vec2>> Cut, IReadOnlyList<(Vec2 A, Vec2 B)> Below,
    IReadOnlyList<(Vec2 A, Vec2 B)> Above)
{
    /// <summary>The height a storey's plan counts from: its placement, else its elevation.</summary>
    public static double Level(ModelSnapshot snapshot, int storey)
    {
        if (storey < 0) return snapshot.Structure.Storeys.Count > 0 ? snapshot.Structure.Storeys[0].Level : 0;
        var found = snapshot.Structure.Storeys[storey];
        return found.PlacementZ ?? found.Level;
    }

    /// <summary>Makes the lines of a shape for a cut at a height.</summary>
    public static PlanLines Of(Shape shape, double z)
    {
        var cut = new List<IReadOnlyList<Vec2>>();
        HashSet<((long, long), (long, long))> seenBelow = [], seenAbove = [];
        List<(Vec2, Vec2)> below = [], above = [];
        foreach (var part in shape.Parts)
        {
            var world = part.Mesh.Map(shape.World.Compose(part.Frame));
            cut.AddRange(Section.Cut(world, z));
            foreach (var (a, b) in Section.FeatureEdges(world))
            {
                var (low, high) = a.Z <= b.Z ? (a, b) : (b, a);
                if (high.Z <= z) Add(low, high, below, seenBelow);
                else if (low.Z >= z) Add(low, high, above, seenAbove);
                else
                {
                    var middle = low + ((high - low) * ((z - low.Z) / (high.Z - low.Z)));
                    Add(low, middle, below, seenBelow);
                    Add(middle, high, above, seenAbove);
                }
            }
        }

        return new PlanLines(cut, below, above);
    }

    // Edges one above another fall together in plan; upright ones vanish.
    private static void Add(Vec3 a, Vec3 b, List<(Vec2, Vec2)> lines, HashSet<((long, long), (long, long))> seen)
    {
        Vec2 p = a.XY, q = b.XY;
        if ((q - p).Length < 1e-5) return;
        var (k, l) = (Key(p), Key(q));
        if (seen.Add(k.CompareTo(l) <= 0 ? (k, l) : (l, k))) lines.Add((p, q));
    }

    private static (long, long) Key(Vec2 p) => ((long)Math.Round(p.X * 1e5), (long)Math.Round(p.Y * 1e5));
}
