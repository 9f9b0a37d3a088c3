using System.IO.Compression;
using System.Security.Cryptography;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Gathers shapes into chunks for drawing: by storey, class and a square of the plan; repeated meshes once.</summary>
/// <remarks>
/// Content, little-endian: origin (3 × float64, metres), step (float32, metres a unit), number of vertices and indices of the merged mesh,
/// number of
/// element runs, number of repeated meshes (4 × uint32). Then runs: element number, first index, index count, colour RGBA (4 × uint32);
/// positions: 3 × uint16 a vertex,
/// padded to 4 bytes; indices: uint32. Then each repeated mesh: vertices, indices, instances (3 × uint32), origin (3 × float32), step
/// (float32), positions, indices as before, and of its instances first all element numbers, then all colours (uint32), then all first
/// numbers of their frames, all second ones, to the twelfth (float32: X, Y, Z, origin relative to the chunk's). Where the bit
/// <see cref="ByNumber"/> is missing, the numbers of each instance follow each other instead, as chunks were made before.
/// Last the edges between faces, as pairs of vertices: their number (uint32) and their vertices (uint32), of the merged mesh and then of
/// each repeated one. Chunks that were made before end without them.
/// </remarks>
public sealed class ChunkBuilder
{
    /// <summary>The edge of a square, metres: 65 535 steps of 1 mm reach across one.</summary>
    public const double Square = 64;

    /// <summary>The bit of the number of repeated meshes that says that their places are kept number by number.</summary>
    public const uint ByNumber = 1u << 31;

    /// <summary>A mesh that occurs at least so often in a chunk is kept once.</summary>
    public const int MinRepeats = 4;

    private readonly SortedDictionary<(int Storey, string Class, int X, int Y), List<Piece>> _cells = [];

    /// <summary>Adds an element's shape.</summary>
    public void Add(ModelElement element, Shape? shape)
    {
        if (shape is null || shape.Parts.Count == 0)
            return;
        var at = shape.World.Compose(shape.Parts[0].Frame).Point(shape.Parts[0].Mesh.Points.FirstOrDefault());
        var key = (element.Storey, element.Class, Cell(at.X), Cell(at.Y));
        if (!_cells.TryGetValue(key, out var pieces))
            _cells[key] = pieces = [];
        foreach (var part in shape.Parts.SelectMany(p => p.ByColour()))
        {
            var seen = MeshFacts.Of(part.Mesh).Seen;
            if (seen.TriangleCount > 0)
                pieces.Add(new Piece(element.Number, seen, part.Colour, shape.World.Compose(part.Frame)));
        }
    }

    /// <summary>Makes the chunks, in a stable order.</summary>
    /// <param name="cancel">Stops between chunks.</param>
    public IReadOnlyList<GeometryChunk> Build(CancellationToken cancel = default) =>
        [
            .. _cells
                .Where(c => c.Value.Count > 0)
                .AsParallel()
                .AsOrdered()
                .WithCancellation(cancel)
                .Select(c => Build(c.Key.Storey, c.Key.Class, c.Value)),
        ];

    private static int Cell(double metres) => (int)Math.Clamp(Math.Floor(metres / Square), -1e6, 1e6);

    private static GeometryChunk Build(int storey, string name, List<Piece> pieces)
    {
        var repeated = pieces
            .GroupBy(p => MeshFacts.Of(p.Mesh).Content)
            .Where(g => g.Count() >= MinRepeats)
            .ToDictionary(g => g.Key, g => g.ToList());
        var single = pieces
            .Where(p => !repeated.ContainsKey(MeshFacts.Of(p.Mesh).Content))
            .Select(p => (Piece: p, Mesh: p.Mesh.Map(p.World)))
            .ToList();
        var box = Box.Of(single.SelectMany(s => s.Mesh.Points));
        if (box.IsEmpty)
            box = new Box(pieces[0].World.Origin, pieces[0].World.Origin);
        using var content = new MemoryStream();
        using var writer = new BinaryWriter(content);
        float step = Step(box);
        Write(writer, box.Min);
        writer.Write(step);
        writer.Write((uint)single.Sum(s => s.Mesh.Points.Length));
        writer.Write((uint)single.Sum(s => s.Mesh.Triangles.Length));
        writer.Write((uint)single.Count);
        writer.Write((uint)repeated.Count | ByNumber);
        uint first = 0;
        foreach (var (piece, mesh) in single)
        {
            writer.Write((uint)piece.Element);
            writer.Write(first);
            writer.Write((uint)mesh.Triangles.Length);
            writer.Write(Rgba(piece.Colour));
            first += (uint)mesh.Triangles.Length;
        }

        WriteMeshes(writer, [.. single.Select(s => s.Mesh)], box.Min, step);
        foreach (var group in repeated.Values)
            WriteRepeated(writer, group, box.Min);
        WriteEdges(writer, [.. single.Select(s => s.Piece.Mesh)]);
        foreach (var group in repeated.Values)
            WriteEdges(writer, [group[0].Mesh]);
        writer.Flush();
        var packed = Pack(content);
        return new GeometryChunk(
            storey,
            name,
            Convert.ToHexStringLower(SHA256.HashData(packed)),
            pieces.Sum(p => p.Mesh.TriangleCount),
            packed
        );
    }

