namespace SteadyLintel.Exchange;

/// <summary>A storey as it is compared.</summary>
/// <param name="Key">What elements name it by (<see cref="ElementFingerprint.Storey"/>).</param>
/// <param name="Name">Its name.</param>
/// <param name="Elevation">What it says, metres.</param>
/// <param name="PlacementZ">Where it is placed, metres; null when nothing says.</param>
public sealed record PrintedStorey(string Key, string Name, double Elevation, double? PlacementZ);

/// <summary>A storey that was moved, renamed, added or removed.</summary>
/// <param name="Name">Its name in the newer revision, or in the older where it is gone.</param>
/// <param name="Old">Its name and height in the older revision; null where it is new.</param>
/// <param name="New">Its name and height in the newer revision; null where it is gone.</param>
/// <param name="Elements">How many elements moved with it, which are not reported one by one.</param>
public sealed record ChangedStorey(string Name, PrintedStorey? Old, PrintedStorey? New, int Elements);

/// <summary>Which storey of the newer revision is which of the older.</summary>
internal sealed class StoreyPairs
{
    // Metres below which a storey stayed where it was.
    private const double Still = 5e-4;
    private readonly Dictionary<string, string> _now = new(StringComparer.Ordinal);
    private readonly RevisionFingerprint _old,
        _new;

    /// <summary>Pairs storeys by GlobalId, then by name, then by elevation.</summary>
    public StoreyPairs(RevisionFingerprint old, RevisionFingerprint now)
    {
        (_old, _new) = (old, now);
        var open = now.Storeys.ToList();
        Pair(open, (a, b) => a.Key == b.Key);
        Pair(open, (a, b) => a.Name.Length > 0 && a.Name.Equals(b.Name, StringComparison.OrdinalIgnoreCase));
        Pair(open, (a, b) => Math.Abs(Height(a) - Height(b)) < Still);
    }

    /// <summary>What an element of the older revision would name its storey by in the newer.</summary>
    public string KeyNow(string key) => _now.GetValueOrDefault(key, key);

    /// <summary>How far a storey of the older revision moved up, metres; 0 for one that stayed, is gone or is unknown.</summary>
    public double MovedUp(string key, double jump)
    {
        if (Find(_old, key) is not { } before || Find(_new, KeyNow(key)) is not { } after)
            return 0;
        double up = Height(after) - Height(before) - jump;
        return Math.Abs(up) < Still ? 0 : up;
    }

    /// <summary>The storeys that changed.</summary>
    /// <param name="jump">How far the whole frame jumped up, metres.</param>
    /// <param name="elements">How many elements moved with a storey, by its key in the older revision.</param>
    public List<ChangedStorey> Changes(double jump, IReadOnlyDictionary<string, int> elements)
    {
        var changes = new List<ChangedStorey>();
        var kept = new HashSet<string>(_now.Values);
        foreach (var before in _old.Storeys)
        {
            if (!_now.TryGetValue(before.Key, out string? key))
                changes.Add(new ChangedStorey(before.Name, before, null, 0));
            else if (
                Find(_new, key) is { } after
                && (
                    before.Name != after.Name
                    || MovedUp(before.Key, jump) != 0
                    || Math.Abs(after.Elevation - before.Elevation) >= Still
                )
            )
                changes.Add(new ChangedStorey(after.Name, before, after, elements.GetValueOrDefault(before.Key)));
        }

        changes.AddRange(
            _new.Storeys.Where(s => !kept.Contains(s.Key)).Select(s => new ChangedStorey(s.Name, null, s, 0))
        );
        return changes;
    }

    private void Pair(List<PrintedStorey> open, Func<PrintedStorey, PrintedStorey, bool> same)
    {
        foreach (var before in _old.Storeys.Where(s => !_now.ContainsKey(s.Key)))
        {
            var found = open.Where(s => same(before, s)).ToList();
            if (found.Count != 1)
                continue;
            _now[before.Key] = found[0].Key;
            open.Remove(found[0]);
        }
    }

    private static PrintedStorey? Find(RevisionFingerprint print, string key) =>
        print.Storeys.FirstOrDefault(s => s.Key == key);

    private static double Height(PrintedStorey storey) => storey.PlacementZ ?? storey.Elevation;
}
