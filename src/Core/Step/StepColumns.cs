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

    private void Grow()
    {
        int size = (int)Math.Min(Array.MaxLength, Count * 3L / 2);
        Array.Resize(ref Ids, size);
        Array.Resize(ref Types, size);
        Array.Resize(ref Offsets, size);
        Array.Resize(ref Heads, size);
        Array.Resize(ref Lengths, size);
    }
}
