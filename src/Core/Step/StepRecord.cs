namespace SteadyLintel.Step;

/// <summary>The attributes of one instance. Reading them in ascending order costs one walk over the bytes.</summary>
/// <param name="inside">The bytes between the outer parentheses.</param>
public ref struct StepRecord(ReadOnlySpan<byte> inside)
{
    private readonly ReadOnlySpan<byte> _inside = inside;
    private StepItems _items = new(inside);
    private int _at = -1;

    /// <summary>The bytes between the outer parentheses.</summary>
    public readonly ReadOnlySpan<byte> Raw => _inside;

    /// <summary>The attribute at a zero-based position; a null value when the instance has fewer, or the position is negative.</summary>
    public StepValue this[int position]
    {
        get
        {
            if (position < 0)
                return default;
            if (position < _at)
            {
                _items = new StepItems(_inside);
                _at = -1;
            }

            while (_at < position)
            {
                if (!_items.MoveNext())
                {
                    _items = new StepItems(_inside);
                    _at = -1;
                    return default;
                }

                _at++;
            }

            return _items.Current;
        }
    }

    /// <summary>How many attributes there are.</summary>
    public readonly int Count => new StepItems(_inside).Count();
}
