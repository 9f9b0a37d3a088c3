using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Triangles as OBJ and STL, element after element.</summary>
/// <remarks>OBJ and STL as text name each element by its GlobalId. A binary STL names nothing: its triangles come in the order of the
/// elements.</remarks>
internal static class TriangleFile
{
    private const int StlHead = 80,
        StlTriangle = 50;

    /// <summary>Writes elements.</summary>
    /// <param name="form">OBJ or STL.</param>
    /// <param name="elements">Each with its GlobalId and its triangles in the unit of the file.</param>
    /// <param name="target">Gets the bytes.</param>
    public static void Write(TriangleKind form, IReadOnlyList<(string Id, Mesh Mesh)> elements, Stream target)
    {
        if (form == TriangleKind.Stl)
        {
            WriteBinary(elements, target);
            return;
        }

        using var text = new StreamWriter(target, new UTF8Encoding(false), 1 << 16, true) { NewLine = "\n" };
        int first = 1;
        foreach (var (id, mesh) in elements)
        {
            if (form == TriangleKind.Obj)
                WriteObject(text, id, mesh, ref first);
            else
                WriteSolid(text, id, mesh);
        }
    }

    /// <summary>Reads what <see cref="Write"/> wrote.</summary>
    /// <param name="form">OBJ or STL.</param>
    /// <param name="bytes">The file.</param>
    /// <param name="counts">How many triangles each element has, where the file does not say whose they are.</param>
    /// <returns>Each element's name, empty where the file has none, and its triangles.</returns>
    public static IReadOnlyList<(string Id, Mesh Mesh)> Read(
        TriangleKind form,
        ReadOnlyMemory<byte> bytes,
        IReadOnlyList<int> counts
    ) =>
        form == TriangleKind.Stl ? ReadBinary(bytes.Span, counts) : ReadText(form, Encoding.UTF8.GetString(bytes.Span));

    private static void WriteObject(StreamWriter text, string id, Mesh mesh, ref int first)
    {
        text.WriteLine($"o {id}");
        foreach (var p in mesh.Points)
            text.WriteLine(string.Create(CultureInfo.InvariantCulture, $"v {p.X:R} {p.Y:R} {p.Z:R}"));
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
            text.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"f {mesh.Triangles[i] + first} {mesh.Triangles[i + 1] + first} {mesh.Triangles[i + 2] + first}"
                )
            );
        first += mesh.Points.Length;
    }

    private static void WriteSolid(StreamWriter text, string id, Mesh mesh)
    {
        text.WriteLine($"solid {id}");
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
        {
            Vec3 a = mesh.Points[mesh.Triangles[i]],
                b = mesh.Points[mesh.Triangles[i + 1]],
                c = mesh.Points[mesh.Triangles[i + 2]];
            text.WriteLine($"facet normal {Text(Normal(a, b, c))}\nouter loop");
            foreach (var p in (Vec3[])[a, b, c])
                text.WriteLine($"vertex {Text(p)}");
            text.WriteLine("endloop\nendfacet");
        }

        text.WriteLine($"endsolid {id}");
    }

    private static string Text(Vec3 p) => string.Create(CultureInfo.InvariantCulture, $"{p.X:R} {p.Y:R} {p.Z:R}");

    private static Vec3 Normal(Vec3 a, Vec3 b, Vec3 c)
    {
        var cross = (b - a).Cross(c - a);
        return cross.Length > 0 ? cross * (1 / cross.Length) : Vec3.Zero;
    }

    private static void WriteBinary(IReadOnlyList<(string Id, Mesh Mesh)> elements, Stream target)
    {
        var head = new byte[StlHead + 4];
        // A head that begins with "solid" would be taken for text.
        Encoding.ASCII.GetBytes("Steady Lintel, binary STL").CopyTo(head, 0);
        BinaryPrimitives.WriteUInt32LittleEndian(
            head.AsSpan(StlHead),
            (uint)elements.Sum(e => (long)e.Mesh.TriangleCount)
        );
        target.Write(head);
        var record = new byte[StlTriangle];
        foreach (var (_, mesh) in elements)
        {
            for (int i = 0; i < mesh.Triangles.Length; i += 3)
            {
                Vec3 a = mesh.Points[mesh.Triangles[i]],
                    b = mesh.Points[mesh.Triangles[i + 1]],
                    c = mesh.Points[mesh.Triangles[i + 2]];
                int at = 0;
                foreach (var v in (Vec3[])[Normal(a, b, c), a, b, c])
                foreach (double d in (double[])[v.X, v.Y, v.Z])
                {
                    BinaryPrimitives.WriteSingleLittleEndian(record.AsSpan(at), (float)d);
                    at += 4;
                }

                target.Write(record);
            }
        }
    }

    private static List<(string, Mesh)> ReadBinary(ReadOnlySpan<byte> bytes, IReadOnlyList<int> counts)
    {
        var found = new List<(string, Mesh)>();
        uint all = BinaryPrimitives.ReadUInt32LittleEndian(bytes[StlHead..]);
        int at = StlHead + 4;
        if (bytes.Length != at + (all * StlTriangle) || all != counts.Sum(c => (long)c))
            return found;
        foreach (int count in counts)
        {
            var points = new Vec3[count * 3];
            for (int t = 0; t < count; t++, at += StlTriangle)
            for (int v = 0; v < 3; v++)
            {
                double Coordinate(ReadOnlySpan<byte> b, int k) =>
                    BinaryPrimitives.ReadSingleLittleEndian(b[(at + 12 + (12 * v) + (4 * k))..]);
                points[(3 * t) + v] = new Vec3(Coordinate(bytes, 0), Coordinate(bytes, 1), Coordinate(bytes, 2));
            }

            found.Add(("", new Mesh(points, [.. Enumerable.Range(0, points.Length)])));
        }

        return found;
    }

    private static List<(string, Mesh)> ReadText(TriangleKind form, string text)
    {
        var found = new List<(string, Mesh)>();
        string id = "";
        List<Vec3> points = [];
        List<int> triangles = [];
        int first = 1;
        bool any = false;
        void End()
        {
            if (any)
                found.Add((id, new Mesh([.. points], [.. triangles])));
            first += form == TriangleKind.Obj ? points.Count : 0;
            (points, triangles) = ([], []);
        }

        foreach (string line in text.Split('\n'))
        {
            string[] words = line.Split(' ');
            switch (words[0])
            {
                case "o" or "solid":
                    End();
                    (id, any) = (words.ElementAtOrDefault(1) ?? "", true);
                    break;
                case "v" or "vertex":
                    points.Add(new Vec3(Number(words[1]), Number(words[2]), Number(words[3])));
                    if (words[0] == "vertex")
                        triangles.Add(points.Count - 1);
                    break;
                case "f":
                    triangles.AddRange(words.Skip(1).Select(w => int.Parse(w, CultureInfo.InvariantCulture) - first));
                    break;
            }
        }

        End();
        return found;
    }

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);
}
