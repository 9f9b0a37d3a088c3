using System.IO.Compression;
using System.IO.Hashing;

namespace SteadyLintel.Exchange;

/// <summary>Takes entries out of ZIP archives of strangers, within limits.</summary>
public static class ZipEntries
{
    /// <summary>Text shrinks about tenfold (common practice); a hundredfold is an attack.</summary>
    public const int MaxRatio = 100;

    /// <summary>Unpacks an entry.</summary>
    /// <returns>How many bytes it has.</returns>
    /// <exception cref="DeliveryException">It is longer than allowed or not what was packed.</exception>
    public static long Copy(ZipArchiveEntry entry, Stream target, long maxBytes, CancellationToken cancel)
    {
        try
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
        catch (InvalidDataException)
        {
            throw new DeliveryException(
                $"The archive is damaged: {entry.Name} cannot be unpacked. Ask for it to be sent again."
            );
        }
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
