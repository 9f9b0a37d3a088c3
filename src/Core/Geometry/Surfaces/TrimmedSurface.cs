using NetTopologySuite.Geometries;
using NetTopologySuite.Triangulate.Polygon;

namespace SteadyLintel.Geometry;

/// <summary>Cuts the part of a surface that loops enclose into triangles. The loops' own points are kept and none is added on them, so
/// faces that share an edge meet.</summary>
public sealed class TrimmedSurface
{
    // A chord may be off the surface by this share of its length: that of an arc of a 64th of a circle. Halving makes most chords finer
    // than that.
    private const double Flat = Math.PI / 64 / 4;
    private const int MaxTriangles = 200_000;
    private static readonly GeometryFactory Factory = new();
    private readonly Surface _surface;
    private readonly Tolerance _tolerance;
    private readonly MeshBuilder _builder;
    private readonly List<Vec2> _uv = [];
    private readonly List<int> _points = [];
    private double _scaleU = 1,
        _scaleV = 1;

    private TrimmedSurface(Surface surface, Tolerance tolerance, MeshBuilder builder) =>
        (_surface, _tolerance, _builder) = (surface, tolerance, builder);

    /// <summary>Adds the triangles of a trimmed surface to a mesh.</summary>
    /// <param name="builder">The mesh.</param>
    /// <param name="surface">The surface.</param>
    /// <param name="loops">Loops of points on the surface, not closed by a repeated point; none for a surface that closes in
    /// itself.</param>
    /// <param name="sameSense">Whether the face looks where the surface's normal (du × dv) points.</param>
    /// <param name="tolerance">How finely.</param>
    /// <exception cref="ShapeException">The loops cross each other on the surface.</exception>
    public static void Add(
        MeshBuilder builder,
        Surface surface,
        IReadOnlyList<Vec3[]> loops,
        bool sameSense,
        Tolerance tolerance
    )
    {
        var face = new TrimmedSurface(surface, tolerance, builder);
        var rings = face.Rings([.. loops.Select(l => sameSense ? l : [.. l.Reverse()])]);
        var triangles = face.Refine(face.Triangulate(rings), rings);
        foreach (var (a, b, c) in triangles)
        {
            if (sameSense)
                builder.Triangle(face._points[a], face._points[b], face._points[c]);
            else
                builder.Triangle(face._points[a], face._points[c], face._points[b]);
        }
    }

    // Loops as rings of numbers in the plane of u and v: the outer ring first.
    private List<List<int>> Rings(List<Vec3[]> loops)
    {
        var plain = new List<List<int>>();
        var winding = new List<(List<int> Ring, int Turns)>();
        foreach (var loop in loops)
        {
            var (ring, turns) = Unwrap(loop);
            if (turns == 0)
                plain.Add(ring);
            else
                winding.Add((ring, turns));
        }

        if (winding.Count >= 2)
            plain.Insert(0, Band(winding[0].Ring, winding[0].Turns, winding[1].Ring));
        else if (winding.Count == 1)
            plain.Insert(0, Cap(winding[0].Ring, winding[0].Turns));
        var rings = plain
            .Where(r => r.Count >= 3 && Math.Abs(Area(r)) > 1e-12)
            .OrderByDescending(r => Math.Abs(Area(r)))
            .ToList();
        if (rings.Count == 0)
            rings.Add(Whole());
        Together(rings);
        return rings;
    }

    private int Number(Vec2 uv, int point)
    {
        _uv.Add(uv);
        _points.Add(point);
        return _uv.Count - 1;
    }

    private int On(Vec2 uv) => Number(uv, _builder.Point(_surface.Point(uv.X, uv.Y)));

    // Follows a loop without jumps over the seam. A loop that runs around the surface is recognised by its turns.
    private (List<int> Ring, int Turns) Unwrap(Vec3[] loop)
    {
        var uv = new List<Vec2>();
        int pole = -1;
        int start = Array.FindIndex(loop, p => !_surface.IsPole(_surface.Uv(p, null).Y));
        if (start < 0)
            return ([], 0);
        for (int i = 0; i <= loop.Length; i++)
        {
            Vec2? last = uv.Count > 0 ? uv[^1] : null;
            var next = _surface.Uv(loop[(start + i) % loop.Length], last);
            if (last is { } known)
                next = _surface.IsPole(next.Y)
                    ? next with
                    {
                        X = known.X,
                    }
                    : new Vec2(Near(next.X, known.X, _surface.PeriodU), Near(next.Y, known.Y, _surface.PeriodV));
            if (i < loop.Length && _surface.IsPole(next.Y))
                pole = i;
            uv.Add(next);
        }

        int turns = Turns(uv[^1].X - uv[0].X, _surface.PeriodU);
        var ring = new List<int>();
        for (int i = 0; i < loop.Length; i++)
        {
            int point = _builder.Point(loop[(start + i) % loop.Length]);
            double back = pole >= 0 && i > pole ? turns * _surface.PeriodU : 0;
            ring.Add(Number(uv[i] with { X = uv[i].X - back }, point));
            // Over the pole to where the loop leaves it: in u and v that is a way, in space it is none.
            if (_surface.IsPole(uv[i].Y))
                ring.Add(
                    Number(
                        new Vec2(uv[i + 1].X - (pole >= 0 && i + 1 > pole ? turns * _surface.PeriodU : 0), uv[i].Y),
                        point
                    )
                );
        }

        return (ring, pole >= 0 ? 0 : turns);
    }

