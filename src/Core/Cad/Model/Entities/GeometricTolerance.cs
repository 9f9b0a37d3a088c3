using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>TOLERANCE: a geometric tolerance frame.</summary>
public sealed class GeometricTolerance : Entity
{
    /// <inheritdoc/>
    public override string Type => "TOLERANCE";

    /// <summary>Where it is put (10).</summary>
    public Vec3 Insertion { get; set; }

    /// <summary>Its direction (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>The text with its codes (1).</summary>
    public string Value { get; set; } = "";

    /// <summary>The dimension style (3).</summary>
    public Handle Style { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbFcf");
        if (f.Dwg is null)
            Style = f.Symbol(3, Style, SymbolKind.DimensionStyle);
        if (f.Dwg is { } old && !old.Since(CadVersion.AC1015))
        {
            // Up to release 14: nobody has explained the first; height and gap are those of the style.
            old.Short(0);
            old.Double(0);
            old.Double(0);
        }

        Insertion = f.Point(10, Insertion);
        if (f.Dwg is { } d)
        {
            Direction = d.Point(11, Direction);
            Normal = d.Point(210, Normal);
            Value = d.Text(1, Value);
            Style = d.Handle(Style, HandleKind.HardPointer);
            return;
        }

        Value = f.Text(1, Value);
        Normal = f.Normal(Normal);
        Direction = f.Point(11, Direction);
    }
}
