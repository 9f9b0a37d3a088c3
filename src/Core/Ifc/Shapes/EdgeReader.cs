using System.Collections.Concurrent;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Loops and edges (IfcTopologyResource) as points. An edge has the same points whichever face asks.</summary>
internal sealed class EdgeReader(IfcModel model, IfcPlacements placements, CurveReader curves, Tolerance tolerance)
{
    private const int MaxCurvesInCurves = 8;

    private readonly ConcurrentDictionary<int, List<Vec3>> _edges = new();

    /// <summary>The points of an IfcPolyLoop, IfcEdgeLoop or IfcVertexLoop, the first not repeated.</summary>
    /// <param name="loop">Its position among the instances of the file.</param>
    public Vec3[] Loop(int loop)
    {
        if (model.Is(loop, "IfcPolyLoop"))
            return [.. model.Refs(loop, "Polygon").Select(placements.Point)];
        if (model.Is(loop, "IfcVertexLoop"))
            return [Vertex(model.Ref(loop, "LoopVertex"))];
        if (!model.Is(loop, "IfcEdgeLoop"))
            throw new ShapeException(
                $"A face bounded by {(loop < 0 ? "nothing" : model.ClassName(loop))} is not shaped yet."
            );
        var points = new List<Vec3>();
        foreach (int edge in model.Refs(loop, "EdgeList"))
        {
            var part = Oriented(edge, 0);
            points.AddRange(part.Take(part.Count - 1));
        }

        return [.. points];
    }

    private List<Vec3> Oriented(int edge, int depth)
    {
        if (depth > 10)
            throw new ShapeException("An edge refers to itself.");
        if (!model.Is(edge, "IfcOrientedEdge"))
            return _edges.GetOrAdd(edge, static (e, self) => self.Edge(e), this);
        var points = Oriented(model.Ref(edge, "EdgeElement"), depth + 1);
        return model.Get(edge, "Orientation").IsFalse ? [.. points.AsEnumerable().Reverse()] : points;
    }

    private Vec3 Vertex(int vertex)
    {
        int point = model.Ref(vertex, "VertexGeometry");
        return point >= 0 ? placements.Point(point) : throw new ShapeException("An edge has no vertex.");
    }

    private List<Vec3> Edge(int edge)
    {
        Vec3 start = Vertex(model.Ref(edge, "EdgeStart")),
            end = Vertex(model.Ref(edge, "EdgeEnd"));
        int curve = model.Ref(edge, "EdgeGeometry");
        for (int n = 0; n < MaxCurvesInCurves && model.Is(curve, "IfcSurfaceCurve"); n++)
            curve = model.Ref(curve, "Curve3D");
        if (curve < 0 || model.Is(curve, "IfcLine"))
            return [start, end];
        bool same = !model.Get(edge, "SameSense").IsFalse;
        var points = model.Is(curve, "IfcConic") ? Conic(curve, start, end, same) : Bounded(curve, start, end, same);
        (points[0], points[^1]) = (start, end);
        return points;
    }

    private List<Vec3> Conic(int curve, Vec3 start, Vec3 end, bool same)
    {
        var frame = placements.Axes(model.Ref(curve, "Position"));
        double a = model.Is(curve, "IfcCircle") ? curves.Length(curve, "Radius") : curves.Length(curve, "SemiAxis1");
        double b = model.Is(curve, "IfcCircle") ? a : curves.Length(curve, "SemiAxis2");
        double Angle(Vec3 p) => Math.Atan2((p - frame.Origin).Dot(frame.Y) / b, (p - frame.Origin).Dot(frame.X) / a);
        double from = Angle(start),
            sweep = Angle(end) - from;
        if ((start - end).Length < 1e-7)
            sweep = same ? 2 * Math.PI : -2 * Math.PI;
        else if (same && sweep <= 0)
            sweep += 2 * Math.PI;
        else if (!same && sweep >= 0)
            sweep -= 2 * Math.PI;
        if (!double.IsFinite(sweep))
            throw new ShapeException("An edge is nowhere on its circle.");
        int n = Math.Max(1, tolerance.Chords(Math.Max(a, b), sweep));
        return
        [
            .. Enumerable
                .Range(0, n + 1)
                .Select(i => from + (sweep * i / n))
                .Select(t => frame.Point(new Vec3(a * Math.Cos(t), b * Math.Sin(t), 0))),
        ];
    }

    private List<Vec3> Bounded(int curve, Vec3 start, Vec3 end, bool same)
    {
        var samples = curves.Samples(curve);
        bool closed = (samples.Points[0] - samples.Points[^1]).Length < 1e-7;
        double first = samples.Parameters[0],
            last = samples.Parameters[^1];
        var (a, b) = same ? (start, end) : (end, start);
        double from = samples.Nearest(a),
            to = samples.Nearest(b);
        if (closed && (start - end).Length < 1e-7 && (a - samples.Points[0]).Length < 1e-7)
            (from, to) = (first, last);
        else if (closed && to - from < 1e-9 * (last - first))
            to = (b - samples.Points[0]).Length < 1e-7 ? last : to;
        // Over the joint of a closed curve.
        List<Vec3> points =
            closed && to < from
                ? [.. samples.Between(from, last), .. samples.Between(first, to).Skip(1)]
                : samples.Between(from, to);
        if (points.Count < 2)
            points = [a, b];
        if (!same)
            points.Reverse();
        return points;
    }
}
