using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>3DFACE: three or four corners.</summary>
public sealed class Face3D : Entity
{
    /// <inheritdoc/>
    public override string Type => "3DFACE";

    /// <summary>The corners in world coordinates; a triangle has the third twice (10, 11, 12, 13).</summary>
    public Vec3[] Corners { get; } = new Vec3[4];

    /// <summary>Edges that are not drawn: bits 1, 2, 4, 8 (70).</summary>
    public int Hidden { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbFace");
        if (f.Dwg is not { } d)
        {
            for (int i = 0; i < 4; i++)
                Corners[i] = f.Point(10 + i, i == 3 && f.Reading ? Corners[2] : Corners[i]);
            Hidden = f.Short(70, Hidden, 0);
            return;
        }

        if (!d.Since(CadVersion.AC1015))
        {
            for (int i = 0; i < 4; i++)
                Corners[i] = d.Point(10 + i, Corners[i]);
            Hidden = d.Short(Hidden);
            return;
        }

        bool none = d.Bit(Hidden == 0),
            flat = d.Bit(Corners[0].Z == 0);
        var xy = d.RawPoint(Corners[0].XY);
        Corners[0] = new Vec3(xy.X, xy.Y, flat ? 0 : d.RawDouble(Corners[0].Z));
        for (int i = 1; i < 4; i++)
        {
            var before = Corners[i - 1];
            Corners[i] = new Vec3(
                d.Default(Corners[i].X, before.X),
                d.Default(Corners[i].Y, before.Y),
                d.Default(Corners[i].Z, before.Z)
            );
        }

        Hidden = none ? 0 : d.Short(Hidden);
    }
}
