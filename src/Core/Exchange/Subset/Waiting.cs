namespace SteadyLintel.Exchange;

/// <summary>Instances that wait for others to come in: lists by what is waited for, in two columns.</summary>
/// <param name="count">How many instances the model has.</param>
internal sealed class Waiting(int count)
{
    // The last entry of each list, 0 for none; an entry tells who waits and the entry before it.
    private readonly int[] _last = new int[count];
    private readonly List<(int Index, int Before)> _entries = [default];

    /// <summary>Lets an instance wait for another; nothing waits for what is not there (a negative index).</summary>
    public void For(int target, int index)
    {
        if (target < 0) return;
        _entries.Add((index, _last[target]));
        _last[target] = _entries.Count - 1;
    }

    /// <summary>Who waits for an instance. Others may begin to wait meanwhile.</summary>
    public IEnumerable<int> Of(int target)
    {
        for (int entry = _last[target]; entry > 0; entry = _entries[entry].Before) yield return _entries[entry].Index;
    }
}
