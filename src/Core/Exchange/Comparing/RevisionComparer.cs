using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Compares two revisions of a source, element by element.</summary>
public static class RevisionComparer
{
    // Metres and degrees below which an element stayed.
    private const double Still = 5e-4, StillTurn = 0.01;

    // Numbers that were written in another unit and back differ by their last digits.
    private const double Digits = 1e-9;

    // How many metres, square metres and cubic metres a unit is; others are compared as they are written.
    private static readonly Dictionary<string, double> Units = new(StringComparer.Ordinal)
    {
        ["m"] = 1,
        ["mm"] = 1e-3,
        ["cm"] = 1e-2,
        ["dm"] = 0.1,
        ["km"] = 1e3,
        ["in"] = 0.0254,
        ["ft"] = 0.3048,
        ["m²"] = 1,
        ["mm²"] = 1e-6,
        ["cm²"] = 1e-4,
        ["square foot"] = 0.3048 * 0.3048,
        ["ft²"] = 0.3048 * 0.3048,
        ["square inch"] = 0.0254 * 0.0254,
        ["m³"] = 1,
        ["mm³"] = 1e-9,
        ["cm³"] = 1e-6,
        ["cubic foot"] = 0.3048 * 0.3048 * 0.3048,
        ["ft³"] = 0.3048 * 0.3048 * 0.3048,
        ["cubic inch"] = 0.0254 * 0.0254 * 0.0254,
    };

    /// <summary>Compares.</summary>
    public static RevisionChanges Compare(RevisionPrint old, RevisionPrint now)
    {
        var (pairs, byShape) = ElementPairs.Of(old.Elements, now.Elements);
        var jump = JumpOf(old, now, pairs);
        var found = new Found(old, now, jump?.Frame ?? Frame.Identity);
        foreach (var (before, after) in pairs) found.Pair(old.Elements[before], now.Elements[after]);
        var gone = new bool[old.Elements.Count];
        var kept = new bool[now.Elements.Count];
        foreach (var (before, after) in pairs) (gone[before], kept[after]) = (true, true);
        return new RevisionChanges(found.Same, Without(now.Elements, kept), Without(old.Elements, gone), found.Moved, found.Reshaped,
            found.Reclassed, found.Retyped, found.Relayered, found.Restoreyed, found.Renamed, found.Properties, jump, byShape);
    }

    /// <summary>The transform that most elements share between two revisions; null where most stayed.</summary>
    public static FrameJump? JumpOf(RevisionPrint old, RevisionPrint now) => JumpOf(old, now, ElementPairs.Of(old.Elements,
        now.Elements).Pairs);

    private static FrameJump? JumpOf(RevisionPrint old, RevisionPrint now, List<(int Old, int New)> pairs)
    {
        var placed = pairs.Where(p => old.Elements[p.Old].Place is not null && now.Elements[p.New].Place is not null
            && !IsReshaped(old.Elements[p.Old], now.Elements[p.New])).ToList();
        return FrameJumpFinder.Find([.. placed.Select(p => old.Elements[p.Old].Place!.Value.Centre)],
            [.. placed.Select(p => now.Elements[p.New].Place!.Value.Centre)]);
    }

    /// <summary>Whether two values of a property are the same, whichever unit each is written in.</summary>
    internal static bool SameValue(PrintedProperty a, PrintedProperty b)
    {
        if (a.Value == b.Value && a.Unit == b.Unit) return true;
        if (!TryNumber(a.Value, out double x) || !TryNumber(b.Value, out double y)) return a.Value == b.Value && a.Unit == b.Unit;
        if (a.Unit != b.Unit)
        {
            if (!Units.TryGetValue(a.Unit, out double u) || !Units.TryGetValue(b.Unit, out double v)) return false;
            (x, y) = (x * u, y * v);
        }

        return Math.Abs(x - y) <= Digits * Math.Max(Math.Abs(x), Math.Abs(y));
    }

