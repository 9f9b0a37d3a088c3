namespace SteadyLintel.Step;

/// <summary>Instance name → position: a subtraction where names count up by one, a dense array where they are dense, a sorted pair of
/// columns where they are not.</summary>
internal sealed class StepIdMap
{
    private int _first;
    private int _count;
    private int[]? _dense;
    private int[]? _sortedIds;
    private int[]? _sortedAt;

    public int MaxId { get; private set; }

    public static StepIdMap Build(StepColumns columns, Action<int, int> duplicate)
    {
        var map = new StepIdMap();
        var ids = columns.Ids.AsSpan(0, columns.Count);
        map.MaxId = columns.MaxId;
        if (CountsUp(ids))
            (map._first, map._count) = (ids.IsEmpty ? 0 : ids[0], ids.Length);
        else if (map.MaxId <= (columns.Count * 8L) + 1024)
            map.Dense(columns, ids, duplicate);
        else
            map.Sorted(columns, ids, duplicate);
        return map;
    }

    public int IndexOf(int id)
    {
        if ((uint)(id - _first) < (uint)_count)
            return id - _first;
        if (_dense is not null)
            return (uint)id < (uint)_dense.Length ? _dense[id] - 1 : -1;
        int at = _sortedIds is null ? -1 : Array.BinarySearch(_sortedIds, id);
        return at < 0 ? -1 : _sortedAt![at];
    }

    private static bool CountsUp(ReadOnlySpan<int> ids)
    {
        for (int i = 1; i < ids.Length; i++)
            if (ids[i] != ids[0] + i)
                return false;
        return true;
    }

    private void Dense(StepColumns columns, ReadOnlySpan<int> ids, Action<int, int> duplicate)
    {
        var dense = new int[MaxId + 1];
        for (int i = 0; i < ids.Length; i++)
        {
            if (dense[ids[i]] == 0)
                dense[ids[i]] = i + 1;
            else
                duplicate(ids[i], columns.Offsets[i]);
        }

        _dense = dense;
    }

    private void Sorted(StepColumns columns, ReadOnlySpan<int> ids, Action<int, int> duplicate)
    {
        var keys = ids.ToArray();
        var at = new int[ids.Length];
        for (int i = 0; i < at.Length; i++)
            at[i] = i;
        // Equal names must keep file order, so the key carries the position.
        var order = new long[ids.Length];
        for (int i = 0; i < order.Length; i++)
            order[i] = ((long)keys[i] << 32) | (uint)i;
        Array.Sort(order);
        int n = 0;
        foreach (long entry in order)
        {
            int id = (int)(entry >> 32),
                position = (int)entry;
            if (n > 0 && keys[n - 1] == id)
            {
                duplicate(id, columns.Offsets[position]);
                continue;
            }

            keys[n] = id;
            at[n++] = position;
        }

        _sortedIds = keys[..n];
        _sortedAt = at[..n];
    }
}
