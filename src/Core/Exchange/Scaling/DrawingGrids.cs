using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Finds the grid of a drawing: a short text in a circle, and a line that ends at the circle and runs towards its
/// centre.</summary>
public static class DrawingGrids
{
    private const int LongestTag = 5,
        Most = 200_000;

    // A line ends at a circle within this share of its radius, and runs towards its centre as exactly.
    private const double Near = 0.25;

    // Shorter lines than so many radii are leaders and marks.
    private const double Shortest = 6;

    /// <summary>The axes in plan.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="metres">Metres in its unit.</param>
    /// <returns>In the drawing's own frame, metres; each tag once, by its longest line.</returns>
    public static IReadOnlyList<PlanAxis> Of(Drawing drawing, double metres)
    {
        var found = new Parts(drawing);
        var lines = found.Lines;
        var bubbles = Bubbles(found);
        if (bubbles.Count == 0 || lines.Count == 0)
            return [];
        double cell = Math.Max(bubbles.Max(b => b.Radius) * (1 + Near), 1e-9);
        var ends = new Dictionary<(long, long), List<(Vec2 End, Vec2 Other)>>();
        foreach (var (a, b) in lines)
        foreach (var (end, other) in new[] { (a, b), (b, a) })
        {
            if (!ends.TryGetValue(Cell(end), out var list))
                ends[Cell(end)] = list = [];
            if (list.Count < 1000)
                list.Add((end, other));
        }

        var axes = new Dictionary<string, PlanAxis>(StringComparer.OrdinalIgnoreCase);
        foreach (var (tag, centre, radius) in bubbles)
        {
            var (x, y) = Cell(centre);
            for (int n = 0; n < 9; n++)
            {
                if (!ends.TryGetValue((x + (n % 3) - 1, y + (n / 3) - 1), out var list))
                    continue;
                foreach (var (end, other) in list)
                {
                    if (!Leads(end, other, centre, radius))
                        continue;
                    var axis = new PlanAxis(tag, end * metres, other * metres);
                    if (
                        !axes.TryGetValue(tag, out var known)
                        || (known.End - known.Start).Length < (axis.End - axis.Start).Length
                    )
                        axes[tag] = axis;
                }
            }
        }

        return [.. axes.Values.OrderBy(a => a.Tag, StringComparer.OrdinalIgnoreCase)];

        (long, long) Cell(Vec2 p) =>
            (
                (long)Math.Clamp(Math.Floor(p.X / cell), -1e15, 1e15),
                (long)Math.Clamp(Math.Floor(p.Y / cell), -1e15, 1e15)
            );
    }

    private static bool Leads(Vec2 end, Vec2 other, Vec2 centre, double radius)
    {
        var along = other - end;
        if (along.Length < Shortest * radius)
            return false;
        double gap = (end - centre).Length;
        return Math.Abs(gap - radius) <= Near * radius
            && Math.Abs(along.Unit().Cross(centre - end)) <= Near * radius
            && along.Dot(end - centre) > 0;
    }

    // A circle with one short text whose anchor lies in it.
    private static List<(string Tag, Vec2 Centre, double Radius)> Bubbles(Parts found)
    {
        var bubbles = new List<(string, Vec2, double)>();
        if (found.Circles.Count == 0)
            return bubbles;
        double cell = Math.Max(found.Circles.Max(c => c.Radius), 1e-9);
        var texts = found
            .Texts.Where(t => t.Text.Length is > 0 and <= LongestTag)
            .ToLookup(t => (Math.Floor(t.At.X / cell), Math.Floor(t.At.Y / cell)));
        foreach (var (centre, radius) in found.Circles)
        {
            var near = Enumerable
                .Range(0, 9)
                .SelectMany(n =>
                    texts[(Math.Floor(centre.X / cell) + (n % 3) - 1, Math.Floor(centre.Y / cell) + (n / 3) - 1)]
                )
                .Where(t => (t.At - centre).Length < radius)
                .Take(2)
                .ToList();
            if (near.Count == 1)
                bubbles.Add((near[0].Text, centre, radius));
        }

        return bubbles;
    }

    // Lines, circles and texts of model space, those of blocks where they are shown.
    private sealed class Parts
    {
        public Parts(Drawing drawing)
        {
            Texts = SheetTexts.Of(drawing, drawing.Model);
            foreach (var (entity, at, _, _, _) in ShownEntities.Of(drawing, drawing.Model, pictures: false))
            {
                if (Lines.Count + Circles.Count > Most)
                    break;
                Add(entity, at);
            }
        }

        public List<PlacedText> Texts { get; }

        public List<(Vec2 Centre, double Radius)> Circles { get; } = [];

        public List<(Vec2 A, Vec2 B)> Lines { get; } = [];

        private void Add(Entity entity, InsertTransform at)
        {
            switch (entity)
            {
                case Line e:
                    Lines.Add((at.Apply(e.Start).XY, at.Apply(e.End).XY));
                    break;
                case Circle e:
                    Circles.Add((at.Apply(ObjectCoordinates.ToWorld(e.Centre, e.Normal)).XY, e.Radius * at.X.Length));
                    break;
                case LightPolyline { Closed: false, Vertices.Count: 2 } e:
                    Vec3[] ends = [.. EntityPoints.Of(e).Select(at.Apply)];
                    Lines.Add((ends[0].XY, ends[^1].XY));
                    break;
            }
        }
    }
}