    // Two loops around the surface with a seam between them.
    private List<int> Band(List<int> a, int turns, List<int> b)
    {
        double shift = turns * _surface.PeriodU;
        var ring = new List<int>(a);
        int end = Number(_uv[a[0]] with { X = _uv[a[0]].X + shift }, _points[a[0]]);
        // The other loop runs back; it begins where it is nearest to the end of this one.
        int bTurns = Turns(_uv[b[^1]].X - _uv[b[0]].X, _surface.PeriodU * 0.5);
        if (bTurns * turns > 0)
            b.Reverse();
        int first = Enumerable
            .Range(0, b.Count)
            .MinBy(i => Math.Abs(Near(_uv[b[i]].X, _uv[end].X, _surface.PeriodU) - _uv[end].X));
        var back = new List<int>();
        double x = _uv[end].X;
        for (int i = 0; i < b.Count; i++)
        {
            int n = b[(first + i) % b.Count];
            x = Near(_uv[n].X, x, _surface.PeriodU);
            back.Add(Number(_uv[n] with { X = x }, _points[n]));
        }

        int last = Number(_uv[back[0]] with { X = _uv[back[0]].X - shift }, _points[back[0]]);
        back.Add(last);
        var seam = Seam(_uv[end], _uv[back[0]]);
        ring.Add(end);
        ring.AddRange(seam.Select(On));
        ring.AddRange(back);
        ring.AddRange(seam.AsEnumerable().Reverse().Select(s => On(s with { X = s.X - shift })));
        return ring;
    }

    // One loop around the surface: the pole on its left closes it.
    private List<int> Cap(List<int> a, int turns)
    {
        var domain = _surface.Domain;
        double pole = turns > 0 ? domain.ToV : domain.FromV;
        if (!double.IsFinite(pole) || !_surface.IsPole(pole))
            pole = turns > 0 ? domain.FromV : domain.ToV;
        if (!double.IsFinite(pole) || !_surface.IsPole(pole))
            throw new ShapeException("A face runs around its surface and is bounded on one side only.");
        double shift = turns * _surface.PeriodU;
        int end = Number(_uv[a[0]] with { X = _uv[a[0]].X + shift }, _points[a[0]]);
        var seam = Seam(_uv[end], _uv[end] with { Y = pole });
        var ring = new List<int>(a) { end };
        ring.AddRange(seam.Select(On));
        for (int i = a.Count; i >= 0; i--)
            ring.Add(On(new Vec2(_uv[end].X - shift + (shift * i / a.Count), pole)));
        ring.AddRange(seam.AsEnumerable().Reverse().Select(s => On(s with { X = s.X - shift })));
        return ring;
    }

    // A surface that closes in itself, all of it.
    private List<int> Whole()
    {
        var (u0, u1, v0, v1) = _surface.Domain;
        if (!double.IsFinite(u1 - u0 + v1 - v0))
            throw new ShapeException("A face has no bounds and its surface no end.");
        const int N = 128;
        var ring = new List<int>();
        for (int i = 0; i < N; i++)
            ring.Add(On(new Vec2(u0 + ((u1 - u0) * i / N), v0)));
        for (int i = 0; i < N; i++)
            ring.Add(On(new Vec2(u1, v0 + ((v1 - v0) * i / N))));
        for (int i = N; i > 0; i--)
            ring.Add(On(new Vec2(u0 + ((u1 - u0) * i / N), v1)));
        for (int i = N; i > 0; i--)
            ring.Add(On(new Vec2(u0, v0 + ((v1 - v0) * i / N))));
        return ring;
    }

