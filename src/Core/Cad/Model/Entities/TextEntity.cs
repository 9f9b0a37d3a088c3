using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>What TEXT, ATTRIB and ATTDEF share: a line of text.</summary>
public abstract class TextEntity : Entity
{
    /// <summary>The text; control codes such as %%d as they came (1).</summary>
    public string Value { get; set; } = "";

    /// <summary>Its start on the base line, in object coordinates (10).</summary>
    public Vec3 Insertion { get; set; }

    /// <summary>The point it is justified to, where it is not left (11).</summary>
    public Vec3 Alignment { get; set; }

    /// <summary>Height of capitals (40).</summary>
    public double Height { get; set; } = 2.5;

    /// <summary>Rotation, radians (50).</summary>
    public double Rotation { get; set; }

    /// <summary>Width factor (41).</summary>
    public double Width { get; set; } = 1;

    /// <summary>Slant, radians (51).</summary>
    public double Slant { get; set; }

    /// <summary>2 mirrored in x, 4 in y (71).</summary>
    public int Generation { get; set; }

    /// <summary>0 left, 1 centre, 2 right, 3 aligned, 4 middle, 5 fit (72).</summary>
    public int Horizontal { get; set; }

    /// <summary>0 base line, 1 bottom, 2 middle, 3 top (73, 74 of attributes).</summary>
    public int Vertical { get; set; }

    /// <summary>The text style (7); the standard one in DXF when it is not said.</summary>
    public Handle Style { get; set; }

    /// <summary>Thickness (39).</summary>
    public double Thickness { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>The fields of the text.</summary>
    internal void ExchangeText(Fields f)
    {
        if (f.Dwg is not { } d)
            ExchangeDxf(f);
        else if (d.Since(CadVersion.AC1015))
            ExchangeDwg(d);
        else
            ExchangeWhole(d);
    }

    // Up to release 14 every field is there.
    private void ExchangeWhole(DwgFields d)
    {
        double elevation = d.Double(Insertion.Z);
        var (insertion, alignment) = (d.RawPoint(Insertion.XY), d.RawPoint(Alignment.XY));
        Insertion = new Vec3(insertion.X, insertion.Y, elevation);
        Alignment = alignment == default ? default : new Vec3(alignment.X, alignment.Y, elevation);
        Normal = d.Normal(Normal);
        Thickness = d.Thickness(Thickness);
        Slant = d.Double(Slant);
        Rotation = d.Double(Rotation);
        Height = d.Double(Height);
        Width = d.Double(Width);
        Value = d.Text(1, Value);
        (Generation, Horizontal, Vertical) = (d.Short(Generation), d.Short(Horizontal), d.Short(Vertical));
        Style = d.Handle(Style, HandleKind.HardPointer);
    }

    private void ExchangeDxf(Fields f)
    {
        f.Subclass("AcDbText");
        Thickness = f.Thickness(Thickness);
        Insertion = f.Point(10, Insertion);
        Height = f.Double(40, Height);
        Value = f.Text(1, Value);
        Rotation = f.Angle(50, Rotation, 0);
        Width = f.Double(41, Width, 1);
        Slant = f.Angle(51, Slant, 0);
        Style = f.Symbol(7, Style, SymbolKind.Style);
        Generation = f.Short(71, Generation, 0);
        Horizontal = f.Short(72, Horizontal, 0);
        if (f.Reading || Horizontal != 0 || Vertical != 0 || Alignment != Vec3.Zero)
            Alignment = f.Point(11, Alignment);
        Normal = f.Normal(Normal);
    }

    private void ExchangeDwg(DwgFields d)
    {
        int absent = d.RawByte(d.Reading ? 0 : Absent());
        double elevation = (absent & 1) != 0 ? 0 : d.RawDouble(Insertion.Z);
        var insertion = d.RawPoint(Insertion.XY);
        var alignment = (absent & 2) != 0 ? default : d.Default(Alignment.XY, insertion);
        Insertion = new Vec3(insertion.X, insertion.Y, elevation);
        Alignment = (absent & 2) != 0 ? default : new Vec3(alignment.X, alignment.Y, elevation);
        Normal = d.Normal(Normal);
        Thickness = d.Thickness(Thickness);
        Slant = (absent & 4) != 0 ? 0 : d.RawDouble(Slant);
        Rotation = (absent & 8) != 0 ? 0 : d.RawDouble(Rotation);
        Height = d.RawDouble(Height);
        Width = (absent & 16) != 0 ? 1 : d.RawDouble(Width);
        Value = d.Text(1, Value);
        Generation = (absent & 32) != 0 ? 0 : d.Short(Generation);
        Horizontal = (absent & 64) != 0 ? 0 : d.Short(Horizontal);
        Vertical = (absent & 128) != 0 ? 0 : d.Short(Vertical);
        Style = d.Handle(Style, HandleKind.HardPointer);
    }

    private int Absent() =>
        (Insertion.Z == 0 ? 1 : 0)
        | (Alignment == Vec3.Zero ? 2 : 0)
        | (Slant == 0 ? 4 : 0)
        | (Rotation == 0 ? 8 : 0)
        | (Width == 1 ? 16 : 0)
        | (Generation == 0 ? 32 : 0)
        | (Horizontal == 0 ? 64 : 0)
        | (Vertical == 0 ? 128 : 0);
}
