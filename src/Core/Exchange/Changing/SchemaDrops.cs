using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Why an instance has no place in another schema.</summary>
internal enum DropReason : byte
{
    /// <summary>It has one.</summary>
    None,

    /// <summary>No entity there can stand for its own.</summary>
    NoEntity,

    /// <summary>Something it must refer to has no place.</summary>
    NeedsDropped,

    /// <summary>It served only what has no place, or what is written in another form.</summary>
    ServedDropped,

    /// <summary>What it refers to stands in its place.</summary>
    Unwrapped,
}

/// <summary>Finds the instances that another schema cannot take, those that cannot stand without them, and those that served only
/// them.</summary>
internal sealed class SchemaDrops(IfcModel model, SchemaMap map, ShapeDownward shapes, Func<int, bool> kept)
{
    private const int MaxPasses = 20;

    private readonly DropReason[] _reasons = new DropReason[model.File.Count];

    /// <summary>Why an instance has no place.</summary>
    public DropReason Reason(int index) => _reasons[index];

    /// <summary>One flag an instance.</summary>
    public bool[] Find()
    {
        var dropped = new bool[model.File.Count];
        bool any = false;
        for (int i = 0; i < dropped.Length; i++)
        {
            if (!kept(i) || (model.Entity(i) is { } entity && (map.Entity(entity) is not null || shapes.Replaces(i)))) continue;
            dropped[i] = any = true;
            _reasons[i] = IsUnwrapped(model, i) ? DropReason.Unwrapped : DropReason.NoEntity;
        }

        if (!any && !shapes.Any) return dropped;
        for (int pass = 0; pass < MaxPasses && Cascade(dropped); pass++) { }
        for (int pass = 0; pass < MaxPasses && Orphans(dropped); pass++) { }
        return dropped;
    }

    /// <summary>Whether an instance gives way to what it refers to: IFC4X3 has no style assignments, their styles stand in their
    /// place.</summary>
    public static bool IsUnwrapped(IfcModel model, int index) => model.Is(index, "IfcPresentationStyleAssignment");

    // An instance whose required reference is gone goes too.
    private bool Cascade(bool[] dropped)
    {
        bool more = false;
        for (int i = 0; i < dropped.Length; i++)
        {
            if (dropped[i] || !kept(i) || shapes.Replaces(i)) continue;
            var entity = model.Entity(i)!;
            var record = model.Record(i);
            for (int a = 0; a < entity.Attributes.Count && !dropped[i]; a++)
            {
                if (entity.Attributes[a].Optional || entity.Attributes[a].IsDerived) continue;
                var raw = record[a];
                if (raw.Kind is not (StepKind.Reference or StepKind.List)) continue;
                int alive = 0, gone = 0;
                for (int at = 0; StepReferences.Next(raw.Raw, ref at, out int id, out _);)
                {
                    if (model.File.IndexOf(id) is >= 0 and var target && dropped[target] && !IsUnwrapped(model, target)) gone++;
                    else alive++;
                }

                if (gone == 0 || alive > 0) continue;
                dropped[i] = more = true;
                _reasons[i] = DropReason.NeedsDropped;
            }
        }

        return more;
    }

    // What was referred to, and is no more, served what was left out.
    private bool Orphans(bool[] dropped)
    {
        var before = new bool[dropped.Length];
        var now = new bool[dropped.Length];
        for (int i = 0; i < dropped.Length; i++)
        {
            if (!kept(i)) continue;
            bool refers = IsUnwrapped(model, i) || (!dropped[i] && !shapes.Replaces(i));
            var raw = model.File.Raw(i);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _);)
            {
                if (model.File.IndexOf(id) is not (>= 0 and var target)) continue;
                before[target] = true;
                now[target] |= refers;
            }
        }

        bool more = false;
        for (int i = 0; i < dropped.Length; i++)
        {
            if (dropped[i] || !before[i] || now[i] || model.Is(i, "IfcRoot")) continue;
            dropped[i] = more = true;
            _reasons[i] = DropReason.ServedDropped;
        }

        return more;
    }
}
