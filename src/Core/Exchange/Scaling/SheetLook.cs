using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Whether a drawing looks like one plan, or like something that cannot be placed as one.</summary>
public static class SheetLook
{
    // The drawing is looked at through so many cells across; parts that are a cell apart are apart.
    private const int Cells = 64;

    // A part with fewer of the entities is a note or a title block, not a view.
    private const double ViewShare = 0.12;

    // A table has so many texts, and at most so few other things for each of them.
    private const int FewestTexts = 30;
    private const double LinesPerText = 1.5;

    private const int Most = 200_000;

    /// <summary>What it looks like where it is no plan, as a question to whoever places it; null where it looks like one.</summary>
    public static string? Doubt(Drawing drawing)
    {
        var entities = drawing.Model.Entities.Take(Most).ToList();
        if (entities.Count == 0)
            return null;
        int texts = entities.Count(e => e is TextEntity or MText or Table);
        int other = entities.Count(e => e is not (TextEntity or MText or Table));
        if (
            entities.Any(e => e is Table)
            || (texts >= FewestTexts && other <= LinesPerText * texts && OnlyStraight(entities))
        )
            return "It looks like a schedule: mostly text in rows. Does it have to be placed at all?";
        int views = Views(drawing, entities);
        return views > 1
            ? $"It looks like {views} views beside one another, so placing it as one plan would place only one of them. Keep one with a window first, or confirm that it is one plan."
            : null;
    }

    // A table is drawn along two directions.
    private static bool OnlyStraight(List<Entity> entities) =>
        entities.All(e =>
            e switch
            {
                TextEntity or MText or Table => true,
                Line l => IsAlong(l.End - l.Start),
                LightPolyline p => p.Vertices.TrueForAll(v => v.Bulge == 0),
                _ => false,
            }
        );

    private static bool IsAlong(Vec3 d) =>
        Math.Min(Math.Abs(d.X), Math.Abs(d.Y)) <= 1e-6 * Math.Max(Math.Abs(d.X), Math.Abs(d.Y));

    // Entities whose boxes share a cell, or lie in cells beside one another, belong together.
    private static int Views(Drawing drawing, List<Entity> entities)
    {
        var boxes = drawing.ExtentsOf(entities).Where(b => !b.IsEmpty && double.IsFinite(b.Size.X + b.Size.Y)).ToList();
        if (boxes.Count < 20)
            return 1;
        var all = boxes.Aggregate(Box.Empty, (sum, b) => sum.Add(b));
        double cell = Math.Max(all.Size.X, all.Size.Y) / Cells;
        if (!(cell > 0))
            return 1;
        var parent = Enumerable.Range(0, (Cells + 1) * (Cells + 1)).ToArray();
        var counts = new int[parent.Length];
        var used = new bool[parent.Length];
        int Find(int i)
        {
            while (parent[i] != i)
                i = parent[i] = parent[parent[i]];
            return i;
        }

        int At(double x, double y) =>
            (Math.Clamp((int)((y - all.Min.Y) / cell), 0, Cells) * (Cells + 1))
            + Math.Clamp((int)((x - all.Min.X) / cell), 0, Cells);
        foreach (var box in boxes)
        {
            int first = At(box.Min.X, box.Min.Y);
            counts[first]++;
            for (double y = box.Min.Y; ; y = Math.Min(y + cell, box.Max.Y))
            {
                for (double x = box.Min.X; ; x = Math.Min(x + cell, box.Max.X))
                {
                    int at = At(x, y);
                    used[at] = true;
                    parent[Find(at)] = Find(first);
                    if (x >= box.Max.X)
                        break;
                }

                if (y >= box.Max.Y)
                    break;
            }
        }

        for (int i = 0; i < parent.Length; i++)
        {
            if (!used[i])
                continue;
            if ((i % (Cells + 1)) < Cells && used[i + 1])
                parent[Find(i)] = Find(i + 1);
            if (i + Cells + 1 < used.Length && used[i + Cells + 1])
                parent[Find(i)] = Find(i + Cells + 1);
            if ((i % (Cells + 1)) < Cells && i + Cells + 2 < used.Length && used[i + Cells + 2])
                parent[Find(i)] = Find(i + Cells + 2);
            if ((i % (Cells + 1)) > 0 && i + Cells < used.Length && used[i + Cells])
                parent[Find(i)] = Find(i + Cells);
        }

        var parts = new Dictionary<int, int>();
        for (int i = 0; i < parent.Length; i++)
            if (counts[i] > 0)
                parts[Find(i)] = parts.GetValueOrDefault(Find(i)) + counts[i];
        return parts.Values.Count(n => n >= ViewShare * boxes.Count);
    }
}
