namespace SteadyLintel.Step;

/// <summary>Walks the parameters of a list, or of an instance, one at a time and without allocation.</summary>
/// <param name="inside">The bytes between the parentheses.</param>
/// <param name="depth">How many parameters each item is inside of.</param>
public ref struct StepItems(ReadOnlySpan<byte> inside, int depth = 0)
{
    private readonly int _depth = depth;
    private readonly ReadOnlySpan<byte> _inside = inside;
    private int _next;
    private int _from;
    private int _to;
    private bool _ended = StepScan.SkipSpace(inside, 0) >= inside.Length;

    /// <summary>The parameter just reached.</summary>
    public readonly StepValue Current => new(_inside[_from.._to], _depth);

    /// <summary>Lets <c>foreach</c> walk the items.</summary>
    public readonly StepItems GetEnumerator() => this;

    /// <summary>Goes to the next parameter.</summary>
    public bool MoveNext()
    {
        if (_ended)
            return false;
        _from = StepScan.SkipSpace(_inside, _next);
        _to = StepScan.SkipParameter(_inside, _from);
        _next = _to + 1;
        _ended = _to >= _inside.Length || _inside[_to] != ',';
        _to = StepScan.TrimEnd(_inside, _from, _to);
        return true;
    }

    /// <summary>Counts the items from here on.</summary>
    public readonly int Count()
    {
        int n = 0;
        var copy = this;
        while (copy.MoveNext())
            n++;
        return n;
    }
}
