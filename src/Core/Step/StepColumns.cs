namespace SteadyLintel.Step;

/// <summary>The instance index in columns: 15 bytes an instance.</summary>
internal sealed class StepColumns
{
    public int Count;
    public int MaxId;
    public int[] Ids;
    public ushort[] Types;
    public int[] Offsets;
    public byte[] Heads;
    public int[] Lengths;

    public StepColumns(int bytes)
    {
        // About 60 bytes an instance is common practice in building models; the arrays grow when a file is denser.
        int guess = Math.Max(16, bytes / 60);
        Ids = new int[guess];
        Types = new ushort[guess];
        Offsets = new int[guess];
        Heads = new byte[guess];
        Lengths = new int[guess];
    }

    // `head` is the distance from the '#' to the opening parenthesis; beyond a byte it is searched again when needed.
    public void Add(int id, ushort type, int offset, int head, int length)
    {
        if (Count == Ids.Length) Grow();
        Ids[Count] = id;
        if (id > MaxId) MaxId = id;
        Types[Count] = type;
        Offsets[Count] = offset;
        Heads[Count] = (byte)Math.Min(head, 255);
        Lengths[Count++] = length;
    }

    /// <summary>One set of columns out of several that follow each other, the types renumbered.</summary>
    /// <param name="parts">Each part's columns and its table of type numbers in the whole.</param>
    public static StepColumns Join(IReadOnlyList<(StepColumns Columns, ushort[] Types)> parts)
    {
        var whole = new StepColumns(0);
        whole.Resize(parts.Sum(p => p.Columns.Count));
        var starts = new int[parts.Count];
        for (int i = 1; i < parts.Count; i++) starts[i] = starts[i - 1] + parts[i - 1].Columns.Count;
        Parallel.For(0, parts.Count, i => parts[i].Columns.CopyTo(whole, starts[i], parts[i].Types));
        whole.Count = whole.Ids.Length;
        whole.MaxId = parts.Max(p => p.Columns.MaxId);
        return whole;
    }

    private void CopyTo(StepColumns whole, int at, ushort[] types)
    {
        Ids.AsSpan(0, Count).CopyTo(whole.Ids.AsSpan(at));
        Offsets.AsSpan(0, Count).CopyTo(whole.Offsets.AsSpan(at));
        Heads.AsSpan(0, Count).CopyTo(whole.Heads.AsSpan(at));
        Lengths.AsSpan(0, Count).CopyTo(whole.Lengths.AsSpan(at));
        for (int i = 0; i < Count; i++) whole.Types[at + i] = types[Types[i]];
    }

    private void Grow() => Resize((int)Math.Min(Array.MaxLength, Count * 3L / 2));

    private void Resize(int size)
    {
        Array.Resize(ref Ids, size);
        Array.Resize(ref Types, size);
        Array.Resize(ref Offsets, size);
        Array.Resize(ref Heads, size);
        Array.Resize(ref Lengths, size);
    }
}
