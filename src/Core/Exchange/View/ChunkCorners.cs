using System.Buffers.Binary;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Reads corners of shapes out of geometry chunks (the layout is described at <see cref="ChunkBuilder"/>), for points to be
/// caught by.
/// </summary>
public static class ChunkCorners
{
    private const int Most = 30_000;

    /// <summary>The corners of some chunks, each once to a millimetre, at most thirty thousand; metres in the source's frame.</summary>
    /// <param name="chunks">Contents, Brotli-compressed.</param>
    public static IReadOnlyCollection<Vec3> Of(IEnumerable<byte[]> chunks)
    {
        var corners = new Dictionary<(long, long, long), Vec3>();
        foreach (byte[] packed in chunks)
        {
            Read(GeometryChunk.Unpack(packed), corners);
            if (corners.Count >= Most)
                break;
        }

        return corners.Values;
    }

    private static void Read(ReadOnlySpan<byte> bytes, Dictionary<(long, long, long), Vec3> corners)
    {
        var origin = new Vec3(Double(bytes, 0), Double(bytes, 8), Double(bytes, 16));
        double step = Single(bytes, 24);
        int vertices = Int(bytes, 28),
            indices = Int(bytes, 32),
            runs = Int(bytes, 36),
            at = 44 + (16 * runs);
        for (int v = 0; v < vertices; v++)
            Add(corners, origin + (Lattice(bytes, at, v) * step));
        at += Length(vertices, indices);
        var (repeats, byNumber) = ChunkPlaces.Head(bytes);
        for (int r = 0; r < repeats; r++)
        {
            int own = Int(bytes, at),
                ends = Int(bytes, at + 4),
                count = Int(bytes, at + 8),
                first = at + 28;
            var low = new Vec3(Single(bytes, at + 12), Single(bytes, at + 16), Single(bytes, at + 20));
            double size = Single(bytes, at + 24);
            var places = new ChunkPlaces(first + Length(own, ends), count, byNumber);
            at = places.End;
            for (int i = 0; i < count; i++)
            {
                var frame = places.FrameAt(bytes, i);
                frame = frame with { Origin = origin + frame.Origin };
                for (int v = 0; v < own; v++)
                    Add(corners, frame.Point(low + (Lattice(bytes, first, v) * size)));
            }
        }
    }

    private static void Add(Dictionary<(long, long, long), Vec3> corners, Vec3 p)
    {
        if (corners.Count < Most)
            corners.TryAdd(
                ((long)Math.Round(p.X * 1000), (long)Math.Round(p.Y * 1000), (long)Math.Round(p.Z * 1000)),
                p
            );
    }

    // Positions are padded to four bytes.
    private static int Length(int vertices, int indices) => (vertices * 6) + (vertices % 2 * 2) + (indices * 4);

    private static Vec3 Lattice(ReadOnlySpan<byte> bytes, int at, int vertex)
    {
        at += 6 * vertex;
        return new Vec3(Short(bytes, at), Short(bytes, at + 2), Short(bytes, at + 4));
    }

    private static double Double(ReadOnlySpan<byte> bytes, int at) =>
        BinaryPrimitives.ReadDoubleLittleEndian(bytes[at..]);

    private static float Single(ReadOnlySpan<byte> bytes, int at) =>
        BinaryPrimitives.ReadSingleLittleEndian(bytes[at..]);

    private static int Int(ReadOnlySpan<byte> bytes, int at) =>
        (int)BinaryPrimitives.ReadUInt32LittleEndian(bytes[at..]);

    private static ushort Short(ReadOnlySpan<byte> bytes, int at) =>
        BinaryPrimitives.ReadUInt16LittleEndian(bytes[at..]);
}
