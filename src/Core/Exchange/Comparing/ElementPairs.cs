using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Says which element of the newer revision is which of the older: by GlobalId; by class, place and shape where the sender gave
/// everything new ones.</summary>
internal static class ElementPairs
{
    // Below this share of common GlobalIds they are taken to be new.
    private const double Common = 0.1;

    // How far apart the same element may lie, metres; and the edge of a cell that is searched.
    private const double Reach = 0.02, Cell = 0.5;

    /// <summary>The pairs, as places in the two lists; and whether they are by shape.</summary>
    public static (List<(int Old, int New)> Pairs, bool ByShape) Of(IReadOnlyList<ElementPrint> old, IReadOnlyList<ElementPrint> now)
    {
        var pairs = ById(old, now);
        int least = Math.Min(old.Count, now.Count);
        if (least == 0 || pairs.Count >= Common * least) return (pairs, false);
        var byShape = ByShape(old, now, Frame.Identity);
        if (byShape.Count * 2 < least && Jump(old, now) is { } jump) byShape = ByShape(old, now, jump.Frame);
        return byShape.Count > pairs.Count ? (byShape, true) : (pairs, false);
    }

    // Of elements that share a GlobalId, against the standard, those of one name are the same, else those that lie nearest.
    private static List<(int, int)> ById(IReadOnlyList<ElementPrint> old, IReadOnlyList<ElementPrint> now)
    {
        var places = new Dictionary<string, List<int>>(old.Count, StringComparer.Ordinal);
        for (int i = 0; i < old.Count; i++)
        {
            if (old[i].GlobalId.Length == 0) continue;
            if (!places.TryGetValue(old[i].GlobalId, out var list)) places[old[i].GlobalId] = list = new List<int>(1);
            list.Add(i);
        }

        var pairs = new List<(int, int)>(Math.Min(old.Count, now.Count));
        for (int i = 0; i < now.Count; i++)
        {
            if (!places.TryGetValue(now[i].GlobalId, out var list) || list.Count == 0) continue;
            int found = list.Count == 1 ? list[0] : list.MinBy(o => (old[o].Name != now[i].Name, Distance(old[o], now[i])));
            list.Remove(found);
            pairs.Add((found, i));
        }

        return pairs;

        static double Distance(ElementPrint a, ElementPrint b) =>
            a.Place is { } p && b.Place is { } q ? (p.Centre - q.Centre).Length : double.MaxValue;
    }

    private static List<(int, int)> ByShape(IReadOnlyList<ElementPrint> old, IReadOnlyList<ElementPrint> now, Frame jump)
    {
        var cells = new Dictionary<(string, int, int, int), List<int>>();
        for (int i = 0; i < now.Count; i++)
        {
            if (now[i].Place is not { } place) continue;
            var key = Key(now[i].Class, place.Centre, 0, 0, 0);
            if (!cells.TryGetValue(key, out var list)) cells[key] = list = [];
            list.Add(i);
        }

        var pairs = new List<(int, int)>();
        var taken = new bool[now.Count];
        for (int i = 0; i < old.Count; i++)
        {
            if (old[i].Place is not { } place) continue;
            var at = jump.Point(place.Centre);
            int best = -1;
            double nearest = Reach;
            // Of like elements at one spot the one of the same name comes first.
            foreach (int n in Around(cells, old[i].Class, at))
            {
                double off = (now[n].Place!.Value.Centre - at).Length + (now[n].Name == old[i].Name ? 0 : Reach / 1000);
                if (taken[n] || off >= nearest || !Alike(old[i], now[n])) continue;
                (best, nearest) = (n, off);
            }

            if (best < 0) continue;
            taken[best] = true;
            pairs.Add((i, best));
        }

        return pairs;
    }

    // Shapes that occur once on both sides say how the frame jumped.
    private static FrameJump? Jump(IReadOnlyList<ElementPrint> old, IReadOnlyList<ElementPrint> now)
    {
        var here = Once(old);
        var there = Once(now);
        var shared = here.Keys.Where(there.ContainsKey).ToList();
        return FrameJumpFinder.Find([.. shared.Select(k => old[here[k]].Place!.Value.Centre)], [.. shared.Select(k
            => now[there[k]].Place!.Value.Centre)]);
    }

    private static Dictionary<(string, string, double, double), int> Once(IReadOnlyList<ElementPrint> elements) => elements
        .Select((e, i) => (e, i)).Where(p => p.e is { Place: not null, Shape: not null })
        .GroupBy(p => (p.e.Class, p.e.Name, Math.Round(p.e.Shape!.Value.Area, 3), Math.Round(p.e.Shape.Value.Spread, 3)))
        .Where(g => g.Count() == 1).ToDictionary(g => g.Key, g => g.First().i);

    private static bool Alike(ElementPrint a, ElementPrint b) =>
        a.Shape is { } s ? b.Shape is { } t && s.Like(t) : b.Shape is null;

    private static IEnumerable<int> Around(Dictionary<(string, int, int, int), List<int>> cells, string type, Vec3 at)
    {
        for (int x = -1; x <= 1; x++)
        {
            for (int y = -1; y <= 1; y++)
            {
                for (int z = -1; z <= 1; z++)
                {
                    if (!cells.TryGetValue(Key(type, at, x, y, z), out var list)) continue;
                    foreach (int i in list) yield return i;
                }
            }
        }
    }

    private static (string, int, int, int) Key(string type, Vec3 at, int x, int y, int z) =>
        (type, Index(at.X) + x, Index(at.Y) + y, Index(at.Z) + z);

    private static int Index(double metres) => (int)Math.Clamp(Math.Floor(metres / Cell), int.MinValue / 2, int.MaxValue / 2);
}