    // Holes may lie a period away from the outer ring.
    private void Together(List<List<int>> rings)
    {
        double u = rings[0].Average(n => _uv[n].X),
            v = rings[0].Average(n => _uv[n].Y);
        foreach (var ring in rings.Skip(1))
        {
            double du = ring.Average(n => _uv[n].X),
                dv = ring.Average(n => _uv[n].Y);
            double su = Near(du, u, _surface.PeriodU) - du,
                sv = Near(dv, v, _surface.PeriodV) - dv;
            if (su != 0 || sv != 0)
                foreach (int n in ring)
                    _uv[n] = new Vec2(_uv[n].X + su, _uv[n].Y + sv);
        }
    }

    // The points between two places on the surface, ends left out; as many as its form asks for.
    private List<Vec2> Seam(Vec2 from, Vec2 to)
    {
        var samples = CurveSamples.Of(
            t => _surface.Point(from.X + ((to.X - from.X) * t), from.Y + ((to.Y - from.Y) * t)),
            [0, 1],
            _tolerance
        );
        return [.. samples.Parameters.Skip(1).SkipLast(1).Select(t => from + ((to - from) * t))];
    }

    private List<(int A, int B, int C)> Triangulate(List<List<int>> rings)
    {
        // Squares on the surface should be about square in the plane that is triangulated.
        var box = rings[0].Select(n => _uv[n]).ToList();
        double u = box.Average(p => p.X),
            v = box.Average(p => p.Y),
            du = Math.Max(1e-9, box.Max(p => p.X) - box.Min(p => p.X)) / 64,
            dv = Math.Max(1e-9, box.Max(p => p.Y) - box.Min(p => p.Y)) / 64;
        (_scaleU, _scaleV) = (
            Math.Max(1e-6, (_surface.Point(u + du, v) - _surface.Point(u - du, v)).Length / (2 * du)),
            Math.Max(1e-6, (_surface.Point(u, v + dv) - _surface.Point(u, v - dv)).Length / (2 * dv))
        );
        var numbers = new Dictionary<(double, double), int>();
        LinearRing Ring(List<int> ring)
        {
            var coordinates = new List<Coordinate>();
            foreach (int n in ring)
            {
                var c = new Coordinate(_uv[n].X * _scaleU, _uv[n].Y * _scaleV);
                if (!(Math.Abs(c.X) + Math.Abs(c.Y) < 1e9))
                    throw new ShapeException("A face is nowhere on its surface.");
                if (coordinates.Count > 0 && coordinates[^1].Distance(c) < 1e-9)
                    continue;
                numbers.TryAdd((c.X, c.Y), n);
                coordinates.Add(c);
            }

            if (coordinates.Count > 1 && coordinates[0].Distance(coordinates[^1]) < 1e-9)
                coordinates.RemoveAt(coordinates.Count - 1);
            if (coordinates.Count < 3)
                throw new ShapeException("A face encloses nothing on its surface.");
            return Factory.CreateLinearRing([.. coordinates, coordinates[0]]);
        }

        // A place of the grid gets its number, and its point, when it is first used.
        int Of(Coordinate c)
        {
            if (!numbers.TryGetValue((c.X, c.Y), out int n))
                numbers[(c.X, c.Y)] = n = On(new Vec2(c.X / _scaleU, c.Y / _scaleV));
            return n;
        }

        try
        {
            var polygon = Factory.CreatePolygon(Ring(rings[0]), [.. rings.Skip(1).Select(Ring)]);
            var cut = OverGrid(polygon, box) ?? Plain(polygon);
            var triangles = new List<(int, int, int)>(cut.Count);
            foreach (var c in cut)
            {
                int i = Of(c[0]),
                    j = Of(c[1]),
                    k = Of(c[2]);
                triangles.Add(Area([i, j, k]) >= 0 ? (i, j, k) : (i, k, j));
            }

            return triangles;
        }
        catch (Exception e)
            when (e
                    is TopologyException
                        or ArgumentException
                        or InvalidOperationException
                        or KeyNotFoundException
                        or IndexOutOfRangeException
                        or NullReferenceException
            )
        {
            throw new ShapeException("A face's loops cross each other on its surface.");
        }
    }

