using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>HATCH: an area filled with lines, a colour or a gradient.</summary>
public sealed class Hatch : Entity
{
    /// <inheritdoc/>
    public override string Type => "HATCH";

    /// <summary>Height above the plane of object coordinates (30).</summary>
    public double Elevation { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>The name of the pattern (2).</summary>
    public string Pattern { get; set; } = "SOLID";

    /// <summary>Whether it is filled (70).</summary>
    public bool Filled { get; set; } = true;

    /// <summary>Whether it follows its boundary (71).</summary>
    public bool Associative { get; set; }

    /// <summary>Islands: 0 every other one, 1 the outermost, 2 ignored (75).</summary>
    public int Style { get; set; }

    /// <summary>0 user's, 1 predefined, 2 custom (76).</summary>
    public int PatternKind { get; set; } = 1;

    /// <summary>Rotation of the pattern, radians (52).</summary>
    public double Angle { get; set; }

    /// <summary>Scale of the pattern, or spacing (41).</summary>
    public double Scale { get; set; } = 1;

    /// <summary>Whether the pattern is crossed with itself (77).</summary>
    public bool Double { get; set; }

    /// <summary>The lines of the pattern, already turned and scaled.</summary>
    public List<HatchLine> Lines { get; } = [];

    /// <summary>The boundaries.</summary>
    public List<HatchPath> Paths { get; } = [];

    /// <summary>Points within (98, 10).</summary>
    public List<Vec2> Seeds { get; } = [];

    /// <summary>Size of a pixel when derived boundaries were found (47).</summary>
    public double PixelSize { get; set; }

    /// <summary>The gradient, or null.</summary>
    public HatchGradient? Gradient { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbHatch");
        if (f.Dwg is not null && f.Since(CadVersion.AC1018))
            Gradient = HatchGradient.Exchange(f, Gradient);
        if (f.Dwg is null)
            Elevation = f.Point(10, new Vec3(0, 0, Elevation)).Z;
        else
            Elevation = f.Double(30, Elevation);
        Normal = f.Point(210, Normal);
        Pattern = f.Text(2, Pattern);
        Filled = Bit(f, 70, Filled);
        Associative = Bit(f, 71, Associative);
        int paths = f.Long(91, Paths.Count);
        f.Items(Paths, paths, 92, p =>
        {
            p ??= new HatchPath();
            p.Exchange(f);
            return p;
        });
        Style = f.Short(75, Style);
        PatternKind = f.Short(76, PatternKind);
        if (!Filled)
            ExchangePattern(f);
        if (f.Dwg is null ? f.Reading || PixelSize != 0 : Paths.Any(p => (p.Flags & 4) != 0))
            PixelSize = f.Double(47, PixelSize);
        int seeds = f.Long(98, Seeds.Count);
        f.Items(Seeds, seeds, 10, s => f.Flat(10, s));
        if (f.Dwg is null && (f.Since(CadVersion.AC1018) && Gradient is not null || f.Reading))
            Gradient = HatchGradient.Exchange(f, Gradient);
        if (f.Dwg is { } d)
            foreach (var path in Paths)
                path.ExchangeSources(d);
    }

    private void ExchangePattern(Fields f)
    {
        Angle = f.Angle(52, Angle);
        Scale = f.Double(41, Scale);
        Double = Bit(f, 77, Double);
        int lines = f.Short(78, Lines.Count);
        f.Items(Lines, lines, 53, line =>
        {
            line ??= new HatchLine(0, default, default, []);
            double angle = f.Angle(53, line.Angle);
            var at = new Vec2(f.Double(43, line.Base.X), f.Double(44, line.Base.Y));
            var offset = new Vec2(f.Double(45, line.Offset.X), f.Double(46, line.Offset.Y));
            int dashes = f.Short(79, line.Dashes.Count);
            f.Items(line.Dashes, dashes, 49, x => f.Double(49, x));
            return line with { Angle = angle, Base = at, Offset = offset };
        });
    }

    private static bool Bit(Fields f, int code, bool value) =>
        f.Dwg is { } d ? d.Bit(value) : f.Short(code, value ? 1 : 0) != 0;
}
