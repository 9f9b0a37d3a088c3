using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>LINE.</summary>
public sealed class Line : Entity
{
    /// <inheritdoc/>
    public override string Type => "LINE";

    /// <summary>The start (10).</summary>
    public Vec3 Start { get; set; }

    /// <summary>The end (11).</summary>
    public Vec3 End { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbLine");
        if (f.Dwg is { } d && f.Since(CadVersion.AC1015))
        {
            bool flat = d.Bit(Start.Z == 0 && End.Z == 0);
            double x = d.RawDouble(Start.X),
                endX = d.Default(End.X, x),
                y = d.RawDouble(Start.Y),
                endY = d.Default(End.Y, y);
            double z = flat ? 0 : d.RawDouble(Start.Z),
                endZ = flat ? 0 : d.Default(End.Z, z);
            Start = new Vec3(x, y, z);
            End = new Vec3(endX, endY, endZ);
            Thickness = d.Thickness(Thickness);
        }
        else
        {
            // DXF has it in front of the points, DWG up to release 14 behind them.
            if (f.Dwg is null)
                Thickness = f.Thickness(Thickness);
            Start = f.Point(10, Start);
            End = f.Point(11, End);
            if (f.Dwg is not null)
                Thickness = f.Thickness(Thickness);
        }

        Normal = f.Normal(Normal);
    }
}
