using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>POLYLINE, with vertices of their own.</summary>
public sealed class Polyline(PolylineKind kind) : CompoundEntity
{
    private static readonly string[] Subclasses =
    [
        "AcDb2dPolyline",
        "AcDb3dPolyline",
        "AcDbPolygonMesh",
        "AcDbPolyFaceMesh",
    ];
    private readonly List<Vertex> _vertices = [];

    /// <summary>The kind.</summary>
    public PolylineKind Kind { get; } = kind;

    /// <inheritdoc/>
    public override string Type => "POLYLINE";

    /// <summary>The vertices, and the faces of a polyface behind them.</summary>
    public List<Vertex> Vertices => _vertices;

    /// <inheritdoc/>
    public override IReadOnlyList<Entity> Parts => _vertices;

    /// <summary>1 closed, 2 curve fit, 4 spline fit, 32 closed in n, 128 line type generated (70, without the bits of the kind).</summary>
    public int Flags { get; set; }

    /// <summary>The kind of smooth surface or curve (75).</summary>
    public int Smooth { get; set; }

    /// <summary>Counts of a mesh in m and n, or of vertices and faces of a polyface (71, 72).</summary>
    public (int M, int N) Counts { get; set; }

    /// <summary>Densities of a smoothed mesh (73, 74).</summary>
    public (int M, int N) Densities { get; set; }

    /// <summary>Default widths (40, 41).</summary>
    public (double Start, double End) Widths { get; set; }

    /// <summary>Height above the plane of object coordinates (30 of a flat one).</summary>
    public double Elevation { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    private int KindBit =>
        Kind switch
        {
            PolylineKind.Space => 8,
            PolylineKind.Mesh => 16,
            PolylineKind.Polyface => 64,
            _ => 0,
        };

    /// <summary>The kind by the flags of group 70.</summary>
    internal static PolylineKind KindOf(int flags) =>
        (flags & 64) != 0 ? PolylineKind.Polyface
        : (flags & 16) != 0 ? PolylineKind.Mesh
        : (flags & 8) != 0 ? PolylineKind.Space
        : PolylineKind.Flat;

    /// <inheritdoc/>
    internal override bool Adopt(Entity part)
    {
        if (part is not Vertex vertex)
            return false;
        _vertices.Add(vertex);
        return true;
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass(Subclasses[(int)Kind]);
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        f.Fixed(66, 1L);
        Elevation = f.Point(10, new Vec3(0, 0, Elevation)).Z;
        Flags = f.Short(70, Flags | KindBit) & ~KindBit;
        Widths = (f.Double(40, Widths.Start, 0), f.Double(41, Widths.End, 0));
        Counts = (f.Short(71, Counts.M, 0), f.Short(72, Counts.N, 0));
        Densities = (f.Short(73, Densities.M, 0), f.Short(74, Densities.N, 0));
        Smooth = f.Short(75, Smooth, 0);
        Thickness = f.Thickness(Thickness);
        Normal = f.Normal(Normal);
    }

    private void ExchangeDwg(DwgFields d)
    {
        switch (Kind)
        {
            case PolylineKind.Flat:
                Flags = d.Short(Flags);
                Smooth = d.Short(Smooth);
                Widths = (d.Double(Widths.Start), d.Double(Widths.End));
                Thickness = d.Thickness(Thickness);
                Elevation = d.Double(Elevation);
                Normal = d.Normal(Normal);
                break;
            case PolylineKind.Space:
                Smooth = d.RawByte(Smooth);
                Flags = d.RawByte(Flags);
                break;
            case PolylineKind.Mesh:
                Flags = d.Short(Flags | KindBit) & ~KindBit;
                Smooth = d.Short(Smooth);
                Counts = (d.Short(Counts.M), d.Short(Counts.N));
                Densities = (d.Short(Densities.M), d.Short(Densities.N));
                break;
            default:
                Counts = (d.Short(Counts.M), d.Short(Counts.N));
                break;
        }

        HandleParts(d, CountParts(d));
    }
}
