using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Gathers what changed between the elements of two revisions, pair by pair.</summary>
/// <param name="old">The older revision.</param>
/// <param name="now">The newer.</param>
/// <param name="jump">The transform that most elements share.</param>
/// <param name="pairs">Which element is which, as places in the two lists.</param>
/// <param name="byShape">Whether all GlobalIds are new.</param>
internal sealed class ElementChanges(
    RevisionFingerprint old,
    RevisionFingerprint now,
    Frame jump,
    IReadOnlyList<(int Old, int New)> pairs,
    bool byShape
)
{
    // Metres and degrees below which an element stayed.
    private const double Still = 5e-4,
        StillTurn = 0.01;

    // Stands for an element of which nobody can say what it is called in the other revision.
    private const string Unknown = "?";

    private readonly StoreyPairs _storeys = new(old, now);
    private readonly Dictionary<string, int> _withStorey = [];
    private readonly Dictionary<string, string> _idNow = IdsNow(old, now, pairs);
    private readonly HashSet<string> _paired = [.. pairs.Select(p => now.Elements[p.New].GlobalId)];
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

    public List<ChangedWord> Rematerialed { get; } = [];

    public List<ChangedWord> Repredefined { get; } = [];

    public List<ChangedWord> Regrouped { get; } = [];

    public List<ChangedWord> Reclassified { get; } = [];

    public List<ChangedWord> Related { get; } = [];

    public List<ChangedWord> Reidentified { get; } = [];

    /// <summary>The storeys that changed, once all pairs are in.</summary>
    public List<ChangedStorey> Storeys() => _storeys.Changes(jump.Origin.Z, _withStorey);

    public void Pair(ElementFingerprint a, ElementFingerprint b)
    {
        bool reshaped = RevisionComparer.IsReshaped(a, b);
        if (reshaped)
            Reshaped.Add(b.GlobalId);
        bool changed =
            reshaped
            | Move(a, b, reshaped)
            | Word(Reclassed, b, a.Class, b.Class)
            | Word(Retyped, b, a.Type, b.Type)
            | Word(Relayered, b, Sorted(a.Layers), Sorted(b.Layers))
            | Word(Restoreyed, b, _storeys.KeyNow(a.Storey), b.Storey)
            | Word(Renamed, b, a.Name, b.Name)
            | Word(Rematerialed, b, a.Materials, b.Materials)
            | Word(Repredefined, b, a.Predefined, b.Predefined)
            | Word(Regrouped, b, a.Groups, b.Groups)
            | Word(Reclassified, b, a.Classifications, b.Classifications)
            | Relations(a, b)
            | Sets(a, b);
        if (!byShape)
            changed |= Word(Reidentified, b, a.GlobalId, b.GlobalId);
        if (!changed)
            Same++;
    }

    // Of a changed shape the centroid says nothing; where it is placed does.
    private bool Move(ElementFingerprint a, ElementFingerprint b, bool reshaped)
    {
        if (a.Place is not { } before || b.Place is not { } after)
            return false;
        var carried = before.In(jump);
        var by = reshaped ? after.Origin - carried.Origin : after.Centre - carried.Centre;
        double turn = Math.Max(Angle(carried.X, after.X), Angle(carried.Z, after.Z));
        // The same shape at the same place with another origin is written otherwise, not moved.
        if (
            !reshaped
            && by.Length < Still
            && turn >= StillTurn
            && (after.Origin - carried.Origin).Length >= Still
            && (before.Origin - before.Centre).Length > Still
            && Math.Abs((before.Origin - before.Centre).Length - (after.Origin - after.Centre).Length) >= Still
        )
            return false;
        if (by.Length < Still && turn < StillTurn)
            return false;
        // What moved up with its storey is reported with the storey.
        if (
            turn < StillTurn
            && _storeys.MovedUp(a.Storey, jump.Origin.Z) is not 0 and var up
            && _storeys.KeyNow(a.Storey) == b.Storey
            && (by - new Vec3(0, 0, up)).Length < Still
        )
        {
            _withStorey[a.Storey] = _withStorey.GetValueOrDefault(a.Storey) + 1;
            return false;
        }

        Moved.Add(new MovedElement(b.GlobalId, by, turn));
        return true;
    }

    // Relations name other elements, which may have other GlobalIds now.
    private bool Relations(ElementFingerprint a, ElementFingerprint b)
    {
        if (a.Relations.Count == 0 && b.Relations.Count == 0)
            return false;
        var before = a.Relations.Select(r => Translated(r, _idNow)).ToList();
        var after = b.Relations.Select(r => byShape ? Known(r) : r).ToList();
        foreach (string relation in after.ToList())
        {
            if (before.Remove(relation))
                after.Remove(relation);
        }

        return before.Count + after.Count > 0
            && Word(
                Related,
                b,
                string.Join('\n', before.Order(StringComparer.Ordinal)),
                string.Join('\n', after.Order(StringComparer.Ordinal))
            );
    }

    private string Translated(string relation, Dictionary<string, string> ids)
    {
        int at = relation.IndexOf(ElementRelations.Separator, StringComparison.Ordinal);
        string id = relation[(at + 1)..];
        return relation[..(at + 1)] + ids.GetValueOrDefault(id, byShape ? Unknown : id);
    }

    private string Known(string relation)
    {
        int at = relation.IndexOf(ElementRelations.Separator, StringComparison.Ordinal);
        return _paired.Contains(relation[(at + 1)..]) ? relation : relation[..(at + 1)] + Unknown;
    }

    private static Dictionary<string, string> IdsNow(
        RevisionFingerprint old,
        RevisionFingerprint now,
        IReadOnlyList<(int Old, int New)> pairs
    )
    {
        var ids = new Dictionary<string, string>(pairs.Count, StringComparer.Ordinal);
        foreach (var (before, after) in pairs)
            ids.TryAdd(old.Elements[before].GlobalId, now.Elements[after].GlobalId);
        return ids;
    }

    private static bool Word(List<ChangedWord> list, ElementFingerprint element, string before, string after)
    {
        if (before == after)
            return false;
        list.Add(new ChangedWord(element.GlobalId, before, after));
        return true;
    }

    private static string Sorted(string layers) =>
        layers.Contains('\n', StringComparison.Ordinal)
            ? string.Join('\n', layers.Split('\n').Order(StringComparer.Ordinal))
            : layers;

    // Sets of one name are compared in their order.
    private bool Sets(ElementFingerprint a, ElementFingerprint b)
    {
        int before = Properties.Count;
        var others = b.Sets.ToList();
        foreach (int set in a.Sets)
        {
            int at = others.FindIndex(s => now.Sets[s].Name == old.Sets[set].Name);
            Compare(b.GlobalId, set, at < 0 ? -1 : others[at]);
            if (at >= 0)
                others.RemoveAt(at);
        }

        foreach (int set in others)
            Compare(b.GlobalId, -1, set);
        return Properties.Count > before;
    }

    private void Compare(string element, int before, int after)
    {
        if (!_compared.TryGetValue((before, after), out var differences))
            _compared[(before, after)] = differences = Differences(
                before < 0 ? null : old.Sets[before],
                after < 0 ? null : now.Sets[after]
            );
        string name = before < 0 ? now.Sets[after].Name : old.Sets[before].Name;
        foreach (var (property, was, isNow) in differences)
            Properties.Add(new ChangedProperty(element, name, property, was, isNow));
    }

    private static List<(string, string?, string?)> Differences(PrintedSet? before, PrintedSet? after)
    {
        var differences = new List<(string, string?, string?)>();
        var others = (after?.Properties ?? [])
            .GroupBy(p => p.Name)
            .ToDictionary(g => g.Key, g => new Queue<PrintedProperty>(g));
        foreach (var property in before?.Properties ?? [])
        {
            if (!others.TryGetValue(property.Name, out var queue) || !queue.TryDequeue(out var other))
                differences.Add((property.Name, Text(property), null));
            else if (!RevisionComparer.SameValue(property, other))
                differences.Add((property.Name, Text(property), Text(other)));
        }

        foreach (var left in others.Values.SelectMany(q => q))
            differences.Add((left.Name, null, Text(left)));
        return differences;
    }

    private static string Text(PrintedProperty p) =>
        p.Unit.Length == 0 || p.Value.Length == 0 ? p.Value : $"{p.Value} {p.Unit}";

    private static double Angle(Vec3 a, Vec3 b) => Math.Atan2(a.Cross(b).Length, a.Dot(b)) * 180 / Math.PI;
}