    private static void WriteRepeated(BinaryWriter writer, List<Piece> pieces, Vec3 origin)
    {
        var mesh = pieces[0].Mesh;
        var box = mesh.Bounds();
        float step = Step(box);
        writer.Write((uint)mesh.Points.Length);
        writer.Write((uint)mesh.Triangles.Length);
        writer.Write((uint)pieces.Count);
        WriteSingle(writer, box.Min);
        writer.Write(step);
        WriteMeshes(writer, [mesh], box.Min, step);
        // Number by number and not place by place: what is alike follows each other.
        foreach (var piece in pieces)
            writer.Write((uint)piece.Element);
        foreach (var piece in pieces)
            writer.Write(Rgba(piece.Colour));
        for (int k = 0; k < 12; k++)
            foreach (var piece in pieces)
                writer.Write((float)Number(piece.World, origin, k));
    }

    private static double Number(Frame world, Vec3 origin, int k)
    {
        var axis = (k / 3) switch
        {
            0 => world.X,
            1 => world.Y,
            2 => world.Z,
            _ => world.Origin - origin,
        };
        return (k % 3) switch
        {
            0 => axis.X,
            1 => axis.Y,
            _ => axis.Z,
        };
    }

    private static void WriteMeshes(BinaryWriter writer, List<Mesh> meshes, Vec3 origin, float step)
    {
        int vertices = 0;
        foreach (var p in meshes.SelectMany(m => m.Points))
        {
            writer.Write(Quantise(p.X - origin.X, step));
            writer.Write(Quantise(p.Y - origin.Y, step));
            writer.Write(Quantise(p.Z - origin.Z, step));
            vertices++;
        }

        if (vertices % 2 == 1)
            writer.Write((ushort)0);
        int offset = 0;
        foreach (var mesh in meshes)
        {
            foreach (int corner in mesh.Triangles)
                writer.Write((uint)(corner + offset));
            offset += mesh.Points.Length;
        }
    }

    private static void WriteEdges(BinaryWriter writer, List<Mesh> meshes)
    {
        var corners = new List<int>();
        int offset = 0;
        foreach (var mesh in meshes)
        {
            foreach (int corner in MeshFacts.Of(mesh).Edges)
                corners.Add(corner + offset);
            offset += mesh.Points.Length;
        }

        writer.Write((uint)corners.Count);
        foreach (int corner in corners)
            writer.Write((uint)corner);
    }

    private static float Step(Box box) =>
        (float)Math.Max(1e-6, Math.Max(box.Size.X, Math.Max(box.Size.Y, box.Size.Z)) / 65_500);

    private static ushort Quantise(double metres, float step) =>
        (ushort)Math.Clamp(Math.Round(metres / step), 0, 65_535);

    private static uint Rgba(Colour c) => c.R | ((uint)c.G << 8) | ((uint)c.B << 16) | ((uint)c.A << 24);

    private static void Write(BinaryWriter writer, Vec3 p)
    {
        writer.Write(p.X);
        writer.Write(p.Y);
        writer.Write(p.Z);
    }

    private static void WriteSingle(BinaryWriter writer, Vec3 p)
    {
        writer.Write((float)p.X);
        writer.Write((float)p.Y);
        writer.Write((float)p.Z);
    }

    private static byte[] Pack(MemoryStream content)
    {
        using var packed = new MemoryStream();
        using (var brotli = new BrotliStream(packed, CompressionLevel.Fastest))
            content.WriteTo(brotli);
        return packed.ToArray();
    }

    private readonly record struct Piece(int Element, Mesh Mesh, Colour Colour, Frame World);
}
