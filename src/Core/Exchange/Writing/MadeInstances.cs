using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>The instances of a written file that were not copied byte for byte: changed ones and those that no source has, by name, with a
/// hash of what was written.</summary>
/// <remarks>The hash shows that what was read again is what was written; that it is what was ordered is for <see cref="ExpectedInstance"/>
/// to say.</remarks>
internal sealed class MadeInstances
{
    private readonly Dictionary<int, ulong> _hashes = [];
    private readonly List<int> _made = [];

    /// <summary>The names of the instances that no source has.</summary>
    public IReadOnlyList<int> Names => _made;

    /// <summary>Keeps what was written under a name.</summary>
    /// <param name="id">The instance's name in the file.</param>
    /// <param name="keyword">Its keyword.</param>
    /// <param name="inside">The text between its parentheses.</param>
    /// <param name="index">The instance of the source it was, -1 for a new one.</param>
    public void Add(int id, string keyword, string inside, int index)
    {
        _hashes[id] = StepHash.Long(Encoding.Latin1.GetBytes($"#{id}={keyword}({inside});"));
        if (index < 0)
            _made.Add(id);
    }

    /// <summary>Whether something else than a copy was written under a name.</summary>
    public bool Has(int id) => _hashes.ContainsKey(id);

    /// <summary>Whether an instance, from its <c>#</c> to its semicolon, is as it was written; true for one that was copied.</summary>
    public bool IsAsWritten(int id, ReadOnlySpan<byte> raw) =>
        !_hashes.TryGetValue(id, out ulong hash) || hash == StepHash.Long(raw);
}
