using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>SOLID or TRACE: a filled area with four corners; the third and fourth are crossed over.</summary>
public sealed class Solid(bool trace = false) : Entity
{
    /// <summary>Whether it is a TRACE.</summary>
    public bool IsTrace { get; } = trace;

    /// <inheritdoc/>
    public override string Type => IsTrace ? "TRACE" : "SOLID";

    /// <summary>The corners in object coordinates (10, 11, 12, 13).</summary>
    public Vec3[] Corners { get; } = new Vec3[4];

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbTrace");
        if (f.Dwg is { } d)
        {
            Thickness = d.Thickness(Thickness);
            double elevation = d.Double(Corners[0].Z);
            for (int i = 0; i < 4; i++)
            {
                var p = d.RawPoint(Corners[i].XY);
                Corners[i] = new Vec3(p.X, p.Y, elevation);
            }

            Normal = d.Normal(Normal);
            return;
        }

        for (int i = 0; i < 4; i++)
            Corners[i] = f.Point(10 + i, i == 3 && f.Reading ? Corners[2] : Corners[i]);
        Thickness = f.Thickness(Thickness);
        Normal = f.Normal(Normal);
    }
}
