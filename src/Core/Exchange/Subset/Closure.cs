using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>A growing set of instances that is closed over references: whatever an instance refers to is in it too.</summary>
internal sealed class Closure(StepFile file)
{
    private readonly bool[] _in = new bool[file.Count];
    private readonly Stack<int> _open = new();

    public int Count { get; private set; }

    public bool Has(int index) => index >= 0 && _in[index];

    /// <summary>Adds an instance and everything it refers to.</summary>
    /// <returns>False when it was there already.</returns>
    public bool Add(int index)
    {
        if (index < 0 || !Mark(index)) return false;
        while (_open.TryPop(out int next))
        {
            var raw = file.Raw(next);
            int at = 1;
            while (StepReferences.Next(raw, ref at, out int id, out _))
                if (file.IndexOf(id) is >= 0 and var target) Mark(target);
        }

        return true;
    }

    /// <summary>Adds an instance alone, for one that will be written anew.</summary>
    public bool AddAlone(int index)
    {
        if (_in[index]) return false;
        _in[index] = true;
        Count++;
        return true;
    }

    private bool Mark(int index)
    {
        if (_in[index]) return false;
        _in[index] = true;
        Count++;
        _open.Push(index);
        return true;
    }
}
