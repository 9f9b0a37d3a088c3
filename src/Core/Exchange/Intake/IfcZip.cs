using System.IO.Compression;
using System.IO.Hashing;

namespace SteadyLintel.Exchange;

/// <summary>Takes the model out of a ZIP archive, within limits.</summary>
public static class IfcZip
{
    /// <summary>More entries than this are not looked through.</summary>
    public const int MaxEntries = 1000;

    /// <summary>IFC text shrinks about tenfold (common practice); a hundredfold is an attack.</summary>
    public const int MaxRatio = 100;

    /// <summary>Copies the one .ifc entry of an archive.</summary>
    /// <param name="archive">A seekable stream.</param>
    /// <param name="target">Gets the model's bytes.</param>
    /// <param name="maxBytes">The longest model that is unpacked.</param>
    /// <param name="cancel">Stops between blocks.</param>
    /// <exception cref="DeliveryException">No model or several in it, a damaged archive, or a limit exceeded.</exception>
    public static void Extract(Stream archive, Stream target, long maxBytes, CancellationToken cancel = default)
    {
        try
        {
            using var zip = new ZipArchive(archive, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > MaxEntries)
                throw new DeliveryException(
                    $"The archive holds more than {MaxEntries} files; ask for one .ifczip a model."
                );
            var models = zip.Entries.Where(e => e.Name.EndsWith(".ifc", StringComparison.OrdinalIgnoreCase)).ToList();
            if (models.Count != 1)
                throw new DeliveryException(
                    models.Count == 0
                        ? "The archive holds no .ifc file; ask for the model as .ifc or .ifczip."
                        : $"The archive holds {models.Count} .ifc files; send each as a delivery of its own."
                );
            Copy(models[0], target, maxBytes, cancel);
        }
        catch (InvalidDataException)
        {
            throw new DeliveryException("The archive is damaged; ask for it to be sent again.");
        }
    }

    /// <summary>Unpacks an entry.</summary>
    /// <returns>How many bytes it has.</returns>
    /// <exception cref="DeliveryException">It is longer than allowed or not what was packed.</exception>
    internal static long Copy(ZipArchiveEntry entry, Stream target, long maxBytes, CancellationToken cancel)
    {
        using var packed = entry.Open();
        // The unpacker does not compare checksums: a flipped bit would be a file with other numbers, or fewer elements.
        var (sum, length) = Copy(
            packed,
            target,
            Math.Min(maxBytes, Math.Max(1, entry.CompressedLength) * MaxRatio),
            maxBytes,
            cancel
        );
        return sum == entry.Crc32
            ? length
            : throw new DeliveryException(
                $"The archive is damaged: the checksum of {entry.Name} is not the one it was packed with. Ask for it to be sent again."
            );
    }

    private static (uint Sum, long Length) Copy(
        Stream packed,
        Stream target,
        long limit,
        long maxBytes,
        CancellationToken cancel
    )
    {
        var buffer = new byte[1 << 17];
        var sum = new Crc32();
        long total = 0;
        for (int n; (n = packed.Read(buffer)) > 0; )
        {
            cancel.ThrowIfCancellationRequested();
            total += n;
            if (total > limit)
                throw new DeliveryException(
                    limit < maxBytes
                        ? $"The archive unpacks to more than {MaxRatio} times its size; it looks like an attack and was not opened."
                        : $"The archive unpacks to more than {maxBytes / 1_000_000} MB."
                );
            target.Write(buffer, 0, n);
            sum.Append(buffer.AsSpan(0, n));
        }

        return (sum.GetCurrentHashAsUInt32(), total);
    }
}
