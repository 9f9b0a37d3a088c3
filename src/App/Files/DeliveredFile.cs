using SteadyLintel.Exchange;

namespace SteadyLintel.Files;

/// <summary>A delivered file ready to be read as a model: recognised by its content, unpacked when it is an archive.</summary>
public sealed class DeliveredFile : IDisposable
{
    private readonly MappedBytes _bytes;
    private readonly string? _unpacked;

    private DeliveredFile(string path, string format, string? unpacked)
    {
        (Format, _unpacked) = (format, unpacked);
        _bytes = MappedBytes.Open(unpacked ?? path);
    }

    /// <summary><c>ifc</c> or <c>ifczip</c>.</summary>
    public string Format { get; }

    /// <summary>The model's bytes, valid until disposed.</summary>
    public ReadOnlyMemory<byte> Bytes => _bytes.Memory;

    /// <summary>Opens a file.</summary>
    /// <param name="path">Where it is.</param>
    /// <param name="maxBytes">The longest model that is unpacked from an archive.</param>
    /// <param name="cancel">Stops the unpacking.</param>
    /// <exception cref="DeliveryException">It is not a model, or a limit is exceeded.</exception>
    /// <exception cref="IOException">It cannot be read.</exception>
    public static DeliveredFile Open(string path, long maxBytes = 2_000_000_000, CancellationToken cancel = default)
    {
        using var stream = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read);
        var head = new byte[FileRecognition.HeadLength];
        int n = stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
        var (kind, sentence) = FileRecognition.Recognise(head.AsSpan(0, n));
        if (kind == DeliveredKind.Refused)
            throw new DeliveryException(sentence);
        if (kind == DeliveredKind.Drawing)
            throw new DeliveryException(
                "This is a DWG or DXF drawing, whatever its name says; for this the model is needed as IFC."
            );
        if (kind == DeliveredKind.Step)
            return new DeliveredFile(path, "ifc", null);
        string unpacked = Path.Combine(Path.GetTempPath(), Path.GetRandomFileName());
        try
        {
            stream.Position = 0;
            using (var target = new FileStream(unpacked, FileMode.CreateNew, FileAccess.Write))
                IfcZip.Extract(stream, target, maxBytes, cancel);
            return new DeliveredFile(path, "ifczip", unpacked);
        }
        catch
        {
            File.Delete(unpacked);
            throw;
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        ((IDisposable)_bytes).Dispose();
        if (_unpacked is not null)
            File.Delete(_unpacked);
    }
}
