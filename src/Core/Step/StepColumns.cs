using System.Runtime.InteropServices;

namespace SteadyLintel.Step;

/// <summary>The instance index in columns: 15 bytes an instance. Parts of a file may fill regions of the same columns side by
/// side.</summary>
internal sealed class StepColumns
{
    // Some 60 bytes an instance is common practice in building models; the arrays grow when a file is denser.
    private const int BytesPerInstance = 59;

    private int _start;
    private int _next;
    private int _end;
    private bool _shared;

    public int MaxId;
    public int[] Ids;
    public ushort[] Types;
    public int[] Offsets;
    public byte[] Heads;
    public int[] Lengths;

    private StepColumns(int size)
    {
        Ids = GC.AllocateUninitializedArray<int>(size);
        Types = GC.AllocateUninitializedArray<ushort>(size);
        Offsets = GC.AllocateUninitializedArray<int>(size);
        Heads = GC.AllocateUninitializedArray<byte>(size);
        Lengths = GC.AllocateUninitializedArray<int>(size);
        _end = size;
    }

    // A region of other columns; it moves into arrays of its own when it is full.
    private StepColumns(StepColumns whole, int start, int end)
    {
        (Ids, Types, Offsets, Heads, Lengths) = (whole.Ids, whole.Types, whole.Offsets, whole.Heads, whole.Lengths);
        (_start, _next, _end, _shared) = (start, start, end, true);
    }

    /// <summary>How many instances are held.</summary>
    public int Count => _next - _start;

    /// <summary>Empty columns for a file of so many bytes.</summary>
    /// <param name="bytes">The length of the file.</param>
    public static StepColumns For(int bytes) => new(Math.Max(16, bytes / BytesPerInstance));

    /// <summary>Regions of shared columns for the parts of a file that lie between the cuts.</summary>
    /// <param name="cuts">Offsets in bytes where parts begin and end, the first and the last included.</param>
    public static StepColumns[] For(IReadOnlyList<int> cuts)
    {
        var whole = For(cuts[^1]);
        var regions = new StepColumns[cuts.Count - 1];
        for (int i = 0; i < regions.Length; i++)
            regions[i] = new StepColumns(whole, cuts[i] / BytesPerInstance, cuts[i + 1] / BytesPerInstance);
        return regions;
    }

    /// <summary>How many instances fit into the region before it grows.</summary>
    public int Room => _end - _start;

    /// <summary>The place of the first instance in a column; <see cref="Room"/> instances fit from there.</summary>
    public ref T First<T>(T[] column) => ref MemoryMarshal.GetReference(column.AsSpan(_start, Room));

    /// <summary>Says how many instances are in the region.</summary>
    /// <param name="count">How many.</param>
    /// <param name="maxId">The highest name among them.</param>
    public void Hold(int count, int maxId) => (_next, MaxId) = (_start + count, maxId);

    /// <summary>One set of columns out of parts that follow each other, the types renumbered.</summary>
    /// <param name="parts">Each part's columns and its table of type numbers in the whole.</param>
    public static StepColumns Join(IReadOnlyList<(StepColumns Columns, ushort[] Types)> parts)
    {
        var first = parts[0].Columns;
        int count = parts.Sum(p => p.Columns.Count);
        // Each part moves towards the front of the arrays they share, so one may follow the other in place.
        bool inPlace = parts.All(p => p.Columns._shared);
        var whole = inPlace ? new StepColumns(first, 0, first.Ids.Length) : new StepColumns(count);
        int at = 0;
        foreach (var (columns, types) in parts)
        {
            columns.MoveTo(whole, at, types);
            at += columns.Count;
        }

        whole._next = count;
        whole.MaxId = parts.Max(p => p.Columns.MaxId);
        return whole;
    }

    private void MoveTo(StepColumns whole, int at, ushort[] types)
    {
        // The first part is where it should, and its types are the first of the whole.
        if (whole.Ids == Ids && at == _start)
            return;
        for (int i = _start; i < _next; i++)
            Types[i] = types[Types[i]];
        Types.AsSpan(_start, Count).CopyTo(whole.Types.AsSpan(at));
        Ids.AsSpan(_start, Count).CopyTo(whole.Ids.AsSpan(at));
        Offsets.AsSpan(_start, Count).CopyTo(whole.Offsets.AsSpan(at));
        Heads.AsSpan(_start, Count).CopyTo(whole.Heads.AsSpan(at));
        Lengths.AsSpan(_start, Count).CopyTo(whole.Lengths.AsSpan(at));
    }

    /// <summary>Moves into larger columns; regions taken before are stale.</summary>
    public void Grow()
    {
        int count = Count,
            size = (int)Math.Min(Array.MaxLength, Math.Max(16, count * 3L / 2));
        Ids = Larger(Ids, size);
        Types = Larger(Types, size);
        Offsets = Larger(Offsets, size);
        Heads = Larger(Heads, size);
        Lengths = Larger(Lengths, size);
        (_start, _next, _end, _shared) = (0, count, size, false);
    }

    private T[] Larger<T>(T[] column, int size)
    {
        var larger = GC.AllocateUninitializedArray<T>(size);
        column.AsSpan(_start, Count).CopyTo(larger);
        return larger;
    }
}
