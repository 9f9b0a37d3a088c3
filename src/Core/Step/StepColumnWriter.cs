using System.Runtime.CompilerServices;

namespace SteadyLintel.Step;

/// <summary>Appends instances to columns. It keeps its place on the stack, so that passes side by side do not write into one cache
/// line.</summary>
/// <param name="columns">Where instances go; their count is right after <see cref="Close"/>.</param>
/// <param name="most">How many instances are taken.</param>
internal ref struct StepColumnWriter(StepColumns columns, int most)
{
    private ref int _ids = ref columns.First(columns.Ids);
    private ref ushort _types = ref columns.First(columns.Types);
    private ref int _offsets = ref columns.First(columns.Offsets);
    private ref byte _heads = ref columns.First(columns.Heads);
    private ref int _lengths = ref columns.First(columns.Lengths);
    private int _room = columns.Room;
    private int _count;
    private int _maxId;

    /// <summary>Appends an instance.</summary>
    /// <param name="id">Its name.</param>
    /// <param name="type">Its keyword.</param>
    /// <param name="offset">Where its <c>#</c> is.</param>
    /// <param name="head">From the <c>#</c> to the opening parenthesis; beyond a byte it is searched again when needed.</param>
    /// <param name="length">From the <c>#</c> to behind the semicolon.</param>
    /// <exception cref="StepFormatException">There are more than are taken.</exception>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public void Add(int id, ushort type, int offset, int head, int length)
    {
        int at = _count;
        if (at == _room)
            Grow();
        Unsafe.Add(ref _ids, at) = id;
        Unsafe.Add(ref _types, at) = type;
        Unsafe.Add(ref _offsets, at) = offset;
        Unsafe.Add(ref _heads, at) = (byte)Math.Min(head, 255);
        Unsafe.Add(ref _lengths, at) = length;
        _maxId = Math.Max(_maxId, id);
        _count = at + 1;
    }

    /// <summary>Tells the columns how many instances they hold.</summary>
    /// <exception cref="StepFormatException">There are more than are taken.</exception>
    public readonly void Close()
    {
        if (_count > most)
            throw new StepFormatException($"The file has more than {most} instances.");
        columns.Hold(_count, _maxId);
    }

    [MethodImpl(MethodImplOptions.NoInlining)]
    private void Grow()
    {
        Close();
        columns.Grow();
        _ids = ref columns.First(columns.Ids);
        _types = ref columns.First(columns.Types);
        _offsets = ref columns.First(columns.Offsets);
        _heads = ref columns.First(columns.Heads);
        _lengths = ref columns.First(columns.Lengths);
        _room = columns.Room;
    }
}
