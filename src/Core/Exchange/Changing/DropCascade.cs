using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Follows what is dropped from a model: what cannot be without it, and what served only it.</summary>
/// <param name="model">The model.</param>
/// <param name="kept">Whether an instance is written at all.</param>
/// <param name="replaced">Whether an instance is written in another form, and so refers to nothing any more.</param>
/// <param name="unwrapped">Whether what an instance refers to is in its place.</param>
internal sealed class DropCascade(
    IfcModel model,
    Func<int, bool> kept,
    Func<int, bool> replaced,
    Func<int, bool> unwrapped
)
{
    private const int MaxPasses = 20;

    private readonly DropReason[] _reasons = new DropReason[model.File.Count];
    private readonly bool[] _dropped = new bool[model.File.Count];

    /// <summary>One flag an instance.</summary>
    public bool[] Dropped => _dropped;

    /// <summary>Why an instance is dropped.</summary>
    public DropReason Reason(int index) => _reasons[index];

    /// <summary>Drops an instance.</summary>
    public void Drop(int index, DropReason reason) => (_dropped[index], _reasons[index]) = (true, reason);

    /// <summary>Drops what follows from what was dropped.</summary>
    public void Follow()
    {
        for (int pass = 0; pass < MaxPasses && Cascade(); pass++) { }
        for (int pass = 0; pass < MaxPasses && Orphans(); pass++) { }
    }

    // An instance whose required reference is gone goes too.
    private bool Cascade()
    {
        bool more = false;
        for (int i = 0; i < _dropped.Length; i++)
        {
            if (_dropped[i] || !kept(i) || replaced(i) || model.Entity(i) is not { } entity)
                continue;
            var record = model.Record(i);
            for (int a = 0; a < entity.Attributes.Count && !_dropped[i]; a++)
            {
                if (entity.Attributes[a].Optional || entity.Attributes[a].IsDerived)
                    continue;
                var raw = record[a];
                if (raw.Kind is not (StepKind.Reference or StepKind.List))
                    continue;
                int alive = 0,
                    gone = 0;
                for (int at = 0; StepReferences.Next(raw.Raw, ref at, out int id, out _); )
                {
                    if (model.File.IndexOf(id) is >= 0 and var target && _dropped[target] && !unwrapped(target))
                        gone++;
                    else
                        alive++;
                }

                if (gone == 0 || alive > 0)
                    continue;
                Drop(i, DropReason.NeedsDropped);
                more = true;
            }
        }

        return more;
    }

    // What was referred to, and is no more, served what was left out.
    private bool Orphans()
    {
        var before = new bool[_dropped.Length];
        var now = new bool[_dropped.Length];
        for (int i = 0; i < _dropped.Length; i++)
        {
            if (!kept(i))
                continue;
            bool refers = unwrapped(i) || (!_dropped[i] && !replaced(i));
            var raw = model.File.Raw(i);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
            {
                if (model.File.IndexOf(id) is not (>= 0 and var target))
                    continue;
                before[target] = true;
                now[target] |= refers;
            }
        }

        bool more = false;
        for (int i = 0; i < _dropped.Length; i++)
        {
            if (_dropped[i] || !before[i] || now[i] || model.Is(i, "IfcRoot"))
                continue;
            Drop(i, DropReason.ServedDropped);
            more = true;
        }

        return more;
    }
}
