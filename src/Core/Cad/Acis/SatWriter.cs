using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Writes a body of plane faces as ACIS text, version 7.0, the form 3DSOLID has in DXF and DWG up to 2010.</summary>
/// <remarks>
/// The published save-file format as other open readers know it: body → lump → shell → face → loop → coedge → edge → vertex → point, with plane surfaces and straight curves; each record ends in <c>#</c>, <c>$n</c> refers to
/// record n. tests/Outside has a reader nobody here wrote take the bodies back.
/// </remarks>
public sealed class SatWriter
{
    // Attribute, history, pattern: none of them is used.
    private const string Head = "$-1 -1 $-1";
    private readonly List<string> _records = [];
    private readonly Polyhedron _body;
    private readonly Vec3[] _points;

    private SatWriter(Polyhedron body, double scale) => (_body, _points) = (body, [.. body.Points.Select(p => p * scale)]);

    /// <summary>The text of a body.</summary>
    /// <param name="body">The body.</param>
    /// <param name="scale">Drawing units in one unit of the body's points.</param>
    /// <exception cref="ArgumentException">The topology of the body does not hold.</exception>
    public static string Write(Polyhedron body, double scale = 1)
    {
        if (body.Problem() is { } problem) throw new ArgumentException(problem, nameof(body));
        return new SatWriter(body, scale).Text();
    }

    private string Text()
    {
        var text = new StringBuilder();
        const string Product = "Steady Lintel", Version = "ACIS 32.0 NT", Date = "Thu Jan 01 00:00:00 1970";
        Records();
        text.Append("700 0 1 0 \n");
        text.Append(CultureInfo.InvariantCulture, $"@{Product.Length} {Product} @{Version.Length} {Version} @{Date.Length} {Date} \n");
        text.Append("1 9.9999999999999995e-007 1e-010 \n");
        foreach (string record in _records) text.Append(record).Append(" #\n");
        return text.Append("End-of-ACIS-data \n").ToString();
    }

    // Records refer to one another forwards, so numbers are given first: body, then for each lump its lump and shells, faces, loops, coedges, edges, vertices, points.
    private void Records()
    {
        int next = 1;
        var lumps = Lumps();
        int[] lump = Numbers(lumps.Count, 1), shell = Numbers(_body.Shells.Count, 1), face = Numbers(_body.Faces.Count, 2);
        var loops = _body.Faces.SelectMany((f, n) => f.Loops.Select((l, k) => (Face: n, Ring: k, Corners: l))).ToList();
        int[] loop = Numbers(loops.Count, 1), coedge = Numbers(loops.Sum(l => l.Corners.Length), 1);
        var (edges, use) = Edges(loops.Select(l => l.Corners));
        int[] edge = Numbers(edges.Count, 2), vertex = Numbers(_points.Length, 2);

        _records.Add($"body {Head} {Ref(lump[0])} $-1 $-1");
        for (int l = 0; l < lumps.Count; l++) _records.Add($"lump {Head} {Following(lump, l)} {Ref(shell[lumps[l][0]])} $0");
        Shells(lumps, lump, shell, face);
        Faces(shell, face, loops, loop);
        Loops(face, loops, loop, coedge);
        Coedges(loops.Select(l => l.Corners), loop, coedge, edge, use);
        for (int e = 0; e < edges.Count; e++)
        {
            var (from, to, first) = edges[e];
            var along = _points[to] - _points[from];
            _records.Add($"edge {Head} {Ref(vertex[from])} 0 {Ref(vertex[to])} {N(along.Length)} {Ref(coedge[first])} {Ref(edge[e] + 1)} forward @7 unknown");
            _records.Add($"straight-curve {Head} {N(_points[from])} {N(along.Unit())} I I");
        }

        int[] edgeOf = new int[_points.Length];
        for (int e = edges.Count - 1; e >= 0; e--) (edgeOf[edges[e].From], edgeOf[edges[e].To]) = (edge[e], edge[e]);
        for (int v = 0; v < _points.Length; v++)
        {
            _records.Add($"vertex {Head} {Ref(edgeOf[v])} {Ref(vertex[v] + 1)}");
            _records.Add($"point {Head} {N(_points[v])}");
        }

        int[] Numbers(int count, int step)
        {
            int[] numbers = [.. Enumerable.Range(0, count).Select(i => next + (i * step))];
            next += count * step;
            return numbers;
        }
    }

    // A shell that turns inward is a void of the lump around it; every other one is a lump of its own.
    private List<List<int>> Lumps()
    {
        var volumes = _body.Shells.Select(Volume).ToList();
        var boxes = _body.Shells.Select(s => Box.Of(s.SelectMany(f => _body.Faces[f].Loops[0]).Select(p => _points[p]))).ToList();
        var lumps = Enumerable.Range(0, volumes.Count).Where(s => volumes[s] >= 0).Select(s => new List<int> { s }).ToList();
        if (lumps.Count == 0) return [[.. Enumerable.Range(0, volumes.Count)]];
        foreach (int s in Enumerable.Range(0, volumes.Count).Where(s => volumes[s] < 0))
            (lumps.Where(l => Holds(boxes[l[0]], boxes[s])).MinBy(l => boxes[l[0]].Size.Length) ?? lumps[0]).Add(s);
        return lumps;
    }

