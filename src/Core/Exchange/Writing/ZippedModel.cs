using System.IO.Compression;

namespace SteadyLintel.Exchange;

/// <summary>A model as the one entry of an archive (.ifczip), written as it comes.</summary>
/// <remarks>The entry has no time of its own, so that the same model always gives the same bytes.</remarks>
internal sealed class ZippedModel : Stream
{
    private readonly Stream _target;
    private readonly ZipArchive _archive;
    private readonly Stream _entry;

    /// <summary>Begins an archive.</summary>
    /// <param name="target">Gets its bytes, and is closed with it.</param>
    /// <param name="name">The archive's name; its model is named alike.</param>
    public ZippedModel(Stream target, string name)
    {
        _target = target;
        _archive = new ZipArchive(target, ZipArchiveMode.Create, true);
        var entry = _archive.CreateEntry(System.IO.Path.ChangeExtension(name, ".ifc"), CompressionLevel.Optimal);
        entry.LastWriteTime = new DateTimeOffset(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);
        _entry = entry.Open();
    }

    /// <inheritdoc/>
    public override bool CanRead => false;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => true;

    /// <inheritdoc/>
    public override long Length => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Position
    {
        get => throw new NotSupportedException();
        set => throw new NotSupportedException();
    }

    /// <summary>The model of an archive that this wrote.</summary>
    public static byte[] Read(ReadOnlyMemory<byte> bytes)
    {
        using var archive = new ZipArchive(new MemoryStream(bytes.ToArray()), ZipArchiveMode.Read);
        using var entry = archive.Entries.Single().Open();
        using var model = new MemoryStream();
        entry.CopyTo(model);
        return model.ToArray();
    }

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => _entry.Write(buffer, offset, count);

    /// <inheritdoc/>
    public override void Write(ReadOnlySpan<byte> buffer) => _entry.Write(buffer);

    /// <inheritdoc/>
    public override void Flush() => _entry.Flush();

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            _entry.Dispose();
            _archive.Dispose();
            _target.Dispose();
        }

        base.Dispose(disposing);
    }
}
