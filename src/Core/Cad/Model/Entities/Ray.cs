using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>RAY: a line without end to one side; XLINE: to both.</summary>
public sealed class Ray(bool both) : Entity
{
    /// <summary>Whether it goes on to both sides (XLINE).</summary>
    public bool Both { get; } = both;

    /// <inheritdoc/>
    public override string Type => Both ? "XLINE" : "RAY";

    /// <summary>Its start, or a point on it (10).</summary>
    public Vec3 Start { get; set; }

    /// <summary>Its direction (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass(Both ? "AcDbXline" : "AcDbRay");
        Start = f.Point(10, Start);
        Direction = f.Point(11, Direction);
    }
}
