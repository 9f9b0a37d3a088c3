using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A named user coordinate system.</summary>
public sealed class UserCoordinateSystem : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "UCS";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Ucs;

    /// <summary>The origin in world coordinates (10).</summary>
    public Vec3 Origin { get; set; }

    /// <summary>Its x direction (11).</summary>
    public Vec3 AxisX { get; set; } = Vec3.AxisX;

    /// <summary>Its y direction (12).</summary>
    public Vec3 AxisY { get; set; } = Vec3.AxisY;

    /// <summary>Elevation (146).</summary>
    public double Elevation { get; set; }

    /// <summary>Which side it looks at when it is orthographic (79); in DXF this stays a group.</summary>
    public int Side { get; set; }

    /// <summary>Origins of its own for orthographic sides (71, 13); in DXF they stay groups.</summary>
    public List<(int Side, Vec3 Origin)> Origins { get; } = [];

    /// <summary>The systems it is named after and based on (346); in DXF they stay groups.</summary>
    public (Handle Named, Handle Base) Systems { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbUCSTableRecord", 0);
        Origin = f.Point(10, Origin);
        AxisX = f.Point(11, AxisX);
        AxisY = f.Point(12, AxisY);
        if (!f.Since(CadVersion.AC1015))
            return;
        if (f.Dwg is { } d)
        {
            Elevation = d.Double(Elevation);
            Side = d.Short(Side);
            int origins = d.Bounded(d.Short(Origins.Count));
            d.Items(Origins, origins, 71, o => (d.Short(o.Side), d.Point(13, o.Origin)));
            Systems = (d.Handle(Systems.Named, HandleKind.HardPointer), d.Handle(Systems.Base, HandleKind.HardPointer));
            return;
        }

        f.Fixed(79, 0L);
        Elevation = f.Double(146, Elevation);
    }
}
