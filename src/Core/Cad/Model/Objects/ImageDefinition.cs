using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>IMAGEDEF: a picture's file.</summary>
public sealed class ImageDefinition : CadObject
{
    /// <inheritdoc/>
    public override string Type => "IMAGEDEF";

    /// <summary>The path (1).</summary>
    public string Path { get; set; } = "";

    /// <summary>Size in pixels (10).</summary>
    public Vec2 Size { get; set; }

    /// <summary>Size of a pixel in drawing units (11).</summary>
    public Vec2 Pixel { get; set; } = new(1, 1);

    /// <summary>Whether it was found (280).</summary>
    public bool Loaded { get; set; } = true;

    /// <summary>0 none, 2 centimetre, 5 inch (281).</summary>
    public int Units { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbRasterImageDef");
        f.Long(90, 0);
        if (f.Dwg is { } d)
        {
            Size = d.RawPoint(Size);
            Path = d.Text(1, Path);
            Loaded = d.Bit(Loaded);
            Units = d.RawByte(Units);
            Pixel = d.RawPoint(Pixel);
            // One reader looks for a handle more than the specification has.
            if (!d.Reading)
                d.Handle(default, HandleKind.HardPointer);
            return;
        }

        Path = f.Text(1, Path);
        Size = f.Flat(10, Size);
        Pixel = f.Flat(11, Pixel);
        Loaded = f.Byte(280, Loaded ? 1 : 0) != 0;
        Units = f.Byte(281, Units);
    }
}
