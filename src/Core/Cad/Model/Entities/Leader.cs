using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>LEADER: an arrow with a line to an annotation.</summary>
public sealed class Leader : Entity
{
    /// <inheritdoc/>
    public override string Type => "LEADER";

    /// <summary>The dimension style (3).</summary>
    public Handle Style { get; set; }

    /// <summary>Whether it has an arrow (71).</summary>
    public bool Arrow { get; set; } = true;

    /// <summary>0 straight, 1 a spline (72).</summary>
    public int Path { get; set; }

    /// <summary>What it leads to: 0 text, 1 tolerance, 2 insert, 3 nothing (73).</summary>
    public int AnnotationKind { get; set; } = 3;

    /// <summary>Whether the hook runs along the annotation's direction (74).</summary>
    public bool HookAlong { get; set; }

    /// <summary>The points in world coordinates (10).</summary>
    public List<Vec3> Points { get; } = [];

    /// <summary>The annotation (340).</summary>
    public Handle Annotation { get; set; }

    /// <summary>Height and width of the annotation (40, 41).</summary>
    public (double Height, double Width) Box { get; set; }

    /// <summary>The horizontal direction (211).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <summary>From the last point to the block, and to the annotation (212, 213).</summary>
    public (Vec3 Block, Vec3 Annotation) Offsets { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbLeader");
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        Style = f.Symbol(3, Style, SymbolKind.DimensionStyle);
        Arrow = f.Short(71, Arrow ? 1 : 0) != 0;
        Path = f.Short(72, Path);
        AnnotationKind = f.Short(73, AnnotationKind);
        f.Fixed(74, HookAlong ? 1L : 0L);
        f.Fixed(75, 0L);
        Box = (f.Double(40, Box.Height), f.Double(41, Box.Width));
        int count = f.Long(76, Points.Count);
        f.Items(Points, count, 10, p => f.Point(10, p));
        Annotation = f.Reference(340, Annotation);
        Normal = f.Normal(Normal);
        Direction = f.Point(211, Direction);
        Offsets = (f.Point(212, Offsets.Block), f.Point(213, Offsets.Annotation));
    }

    private void ExchangeDwg(DwgFields d)
    {
        d.Bit(false);
        AnnotationKind = d.Short(AnnotationKind);
        Path = d.Short(Path);
        int count = d.Count(Points.Count);
        d.Items(Points, count, 0, p => d.Point(10, p));
        d.Point(0, Points.Count > 0 ? Points[^1] : Vec3.Zero);
        Normal = d.Point(210, Normal);
        Direction = d.Point(211, Direction);
        Offsets = (d.Point(212, Offsets.Block), Offsets.Annotation);
        // The offset of the annotation went with 2010.
        if (d.Since(CadVersion.AC1014) && !d.Since(CadVersion.AC1024))
            Offsets = (Offsets.Block, d.Point(213, Offsets.Annotation));
        if (!d.Since(CadVersion.AC1015))
            d.Double(0);
        Box = (d.Double(Box.Height), d.Double(Box.Width));
        HookAlong = d.Bit(HookAlong);
        Arrow = d.Bit(Arrow);
        d.Short(0);
        if (!d.Since(CadVersion.AC1015))
            ExchangeArrow(d);
        d.Bit(false);
        d.Bit(false);
        Annotation = d.Handle(Annotation, HandleKind.SoftOwner);
        Style = d.Handle(Style, HandleKind.HardPointer);
    }

    // Up to release 14 the size of the arrow and a colour are here too; they are those of the style.
    private static void ExchangeArrow(DwgFields d)
    {
        d.Double(0);
        d.Bit(false);
        d.Bit(false);
        d.Short(0);
        d.Short(0);
    }
}
