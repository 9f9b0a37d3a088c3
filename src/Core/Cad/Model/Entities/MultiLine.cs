using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>MLINE: several lines side by side.</summary>
public sealed class MultiLine : Entity
{
    /// <inheritdoc/>
    public override string Type => "MLINE";

    /// <summary>The style (340; its name 2).</summary>
    public Handle Style { get; set; }

    /// <summary>The name of the style.</summary>
    public string StyleName { get; set; } = "STANDARD";

    /// <summary>Scale (40).</summary>
    public double Scale { get; set; } = 1;

    /// <summary>0 top, 1 middle, 2 bottom (70).</summary>
    public int Justification { get; set; }

    /// <summary>1 has vertices, 2 closed, 4 no cap at the start, 8 no cap at the end (71).</summary>
    public int Flags { get; set; } = 1;

    /// <summary>The start (10).</summary>
    public Vec3 Start { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>How many lines the style has (73).</summary>
    public int Lines { get; set; }

    /// <summary>The vertices.</summary>
    public List<MultiLineVertex> Vertices { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbMline");
        if (f.Dwg is { } d)
        {
            Scale = d.Double(Scale);
            Justification = d.RawByte(Justification);
            Start = d.Point(10, Start);
            Normal = d.Point(210, Normal);
            int open = d.Short((Flags & 2) != 0 ? 3 : 1);
            Flags = (Flags & ~3) | (open == 3 ? 3 : 1);
            Lines = d.RawByte(Lines);
            int vertices = d.Short(Vertices.Count);
            ExchangeVertices(d, d.Bounded(vertices));
            Style = d.Handle(Style, HandleKind.HardPointer);
            return;
        }

        StyleName = f.Text(2, StyleName);
        Style = f.Reference(340, Style);
        Scale = f.Double(40, Scale);
        Justification = f.Short(70, Justification);
        Flags = f.Short(71, Flags);
        int count = f.Short(72, Vertices.Count);
        Lines = f.Short(73, Lines);
        Start = f.Point(10, Start);
        Normal = f.Normal(Normal);
        ExchangeVertices(f, count);
    }

    private void ExchangeVertices(Fields f, int count) => f.Items(Vertices, count, 11, v =>
        {
            v ??= new MultiLineVertex(default, default, default, []);
            var point = f.Point(11, v.Point);
            var direction = f.Point(12, v.Direction);
            var mitre = f.Point(13, v.Mitre);
            f.Items(v.Parameters, Lines, 74, p =>
            {
                var (lines, fills) = p.Lines is null ? ([], []) : p;
                int several = f.Short(74, lines.Count);
                f.Items(lines, several, 41, x => f.Double(41, x));
                several = f.Short(75, fills.Count);
                f.Items(fills, several, 42, x => f.Double(42, x));
                return (lines, fills);
            });
            return v with { Point = point, Direction = direction, Mitre = mitre };
        });
}
