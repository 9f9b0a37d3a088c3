using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The text of a <see cref="MultiLeader"/>, a paragraph text.</summary>
public sealed class MultiLeaderText
{
    /// <summary>The words (304).</summary>
    public string Value { get; set; } = "";

    /// <summary>Normal, place and direction (11, 12, 13), and the turn (42).</summary>
    public (Vec3 Normal, Vec3 Place, Vec3 Direction, double Rotation) Position { get; set; } =
        (Vec3.AxisZ, Vec3.Zero, Vec3.AxisX, 0);

    /// <summary>The style (340).</summary>
    public Handle Style { get; set; }

    /// <summary>Width and height of the paragraph (43, 44).</summary>
    public (double Width, double Height) Size { get; set; }

    /// <summary>Factor and kind of the line spacing (45, 170).</summary>
    public (double Factor, int Kind) Spacing { get; set; } = (1, 1);

    /// <summary>The colour (90).</summary>
    public CadColour Colour { get; set; } = CadColour.ByBlock;

    /// <summary>Alignment: 1 left, 2 centre, 3 right (171); flow: 1 across, 3 down, 5 by style (172).</summary>
    public (int Alignment, int Flow) Set { get; set; } = (1, 5);

    /// <summary>The ground behind: colour (91), how far it is out (141), transparency (92), as the window's (291), and whether it is
    /// filled (292).</summary>
    public (CadColour Colour, double Scale, int Transparency, bool Window, bool Filled) Ground { get; set; } =
        (CadColour.ByBlock, 1.5, 0, false, false);

    /// <summary>Columns: kind (173), height by itself (293), width and gutter (142, 143), from the other side (294).</summary>
    public (int Kind, bool Auto, double Width, double Gutter, bool Reversed) Columns { get; set; }

    /// <summary>Heights of columns (144).</summary>
    public List<double> Heights { get; } = [];

    /// <summary>Whether words break (295).</summary>
    public bool Breaks { get; set; }

    internal void Exchange(DwgFields d)
    {
        Value = d.Text(304, Value);
        var normal = d.Point(11, Position.Normal);
        Style = d.Handle(Style, HandleKind.HardPointer);
        Position = (normal, d.Point(12, Position.Place), d.Point(13, Position.Direction), d.Double(Position.Rotation));
        Size = (d.Double(Size.Width), d.Double(Size.Height));
        Spacing = (d.Double(Spacing.Factor), d.Short(Spacing.Kind));
        Colour = d.Colour(0, Colour);
        Set = (d.Short(Set.Alignment), d.Short(Set.Flow));
        Ground = (
            d.Colour(0, Ground.Colour),
            d.Double(Ground.Scale),
            d.Long(Ground.Transparency),
            d.Bit(Ground.Window),
            d.Bit(Ground.Filled)
        );
        Columns = (
            d.Short(Columns.Kind),
            d.Bit(Columns.Auto),
            d.Double(Columns.Width),
            d.Double(Columns.Gutter),
            d.Bit(Columns.Reversed)
        );
        int heights = d.Count(Heights.Count);
        d.Items(Heights, heights, 0, d.Double);
        Breaks = d.Bit(Breaks);
        d.Bit(false);
    }
}
