using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Which element is which, as places in two lists.</summary>
/// <param name="Pairs">The pairs.</param>
/// <param name="ByShape">Whether they were found by shape because all GlobalIds are new.</param>
/// <param name="Ambiguous">Elements of which several are alike at one place.</param>
internal sealed record PairedElements(
    List<(int Old, int New)> Pairs,
    bool ByShape,
    IReadOnlyList<(IReadOnlyList<int> Old, IReadOnlyList<int> New)> Ambiguous
);

/// <summary>Says which element of the newer revision is which of the older: by GlobalId; by class, place, shape and name where the sender
/// gave
/// it a new one.</summary>
internal static class ElementPairs
{
    // Metres: two candidates that differ by less are as near as one another.
    private const double Level = 1e-3;

    // Below this share of common GlobalIds they are taken to be new.
    private const double Common = 0.1;

    // How far apart the same element may lie, metres; and the edge of a cell that is searched.
    private const double Reach = 0.02,
        Cell = 0.5;

    /// <summary>Pairs them.</summary>
    public static PairedElements Of(IReadOnlyList<ElementFingerprint> old, IReadOnlyList<ElementFingerprint> now)
    {
        var pairs = ById(old, now);
        int least = Math.Min(old.Count, now.Count);
        if (least == 0 || pairs.Count == least && old.Count == now.Count)
            return new PairedElements(pairs, false, []);
        var (before, after) = (
            Rest(old.Count, pairs.ConvertAll(p => p.Old)),
            Rest(now.Count, pairs.ConvertAll(p => p.New))
        );
        var jump = FrameJumpFinder
            .Find(Centres(old, now, pairs, p => old[p.Old]), Centres(old, now, pairs, p => now[p.New]))
            ?.Frame;
        var (byShape, ambiguous) = ByShape(old, now, before, after, jump ?? Frame.Identity);
        if (pairs.Count < Common * least && byShape.Count * 2 < least && Jump(old, now) is { } found)
            (byShape, ambiguous) = ByShape(old, now, before, after, found.Frame);
        bool all = pairs.Count < Common * least && byShape.Count > pairs.Count;
        return new PairedElements([.. pairs, .. byShape], all, ambiguous);
    }

    private static List<int> Rest(int count, List<int> paired)
    {
        var taken = new bool[count];
        foreach (int i in paired)
            taken[i] = true;
        return [.. Enumerable.Range(0, count).Where(i => !taken[i])];
    }

    private static List<Vec3> Centres(
        IReadOnlyList<ElementFingerprint> old,
        IReadOnlyList<ElementFingerprint> now,
        List<(int Old, int New)> pairs,
        Func<(int Old, int New), ElementFingerprint> side
    ) =>
        [
            .. pairs
                .Where(p =>
                    old[p.Old].Place is not null && now[p.New].Place is not null && Alike(old[p.Old], now[p.New])
                )
                .Select(p => side(p).Place!.Value.Centre),
        ];

    // Of elements that share a GlobalId, against the standard, those of one name are the same, else those that lie nearest.
    private static List<(int Old, int New)> ById(
        IReadOnlyList<ElementFingerprint> old,
        IReadOnlyList<ElementFingerprint> now
    )
    {
        var places = new Dictionary<string, List<int>>(old.Count, StringComparer.Ordinal);
        for (int i = 0; i < old.Count; i++)
        {
            if (old[i].GlobalId.Length == 0)
                continue;
            if (!places.TryGetValue(old[i].GlobalId, out var list))
                places[old[i].GlobalId] = list = new List<int>(1);
            list.Add(i);
        }

        var pairs = new List<(int, int)>(Math.Min(old.Count, now.Count));
        for (int i = 0; i < now.Count; i++)
        {
            if (!places.TryGetValue(now[i].GlobalId, out var list) || list.Count == 0)
                continue;
            int found =
                list.Count == 1 ? list[0] : list.MinBy(o => (old[o].Name != now[i].Name, Distance(old[o], now[i])));
            list.Remove(found);
            pairs.Add((found, i));
        }

        return pairs;

        static double Distance(ElementFingerprint a, ElementFingerprint b) =>
            a.Place is { } p && b.Place is { } q ? (p.Centre - q.Centre).Length : double.MaxValue;
    }

