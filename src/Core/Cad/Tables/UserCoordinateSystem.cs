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

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbUCSTableRecord", 0);
        Origin = f.Point(10, Origin);
        AxisX = f.Point(11, AxisX);
        AxisY = f.Point(12, AxisY);
        if (!f.Since(CadVersion.AC1015)) return;
        if (f.Dwg is { } d)
        {
            Elevation = d.Double(Elevation);
            d.Short(0);
            d.Short(0);
            d.Handle(default, HandleKind.HardPointer);
            d.Handle(default, HandleKind.HardPointer);
            return;
        }

        f.Fixed(79, 0L);
        Elevation = f.Double(146, Elevation);
    }
}
