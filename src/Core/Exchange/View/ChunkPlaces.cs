using System.Buffers.Binary;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The places of a repeated mesh in a chunk (the layout is described at <see cref="ChunkBuilder"/>).</summary>
/// <param name="At">Where they begin in the chunk.</param>
/// <param name="Count">How many there are.</param>
/// <param name="ByNumber">Whether they are kept number by number.</param>
internal readonly record struct ChunkPlaces(int At, int Count, bool ByNumber)
{
    // An element, a colour, twelve numbers.
    private const int PlaceLength = 56,
        HeadLength = 8;

    /// <summary>Where what follows begins.</summary>
    public int End => At + (PlaceLength * Count);

    /// <summary>The number of repeated meshes, and how their places are kept, from the head of a chunk.</summary>
    /// <param name="content">The chunk, unpacked.</param>
    public static (int Repeats, bool ByNumber) Head(ReadOnlySpan<byte> content)
    {
        uint word = BinaryPrimitives.ReadUInt32LittleEndian(content[40..]);
        return ((int)(word & ~ChunkBuilder.ByNumber), (word & ChunkBuilder.ByNumber) != 0);
    }

    /// <summary>A place, from the mesh's frame into the chunk's, whose origin is the chunk's.</summary>
    /// <param name="content">The chunk, unpacked.</param>
    /// <param name="place">From 0.</param>
    public Frame FrameAt(ReadOnlySpan<byte> content, int place)
    {
        Span<Vec3> columns = stackalloc Vec3[4];
        for (int i = 0; i < columns.Length; i++)
            columns[i] = new Vec3(
                Number(content, place, 3 * i),
                Number(content, place, (3 * i) + 1),
                Number(content, place, (3 * i) + 2)
            );
        return new Frame(columns[3], columns[0], columns[1], columns[2]);
    }

    private float Number(ReadOnlySpan<byte> content, int place, int k) =>
        BinaryPrimitives.ReadSingleLittleEndian(
            content[
                (
                    ByNumber
                        ? At + (HeadLength * Count) + (sizeof(float) * ((k * Count) + place))
                        : At + (PlaceLength * place) + HeadLength + (sizeof(float) * k)
                )..
            ]
        );
}