    private static bool Holds(Box outer, Box inner) =>
        outer.Min.X <= inner.Min.X && outer.Min.Y <= inner.Min.Y && outer.Min.Z <= inner.Min.Z && outer.Max.X >= inner.Max.X && outer.Max.Y >= inner.Max.Y && outer.Max.Z >= inner.Max.Z;

    private double Volume(int[] shell)
    {
        double sum = 0;
        var origin = _points[_body.Faces[shell[0]].Loops[0][0]];
        foreach (var loop in shell.SelectMany(f => _body.Faces[f].Loops))
            for (int i = 1; i + 1 < loop.Length; i++) sum += (_points[loop[0]] - origin).Dot((_points[loop[i]] - origin).Cross(_points[loop[i + 1]] - origin));
        return sum;
    }

    private void Shells(List<List<int>> lumps, int[] lump, int[] shell, int[] face)
    {
        var places = new string[shell.Length];
        for (int l = 0; l < lumps.Count; l++)
            for (int k = 0; k < lumps[l].Count; k++)
                places[lumps[l][k]] = $"shell {Head} {(k + 1 < lumps[l].Count ? Ref(shell[lumps[l][k + 1]]) : "$-1")} $-1 {Ref(face[_body.Shells[lumps[l][k]][0]])} $-1 {Ref(lump[l])}";
        _records.AddRange(places);
    }

    private void Faces(int[] shell, int[] face, List<(int Face, int Ring, int[] Corners)> loops, int[] loop)
    {
        var records = new string[2 * face.Length];
        var first = loops.Select((l, n) => (l, n)).Where(p => p.l.Ring == 0).Select(p => loop[p.n]).ToArray();
        for (int s = 0; s < shell.Length; s++)
        {
            int[] own = _body.Shells[s];
            for (int k = 0; k < own.Length; k++)
            {
                int f = own[k];
                var (origin, normal, along) = PlaneOf(_body.Faces[f].Loops[0]);
                records[2 * f] = $"face {Head} {(k + 1 < own.Length ? Ref(face[own[k + 1]]) : "$-1")} {Ref(first[f])} {Ref(shell[s])} $-1 {Ref(face[f] + 1)} forward single";
                records[(2 * f) + 1] = $"plane-surface {Head} {N(origin)} {N(normal)} {N(along)} forward_v I I I I";
            }
        }

        _records.AddRange(records);
    }

    private (Vec3 Origin, Vec3 Normal, Vec3 Along) PlaneOf(int[] loop)
    {
        var sum = Vec3.Zero;
        for (int i = 1; i + 1 < loop.Length; i++) sum += (_points[loop[i]] - _points[loop[0]]).Cross(_points[loop[i + 1]] - _points[loop[0]]);
        return (_points[loop[0]], sum.Unit(), (_points[loop[1]] - _points[loop[0]]).Unit());
    }

    private void Loops(int[] face, List<(int Face, int Ring, int[] Corners)> loops, int[] loop, int[] coedge)
    {
        int at = 0;
        for (int n = 0; n < loops.Count; n++)
        {
            bool more = n + 1 < loops.Count && loops[n + 1].Face == loops[n].Face;
            _records.Add($"loop {Head} {(more ? Ref(loop[n + 1]) : "$-1")} {Ref(coedge[at])} {Ref(face[loops[n].Face])}");
            at += loops[n].Corners.Length;
        }
    }

    // The edges, and for each coedge its edge, its partner and whether it runs along.
    private static (List<(int From, int To, int First)> Edges, List<(int Edge, int Partner, bool Along)> Use) Edges(IEnumerable<int[]> loops)
    {
        var edges = new List<(int, int, int)>();
        var use = new List<(int Edge, int Partner, bool Along)>();
        var open = new Dictionary<(int, int), int>();
        foreach (var loop in loops)
            for (int i = 0; i < loop.Length; i++)
            {
                int from = loop[i], to = loop[(i + 1) % loop.Length], own = use.Count;
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

    private void Coedges(IEnumerable<int[]> loops, int[] loop, int[] coedge, int[] edge, List<(int Edge, int Partner, bool Along)> use)
    {
        int start = 0, n = 0;
        foreach (var corners in loops)
        {
            for (int i = 0; i < corners.Length; i++)
            {
                int next = start + ((i + 1) % corners.Length), before = start + ((i + corners.Length - 1) % corners.Length);
                var own = use[start + i];
                _records.Add($"coedge {Head} {Ref(coedge[next])} {Ref(coedge[before])} {Ref(coedge[own.Partner])} {Ref(edge[own.Edge])} {(own.Along ? "forward" : "reversed")} {Ref(loop[n])} $-1");
            }

            start += corners.Length;
            n++;
        }
    }

    private static string Following(int[] numbers, int at) => at + 1 < numbers.Length ? Ref(numbers[at + 1]) : "$-1";

    private static string Ref(int number) => "$" + number.ToString(CultureInfo.InvariantCulture);

    private static string N(double value) => value.ToString("R", CultureInfo.InvariantCulture);

    private static string N(Vec3 v) => $"{N(v.X)} {N(v.Y)} {N(v.Z)}";
}
