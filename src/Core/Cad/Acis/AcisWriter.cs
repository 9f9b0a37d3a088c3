using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Writes a body of plane faces as ACIS data, the form 3DSOLID has in DXF and DWG: text up to 2010, binary from 2013 on.</summary>
/// <remarks>
/// The published save-file format as other open readers know it: body → lump → shell → face → loop → coedge → edge → vertex → point, with
/// plane surfaces and straight curves; records name one another by number.
/// tests/Outside has a reader nobody here wrote take the bodies back.
/// </remarks>
public sealed class AcisWriter
{
    private readonly AcisOutput _out;
    private readonly Polyhedron _body;
    private readonly Vec3[] _points;

    private AcisWriter(Polyhedron body, double scale, AcisOutput output)
    {
        if (body.Problem() is { } problem)
            throw new ArgumentException(problem, nameof(body));
        (_body, _points, _out) = (body, [.. body.Points.Select(p => p * scale)], output);
        Records();
    }

    /// <summary>The text of a body, version 7.0.</summary>
    /// <param name="body">The body.</param>
    /// <param name="scale">Drawing units in one unit of the body's points.</param>
    /// <exception cref="ArgumentException">The topology of the body does not hold.</exception>
    public static string Text(Polyhedron body, double scale = 1)
    {
        var output = new SatOutput();
        _ = new AcisWriter(body, scale, output);
        return output.Text();
    }

    /// <summary>The binary form of a body, version 218.</summary>
    /// <param name="body">The body.</param>
    /// <param name="scale">Drawing units in one unit of the body's points.</param>
    /// <exception cref="ArgumentException">The topology of the body does not hold.</exception>
    public static byte[] Binary(Polyhedron body, double scale = 1)
    {
        var output = new SabOutput();
        _ = new AcisWriter(body, scale, output);
        return output.Bytes();
    }

    // Records refer to one another forwards, so numbers are given first: body, then lumps, shells, faces, loops, coedges, edges, vertices,
    // points.
    private void Records()
    {
        int next = _out.First + 1;
        var lumps = Lumps();
        int[] lump = Numbers(lumps.Count, 1),
            shell = Numbers(_body.Shells.Count, 1),
            face = Numbers(_body.Faces.Count, 2);
        var loops = _body.Faces.SelectMany((f, n) => f.Loops.Select((l, k) => (Face: n, Ring: k, Corners: l))).ToList();
        int[] loop = Numbers(loops.Count, 1),
            coedge = Numbers(loops.Sum(l => l.Corners.Length), 1);
        var (edges, use) = Edges(loops.Select(l => l.Corners));
        int[] edge = Numbers(edges.Count, 2),
            vertex = Numbers(_points.Length, 2);

        Record("body", lump[0], -1, -1);
        for (int l = 0; l < lumps.Count; l++)
            Record("lump", Following(lump, l), shell[lumps[l][0]], _out.First);
        Shells(lumps, lump, shell, face);
        Faces(shell, face, loops, loop);
        Loops(face, loops, loop, coedge);
        Coedges(loops.Select(l => l.Corners), loop, coedge, edge, use);
        for (int e = 0; e < edges.Count; e++)
            Edge(edges[e], vertex, coedge, edge[e]);
        int[] edgeOf = new int[_points.Length];
        for (int e = edges.Count - 1; e >= 0; e--)
            (edgeOf[edges[e].From], edgeOf[edges[e].To]) = (edge[e], edge[e]);
        for (int v = 0; v < _points.Length; v++)
            Vertex(edgeOf[v], vertex[v], _points[v]);

        int[] Numbers(int count, int step)
        {
            int[] numbers = [.. Enumerable.Range(0, count).Select(i => next + (i * step))];
            next += count * step;
            return numbers;
        }
    }

    private void Record(string kind, params ReadOnlySpan<int> links)
    {
        Begin(kind, links);
        _out.End();
    }

    private void Begin(string kind, params ReadOnlySpan<int> links)
    {
        _out.Begin(kind);
        foreach (int link in links)
            _out.Link(link);
    }

    // A shell that turns inward is a void of the lump around it; every other one is a lump of its own.
    private List<List<int>> Lumps()
    {
        var volumes = _body.Shells.Select(Volume).ToList();
        var boxes = _body
            .Shells.Select(s => Box.Of(s.SelectMany(f => _body.Faces[f].Loops[0]).Select(p => _points[p])))
            .ToList();
        var lumps = Enumerable
            .Range(0, volumes.Count)
            .Where(s => volumes[s] >= 0)
            .Select(s => new List<int> { s })
            .ToList();
        if (lumps.Count == 0)
            return
            [
                [.. Enumerable.Range(0, volumes.Count)],
            ];
        foreach (int s in Enumerable.Range(0, volumes.Count).Where(s => volumes[s] < 0))
            (lumps.Where(l => Holds(boxes[l[0]], boxes[s])).MinBy(l => boxes[l[0]].Size.Length) ?? lumps[0]).Add(s);
        return lumps;
    }

    private static bool Holds(Box outer, Box inner) =>
        outer.Min.X <= inner.Min.X
        && outer.Min.Y <= inner.Min.Y
        && outer.Min.Z <= inner.Min.Z
        && outer.Max.X >= inner.Max.X
        && outer.Max.Y >= inner.Max.Y
        && outer.Max.Z >= inner.Max.Z;

    private double Volume(int[] shell)
    {
        double sum = 0;
        var origin = _points[_body.Faces[shell[0]].Loops[0][0]];
        foreach (var loop in shell.SelectMany(f => _body.Faces[f].Loops))
            for (int i = 1; i + 1 < loop.Length; i++)
                sum += (_points[loop[0]] - origin).Dot(
                    (_points[loop[i]] - origin).Cross(_points[loop[i + 1]] - origin)
                );
        return sum;
    }

