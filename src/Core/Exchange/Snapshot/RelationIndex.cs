using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>For every instance, the relationships and pointers that name it, in two columns. Made once for a model and shared by all its
/// subsets.</summary>
internal sealed class RelationIndex
{
    // The last entry of each instance's list, 0 for none; an entry holds who names it, at which end, and the entry before.
    private readonly int[] _last;
    private readonly List<(int Index, End End, int Before)> _entries = [default];

    /// <summary>Reads every relationship and pointer of a model.</summary>
    public RelationIndex(IfcModel model)
    {
        Kinds = InstanceKind.Of(model);
        _last = new int[model.File.Count];
        for (int i = 0; i < model.File.Count; i++)
        {
            var kind = Kinds[model.File.TypeOf(i)];
            if (kind.Role == InstanceRole.Relationship)
                Ends.Add(i);
            else if (kind.Role == InstanceRole.Pointer)
                Points.Add(i);
            if (kind.Form is not { } form)
                continue;
            var record = model.Record(i);
            // In ascending order a record is walked once.
            for (
                int a = 0;
                a < record.Count
                    && a <= Math.Max(form.One, Math.Max(form.Many, form.Others.Count > 0 ? form.Others[^1] : -1));
                a++
            )
            {
                if (a == form.One)
                    Add(model, record[a].Raw, i, End.One);
                else if (a == form.Many)
                    Add(model, record[a].Raw, i, End.Many);
                else if (form.Others.Contains(a))
                    Add(model, record[a].Raw, i, End.Other);
            }
        }
    }

    /// <summary>At which end an instance is named.</summary>
    public enum End
    {
        /// <summary>The single end.</summary>
        One,

        /// <summary>The end with members; of a pointer its subject.</summary>
        Many,

        /// <summary>Another attribute that refers to rooted objects.</summary>
        Other,
    }

    /// <summary>What is known of each keyword of the file, by its number.</summary>
    public InstanceKind[] Kinds { get; }

    /// <summary>The relationships, in file order.</summary>
    public List<int> Ends { get; } = [];

    /// <summary>The pointers, in file order.</summary>
    public List<int> Points { get; } = [];

    /// <summary>The first entry of the instances that name one; 0 when there is none.</summary>
    public int First(int index) => _last[index];

    /// <summary>An entry, and the number of the next one, 0 after the last.</summary>
    public (int Index, End End, int Next) Entry(int entry) => _entries[entry];

    private void Add(IfcModel model, ReadOnlySpan<byte> raw, int index, End end)
    {
        for (int at = 0; StepReferences.Next(raw, ref at, out int id, out _); )
        {
            if (model.File.IndexOf(id) is not (>= 0 and var target))
                continue;
            _entries.Add((index, end, _last[target]));
            _last[target] = _entries.Count - 1;
        }
    }
}
