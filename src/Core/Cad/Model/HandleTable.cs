namespace SteadyLintel.Cad;

/// <summary>Values by handle: an array where handles are dense, as they are in nearly all drawings, a dictionary for the others.</summary>
/// <remarks>A value that equals the default of <typeparamref name="T"/> counts as absent.</remarks>
/// <typeparam name="T">What is held.</typeparam>
internal sealed class HandleTable<T>
{
    private const int Spread = 8,
        Least = 1024,
        Most = 1 << 27;
    private readonly T?[] _dense;
    private readonly Dictionary<ulong, T> _others = [];

    /// <param name="count">How many handles are expected.</param>
    /// <param name="greatest">The greatest of them.</param>
    public HandleTable(int count, Handle greatest) =>
        _dense = new T?[
            greatest.Value < Math.Min(((ulong)count * Spread) + Least, Most) ? (int)greatest.Value + 1 : Least
        ];

    /// <summary>The value of a handle; the default when it has none.</summary>
    public T? this[Handle handle]
    {
        get => handle.Value < (ulong)_dense.Length ? _dense[handle.Value] : _others.GetValueOrDefault(handle.Value);
        set
        {
            if (handle.Value < (ulong)_dense.Length)
                _dense[handle.Value] = value;
            else
                _others[handle.Value] = value!;
        }
    }
}
