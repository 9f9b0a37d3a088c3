using SteadyLintel.Exchange;

namespace SteadyLintel.Files;

/// <summary>The files of a hand-over in a folder. Dispose it to let go of the files, not to delete them.</summary>
/// <remarks>Files are written beside the folder's own until <see cref="Commit"/>: an order that is refused half-way, or a program that is
/// ended, leaves the folder as it was.</remarks>
/// <param name="folder">The folder; it exists.</param>
public sealed class FolderFileSet(string folder) : IFileSet, IDisposable
{
    private readonly Dictionary<string, MappedBytes> _open = [];
    private readonly string _unfinished = Path.Combine(folder, $".unfinished-{Guid.NewGuid():N}");
    private readonly List<string> _names = [];

    /// <inheritdoc/>
    public Stream Create(string name)
    {
        string path = PathOf(name);
        Directory.CreateDirectory(_unfinished);
        if (!_names.Contains(name))
            _names.Add(name);
        return new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16);
    }

    /// <inheritdoc/>
    public ReadOnlyMemory<byte> Read(string name)
    {
        if (!_open.TryGetValue(name, out var mapped))
            _open[name] = mapped = MappedBytes.Open(PathOf(name));
        return mapped.Memory;
    }

    /// <summary>Puts the finished files into the folder; one of the same name is replaced.</summary>
    public void Commit()
    {
        Close();
        foreach (string name in _names)
            File.Move(PathOf(name), Path.Combine(folder, name), overwrite: true);
        _names.Clear();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Close();
        if (Directory.Exists(_unfinished))
            Directory.Delete(_unfinished, true);
    }

    private void Close()
    {
        foreach (var mapped in _open.Values)
            ((IDisposable)mapped).Dispose();
        _open.Clear();
    }

    private string PathOf(string name) =>
        Path.GetFileName(name) == name
            ? Path.Combine(_unfinished, name)
            : throw new IOException($"'{name}' is not a plain file name.");
}
