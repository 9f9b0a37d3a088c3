namespace SteadyLintel.Geometry;

/// <summary>Gathers triangles; points at the same place become one, flat triangles are dropped.</summary>
public sealed class MeshBuilder
{
    // Points that should be one differ by rounding only: a billionth of a metre near the origin.
    private const double Grid = 1e-7;

    private readonly Dictionary<(long, long, long), int> _cells = [];
    private readonly List<Vec3> _points = [];
    private readonly List<int> _triangles = [];

    /// <summary>The points so far.</summary>
    public IReadOnlyList<Vec3> Points => _points;

    /// <summary>The number of the point at a place.</summary>
    /// <param name="p">In the frame of the mesh, metres; what lies within the tolerance of another point is that point.</param>
    public int Point(Vec3 p)
    {
        WorkBudget.Spend(8);
        double x = p.X / Grid,
            y = p.Y / Grid,
            z = p.Z / Grid;
        long i = (long)Math.Floor(x),
            j = (long)Math.Floor(y),
            k = (long)Math.Floor(z);
        if (_cells.TryGetValue((i, j, k), out int known))
            return known;
        // A neighbour across the border of a cell may be the same point.
        int di = x - i < 0.5 ? -1 : 1,
            dj = y - j < 0.5 ? -1 : 1,
            dk = z - k < 0.5 ? -1 : 1;
        for (int c = 1; c < 8; c++)
        {
            var cell = (i + ((c & 1) != 0 ? di : 0), j + ((c & 2) != 0 ? dj : 0), k + ((c & 4) != 0 ? dk : 0));
            if (_cells.TryGetValue(cell, out known) && (_points[known] - p).Length < Grid / 2)
                return known;
        }

        _cells[(i, j, k)] = _points.Count;
        _points.Add(p);
        return _points.Count - 1;
    }

    /// <summary>Adds a triangle unless two of its corners are one.</summary>
    /// <param name="a">The number of its first corner.</param>
    /// <param name="b">Of its second, counter-clockwise seen from outside.</param>
    /// <param name="c">Of its third.</param>
    public void Triangle(int a, int b, int c)
    {
        if (a != b && b != c && c != a)
            _triangles.AddRange([a, b, c]);
    }

    /// <summary>Adds all triangles of a mesh.</summary>
    /// <param name="mesh">In the frame of what is built.</param>
    public void Add(Mesh mesh)
    {
        int[] numbers = Array.ConvertAll(mesh.Points, Point);
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
            Triangle(numbers[mesh.Triangles[i]], numbers[mesh.Triangles[i + 1]], numbers[mesh.Triangles[i + 2]]);
    }

    /// <summary>The mesh as it was put together.</summary>
    public Mesh ToMesh() => new([.. _points], [.. _triangles]);

    /// <summary>The mesh, turned when it is closed and faces inward.</summary>
    public Mesh Outward()
    {
        var mesh = ToMesh();
        return MassProperties.Of(mesh) is { Closed: true, Volume: < 0 } ? mesh.Flipped() : mesh;
    }
}
