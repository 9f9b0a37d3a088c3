namespace SteadyLintel.Ifc;

/// <summary>A one-to-many table between instances: sorted pairs, and where each stretch of sources begins among them.</summary>
public sealed class Links
{
    private readonly int[] _from;
    private readonly int[] _to;
    private readonly int[] _begins;
    private readonly int _shift;

    private Links(int[] from, int[] to)
    {
        (_from, _to) = (from, to);
        int last = from.Length > 0 ? from[^1] : 0;
        // About one pair a stretch.
        while (last >> _shift > from.Length + 1) _shift++;
        _begins = new int[(last >> _shift) + 2];
        for (int i = 0, stretch = 0; stretch < _begins.Length; stretch++)
        {
            while (i < from.Length && from[i] >> _shift < stretch) i++;
            _begins[stretch] = i;
        }
    }

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
        int stretch = from >> _shift;
        if (from < 0 || stretch >= _begins.Length) return from < 0 ? 0 : _from.Length;
        // Mostly one or two; a file may still crowd thousands into one stretch.
        int lo = _begins[stretch], hi = stretch + 1 < _begins.Length ? _begins[stretch + 1] : _from.Length;
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
