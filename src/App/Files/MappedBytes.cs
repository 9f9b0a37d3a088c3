using System.Buffers;
using System.IO.MemoryMappedFiles;

namespace SteadyLintel.Files;

/// <summary>A file's bytes, mapped, not loaded. Dispose it only when nothing reads its memory any more.</summary>
public sealed unsafe class MappedBytes : MemoryManager<byte>
{
    private readonly MemoryMappedFile? _file;
    private readonly MemoryMappedViewAccessor? _view;
    private readonly byte* _start;
    private readonly int _length;

    private MappedBytes(string path, long length)
    {
        _length = checked((int)length);
        if (_length == 0)
            return;
        _file = MemoryMappedFile.CreateFromFile(path, FileMode.Open, null, 0, MemoryMappedFileAccess.Read);
        _view = _file.CreateViewAccessor(0, length, MemoryMappedFileAccess.Read);
        _view.SafeMemoryMappedViewHandle.AcquirePointer(ref _start);
    }

    /// <summary>Maps a file.</summary>
    /// <exception cref="IOException">It cannot be opened, or is 2 GB or longer.</exception>
    public static MappedBytes Open(string path)
    {
        long length = new FileInfo(path).Length;
        return length < int.MaxValue
            ? new MappedBytes(path, length)
            : throw new IOException("The file is 2 GB or longer.");
    }

    /// <inheritdoc/>
    public override Span<byte> GetSpan() => new(_start, _length);

    /// <inheritdoc/>
    public override MemoryHandle Pin(int elementIndex = 0) => new(_start + elementIndex);

    /// <inheritdoc/>
    public override void Unpin() { }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (_view is null)
            return;
        _view.SafeMemoryMappedViewHandle.ReleasePointer();
        _view.Dispose();
        _file!.Dispose();
    }
}
