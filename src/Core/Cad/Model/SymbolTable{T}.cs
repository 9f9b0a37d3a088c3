using System.Collections;

namespace SteadyLintel.Cad;

/// <summary>A symbol table of records of one kind.</summary>
/// <typeparam name="T">The kind of record.</typeparam>
public sealed class SymbolTable<T> : SymbolTable, IReadOnlyList<T>
    where T : SymbolRecord, new()
{
    private readonly List<T> _records = [];
    private readonly Dictionary<string, T> _byName = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<Handle, T> _byHandle = [];

    /// <inheritdoc/>
    public override int Count => _records.Count;

    /// <inheritdoc/>
    public override IEnumerable<SymbolRecord> All => _records;

    /// <inheritdoc/>
    public T this[int index] => _records[index];

    /// <summary>The record of a name, or null.</summary>
    public T? this[string name] => _byName.GetValueOrDefault(name);

    /// <summary>The record of a handle, or null.</summary>
    public T? this[Handle handle] => _byHandle.GetValueOrDefault(handle);

    /// <summary>Puts a record in. Its handle must be set.</summary>
    public void Add(T record)
    {
        _records.Add(record);
        _byName.TryAdd(record.Name, record);
        _byHandle.TryAdd(record.Handle, record);
    }

    /// <summary>Takes a record out.</summary>
    public bool Remove(T record)
    {
        if (!_records.Remove(record))
            return false;
        if (_byName.GetValueOrDefault(record.Name) == record)
            _byName.Remove(record.Name);
        foreach (var (handle, _) in _byHandle.Where(h => h.Value == record).ToList())
            _byHandle.Remove(handle);
        return true;
    }

    /// <summary>Takes records out, all in one go.</summary>
    /// <returns>How many.</returns>
    public int RemoveAll(IReadOnlySet<T> records)
    {
        foreach (var (name, _) in _byName.Where(n => records.Contains(n.Value)).ToList())
            _byName.Remove(name);
        foreach (var (handle, _) in _byHandle.Where(h => records.Contains(h.Value)).ToList())
            _byHandle.Remove(handle);
        return _records.RemoveAll(records.Contains);
    }

    /// <summary>Gives a record another name, which no other has.</summary>
    public void Rename(T record, string name)
    {
        if (_byName.GetValueOrDefault(record.Name) == record)
            _byName.Remove(record.Name);
        record.Name = name;
        _byName.TryAdd(name, record);
    }

    /// <inheritdoc/>
    public IEnumerator<T> GetEnumerator() => _records.GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    internal override SymbolRecord? Named(ReadOnlySpan<char> name) =>
        _byName.GetAlternateLookup<ReadOnlySpan<char>>().TryGetValue(name, out var record) ? record : null;

    /// <inheritdoc/>
    internal override SymbolRecord? Of(Handle handle) => this[handle];

    /// <inheritdoc/>
    internal override SymbolRecord Make() => new T();

    /// <inheritdoc/>
    internal override void Put(SymbolRecord record) => Add((T)record);

    /// <inheritdoc/>
    internal override void Alias(Handle handle, SymbolRecord record) => _byHandle.TryAdd(handle, (T)record);
}
