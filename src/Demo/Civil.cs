namespace SteadyLintel.Demo;

/// <summary>The civil engineer's model: quay wall, mooring piles and bollards where the surveyor measured them, at map
/// coordinates.</summary>
internal static class Civil
{
    /// <summary>Where the corner of axes A and 1 lies on the map, metres; invented, like the map's name.</summary>
    public const double Easting = 512_340.25,
        Northing = 5_412_345.5,
        Height = 3.25;

    /// <summary>How the terminal is turned on the map, degrees from east, counter-clockwise.</summary>
    public const double Turn = 27.5;

    private const double WallLength = 8,
        WallThickness = 1.2,
        WallHeight = 6,
        PileLength = 14;

    private const string Concrete = "0.62 0.62 0.6",
        Steel = "0.35 0.37 0.4";

    /// <summary>Writes the model.</summary>
    public static void Write(Stream target, string time)
    {
        var b = new ModelBuilder(target, "CIV", "IFC4", "m", "Tidewater Survey 2", time);
        int system = b.Add("IFCPROJECTEDCRS", "'Heron grid','invented','none','none','none',$,$");
        // The model lies at map coordinates itself, so the conversion moves nothing.
        b.Add("IFCMAPCONVERSION", $"#{b.Context},#{system},0.,0.,0.,1.,0.,1.");
        int map = b.Placement(null, 0, 0, 0),
            quay = b.Placement(map, Easting, Northing, Height, Turn * Math.PI / 180);
        int site = b.Root(
            "IFCSITE",
            "site",
            $"'Heron Wharf quay',$,$,#{map},$,$,.ELEMENT.,(52,22,30),(4,55,12),0.,$,$"
        );
        int works = b.Root("IFCBUILDING", "building", $"'Quay',$,$,#{quay},$,$,.ELEMENT.,$,$,$");
        int level = b.Root(
            "IFCBUILDINGSTOREY",
            "quay",
            $"'Quay level',$,$,#{b.Placement(quay, 0, 0, 0)},$,$,.ELEMENT.,{b.L(Height)}"
        );
        b.Aggregate("project", b.Project, site);
        b.Aggregate("site", site, works);
        b.Aggregate("building", works, level);
        for (int n = 0; n < 9; n++)
        {
            double x = (n - 1) * WallLength;
            int wall = b.Extrude(b.Rectangle(WallLength, WallThickness, WallLength / 2, WallThickness / 2), WallHeight);
            Add(
                b,
                level,
                "IFCWALL",
                $"wall {n + 1}",
                $"Quay wall {n + 1}",
                b.Placement(quay, x, -6, -WallHeight),
                b.Solid("C-QUAY", Concrete, wall),
                ".STANDARD."
            );
            int pile = b.Extrude(b.Add("IFCCIRCLEPROFILEDEF", $".AREA.,$,$,{b.L(0.45)}"), PileLength);
            Add(
                b,
                level,
                "IFCPILE",
                $"pile {n + 1}",
                $"Mooring pile {n + 1}",
                b.Placement(quay, x + (WallLength / 2), -9, 2 - PileLength),
                b.Solid("C-MOOR", Steel, pile),
                ".DRIVEN.,$"
            );
        }

        b.Finish();
    }

    private static void Add(
        ModelBuilder b,
        int level,
        string keyword,
        string key,
        string name,
        int placement,
        int shape,
        string rest
    ) => b.Contain(b.Root(keyword, key, $"{ModelBuilder.Text(name)},$,$,#{placement},#{shape},$,{rest}"), level);
}
