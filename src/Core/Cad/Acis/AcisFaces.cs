using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Finds the plane faces among the records of a body.</summary>
/// <remarks>The way leads over face → loop → coedge → edge → vertex → point. An edge runs from its first vertex to its second whatever its
/// curve does; a coedge says whether the loop follows it.</remarks>
internal sealed class AcisFaces
{
    private const int TransformNumbers = 13;
    private readonly IReadOnlyList<AcisRecord> _records;
    private readonly List<Vec3> _points = [];
    private readonly Dictionary<int, int> _numbers = [];
    private int _steps;

    private AcisFaces(IReadOnlyList<AcisRecord> records) => _records = records;

    /// <summary>The points and faces; null when a face is not plane, an edge not straight, or a link leads nowhere.</summary>
    public static (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Of(IReadOnlyList<AcisRecord> records)
    {
        try
        {
            return new AcisFaces(records).Find();
        }
        catch (Exception e) when (e is ArgumentOutOfRangeException or IndexOutOfRangeException)
        {
            return null;
        }
    }

    private (IReadOnlyList<Vec3>, IReadOnlyList<PlanarFace>)? Find()
    {
        var faces = new List<PlanarFace>();
        foreach (var face in _records.Where(r => r.Kind == "face"))
        {
            if (_records[face.Links[4]].Kind != "plane-surface")
                return null;
            var loops = new List<int[]>();
            for (int loop = face.Links[1]; loop >= 0; loop = _records[loop].Links[0])
            {
                if (Corners(loop) is not { } corners)
                    return null;
                loops.Add(corners);
            }

            if (loops.Count > 0)
                faces.Add(new PlanarFace(loops));
        }

        return faces.Count == 0 ? null : Placed(faces);
    }

    // The points at which the edges of a loop begin; null when one is not straight.
    private int[]? Corners(int loop)
    {
        var corners = new List<int>();
        int first = _records[loop].Links[1];
        for (int at = first; ; )
        {
            var coedge = _records[at];
            var edge = _records[coedge.Links[3]].Links;
            // Every coedge belongs to one loop: who goes over more of them than there are is cyclic.
            if (edge[3] < 0 || _records[edge[3]].Kind != "straight-curve" || ++_steps > _records.Count)
                return null;
            corners.Add(Number(_records[edge[coedge.Reversed ? 1 : 0]].Links[1]));
            at = coedge.Links[0];
            if (at == first)
                return [.. corners];
        }
    }

    private int Number(int point)
    {
        if (_numbers.TryGetValue(point, out int known))
            return known;
        _points.Add(_records[point].Position);
        return _numbers[point] = _points.Count - 1;
    }

    // A body may be moved as a whole: nine numbers turn it (a row for each axis), three move it, one scales it before it is moved. From
    // memory of the published save format.
    private (IReadOnlyList<Vec3>, IReadOnlyList<PlanarFace>) Placed(List<PlanarFace> faces)
    {
        var body = _records.FirstOrDefault(r => r.Kind == "body");
        if (
            body is null
            || body.Links.Length < 3
            || body.Links[2] < 0
            || _records[body.Links[2]].Numbers is not { Length: >= TransformNumbers } all
        )
            return (_points, faces);
        double[] n = all[^TransformNumbers..];
        Vec3 x = new(n[0], n[1], n[2]),
            y = new(n[3], n[4], n[5]),
            z = new(n[6], n[7], n[8]),
            move = new(n[9], n[10], n[11]);
        var moved = _points.ConvertAll(p => (((x * p.X) + (y * p.Y) + (z * p.Z)) * n[12]) + move);
        bool mirrored = x.Cross(y).Dot(z) * n[12] < 0;
        return (
            moved,
            mirrored ? faces.ConvertAll(f => new PlanarFace([.. f.Loops.Select(l => l.Reverse().ToArray())])) : faces
        );
    }
}
