namespace SteadyLintel.Topics;

/// <summary>A file of a topic archive that is carried as it is.</summary>
/// <param name="Name">Its path from its folder on, separated by <c>/</c>.</param>
/// <param name="Length">Bytes.</param>
/// <param name="CopyTo">Writes its content, at most that many bytes.</param>
/// <param name="Head">Its first bytes, up to 8.</param>
/// <exception cref="Exchange.DeliveryException">From <paramref name="CopyTo"/>: the archive is damaged.</exception>
public sealed record TopicPart(string Name, long Length, Action<Stream, CancellationToken> CopyTo, Func<byte[]> Head)
{
    /// <summary>Whether it is a PNG or a JPEG picture, by its first bytes and not by its name.</summary>
    public bool IsPicture =>
        Head() is [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A] or [0xFF, 0xD8, 0xFF, ..];

    /// <summary>Content made here.</summary>
    public static TopicPart Of(string name, byte[] content) =>
        new(name, content.Length, (s, _) => s.Write(content), () => content[..Math.Min(8, content.Length)]);

    /// <summary>Its content.</summary>
    public byte[] Bytes(CancellationToken cancel = default)
    {
        using var stream = new MemoryStream();
        CopyTo(stream, cancel);
        return stream.ToArray();
    }
}
