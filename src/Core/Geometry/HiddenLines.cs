using NetTopologySuite.Geometries;
using NetTopologySuite.Index.Strtree;

namespace SteadyLintel.Geometry;

/// <summary>Divides edges into what a viewer sees and what faces hide. The viewer looks down along −Z from infinitely far.</summary>
/// <remarks>
/// An edge lies on its own faces, and faces often meet exactly above it. Each edge is therefore tried twice, a tenth of a millimetre to its
/// left and to its right, and is hidden only where both are. So the outline of a roof does not hide the floor's outline right below it,
/// while the line in which two triangles of the roof meet does hide what is below.
/// </remarks>
public sealed class HiddenLines
{
    // Beside the edge, above it, and the shortest piece worth a line; metres.
    private const double Beside = 1e-4,
        Above = 1e-3,
        Shortest = 1e-3;
    private readonly STRtree<int> _index = new();
    private readonly List<(Vec3 A, Vec3 B, Vec3 C)> _faces = [];

    /// <summary>Adds faces that hide what is below them. All have to be added before the first edge is divided.</summary>
    /// <param name="mesh">Triangles in metres, in the viewer's frame.</param>
    /// <param name="top">Faces, or parts of them, above this height hide nothing.</param>
    public void Add(Mesh mesh, double top = double.PositiveInfinity)
    {
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
            AddFace(
                mesh.Points[mesh.Triangles[i]],
                mesh.Points[mesh.Triangles[i + 1]],
                mesh.Points[mesh.Triangles[i + 2]],
                top
            );
    }

    /// <summary>The pieces of an edge, in its direction.</summary>
    /// <param name="a">Its start, metres.</param>
    /// <param name="b">Its end.</param>
    /// <returns>Where each begins and ends, from 0 to 1, and whether it is hidden.</returns>
    public IReadOnlyList<(double From, double To, bool Hidden)> Divide(Vec3 a, Vec3 b)
    {
        double length = (b.XY - a.XY).Length;
        if (length < Shortest || _faces.Count == 0)
            return [(0, 1, false)];
        var side = new Vec2(-(b.Y - a.Y), b.X - a.X) * (Beside / length);
        var near = new Envelope(new Coordinate(a.X, a.Y), new Coordinate(b.X, b.Y));
        near.ExpandBy(2 * Beside);
        var (left, right) = (new List<(double From, double To)>(), new List<(double From, double To)>());
        foreach (int face in _index.Query(near))
        {
            WorkBudget.Spend(1);
            if (Covered(_faces[face], a, b, side) is { } l)
                left.Add(l);
            if (Covered(_faces[face], a, b, side * -1) is { } r)
                right.Add(r);
        }

        return Pieces(Both(Joined(left, Shortest / length), Joined(right, Shortest / length)), Shortest / length);
    }

    private void AddFace(Vec3 a, Vec3 b, Vec3 c, double top)
    {
        double low = Math.Min(a.Z, Math.Min(b.Z, c.Z)),
            high = Math.Max(a.Z, Math.Max(b.Z, c.Z));
        if (low >= top)
            return;
        if (high > top)
        {
            // What is left below the height has three or four corners.
            List<Vec3> kept = [];
            foreach (var (p, q) in new[] { (a, b), (b, c), (c, a) })
            {
                if (p.Z <= top)
                    kept.Add(p);
                if ((p.Z <= top) != (q.Z <= top))
                    kept.Add(p + ((q - p) * ((top - p.Z) / (q.Z - p.Z))));
            }

            for (int k = 2; k < kept.Count; k++)
                AddFace(
                    kept[0],
                    kept[k - 1] with
                    {
                        Z = Math.Min(kept[k - 1].Z, top),
                    },
                    kept[k] with
                    {
                        Z = Math.Min(kept[k].Z, top),
                    },
                    double.PositiveInfinity
                );
            return;
        }

        double twice = (b.XY - a.XY).Cross(c.XY - a.XY);
        // A face seen edge on hides nothing.
        if (Math.Abs(twice) < 1e-9)
            return;
        var face = twice > 0 ? (a, b, c) : (a, c, b);
        var box = new Envelope(new Coordinate(a.X, a.Y), new Coordinate(b.X, b.Y));
        box.ExpandToInclude(c.X, c.Y);
        _index.Insert(box, _faces.Count);
        _faces.Add(face);
    }

    // Where along the edge, moved aside, the face lies above it.
    private static (double From, double To)? Covered((Vec3 A, Vec3 B, Vec3 C) face, Vec3 a, Vec3 b, Vec2 aside)
    {
        double from = 0,
            to = 1;
        Vec2 p = a.XY + aside,
            d = b.XY - a.XY;
        foreach (var (s, e) in new[] { (face.A.XY, face.B.XY), (face.B.XY, face.C.XY), (face.C.XY, face.A.XY) })
            if (!Clip((e - s).Cross(p - s), (e - s).Cross(d), ref from, ref to))
                return null;
        var normal = (face.B - face.A).Cross(face.C - face.A);
        double Height(Vec2 at) =>
            face.A.Z - (((normal.X * (at.X - face.A.X)) + (normal.Y * (at.Y - face.A.Y))) / normal.Z);
        double start = Height(p) - a.Z - Above,
            end = Height(p + d) - b.Z - Above;
        return Clip(start, end - start, ref from, ref to) ? (from, to) : null;
    }

    // Keeps of a range what has value + t · slope ≥ 0.
    private static bool Clip(double value, double slope, ref double from, ref double to)
    {
        if (slope == 0)
            return value >= 0;
        double at = -value / slope;
        if (slope > 0)
            from = Math.Max(from, at);
        else
            to = Math.Min(to, at);
        return from < to;
    }

    private static List<(double From, double To)> Joined(List<(double From, double To)> ranges, double gap)
    {
        ranges.Sort();
        var joined = new List<(double From, double To)>();
        foreach (var range in ranges)
        {
            if (joined.Count > 0 && range.From <= joined[^1].To + gap)
                joined[^1] = (joined[^1].From, Math.Max(joined[^1].To, range.To));
            else
                joined.Add(range);
        }

        return joined;
    }

    private static List<(double From, double To)> Both(
        List<(double From, double To)> left,
        List<(double From, double To)> right
    )
    {
        var both = new List<(double From, double To)>();
        for (int l = 0, r = 0; l < left.Count && r < right.Count; )
        {
            double from = Math.Max(left[l].From, right[r].From),
                to = Math.Min(left[l].To, right[r].To);
            if (from < to)
                both.Add((from, to));
            if (left[l].To < right[r].To)
                l++;
            else
                r++;
        }

        return both;
    }

    private static List<(double From, double To, bool Hidden)> Pieces(
        List<(double From, double To)> hidden,
        double shortest
    )
    {
        var pieces = new List<(double From, double To, bool Hidden)>();
        double at = 0;
        foreach (var (from, to) in hidden)
        {
            if (to - from < shortest)
                continue;
            // Neither too short a piece before it nor one behind the last is worth a line.
            if (from - at >= shortest)
                pieces.Add((at, from, false));
            double start = from - at >= shortest ? from : at,
                end = 1 - to >= shortest ? to : 1;
            if (pieces is [.., { Hidden: true } last])
                pieces[^1] = (last.From, end, true);
            else
                pieces.Add((start, end, true));
            at = end;
        }

        if (at < 1)
            pieces.Add((at, 1, false));
        return pieces;
    }
}
