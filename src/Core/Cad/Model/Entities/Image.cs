using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>IMAGE: a picture from a file; WIPEOUT: a blank area.</summary>
public sealed class Image(bool wipeout = false) : Entity
{
    /// <summary>Whether it is a WIPEOUT.</summary>
    public bool IsWipeout { get; } = wipeout;

    /// <inheritdoc/>
    public override string Type => IsWipeout ? "WIPEOUT" : "IMAGE";

    /// <summary>Lower left corner (10).</summary>
    public Vec3 Corner { get; set; }

    /// <summary>A pixel along the picture's base, and up its side (11, 12).</summary>
    public (Vec3 Along, Vec3 Up) Pixel { get; set; } = (Vec3.AxisX, Vec3.AxisY);

    /// <summary>Size in pixels (13).</summary>
    public Vec2 Size { get; set; } = new(1, 1);

    /// <summary>1 shown, 2 also when not upright, 4 clipped, 8 transparent (70).</summary>
    public int Display { get; set; } = 7;

    /// <summary>Whether it is clipped (280).</summary>
    public bool Clipped { get; set; }

    /// <summary>Brightness, contrast, fade (281, 282, 283).</summary>
    public (int Brightness, int Contrast, int Fade) Tone { get; set; } = (50, 50, 0);

    /// <summary>Whether the outside of the boundary is shown (290).</summary>
    public bool Inverted { get; set; }

    /// <summary>The boundary in pixels: two corners, or a polygon (14).</summary>
    public List<Vec2> Boundary { get; } = [];

    /// <summary>The picture (340).</summary>
    public Handle Definition { get; set; }

    /// <summary>The object that tells of changes (360).</summary>
    public Handle Reactor { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass(IsWipeout ? "AcDbWipeout" : "AcDbRasterImage");
        f.Long(90, 0);
        Corner = f.Point(10, Corner);
        Pixel = (f.Point(11, Pixel.Along), f.Point(12, Pixel.Up));
        Size = f.Flat(13, Size);
        if (f.Dwg is null)
            Definition = f.Reference(340, Definition);
        Display = f.Short(70, Display);
        Clipped = f.Dwg is { } bits ? bits.Bit(Clipped) : f.Byte(280, Clipped ? 1 : 0) != 0;
        Tone = (f.Byte(281, Tone.Brightness), f.Byte(282, Tone.Contrast), f.Byte(283, Tone.Fade));
        if (f.Dwg is null)
            Reactor = f.Reference(360, Reactor, HandleKind.HardOwner);
        if (f.Dwg is not null && f.Since(CadVersion.AC1024))
            Inverted = f.Bit(290, Inverted);
        int kind = f.Short(71, Boundary.Count > 2 ? 2 : 1);
        int count = f.Dwg is { } d
            ? kind == 1
                ? 2
                : d.Count(Boundary.Count)
            : f.Long(91, Boundary.Count);
        if (f.Dwg is not null && !f.Reading && Boundary.Count < 2)
            Boundary.AddRange(new Vec2[] { new(-0.5, -0.5), new(Size.X - 0.5, Size.Y - 0.5) }.Skip(Boundary.Count));
        f.Items(Boundary, count, 14, p => f.Flat(14, p));
        if (f.Dwg is null && f.Since(CadVersion.AC1024))
            Inverted = f.Bit(290, Inverted, false);
        if (f.Dwg is not { } h)
            return;
        Definition = h.Handle(Definition, HandleKind.HardPointer);
        Reactor = h.Handle(Reactor, HandleKind.HardOwner);
    }
}