    private void Shells(List<List<int>> lumps, int[] lump, int[] shell, int[] face)
    {
        var places = new (int Next, int Lump)[shell.Length];
        for (int l = 0; l < lumps.Count; l++)
        for (int k = 0; k < lumps[l].Count; k++)
            places[lumps[l][k]] = (k + 1 < lumps[l].Count ? shell[lumps[l][k + 1]] : -1, lump[l]);
        for (int s = 0; s < shell.Length; s++)
            Record("shell", places[s].Next, -1, face[_body.Shells[s][0]], -1, places[s].Lump);
    }

    private void Faces(int[] shell, int[] face, List<(int Face, int Ring, int[] Corners)> loops, int[] loop)
    {
        var first = loops.Select((l, n) => (l, n)).Where(p => p.l.Ring == 0).Select(p => loop[p.n]).ToArray();
        var places = new (int Next, int Shell)[face.Length];
        for (int s = 0; s < shell.Length; s++)
        for (int k = 0; k < _body.Shells[s].Length; k++)
            places[_body.Shells[s][k]] = (k + 1 < _body.Shells[s].Length ? face[_body.Shells[s][k + 1]] : -1, shell[s]);
        for (int f = 0; f < face.Length; f++)
        {
            Begin("face", places[f].Next, first[f], places[f].Shell, -1, face[f] + 1);
            _out.Either(false, "reversed", "forward");
            _out.Either(false, "double", "single");
            _out.End();
            Plane(_body.Faces[f].Loops[0]);
        }
    }

    private void Plane(int[] loop)
    {
        var sum = Vec3.Zero;
        for (int i = 1; i + 1 < loop.Length; i++)
            sum += (_points[loop[i]] - _points[loop[0]]).Cross(_points[loop[i + 1]] - _points[loop[0]]);
        Begin("plane-surface");
        _out.Position(_points[loop[0]]);
        _out.Direction(sum.Unit());
        _out.Direction((_points[loop[1]] - _points[loop[0]]).Unit());
        _out.Either(false, "reverse_v", "forward_v");
        Unbounded(4);
        _out.End();
    }

    private void Unbounded(int count)
    {
        for (int i = 0; i < count; i++)
            _out.Either(false, "F", "I");
    }

    private void Loops(int[] face, List<(int Face, int Ring, int[] Corners)> loops, int[] loop, int[] coedge)
    {
        int at = 0;
        for (int n = 0; n < loops.Count; n++)
        {
            bool more = n + 1 < loops.Count && loops[n + 1].Face == loops[n].Face;
            Record("loop", more ? loop[n + 1] : -1, coedge[at], face[loops[n].Face]);
            at += loops[n].Corners.Length;
        }
    }

    // The edges, and for each coedge its edge, its partner and whether it runs along.
    private static (List<(int From, int To, int First)> Edges, List<(int Edge, int Partner, bool Along)> Use) Edges(
        IEnumerable<int[]> loops
    )
    {
        var edges = new List<(int, int, int)>();
        var use = new List<(int Edge, int Partner, bool Along)>();
        var open = new Dictionary<(int, int), int>();
        foreach (var loop in loops)
            for (int i = 0; i < loop.Length; i++)
            {
                int from = loop[i],
                    to = loop[(i + 1) % loop.Length],
                    own = use.Count;
                if (open.Remove((to, from), out int partner))
                {
                    use.Add((use[partner].Edge, partner, false));
                    use[partner] = use[partner] with { Partner = own };
                }
                else
                {
                    open[(from, to)] = own;
                    use.Add((edges.Count, -1, true));
                    edges.Add((from, to, own));
                }
            }

        return (edges, use);
    }

    private void Coedges(
        IEnumerable<int[]> loops,
        int[] loop,
        int[] coedge,
        int[] edge,
        List<(int Edge, int Partner, bool Along)> use
    )
    {
        int start = 0,
            n = 0;
        foreach (var corners in loops)
        {
            for (int i = 0; i < corners.Length; i++)
            {
                int next = start + ((i + 1) % corners.Length),
                    before = start + ((i + corners.Length - 1) % corners.Length);
                var own = use[start + i];
                Begin("coedge", coedge[next], coedge[before], coedge[own.Partner], edge[own.Edge]);
                _out.Either(!own.Along, "reversed", "forward");
                _out.Link(loop[n]);
                _out.OnlyBinary(0);
                _out.Link(-1);
                _out.End();
            }

            start += corners.Length;
            n++;
        }
    }

    private void Edge((int From, int To, int First) edge, int[] vertex, int[] coedge, int own)
    {
        var along = _points[edge.To] - _points[edge.From];
        Begin("edge", vertex[edge.From]);
        _out.Number(0);
        _out.Link(vertex[edge.To]);
        _out.Number(along.Length);
        _out.Link(coedge[edge.First]);
        _out.Link(own + 1);
        _out.Either(false, "reversed", "forward");
        _out.Word("unknown");
        _out.End();
        Begin("straight-curve");
        _out.Position(_points[edge.From]);
        _out.Direction(along.Unit());
        Unbounded(2);
        _out.End();
    }

    private void Vertex(int edge, int own, Vec3 place)
    {
        Begin("vertex", edge);
        _out.OnlyBinary(0);
        _out.Link(own + 1);
        _out.End();
        Begin("point");
        _out.Position(place);
        _out.End();
    }

    private static int Following(int[] numbers, int at) => at + 1 < numbers.Length ? numbers[at + 1] : -1;
}
