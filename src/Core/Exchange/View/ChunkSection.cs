using System.Buffers.Binary;
using System.Runtime.InteropServices;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Where the faces of stored chunks meet a level plane: what a plan cut there would draw.</summary>
/// <remarks>The layout of a chunk is described at <see cref="ChunkBuilder"/>. As exact as the chunk, whose steps are about a millimetre.
/// </remarks>
public static class ChunkSection
{
    private const int HeadLength = 44,
        RunLength = 16;

    /// <summary>Cuts a chunk.</summary>
    /// <param name="content">The chunk, unpacked.</param>
    /// <param name="frame">From the source's frame into the job's, metres.</param>
    /// <param name="height">Of the plane in the job, metres.</param>
    /// <param name="into">Takes the segments, in the job's plan, metres.</param>
    /// <param name="most">How many segments it takes at most.</param>
    public static void Cut(
        ReadOnlySpan<byte> content,
        Frame frame,
        double height,
        List<(Vec2 A, Vec2 B)> into,
        int most
    )
    {
        var origin = new Vec3(
            BinaryPrimitives.ReadDoubleLittleEndian(content),
            BinaryPrimitives.ReadDoubleLittleEndian(content[8..]),
            BinaryPrimitives.ReadDoubleLittleEndian(content[16..])
        );
        int vertices = Number(content, 28),
            indices = Number(content, 32),
            runs = Number(content, 36);
        var (repeats, byNumber) = ChunkPlaces.Head(content);
        int at = HeadLength + (runs * RunLength);
        var local = frame with { Origin = frame.Point(origin) };
        Mesh(content, ref at, vertices, indices, Vec3.Zero, Real(content, 24), [local], height, into, most);
        for (int r = 0; r < repeats && into.Count < most; r++)
        {
            int v = Number(content, at),
                n = Number(content, at + 4),
                count = Number(content, at + 8);
            var low = new Vec3(Real(content, at + 12), Real(content, at + 16), Real(content, at + 20));
            float step = Real(content, at + 24);
            at += 28;
            var instances = new Frame[count];
            var places = new ChunkPlaces(at + Length(v, n), count, byNumber);
            for (int i = 0; i < count; i++)
                instances[i] = local.Compose(places.FrameAt(content, i));
            Mesh(content, ref at, v, n, low, step, instances, height, into, most);
            at = places.End;
        }
    }

    private static void Mesh(
        ReadOnlySpan<byte> content,
        ref int at,
        int vertices,
        int indices,
        Vec3 low,
        float step,
        Frame[] places,
        double height,
        List<(Vec2 A, Vec2 B)> into,
        int most
    )
    {
        var positions = MemoryMarshal.Cast<byte, ushort>(content.Slice(at, vertices * 6));
        var corners = MemoryMarshal.Cast<byte, uint>(content.Slice(at + Padded(vertices), indices * 4));
        at += Length(vertices, indices);
        var points = new Vec3[vertices];
        foreach (var place in places)
        {
            for (int i = 0; i < vertices; i++)
                points[i] = place.Point(
                    low + (new Vec3(positions[3 * i], positions[(3 * i) + 1], positions[(3 * i) + 2]) * step)
                );
            for (int i = 0; i + 2 < indices && into.Count < most; i += 3)
                Triangle(points[corners[i]], points[corners[i + 1]], points[corners[i + 2]], height, into);
        }
    }

    private static void Triangle(Vec3 a, Vec3 b, Vec3 c, double height, List<(Vec2 A, Vec2 B)> into)
    {
        bool up = a.Z > height,
            bUp = b.Z > height,
            cUp = c.Z > height;
        if (up == bUp && bUp == cUp)
            return;
        // One corner is alone on its side.
        var (alone, one, other) =
            bUp == cUp ? (a, b, c)
            : up == cUp ? (b, a, c)
            : (c, a, b);
        into.Add((Between(alone, one, height), Between(alone, other, height)));
    }

    private static Vec2 Between(Vec3 from, Vec3 to, double height) =>
        (from + ((to - from) * ((height - from.Z) / (to.Z - from.Z)))).XY;

    private static int Padded(int vertices) => (vertices * 6) + (vertices % 2 == 1 ? 2 : 0);

    private static int Length(int vertices, int indices) => Padded(vertices) + (indices * 4);

    private static int Number(ReadOnlySpan<byte> content, int at) =>
        (int)BinaryPrimitives.ReadUInt32LittleEndian(content[at..]);

    private static float Real(ReadOnlySpan<byte> content, int at) =>
        BinaryPrimitives.ReadSingleLittleEndian(content[at..]);
}
