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
        while (last >> _shift > from.Length + 1)
            _shift++;
        _begins = new int[(last >> _shift) + 2];
        for (int i = 0, stretch = 0; stretch < _begins.Length; stretch++)
        {
            while (i < from.Length && from[i] >> _shift < stretch)
                i++;
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
            int lo = Lower(from),
                hi = lo;
            while (hi < _from.Length && _from[hi] == from)
                hi++;
            return _to.AsSpan(lo, hi - lo);
        }
    }

    /// <summary>The first target of a source, -1 when there is none.</summary>
    /// <param name="from">The source: its position among the instances.</param>
    public int First(int from)
    {
        int at = Lower(from);
        return at < _from.Length && _from[at] == from ? _to[at] : -1;
    }

    private int Lower(int from)
    {
        int stretch = from >> _shift;
        if (from < 0 || stretch >= _begins.Length)
            return from < 0 ? 0 : _from.Length;
        // Mostly one or two; a file may still crowd thousands into one stretch.
        int lo = _begins[stretch],
            hi = stretch + 1 < _begins.Length ? _begins[stretch + 1] : _from.Length;
        while (lo < hi)
        {
            int mid = (lo + hi) >>> 1;
            if (_from[mid] < from)
                lo = mid + 1;
            else
                hi = mid;
        }

        return lo;
    }

    /// <summary>Collects pairs for a <see cref="Links"/>.</summary>
    public sealed class Builder
    {
        private readonly List<(int From, int To)> _pairs = [];

        /// <summary>Adds a pair; a negative end is passed over.</summary>
        /// <param name="from">The source: its position among the instances.</param>
        /// <param name="to">The target, likewise.</param>
        public void Add(int from, int to)
        {
            if (from >= 0 && to >= 0)
                _pairs.Add((from, to));
        }

        /// <summary>Sorts what was added; equal sources keep their order.</summary>
        public Links Build() => Build([this]);

        /// <summary>Sorts what was added to several, one after the other; equal sources keep their order.</summary>
        /// <param name="builders">One for each thread that read.</param>
        public static Links Build(IReadOnlyList<Builder> builders)
        {
            int count = builders.Sum(b => b._pairs.Count);
            var from = new int[count];
            var to = new int[count];
            bool sorted = true;
            int n = 0;
            foreach (var builder in builders)
            {
                foreach (var (source, target) in builder._pairs)
                {
                    sorted &= n == 0 || from[n - 1] <= source;
                    (from[n], to[n++]) = (source, target);
                }
            }

            return sorted ? new Links(from, to) : Sorted(from, to);
        }

        private static Links Sorted(int[] from, int[] to)
        {
            // The place among the pairs is part of the key, so that order is kept.
            var keys = new long[from.Length];
            for (int i = 0; i < keys.Length; i++)
                keys[i] = ((long)from[i] << 32) | (uint)i;
            Array.Sort(keys);
            var targets = new int[keys.Length];
            for (int i = 0; i < keys.Length; i++)
                (from[i], targets[i]) = ((int)(keys[i] >> 32), to[(int)keys[i]]);
            return new Links(from, targets);
        }
    }
}
