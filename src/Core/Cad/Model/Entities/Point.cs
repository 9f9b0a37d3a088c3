using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>POINT.</summary>
public sealed class Point : Entity
{
    /// <inheritdoc/>
    public override string Type => "POINT";

    /// <summary>Where it is, in world coordinates (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>The angle of the x axis in which it was drawn (50).</summary>
    public double Angle { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbPoint");
        Location = f.Point(10, Location);
        Thickness = f.Thickness(Thickness);
        Normal = f.Normal(Normal);
        Angle = f.Angle(50, Angle, 0);
    }
}
