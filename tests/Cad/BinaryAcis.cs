using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Tests;

/// <summary>ACIS data in their binary form, value by value, as the tests write them: independent of the product's writer.</summary>
internal sealed class BinaryAcis
{
    private readonly MemoryStream _bytes = new();
    private readonly bool _wide;

    /// <param name="signature">What the data begin with; that ending in 8 has numbers of 64 bits.</param>
    /// <param name="version">The version times a hundred.</param>
    public BinaryAcis(string signature = "ACIS BinaryFile", int version = 21800)
    {
        _wide = signature.EndsWith('8');
        _bytes.Write(Encoding.ASCII.GetBytes(signature));
        foreach (int number in (int[])[version, 0, 1, 0])
            Raw(number);
        foreach (string text in (string[])["a", "b", "c"])
            Text(7, text);
        foreach (double number in (double[])[1, 1e-6, 1e-10])
            Number(number);
    }

    public byte[] Bytes(string maker = "ASM")
    {
        foreach (var (tag, text) in new[] { (14, "End"), (14, "of"), (14, maker), (13, "data") })
            Text(tag, text);
        return _bytes.ToArray();
    }

    /// <summary>A record: links are whole numbers, doubles, texts and marks what they are.</summary>
    public BinaryAcis Record(string kind, params object[] values)
    {
        string[] parts = kind.Split('-');
        for (int i = 0; i < parts.Length; i++)
            Text(i + 1 < parts.Length ? 14 : 13, parts[i]);
        Link(-1);
        Tag(4);
        Raw(-1);
        foreach (object value in values)
        {
            if (value is int link)
                Link(link);
            else if (value is double number)
                Number(number);
            else if (value is bool mark)
                Tag(mark ? 10 : 11);
            else if (value is string text)
                Long(text);
            else if (value is double[] three)
            {
                Tag(19);
                foreach (double d in three)
                    Raw(d);
            }
        }

        Tag(17);
        return this;
    }

    /// <summary>A tetrahedron with corners at the origin and one unit along each axis; its edges may run against their curves.</summary>
    /// <param name="edgesReversed">What edges say of their curves.</param>
    /// <param name="transform">The numbers of a transform, or none.</param>
    public BinaryAcis Tetrahedron(bool edgesReversed = false, string? transform = null)
    {
        int[][] faces =
        [
            [0, 2, 1],
            [0, 1, 3],
            [1, 2, 3],
            [0, 3, 2],
        ];
        var edges = new List<(int From, int To)>();
        // body 0, face and plane 1 + 2f, loops 9 + f, coedges 13 + 3f + k, edges and curves 25 + 2e, vertices and points 37 + 2v, transform
        // 45.
        Record("body", -1, -1, -1, transform is null ? -1 : 45);
        for (int f = 0; f < 4; f++)
        {
            Record("face", -1, f < 3 ? 3 + (2 * f) : -1, 9 + f, -1, -1, 2 + (2 * f), false, false);
            Record(
                "plane-surface",
                -1,
                (double[])[0, 0, 0],
                (double[])[0, 0, 1],
                (double[])[1, 0, 0],
                false,
                false,
                false,
                false,
                false
            );
        }

        for (int f = 0; f < 4; f++)
            Record("loop", -1, -1, 13 + (3 * f), 1 + (2 * f));
        for (int f = 0; f < 4; f++)
        for (int k = 0; k < 3; k++)
        {
            int from = faces[f][k],
                to = faces[f][(k + 1) % 3],
                edge = edges.IndexOf((to, from));
            bool along = edge < 0;
            if (along)
            {
                edge = edges.Count;
                edges.Add((from, to));
            }

            Record(
                "coedge",
                -1,
                13 + (3 * f) + ((k + 1) % 3),
                13 + (3 * f) + ((k + 2) % 3),
                -1,
                25 + (2 * edge),
                !along,
                9 + f,
                -1
            );
        }

        foreach (var (from, to) in edges)
        {
            Record(
                "edge",
                -1,
                37 + (2 * from),
                0.0,
                37 + (2 * to),
                1.0,
                -1,
                26 + (2 * edges.IndexOf((from, to))),
                edgesReversed
            );
            Record("straight-curve", -1, (double[])[0, 0, 0], (double[])[1, 0, 0], false, false);
        }

        foreach (
            double[] corner in (double[][])
                [
                    [0, 0, 0],
                    [1, 0, 0],
                    [0, 1, 0],
                    [0, 0, 1],
                ]
        )
        {
            Record(
                "vertex",
                -1,
                -1,
                38 + (2 * Array.IndexOf([0.0, 1, 2, 4], corner[0] + (2 * corner[1]) + (4 * corner[2])))
            );
            Record("point", -1, corner);
        }

        return transform is null ? this : Record("transform", transform);
    }

    private void Link(int value)
    {
        Tag(12);
        Raw(value);
    }

    private void Number(double value)
    {
        Tag(6);
        Raw(value);
    }

    private void Text(int tag, string text)
    {
        Tag(tag);
        Tag(text.Length);
        _bytes.Write(Encoding.ASCII.GetBytes(text));
    }

    private void Long(string text)
    {
        Tag(18);
        byte[] length = new byte[4];
        BinaryPrimitives.WriteInt32LittleEndian(length, text.Length);
        _bytes.Write(length);
        _bytes.Write(Encoding.ASCII.GetBytes(text));
    }

    private void Tag(int value) => _bytes.WriteByte((byte)value);

    private void Raw(int value)
    {
        byte[] bytes = new byte[_wide ? 8 : 4];
        if (_wide)
            BinaryPrimitives.WriteInt64LittleEndian(bytes, value);
        else
            BinaryPrimitives.WriteInt32LittleEndian(bytes, value);
        _bytes.Write(bytes);
    }

    private void Raw(double value)
    {
        byte[] bytes = new byte[8];
        BinaryPrimitives.WriteDoubleLittleEndian(bytes, value);
        _bytes.Write(bytes);
    }
}
