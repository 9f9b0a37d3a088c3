using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Compares two revisions of a source, element by element.</summary>
public static class RevisionComparer
{
    // Numbers that were written in another unit and back differ by their last digits.
    private const double Digits = 1e-9;

    /// <summary>The elements that have another GlobalId in a newer revision: the older one to the newer one.</summary>
    /// <param name="old">The older revision.</param>
    /// <param name="now">The newer revision.</param>
    public static IReadOnlyDictionary<string, string> Renamed(RevisionFingerprint old, RevisionFingerprint now)
    {
        var renamed = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var (before, after) in ElementPairs.Of(old.Elements, now.Elements).Pairs)
            if (old.Elements[before].GlobalId != now.Elements[after].GlobalId)
                renamed.TryAdd(old.Elements[before].GlobalId, now.Elements[after].GlobalId);
        return renamed;
    }

    /// <summary>Compares.</summary>
    public static RevisionChanges Compare(RevisionFingerprint old, RevisionFingerprint now)
    {
        var paired = ElementPairs.Of(old.Elements, now.Elements);
        var (pairs, byShape) = (paired.Pairs, paired.ByShape);
        var jump = JumpOf(old, now, pairs);
        var found = new ElementChanges(old, now, jump?.Frame ?? Frame.Identity, pairs, byShape);
        foreach (var (before, after) in pairs)
            found.Pair(old.Elements[before], now.Elements[after]);
        var gone = new bool[old.Elements.Count];
        var kept = new bool[now.Elements.Count];
        foreach (var (before, after) in pairs)
            (gone[before], kept[after]) = (true, true);
        foreach (var (before, after) in paired.Ambiguous)
        {
            foreach (int i in before)
                gone[i] = true;
            foreach (int i in after)
                kept[i] = true;
        }

        return new RevisionChanges(
            found.Same,
            Without(now.Elements, kept),
            Without(old.Elements, gone),
            found.Moved,
            found.Reshaped,
            found.Reclassed,
            found.Retyped,
            found.Relayered,
            found.Restoreyed,
            found.Renamed,
            found.Properties,
            jump,
            byShape
        )
        {
            Rematerialed = found.Rematerialed,
            Repredefined = found.Repredefined,
            Regrouped = found.Regrouped,
            Reclassified = found.Reclassified,
            Related = found.Related,
            Reidentified = found.Reidentified,
            Storeys = found.Storeys(),
            Ambiguous =
            [
                .. paired.Ambiguous.Select(a => new AmbiguousElements(
                    [.. a.Old.Select(i => old.Elements[i].GlobalId)],
                    [.. a.New.Select(i => now.Elements[i].GlobalId)]
                )),
            ],
        };
    }

    /// <summary>The transform that most elements share between two revisions; null where most stayed.</summary>
    public static FrameJump? JumpOf(RevisionFingerprint old, RevisionFingerprint now) =>
        JumpOf(old, now, ElementPairs.Of(old.Elements, now.Elements).Pairs);

    private static FrameJump? JumpOf(RevisionFingerprint old, RevisionFingerprint now, List<(int Old, int New)> pairs)
    {
        var placed = pairs
            .Where(p =>
                old.Elements[p.Old].Place is not null
                && now.Elements[p.New].Place is not null
                && !IsReshaped(old.Elements[p.Old], now.Elements[p.New])
            )
            .ToList();
        return FrameJumpFinder.Find(
            [.. placed.Select(p => old.Elements[p.Old].Place!.Value.Centre)],
            [.. placed.Select(p => now.Elements[p.New].Place!.Value.Centre)]
        );
    }

    /// <summary>Whether two values of a property are the same, whichever unit each is written in.</summary>
    internal static bool SameValue(PrintedProperty a, PrintedProperty b)
    {
        if (a.Value == b.Value && a.Unit == b.Unit)
            return true;
        if (!TryNumber(a.Value, out double x) || !TryNumber(b.Value, out double y))
            return a.Value == b.Value && a.Unit == b.Unit;
        if (a.Unit != b.Unit)
        {
            var (u, v) = (Measure.Unit(a.Unit), Measure.Unit(b.Unit));
            if (u.Power == 0 || u.Power != v.Power)
                return false;
            (x, y) = (x * u.Value, y * v.Value);
        }

        return Math.Abs(x - y) <= Digits * Math.Max(Math.Abs(x), Math.Abs(y));
    }

    private static bool TryNumber(string text, out double number) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out number) && double.IsFinite(number);

    internal static bool IsReshaped(ElementFingerprint a, ElementFingerprint b) =>
        a.Shape is { } s && b.Shape is { } t ? !s.Like(t) : (a.Shape is null) != (b.Shape is null);

    private static List<string> Without(IReadOnlyList<ElementFingerprint> elements, bool[] paired) =>
        [.. elements.Where((_, i) => !paired[i]).Select(e => e.GlobalId).Order(StringComparer.Ordinal)];
}
