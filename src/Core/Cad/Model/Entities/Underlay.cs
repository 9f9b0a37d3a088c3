using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>PDFUNDERLAY, DWFUNDERLAY, DGNUNDERLAY: a page of another file, shown behind the drawing.</summary>
public sealed class Underlay(string type) : Entity
{
    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The file and page: an <see cref="UnderlayDefinition"/> (340).</summary>
    public Handle Definition { get; set; }

    /// <summary>Where the page's origin comes to lie, in object coordinates (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Scale along the page's axes (41, 42, 43).</summary>
    public Vec3 Scale { get; set; } = new(1, 1, 1);

    /// <summary>Turn about the normal (50).</summary>
    public double Rotation { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>1 clipped, 2 shown, 4 in one colour, 8 fitted to the background (280).</summary>
    public int Flags { get; set; } = 2;

    /// <summary>Contrast from 20, fade to 80 (281, 282).</summary>
    public (int Contrast, int Fade) Tone { get; set; } = (100, 0);

    /// <summary>What is shown of the page, in its own coordinates: two corners or a polygon (11).</summary>
    public List<Vec2> Boundary { get; } = [];

    /// <summary>The corners of what is shown, in world coordinates; none when the boundary is not said.</summary>
    public IReadOnlyList<Vec3> Outline()
    {
        if (Boundary.Count < 2)
            return [];
        IEnumerable<Vec2> corners = Boundary is [var a, var b] ? [a, new(b.X, a.Y), b, new(a.X, b.Y)] : Boundary;
        var (sin, cos) = Math.SinCos(Rotation);
        return
        [
            .. corners
                .Select(c => new Vec3(c.X * Scale.X, c.Y * Scale.Y, 0))
                .Select(c =>
                    ObjectCoordinates.ToWorld(
                        Location + new Vec3((c.X * cos) - (c.Y * sin), (c.X * sin) + (c.Y * cos), 0),
                        Normal
                    )
                ),
        ];
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbUnderlayReference");
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        Definition = f.Reference(340, Definition);
        Location = f.Point(10, Location);
        Scale = new Vec3(f.Double(41, Scale.X), f.Double(42, Scale.Y), f.Double(43, Scale.Z));
        Rotation = f.Angle(50, Rotation);
        Normal = f.Normal(Normal);
        Flags = f.Byte(280, Flags);
        Tone = (f.Byte(281, Tone.Contrast), f.Byte(282, Tone.Fade));
        f.Items(Boundary, Boundary.Count, 11, p => f.Flat(11, p));
    }

    // Behind the boundary a newer file may have a second one, cut out of the first; it is left aside.
    private void ExchangeDwg(DwgFields d)
    {
        Normal = d.Point(210, Normal);
        Location = d.Point(10, Location);
        Rotation = d.Angle(50, Rotation);
        Scale = new Vec3(d.Double(Scale.X), d.Double(Scale.Y), d.Double(Scale.Z));
        Flags = d.RawByte(Flags);
        Tone = (d.RawByte(Tone.Contrast), d.RawByte(Tone.Fade));
        int count = d.Count(Boundary.Count);
        d.Items(Boundary, count, 0, d.RawPoint);
        Definition = d.Handle(Definition, HandleKind.HardPointer);
    }
}
