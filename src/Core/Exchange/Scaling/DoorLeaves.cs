using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Finds doors as plans draw them: a quarter of a circle and a line of its radius from its centre to one of its ends.</summary>
internal static class DoorLeaves
{
    private const double Right = Math.PI / 2,
        Off = 0.02;
    private const int DeepestBlock = 4,
        Most = 100_000;

    /// <summary>How many there are, and the median width of their leaves in the drawing's units.</summary>
    public static (int Count, double Width) Of(Drawing drawing)
    {
        var widths = new List<double>();
        var open = new Stack<(BlockRecord Block, double Scale, int Depth)>([(drawing.Model, 1, 0)]);
        int looked = 0;
        while (open.TryPop(out var at) && looked++ < Most)
        {
            var arcs = at
                .Block.Entities.OfType<ArcEntity>()
                .Where(a => Math.Abs(Turn(a) - Right) < Off)
                .Take(Most)
                .ToList();
            if (arcs.Count > 0)
                Leaves(at.Block, arcs, at.Scale, widths);
            if (at.Depth >= DeepestBlock)
                continue;
            foreach (var insert in at.Block.Entities.OfType<Insert>())
                if (drawing.Blocks[insert.Block] is { } block && open.Count < Most)
                    open.Push((block, at.Scale * Math.Abs(insert.Scale.X), at.Depth + 1));
        }

        widths.Sort();
        return widths.Count == 0 ? (0, 0) : (widths.Count, widths[widths.Count / 2]);
    }

    private static double Turn(ArcEntity a) => ((a.End - a.Start) % (2 * Math.PI) + (2 * Math.PI)) % (2 * Math.PI);

    // Ends of lines by place, so that many doors are found as fast as few.
    private static void Leaves(BlockRecord block, List<ArcEntity> arcs, double scale, List<double> widths)
    {
        double cell = Math.Max(arcs.Max(a => a.Radius) * Off, 1e-9);
        var ends = new HashSet<(long, long, long, long)>();
        foreach (var (a, b) in block.Entities.SelectMany(Sides))
        {
            ends.Add(Key(a, b));
            ends.Add(Key(b, a));
        }

        foreach (var arc in arcs)
        {
            Vec2 centre = arc.Centre.XY,
                one = At(arc, arc.Start),
                other = At(arc, arc.End);
            if (Near(centre, one) || Near(centre, other))
                widths.Add(arc.Radius * scale);
        }

        bool Near(Vec2 a, Vec2 b)
        {
            var (ax, ay, bx, by) = Key(a, b);
            for (int n = 0; n < 81; n++)
                if (ends.Contains((ax + (n % 3) - 1, ay + (n / 3 % 3) - 1, bx + (n / 9 % 3) - 1, by + (n / 27) - 1)))
                    return true;
            return false;
        }

        (long, long, long, long) Key(Vec2 a, Vec2 b) => (Cell(a.X), Cell(a.Y), Cell(b.X), Cell(b.Y));

        long Cell(double v) => (long)Math.Clamp(Math.Floor(v / cell), -1e15, 1e15);
    }

    private static Vec2 At(ArcEntity a, double angle) =>
        a.Centre.XY + (new Vec2(Math.Cos(angle), Math.Sin(angle)) * a.Radius);

    private static IEnumerable<(Vec2, Vec2)> Sides(Entity entity)
    {
        switch (entity)
        {
            case Line e:
                yield return (e.Start.XY, e.End.XY);
                break;
            case LightPolyline e:
                for (int i = 0; i + (e.Closed ? 0 : 1) < e.Vertices.Count; i++)
                    yield return (e.Vertices[i].Point, e.Vertices[(i + 1) % e.Vertices.Count].Point);
                break;
        }
    }
}
