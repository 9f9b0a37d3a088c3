using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>LWPOLYLINE: lines and arcs in a plane.</summary>
public sealed class LightPolyline : Entity
{
    private const int HasNormal = 1,
        HasThickness = 2,
        HasWidth = 4,
        HasElevation = 8,
        HasBulges = 16,
        HasWidths = 32,
        DwgGenerated = 256,
        DwgClosed = 512,
        HasIds = 1024;

    /// <inheritdoc/>
    public override string Type => "LWPOLYLINE";

    /// <summary>The vertices.</summary>
    public List<LightVertex> Vertices { get; } = [];

    /// <summary>Whether the last is joined to the first (70, bit 1).</summary>
    public bool Closed { get; set; }

    /// <summary>Whether the line type runs on over the vertices (70, bit 128).</summary>
    public bool Generated { get; set; }

    /// <summary>A width for all (43).</summary>
    public double Width { get; set; }

    /// <summary>The height above the plane of object coordinates (38).</summary>
    public double Elevation { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbPolyline");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        f.Long(90, Vertices.Count);
        int flags = f.Short(70, (Closed ? 1 : 0) | (Generated ? 128 : 0));
        (Closed, Generated) = ((flags & 1) != 0, (flags & 128) != 0);
        Width = f.Double(43, Width, 0);
        Elevation = f.Double(38, Elevation, 0);
        Thickness = f.Thickness(Thickness);
        Normal = f.Normal(Normal);
        f.Items(Vertices, Vertices.Count, 10, v =>
            new LightVertex(f.Flat(10, v.Point)) with
            {
                StartWidth = f.Double(40, v.StartWidth, 0),
                EndWidth = f.Double(41, v.EndWidth, 0),
                Bulge = f.Double(42, v.Bulge, 0),
                Id = f.Since(CadVersion.AC1024) || f.Reading ? f.Long(91, v.Id, 0) : v.Id,
            }
        );
    }

    private void ExchangeDwg(DwgFields d)
    {
        int flags = d.Short(d.Reading ? 0 : Flags(d.Since(CadVersion.AC1024)));
        (Closed, Generated) = ((flags & DwgClosed) != 0, (flags & DwgGenerated) != 0);
        if ((flags & HasWidth) != 0)
            Width = d.Double(Width);
        if ((flags & HasElevation) != 0)
            Elevation = d.Double(Elevation);
        if ((flags & HasThickness) != 0)
            Thickness = d.Double(Thickness);
        if ((flags & HasNormal) != 0)
            Normal = d.Point(210, Normal);
        int count = d.Count(Vertices.Count);
        int bulges = (flags & HasBulges) != 0 ? d.Count(count) : 0;
        int ids = (flags & HasIds) != 0 && d.Since(CadVersion.AC1024) ? d.Count(count) : 0;
        int widths = (flags & HasWidths) != 0 ? d.Count(count) : 0;
        Vec2 before = default;
        bool first = true;
        d.Items(Vertices, count, 0, v =>
        {
            before = first || !d.Since(CadVersion.AC1015) ? d.RawPoint(v.Point) : d.Default(v.Point, before);
            first = false;
            return v with { Point = before };
        });
        Each(bulges, v => v with { Bulge = d.Double(v.Bulge) });
        Each(ids, v => v with { Id = d.Long(v.Id) });
        Each(widths, v => v with { StartWidth = d.Double(v.StartWidth), EndWidth = d.Double(v.EndWidth) });
    }

    private void Each(int count, Func<LightVertex, LightVertex> item)
    {
        for (int i = 0; i < count && i < Vertices.Count; i++)
            Vertices[i] = item(Vertices[i]);
    }

    private int Flags(bool ids)
    {
        int flags =
            (Closed ? DwgClosed : 0)
            | (Generated ? DwgGenerated : 0)
            | (Width != 0 ? HasWidth : 0)
            | (Elevation != 0 ? HasElevation : 0)
            | (Thickness != 0 ? HasThickness : 0);
        if (Normal != Vec3.AxisZ)
            flags |= HasNormal;
        foreach (var v in Vertices)
        {
            if (v.Bulge != 0)
                flags |= HasBulges;
            if (v.StartWidth != 0 || v.EndWidth != 0)
                flags |= HasWidths;
            if (v.Id != 0 && ids)
                flags |= HasIds;
        }

        return flags;
    }
}
