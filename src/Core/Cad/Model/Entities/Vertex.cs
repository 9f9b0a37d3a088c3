using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>VERTEX of a <see cref="Polyline"/>, or a face of a polyface.</summary>
public sealed class Vertex(PolylineKind kind, bool face = false) : Entity
{
    private static readonly string[] Subclasses =
    [
        "AcDb2dVertex",
        "AcDb3dPolylineVertex",
        "AcDbPolygonMeshVertex",
        "AcDbPolyFaceMeshVertex",
    ];

    /// <summary>The kind of polyline it belongs to.</summary>
    public PolylineKind Kind { get; } = kind;

    /// <summary>Whether it is a face.</summary>
    public bool IsFace { get; } = face;

    /// <inheritdoc/>
    public override string Type => "VERTEX";

    /// <summary>Where it is (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Bits of group 70: 1 added by curve fitting, 2 tangent, 8 added by spline fitting, 16 control point; those of the kind
    /// aside.</summary>
    public int Flags { get; set; }

    /// <summary>Widths of the stretch that follows (40, 41).</summary>
    public (double Start, double End) Widths { get; set; }

    /// <summary>A quarter of the tangent of the angle of the arc that follows (42).</summary>
    public double Bulge { get; set; }

    /// <summary>The tangent of a fitted curve, radians (50).</summary>
    public double Tangent { get; set; }

    /// <summary>A number for it (91).</summary>
    public int Id { get; set; }

    /// <summary>The corners of a face: vertex numbers from 1, negative where the edge behind is hidden, 0 for none (71–74).</summary>
    public int[] Corners { get; } = new int[4];

    private int KindBits =>
        IsFace
            ? 128
            : Kind switch
            {
                PolylineKind.Space => 32,
                PolylineKind.Mesh => 64,
                PolylineKind.Polyface => 192,
                _ => 0,
            };

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        if (!IsFace)
            f.Subclass("AcDbVertex");
        f.Subclass(IsFace ? "AcDbFaceRecord" : Subclasses[(int)Kind]);
        Location = f.Point(10, Location);
        Flags = f.Short(70, Flags | KindBits) & ~KindBits;
        if (IsFace)
        {
            for (int i = 0; i < 4; i++)
                Corners[i] = f.Short(71 + i, Corners[i], 0);
            return;
        }

        Widths = (f.Double(40, Widths.Start, 0), f.Double(41, Widths.End, 0));
        Bulge = f.Double(42, Bulge, 0);
        Tangent = f.Angle(50, Tangent, 0);
        Id = f.Since(CadVersion.AC1024) || f.Reading ? f.Long(91, Id, 0) : Id;
    }

    private void ExchangeDwg(DwgFields d)
    {
        if (IsFace)
        {
            for (int i = 0; i < 4; i++)
                Corners[i] = d.Short(Corners[i]);
            return;
        }

        Flags = d.RawByte(Flags | KindBits) & ~KindBits;
        Location = d.Point(10, Location);
        if (Kind != PolylineKind.Flat)
            return;
        // One negative number means two widths alike.
        bool alike = Widths.Start == Widths.End && Widths.Start != 0;
        double start = d.Double(alike ? -Widths.Start : Widths.Start);
        Widths = start < 0 ? (-start, -start) : (start, d.Double(Widths.End));
        Bulge = d.Double(Bulge);
        if (d.Since(CadVersion.AC1024))
            Id = d.Long(Id);
        Tangent = d.Double(Tangent);
    }
}
