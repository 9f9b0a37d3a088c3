using System.IO.Compression;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Reads chunks as the view does and compares them with the shapes they were made of.</summary>
public class ChunkTests(DemoModels demo) : IClassFixture<DemoModels>
{
    [Theory]
    [InlineData("ARC")]
    [InlineData("STR")]
    [InlineData("SRV")]
    public void Every_element_comes_back_within_its_step(string party)
    {
        var snapshot = demo.Snapshots[party];
        var builder = new ChunkBuilder();
        var boxes = new Dictionary<int, Box>();
        snapshot.ForEachShape(snapshot.Elements, (element, shape) =>
        {
            builder.Add(element, shape);
            if (shape is { Parts.Count: > 0 })
                boxes[element.Number] = shape.Measure().Bounds;
        });
        var again = new Dictionary<int, Box>();
        double largest = 0;
        foreach (var chunk in builder.Build())
            largest = Math.Max(largest, Read(chunk, again));
        Assert.Equal(boxes.Keys.Order(), again.Keys.Order());
        // A step is a 65 500th of the chunk; half of it is lost to rounding, a little to single precision.
        Assert.InRange(largest, 0, 0.0011);
        foreach (var (number, box) in boxes)
        {
            var off = new[] { again[number].Min - box.Min, again[number].Max - box.Max };
            Assert.All(off, o => Assert.InRange(o.Length, 0, 0.0015));
        }
    }

    private static double Read(GeometryChunk chunk, Dictionary<int, Box> boxes)
    {
        using var unpacked = new MemoryStream();
        using (var brotli = new BrotliStream(new MemoryStream(chunk.Packed), CompressionMode.Decompress))
            brotli.CopyTo(unpacked);
        unpacked.Position = 0;
        using var r = new BinaryReader(unpacked);
        var origin = new Vec3(r.ReadDouble(), r.ReadDouble(), r.ReadDouble());
        float step = r.ReadSingle();
        uint vertices = r.ReadUInt32(),
            indices = r.ReadUInt32(),
            runs = r.ReadUInt32(),
            repeats = r.ReadUInt32();
        Assert.NotEqual(0u, repeats & ChunkBuilder.ByNumber);
        repeats &= ~ChunkBuilder.ByNumber;
        var table = Enumerable
            .Range(0, (int)runs)
            .Select(_ =>
                (Element: r.ReadUInt32(), First: r.ReadUInt32(), Count: r.ReadUInt32(), Colour: r.ReadUInt32())
            )
            .ToList();
        var (points, corners) = ReadMesh(r, vertices, indices);
        foreach (var run in table)
            for (uint i = run.First; i < run.First + run.Count; i++)
                Add(boxes, (int)run.Element, origin + (points[corners[i]] * step));
        var drawn = new List<uint> { vertices };
        for (uint m = 0; m < repeats; m++)
            drawn.Add(ReadRepeated(r, origin, boxes));
        foreach (uint count in drawn)
            ReadEdges(r, count);
        Assert.Equal(unpacked.Length, unpacked.Position);
        return step;
    }

    // Pairs of vertices, none of an edge and itself.
    private static void ReadEdges(BinaryReader r, uint vertices)
    {
        uint[] corners = [.. Enumerable.Range(0, (int)r.ReadUInt32()).Select(_ => r.ReadUInt32())];
        Assert.Equal(0, corners.Length % 2);
        Assert.Equal(vertices > 0, corners.Length > 0);
        Assert.All(corners.Chunk(2), edge =>
            Assert.True(edge[0] < vertices && edge[1] < vertices && edge[0] != edge[1])
        );
    }

    private static uint ReadRepeated(BinaryReader r, Vec3 origin, Dictionary<int, Box> boxes)
    {
        uint vertices = r.ReadUInt32(),
            indices = r.ReadUInt32(),
            instances = r.ReadUInt32();
        var low = Single(r);
        float step = r.ReadSingle();
        var (points, corners) = ReadMesh(r, vertices, indices);
        uint[] elements = [.. Enumerable.Range(0, (int)instances).Select(_ => r.ReadUInt32())];
        foreach (uint _ in elements)
            r.ReadUInt32();
        float[][] numbers = [.. Enumerable.Range(0, 12).Select(_ => elements.Select(_ => r.ReadSingle()).ToArray())];
        for (int i = 0; i < elements.Length; i++)
        {
            Vec3 Triple(int k) => new(numbers[k][i], numbers[k + 1][i], numbers[k + 2][i]);
            var frame = new Frame(origin + Triple(9), Triple(0), Triple(3), Triple(6));
            foreach (uint c in corners)
                Add(boxes, (int)elements[i], frame.Point(low + (points[c] * step)));
        }

        return vertices;
    }

    private static (Vec3[] Points, uint[] Corners) ReadMesh(BinaryReader r, uint vertices, uint indices)
    {
        var points = Enumerable
            .Range(0, (int)vertices)
            .Select(_ => new Vec3(r.ReadUInt16(), r.ReadUInt16(), r.ReadUInt16()))
            .ToArray();
        if (vertices % 2 == 1)
            r.ReadUInt16();
        return (points, [.. Enumerable.Range(0, (int)indices).Select(_ => r.ReadUInt32())]);
    }

    private static Vec3 Single(BinaryReader r) => new(r.ReadSingle(), r.ReadSingle(), r.ReadSingle());

    private static void Add(Dictionary<int, Box> boxes, int element, Vec3 p) =>
        boxes[element] = boxes.GetValueOrDefault(element, Box.Empty).Add(p);
}