    // Where the face bends along u and along v, its edges alone would leave it to long slivers.
    private List<Coordinate[]>? OverGrid(Polygon polygon, List<Vec2> outer)
    {
        double u0 = outer.Min(p => p.X),
            u1 = outer.Max(p => p.X),
            v0 = outer.Min(p => p.Y),
            v1 = outer.Max(p => p.Y);
        int columns = 0,
            rows = 0;
        foreach (double share in (double[])[0.1, 0.5, 0.9])
        {
            columns = Math.Max(
                columns,
                Seam(new Vec2(u0, v0 + ((v1 - v0) * share)), new Vec2(u1, v0 + ((v1 - v0) * share))).Count + 1
            );
            rows = Math.Max(
                rows,
                Seam(new Vec2(u0 + ((u1 - u0) * share), v0), new Vec2(u0 + ((u1 - u0) * share), v1)).Count + 1
            );
        }

        // Three stretches is what a straight line is sampled with.
        return columns > 3 && rows > 3 ? SurfaceGrid.Triangulate(polygon, columns, rows) : null;
    }

    private static List<Coordinate[]> Plain(Polygon polygon)
    {
        var cut = ConstrainedDelaunayTriangulator.Triangulate(polygon);
        return
        [
            .. Enumerable
                .Range(0, cut.NumGeometries)
                .Select(t => ((Polygon)cut.GetGeometryN(t)).ExteriorRing.Coordinates),
        ];
    }

    // Halves inner edges that are off the surface until none does. Edges of the rings stay: the neighbour has them too.
    private List<(int A, int B, int C)> Refine(List<(int A, int B, int C)> triangles, List<List<int>> rings)
    {
        var kept = new HashSet<(int, int)>();
        foreach (var ring in rings)
            for (int i = 0; i < ring.Count; i++)
                kept.Add(Key(ring[i], ring[(i + 1) % ring.Count]));
        var middles = new Dictionary<(int, int), int>();
        for (int pass = 0; pass < 14 && triangles.Count < MaxTriangles; pass++)
        {
            var next = new List<(int, int, int)>(triangles.Count * 2);
            bool split = false;
            foreach (var (a, b, c) in triangles)
            {
                int ab = Middle(a, b, kept, middles),
                    bc = Middle(b, c, kept, middles),
                    ca = Middle(c, a, kept, middles);
                split |= ab >= 0 || bc >= 0 || ca >= 0;
                Split(next, a, b, c, ab, bc, ca);
            }

            triangles = next;
            if (!split)
                break;
            DelaunayFlips.Run(
                triangles,
                n => new Vec2(_uv[n].X * _scaleU, _uv[n].Y * _scaleV),
                (a, b) => kept.Contains(Key(a, b))
            );
        }

        return triangles;
    }

    private static (int, int) Key(int a, int b) => a < b ? (a, b) : (b, a);

    // The number of the point in the middle of an edge that must be halved, -1 when it need not be.
    private int Middle(int a, int b, HashSet<(int, int)> kept, Dictionary<(int, int), int> middles)
    {
        var key = Key(a, b);
        if (middles.TryGetValue(key, out int known))
            return known;
        int middle = -1;
        if (!kept.Contains(key))
        {
            WorkBudget.Spend(10);
            Vec3 from = _builder.Points[_points[a]],
                to = _builder.Points[_points[b]];
            var uv = (_uv[a] + _uv[b]) * 0.5;
            var at = _surface.Point(uv.X, uv.Y);
            double off = (((from + to) * 0.5) - at).Length;
            if (off > 1e-7 && (off > _tolerance.Chord || off > Flat * (to - from).Length))
                middle = On(uv);
        }

        return middles[key] = middle;
    }

    private static void Split(List<(int, int, int)> into, int a, int b, int c, int ab, int bc, int ca)
    {
        // Turned so that the halved edges come first.
        if (ab < 0 && (bc >= 0 || ca >= 0))
        {
            Split(into, b, c, a, bc, ca, ab);
            return;
        }

        if (ab < 0)
            into.Add((a, b, c));
        else if (bc < 0 && ca < 0)
            into.AddRange([(a, ab, c), (ab, b, c)]);
        else if (ca < 0)
            into.AddRange([(ab, b, bc), (a, ab, bc), (a, bc, c)]);
        else if (bc < 0)
            into.AddRange([(a, ab, ca), (ab, b, ca), (b, c, ca)]);
        else
            into.AddRange([(a, ab, ca), (ab, b, bc), (ca, bc, c), (ab, bc, ca)]);
    }

    private double Area(List<int> ring)
    {
        double sum = 0;
        for (int i = 1; i + 1 < ring.Count; i++)
            sum += (_uv[ring[i]] - _uv[ring[0]]).Cross(_uv[ring[i + 1]] - _uv[ring[0]]);
        return sum / 2;
    }

    private static double Near(double value, double to, double period) =>
        period > 0 ? value + (period * Math.Round((to - value) / period)) : value;

    private static int Turns(double change, double period) => period > 0 ? (int)Math.Round(change / period) : 0;
}
