using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>ELLIPSE, or part of one.</summary>
public sealed class Ellipse : Entity
{
    /// <inheritdoc/>
    public override string Type => "ELLIPSE";

    /// <summary>The centre in world coordinates (10).</summary>
    public Vec3 Centre { get; set; }

    /// <summary>From the centre to the end of the major axis (11).</summary>
    public Vec3 Axis { get; set; } = Vec3.AxisX;

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>Minor to major axis (40).</summary>
    public double Ratio { get; set; } = 1;

    /// <summary>Parameter of the start, 0 for a whole one (41).</summary>
    public double Start { get; set; }

    /// <summary>Parameter of the end, 2π for a whole one (42).</summary>
    public double End { get; set; } = 2 * Math.PI;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbEllipse");
        Centre = f.Point(10, Centre);
        Axis = f.Point(11, Axis);
        Normal = f.Point(210, Normal);
        Ratio = f.Double(40, Ratio);
        Start = f.Double(41, Start);
        End = f.Double(42, End);
    }
}
