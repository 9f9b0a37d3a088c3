namespace SteadyLintel.Exchange;

/// <summary>A change that instances undergo on their way into another file.</summary>
public interface IRewrite
{
    /// <summary>Whether an instance of the source is changed; distinguished from columns, without reading its parameters.</summary>
    bool Touches(int index);

    /// <summary>Changes an instance.</summary>
    /// <param name="text">The instance as earlier changes left it.</param>
    /// <param name="fresh">Takes instances that the source does not have.</param>
    void Apply(InstanceText text, NewInstances fresh);

    /// <summary>Says what to expect of an instance that the change touches, when the file is read again.</summary>
    /// <param name="expected">The instance as earlier changes lead one to expect it.</param>
    /// <remarks>Told from the order and the standard, never from what <see cref="Apply"/> writes: the ledger holds one against the
    /// other.</remarks>
    void Expect(ExpectedInstance expected);
}

/// <summary>Instances that a rewrite adds, under names the source does not use.</summary>
public sealed class NewInstances(int firstId)
{
    private readonly List<(int Id, string Keyword, string Inside)> _waiting = [];
    private readonly Dictionary<string, int> _known = [];
    private int _next = firstId;

    /// <summary>Adds an instance.</summary>
    /// <returns>Its name.</returns>
    public int Add(string keyword, string inside)
    {
        _waiting.Add((_next, keyword, inside));
        return _next++;
    }

    /// <summary>Adds an instance unless one like it was added before.</summary>
    public int Once(string keyword, string inside) =>
        _known.TryGetValue(keyword + inside, out int id) ? id : _known[keyword + inside] = Add(keyword, inside);

    /// <summary>Hands out what waits to be written.</summary>
    public IReadOnlyList<(int Id, string Keyword, string Inside)> Take()
    {
        if (_waiting.Count == 0)
            return [];
        var taken = _waiting.ToArray();
        _waiting.Clear();
        return taken;
    }
}
