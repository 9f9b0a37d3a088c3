using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>MESH: faces over points, which a reader may smooth.</summary>
public sealed class MeshEntity : Entity
{
    /// <inheritdoc/>
    public override string Type => "MESH";

    /// <summary>The version of its fields (71).</summary>
    public int Version { get; set; } = 2;

    /// <summary>Whether creases fade (72).</summary>
    public bool Blended { get; set; }

    /// <summary>How often to smooth, 0 for faces as they are (91).</summary>
    public int Level { get; set; }

    /// <summary>The points in world coordinates (10).</summary>
    public List<Vec3> Points { get; } = [];

    /// <summary>The faces one after the other: a count, then that many point numbers from 0 (90).</summary>
    public List<int> Faces { get; } = [];

    /// <summary>Edges with creases: two point numbers each (90).</summary>
    public List<int> Edges { get; } = [];

    /// <summary>The creases of the edges (140).</summary>
    public List<double> Creases { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbSubDMesh");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Version = f.Short(71, Version);
        Blended = f.Short(72, Blended ? 1 : 0) != 0;
        Level = f.Long(91, Level);
        int points = f.Long(92, Points.Count);
        f.Items(Points, points, 10, p => f.Point(10, p));
        Numbers(f, 93, Faces, Faces.Count);
        Numbers(f, 94, Edges, Edges.Count / 2);
        int creases = f.Long(95, Creases.Count);
        f.Items(Creases, creases, 140, c => f.Double(140, c));
        f.Fixed(90, 0L);
    }

    private static void Numbers(Fields f, int code, List<int> list, int count)
    {
        int said = f.Long(code, count);
        if (f.Reading)
            f.Take(90, list, code == 94 ? 2L * said : said);
        else
            foreach (int number in list)
                f.Long(90, number);
    }

    private void ExchangeDwg(DwgFields d)
    {
        Version = d.Short(Version);
        Blended = d.Bit(Blended);
        Level = d.Long(Level);
        int points = d.Count(Points.Count);
        d.Items(Points, points, 0, p => d.Point(10, p));
        int faces = d.Count(Faces.Count);
        d.Items(Faces, faces, 0, d.Long);
        int edges = d.Count(Edges.Count / 2);
        d.Items(Edges, 2 * edges, 0, d.Long);
        int creases = d.Count(Creases.Count);
        d.Items(Creases, creases, 0, d.Double);
    }
}
