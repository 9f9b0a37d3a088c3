using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>A growing set of instances that is closed over references: whatever an instance refers to is in it too.</summary>
internal sealed class Closure(StepFile file)
{
    private readonly bool[] _in = new bool[file.Count];
    private readonly List<int> _members = [];

    /// <summary>How many instances are in.</summary>
    public int Count => _members.Count;

    /// <summary>An instance by when it came in, from 0.</summary>
    public int this[int n] => _members[n];

    public bool Has(int index) => index >= 0 && _in[index];

    /// <summary>Adds an instance and everything it refers to.</summary>
    /// <returns>False when it was there already.</returns>
    public bool Add(int index)
    {
        if (index < 0) return false;
        int first = Count;
        if (!AddAlone(index)) return false;
        for (int n = first; n < Count; n++)
        {
            var raw = file.Raw(_members[n]);
            int at = 1;
            while (StepReferences.Next(raw, ref at, out int id, out _))
                if (file.IndexOf(id) is >= 0 and var target) AddAlone(target);
        }

        return true;
    }

    /// <summary>Adds an instance alone, for one that will be written anew.</summary>
    public bool AddAlone(int index)
    {
        if (_in[index]) return false;
        _in[index] = true;
        _members.Add(index);
        return true;
    }
}
