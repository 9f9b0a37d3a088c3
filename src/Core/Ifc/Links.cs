namespace SteadyLintel.Ifc;

/// <summary>A one-to-many table between instances: sorted pairs, found by binary search.</summary>
public sealed class Links
{
    private readonly int[] _from;
    private readonly int[] _to;

    private Links(int[] from, int[] to) => (_from, _to) = (from, to);

    /// <summary>All sources, repeated for each target, in ascending order.</summary>
    public ReadOnlySpan<int> Sources => _from;

    /// <summary>The targets of one source, in the order they were added.</summary>
    public ReadOnlySpan<int> this[int from]
    {
        get
        {
            int lo = Lower(from), hi = lo;
            while (hi < _from.Length && _from[hi] == from) hi++;
            return _to.AsSpan(lo, hi - lo);
        }
    }

    /// <summary>The first target of a source, -1 when there is none.</summary>
    public int First(int from)
    {
        int at = Lower(from);
        return at < _from.Length && _from[at] == from ? _to[at] : -1;
    }

    private int Lower(int from)
    {
        int lo = 0, hi = _from.Length;
        while (lo < hi)
        {
            int mid = (lo + hi) >>> 1;
            if (_from[mid] < from) lo = mid + 1;
            else hi = mid;
        }

        return lo;
    }

    /// <summary>Collects pairs for a <see cref="Links"/>.</summary>
    public sealed class Builder
    {
        private readonly List<(int From, int To)> _pairs = [];

        /// <summary>Adds a pair; a negative end is passed over.</summary>
        public void Add(int from, int to)
        {
            if (from >= 0 && to >= 0) _pairs.Add((from, to));
        }

        /// <summary>Sorts what was added; equal sources keep their order.</summary>
        public Links Build()
        {
            var keys = new long[_pairs.Count];
            bool sorted = true;
            for (int i = 0; i < keys.Length; i++)
            {
                keys[i] = ((long)_pairs[i].From << 32) | (uint)i;
                sorted &= i == 0 || keys[i] > keys[i - 1];
            }

            if (!sorted) Array.Sort(keys);
            var from = new int[keys.Length];
            var to = new int[keys.Length];
            for (int i = 0; i < keys.Length; i++) (from[i], to[i]) = _pairs[(int)(keys[i] & 0xFFFFFFFF)];
            return new Links(from, to);
        }
    }
}
