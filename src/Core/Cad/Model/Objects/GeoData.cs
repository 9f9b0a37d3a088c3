using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>GEODATA: where the drawing is on the earth.</summary>
/// <remarks>The fields are those of 2010 and later. The form of 2009 has other codes for its mesh in DXF, which are read and written;
/// whether its DWG has another order of fields is not known here.</remarks>
public sealed class GeoData : CadObject
{
    /// <inheritdoc/>
    public override string Type => "GEODATA";

    /// <summary>The form of the object: 1 of 2009, 2 of 2010, 3 of 2013 (90).</summary>
    public int Form { get; set; } = 2;

    /// <summary>The block whose entities it places (330).</summary>
    public Handle Block { get; set; }

    /// <summary>What <see cref="Reference"/> counts in: 0 unknown, 1 a local grid, 2 a projected grid, 3 longitude and latitude in degrees
    /// (70).</summary>
    public int Coordinates { get; set; } = 3;

    /// <summary>A point of the drawing (10).</summary>
    public Vec3 Design { get; set; }

    /// <summary>The same point in the coordinate system (11).</summary>
    public Vec3 Reference { get; set; }

    /// <summary>Metres in a unit of the drawing, across and up (40, 41).</summary>
    public (double Across, double Up) Metres { get; set; } = (1, 1);

    /// <summary>The units' numbers, as in $INSUNITS (91, 92).</summary>
    public (int Across, int Up) Units { get; set; } = (6, 6);

    /// <summary>Up in the drawing (210).</summary>
    public Vec3 Up { get; set; } = Vec3.AxisZ;

    /// <summary>North in the drawing's plane (12).</summary>
    public Vec2 North { get; set; } = new(0, 1);

    /// <summary>How the scale is found: 1 none, 2 as given, 3 the grid's at the reference point, 4 over the drawing (95).</summary>
    public int ScaleMethod { get; set; } = 1;

    /// <summary>The scale as given (141).</summary>
    public double Scale { get; set; } = 1;

    /// <summary>Whether heights are reduced to the sea, its height, and the radius used (294, 142, 143).</summary>
    public (bool Reduced, double Height, double Radius) Sea { get; set; }

    /// <summary>The coordinate system: a definition in XML, or a name (301, 303).</summary>
    public string System { get; set; } = "";

    /// <summary>A place for feeds of news, and the tags of an observation: from, to, what it covers (302, 305, 306, 307).</summary>
    public (string Place, string From, string To, string Covers) Tags { get; set; } = ("", "", "", "");

    /// <summary>Points of the drawing and where they come to lie (13, 14).</summary>
    public List<(Vec2 From, Vec2 To)> Mesh { get; } = [];

    /// <summary>Triangles over the points (97, 98, 99).</summary>
    public List<(int A, int B, int C)> Faces { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbGeoData");
        Form = f.Long(90, Form);
        if (f.Dwg is null)
            Coordinates = f.Short(70, Coordinates);
        Block = f.Reference(330, Block, HandleKind.SoftPointer);
        if (f.Dwg is { } d)
            Coordinates = d.Short(Coordinates);
        Design = f.Point(10, Design);
        Reference = f.Point(11, Reference);
        double across = f.Double(40, Metres.Across);
        int unit = f.Long(91, Units.Across);
        Metres = (across, f.Double(41, Metres.Up));
        Units = (unit, f.Long(92, Units.Up));
        Up = f.Point(210, Up);
        North = f.Flat(12, North);
        ScaleMethod = f.Long(95, ScaleMethod);
        Scale = f.Double(141, Scale);
        Sea = (f.Bit(294, Sea.Reduced), f.Double(142, Sea.Height), f.Double(143, Sea.Radius));
        ExchangeSystem(f);
        Tags = (f.Text(302, Tags.Place), f.Text(305, Tags.From), f.Text(306, Tags.To), f.Text(307, Tags.Covers));
        int points = f.Long(93, Mesh.Count);
        // The form of 2009 has its points under 12 and 13.
        int first = f.Dwg is null && Form < 2 ? 12 : 13;
        f.Items(Mesh, f.Dwg?.Bounded(points) ?? points, first, p => (f.Flat(first, p.From), f.Flat(first + 1, p.To)));
        int faces = f.Long(96, Faces.Count);
        f.Items(Faces, f.Dwg?.Bounded(faces) ?? faces, 97, t => (f.Long(97, t.A), f.Long(98, t.B), f.Long(99, t.C)));
    }

    // DXF keeps it in pieces under 303, the last under 301, line ends as ^J.
    private void ExchangeSystem(Fields f) =>
        System = f.Dwg is not null
            ? f.Text(301, System)
            : f.Pieces(303, 301, System.ReplaceLineEndings("^J")).Replace("^J", "\n", StringComparison.Ordinal);
}
