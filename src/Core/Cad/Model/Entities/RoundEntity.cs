using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>What circles and arcs share.</summary>
public abstract class RoundEntity : Entity
{
    /// <summary>The centre in object coordinates (10).</summary>
    public Vec3 Centre { get; set; }

    /// <summary>The radius (40).</summary>
    public double Radius { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbCircle");
        Centre = f.Point(10, Centre);
        Radius = f.Double(40, Radius);
        Thickness = f.Thickness(Thickness);
        Normal = f.Normal(Normal);
    }
}
