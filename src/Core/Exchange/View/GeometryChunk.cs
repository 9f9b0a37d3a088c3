using System.IO.Compression;

namespace SteadyLintel.Exchange;

/// <summary>Shapes of one storey, class and place, ready to be drawn.</summary>
/// <param name="Storey">The storey's number, -1 for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Hash">SHA-256 of <paramref name="Packed"/>, lower-case hex.</param>
/// <param name="Triangles">How many triangles, repeats included.</param>
/// <param name="Packed">The content, Brotli-compressed, see <see cref="ChunkBuilder"/>.</param>
public sealed record GeometryChunk(int Storey, string Class, string Hash, int Triangles, byte[] Packed)
{
    /// <summary>The content of a chunk as it was before it was compressed.</summary>
    /// <param name="packed">See <see cref="Packed"/>.</param>
    public static byte[] Unpack(byte[] packed)
    {
        using var content = new MemoryStream(packed.Length * 4);
        using (var brotli = new BrotliStream(new MemoryStream(packed), CompressionMode.Decompress))
            brotli.CopyTo(content);
        return content.ToArray();
    }
}