    // Elements of the older revision, each with those of the newer that it may be. Where several are as near, the one of the same name is
    // it; where several have the name too, nobody can say.
    private static (List<(int, int)> Pairs, List<(IReadOnlyList<int>, IReadOnlyList<int>)> Ambiguous) ByShape(
        IReadOnlyList<ElementFingerprint> old,
        IReadOnlyList<ElementFingerprint> now,
        List<int> before,
        List<int> after,
        Frame jump
    )
    {
        var cells = new Dictionary<(string, int, int, int), List<int>>();
        foreach (int i in after)
        {
            if (now[i].Place is not { } place)
                continue;
            var key = Key(now[i].Class, place.Centre, 0, 0, 0);
            if (!cells.TryGetValue(key, out var list))
                cells[key] = list = [];
            list.Add(i);
        }

        var pairs = new List<(int, int)>();
        var taken = new HashSet<int>();
        var doubtful = new Dictionary<string, (List<int> Old, List<int> New)>();
        foreach (int i in before)
        {
            if (old[i].Place is not { } place)
                continue;
            var candidates = Best(old, now, i, jump.Point(place.Centre), cells, taken);
            if (candidates.Count == 0)
                continue;
            if (candidates.Count > 1)
            {
                string group = string.Join(',', candidates.Order());
                if (!doubtful.TryGetValue(group, out var entry))
                    doubtful[group] = entry = ([], candidates);
                entry.Old.Add(i);
                continue;
            }

            taken.Add(candidates[0]);
            pairs.Add((i, candidates[0]));
        }

        var ambiguous = new List<(IReadOnlyList<int>, IReadOnlyList<int>)>();
        foreach (var (olds, news) in doubtful.Values)
        {
            var open = news.Where(n => !taken.Contains(n)).ToList();
            // All but one were found by others.
            if (olds.Count == 1 && open.Count == 1)
                pairs.Add((olds[0], open[0]));
            else if (open.Count > 0)
                ambiguous.Add((olds, open));
            taken.UnionWith(open);
        }

        return (pairs, ambiguous);
    }

    private static List<int> Best(
        IReadOnlyList<ElementFingerprint> old,
        IReadOnlyList<ElementFingerprint> now,
        int element,
        Vec3 at,
        Dictionary<(string, int, int, int), List<int>> cells,
        HashSet<int> taken
    )
    {
        var near = new List<(int Element, double Off)>();
        foreach (int n in Around(cells, old[element].Class, at))
        {
            double off = (now[n].Place!.Value.Centre - at).Length;
            if (!taken.Contains(n) && off < Reach && Alike(old[element], now[n]))
                near.Add((n, off));
        }

        if (near.Count < 2)
            return near.ConvertAll(n => n.Element);
        double least = near.Min(n => n.Off);
        var nearest = near.Where(n => n.Off <= least + Level).Select(n => n.Element).ToList();
        var named = nearest.Where(n => now[n].Name == old[element].Name).ToList();
        return named.Count > 0 ? named : nearest;
    }

    // Shapes that occur once on both sides say how the frame jumped.
    private static FrameJump? Jump(IReadOnlyList<ElementFingerprint> old, IReadOnlyList<ElementFingerprint> now)
    {
        var here = Once(old);
        var there = Once(now);
        var shared = here.Keys.Where(there.ContainsKey).ToList();
        return FrameJumpFinder.Find(
            [.. shared.Select(k => old[here[k]].Place!.Value.Centre)],
            [.. shared.Select(k => now[there[k]].Place!.Value.Centre)]
        );
    }

    private static Dictionary<(string, string, double, double), int> Once(IReadOnlyList<ElementFingerprint> elements) =>
        elements
            .Select((e, i) => (e, i))
            .Where(p => p.e is { Place: not null, Shape: not null })
            .GroupBy(p =>
                (p.e.Class, p.e.Name, Math.Round(p.e.Shape!.Value.Area, 3), Math.Round(p.e.Shape.Value.Spread, 3))
            )
            .Where(g => g.Count() == 1)
            .ToDictionary(g => g.Key, g => g.First().i);

    private static bool Alike(ElementFingerprint a, ElementFingerprint b) =>
        a.Shape is { } s ? b.Shape is { } t && s.Like(t) : b.Shape is null;

    private static IEnumerable<int> Around(Dictionary<(string, int, int, int), List<int>> cells, string type, Vec3 at)
    {
        for (int x = -1; x <= 1; x++)
        {
            for (int y = -1; y <= 1; y++)
            {
                for (int z = -1; z <= 1; z++)
                {
                    if (!cells.TryGetValue(Key(type, at, x, y, z), out var list))
                        continue;
                    foreach (int i in list)
                        yield return i;
                }
            }
        }
    }

    private static (string, int, int, int) Key(string type, Vec3 at, int x, int y, int z) =>
        (type, Index(at.X) + x, Index(at.Y) + y, Index(at.Z) + z);

    private static int Index(double metres) =>
        (int)Math.Clamp(Math.Floor(metres / Cell), int.MinValue / 2, int.MaxValue / 2);
}
