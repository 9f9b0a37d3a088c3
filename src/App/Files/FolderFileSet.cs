using SteadyLintel.Exchange;

namespace SteadyLintel.Files;

/// <summary>The files of a hand-over in a folder. Dispose it to let go of the files, not to delete them.</summary>
public sealed class FolderFileSet(string folder) : IFileSet, IDisposable
{
    private readonly Dictionary<string, MappedBytes> _open = [];

    /// <inheritdoc/>
    public Stream Create(string name) => new FileStream(PathOf(name), FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16);

    /// <inheritdoc/>
    public ReadOnlyMemory<byte> Read(string name)
    {
        if (!_open.TryGetValue(name, out var mapped)) _open[name] = mapped = MappedBytes.Open(PathOf(name));
        return mapped.Memory;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var mapped in _open.Values) ((IDisposable)mapped).Dispose();
        _open.Clear();
    }

    private string PathOf(string name) => Path.GetFileName(name) == name
        ? Path.Combine(folder, name) : throw new IOException($"'{name}' is not a plain file name.");
}