    private static bool TryNumber(string text, out double number) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out number) && double.IsFinite(number);

    private static bool IsReshaped(ElementPrint a, ElementPrint b) =>
        a.Shape is { } s && b.Shape is { } t ? !s.Like(t) : (a.Shape is null) != (b.Shape is null);

    private static List<string> Without(IReadOnlyList<ElementPrint> elements, bool[] paired) =>
        [.. elements.Where((_, i) => !paired[i]).Select(e => e.GlobalId).Order(StringComparer.Ordinal)];

    /// <summary>Gathers what changed.</summary>
    private sealed class Found(RevisionPrint old, RevisionPrint now, Frame jump)
    {
        private readonly Dictionary<(int, int), IReadOnlyList<(string Property, string? Old, string? New)>> _compared = [];

        public int Same { get; private set; }

        public List<MovedElement> Moved { get; } = [];

        public List<string> Reshaped { get; } = [];

        public List<ChangedWord> Reclassed { get; } = [];

        public List<ChangedWord> Retyped { get; } = [];

        public List<ChangedWord> Relayered { get; } = [];

        public List<ChangedWord> Restoreyed { get; } = [];

        public List<ChangedWord> Renamed { get; } = [];

        public List<ChangedProperty> Properties { get; } = [];

        public void Pair(ElementPrint a, ElementPrint b)
        {
            bool reshaped = IsReshaped(a, b);
            if (reshaped) Reshaped.Add(b.GlobalId);
            bool changed = reshaped | Move(a, b, reshaped) | Word(Reclassed, b, a.Class, b.Class) | Word(Retyped, b, a.Type, b.Type)
                | Word(Relayered, b, Sorted(a.Layers), Sorted(b.Layers)) | Word(Restoreyed, b, a.Storey, b.Storey)
                | Word(Renamed, b, a.Name, b.Name) | Sets(a, b);
            if (!changed) Same++;
        }

        // Of a changed shape the centroid says nothing; where it is placed does.
        private bool Move(ElementPrint a, ElementPrint b, bool reshaped)
        {
            if (a.Place is not { } before || b.Place is not { } after) return false;
            var carried = before.In(jump);
            var by = reshaped ? after.Origin - carried.Origin : after.Centre - carried.Centre;
            double turn = Math.Max(Angle(carried.X, after.X), Angle(carried.Z, after.Z));
            // The same shape at the same place with another origin is written otherwise, not moved.
            if (!reshaped && by.Length < Still && turn >= StillTurn && (after.Origin - carried.Origin).Length >= Still
                && (before.Origin - before.Centre).Length > Still && Math.Abs((before.Origin - before.Centre).Length
                - (after.Origin - after.Centre).Length) >= Still) return false;
            if (by.Length < Still && turn < StillTurn) return false;
            Moved.Add(new MovedElement(b.GlobalId, by, turn));
            return true;
        }

        private static bool Word(List<ChangedWord> list, ElementPrint element, string before, string after)
        {
            if (before == after) return false;
            list.Add(new ChangedWord(element.GlobalId, before, after));
            return true;
        }

        private static string Sorted(string layers) => layers.Contains('\n', StringComparison.Ordinal)
            ? string.Join('\n', layers.Split('\n').Order(StringComparer.Ordinal)) : layers;

        // Sets of one name are compared in their order.
        private bool Sets(ElementPrint a, ElementPrint b)
        {
            int before = Properties.Count;
            var others = b.Sets.ToList();
            foreach (int set in a.Sets)
            {
                int at = others.FindIndex(s => now.Sets[s].Name == old.Sets[set].Name);
                Compare(b.GlobalId, set, at < 0 ? -1 : others[at]);
                if (at >= 0) others.RemoveAt(at);
            }

            foreach (int set in others) Compare(b.GlobalId, -1, set);
            return Properties.Count > before;
        }

        private void Compare(string element, int before, int after)
        {
            if (!_compared.TryGetValue((before, after), out var differences))
                _compared[(before, after)] = differences = Differences(before < 0 ? null : old.Sets[before], after < 0 ? null
                    : now.Sets[after]);
            string name = before < 0 ? now.Sets[after].Name : old.Sets[before].Name;
            foreach (var (property, was, isNow) in differences) Properties.Add(new ChangedProperty(element, name, property, was, isNow));
        }

        private static List<(string, string?, string?)> Differences(PrintedSet? before, PrintedSet? after)
        {
            var differences = new List<(string, string?, string?)>();
            var others = (after?.Properties ?? []).GroupBy(p => p.Name).ToDictionary(g => g.Key, g => new Queue<PrintedProperty>(g));
            foreach (var property in before?.Properties ?? [])
            {
                if (!others.TryGetValue(property.Name, out var queue) || !queue.TryDequeue(out var other)) differences.Add((property.Name,
                    Text(property), null));
                else if (!SameValue(property, other)) differences.Add((property.Name, Text(property), Text(other)));
            }

            foreach (var left in others.Values.SelectMany(q => q)) differences.Add((left.Name, null, Text(left)));
            return differences;
        }

        private static string Text(PrintedProperty p) => p.Unit.Length == 0 || p.Value.Length == 0 ? p.Value : $"{p.Value} {p.Unit}";

        private static double Angle(Vec3 a, Vec3 b) => Math.Atan2(a.Cross(b).Length, a.Dot(b)) * 180 / Math.PI;
    }
}
