using SteadyLintel.Exchange;

namespace SteadyLintel.Jobs;

/// <summary>What changed between two revisions, as numbers of their elements, for drawing.</summary>
/// <param name="Added">In the newer.</param>
/// <param name="Changed">In the newer: whatever changed of them.</param>
/// <param name="Removed">In the older.</param>
public sealed record ChangePicture(IReadOnlyList<int> Added, IReadOnlyList<int> Changed, IReadOnlyList<int> Removed)
{
    /// <summary>The numbers of what changed.</summary>
    public static ChangePicture Of(RevisionChanges changes, RevisionFingerprint old, RevisionFingerprint now)
    {
        var (before, after) = (Numbers(old), Numbers(now));
        var changed = changes
            .Moved.Select(m => m.GlobalId)
            .Concat(changes.Reshaped)
            .Concat(changes.Words.Select(w => w.GlobalId))
            .Concat(changes.PropertiesChanged.Select(p => p.GlobalId));
        return new ChangePicture(Of(changes.Added, after), Of(changed, after), Of(changes.Removed, before));
    }

    private static Dictionary<string, int> Numbers(RevisionFingerprint print)
    {
        var numbers = new Dictionary<string, int>(print.Elements.Count);
        for (int n = 0; n < print.Elements.Count; n++)
            numbers.TryAdd(print.Elements[n].GlobalId, n);
        return numbers;
    }

    private static int[] Of(IEnumerable<string> ids, Dictionary<string, int> numbers) =>
        [.. ids.Where(numbers.ContainsKey).Select(i => numbers[i]).Distinct().Order()];
}
