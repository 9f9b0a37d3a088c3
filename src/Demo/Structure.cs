namespace SteadyLintel.Demo;

/// <summary>STR: columns, beams and braces of I and hollow sections, slabs, footings. IFC2X3, metres.</summary>
internal sealed class Structure
{
    private const string Steel = "0.45 0.47 0.5",
        Concrete = "0.7 0.69 0.66";
    private const double Build = 0.09;
    private readonly ModelBuilder _b;
    private readonly Site _site;
    private readonly int _column,
        _main,
        _secondary,
        _brace;
    private int _number;

    private Structure(Stream target, string time)
    {
        _b = new ModelBuilder(target, "STR", "IFC2X3", "m", "Girder Desk", time);
        _site = new Site(_b, [("Foundations", -1.2, -1.2), .. Site.Levels.Select(l => (l.Name, l.Level, l.Level))]);
        _column = Type("IFCCOLUMNTYPE", "CHS 273 × 10", ".COLUMN.");
        _main = Type("IFCBEAMTYPE", "HEA 300", ".BEAM.");
        _secondary = Type("IFCBEAMTYPE", "IPE 240", ".BEAM.");
        _brace = Type("IFCMEMBERTYPE", "SHS 120 × 6", ".BRACE.");
    }

    /// <summary>Writes the model.</summary>
    public static void Write(Stream target, string time) => new Structure(target, time).All();

    /// <summary>Writes the model with the grid that it shares, one axis of it misnamed.</summary>
    public static void WriteWithGrid(Stream target, string time)
    {
        var structure = new Structure(target, time);
        structure._site.Grid(Site.Levels[0].Name, tag => tag == "F" ? "E" : tag);
        structure.All();
    }

    private void All()
    {
        Footings();
        for (int s = 0; s < 3; s++)
        {
            Columns(Site.Levels[s].Name, Site.Levels[s + 1].Level - Site.Levels[s].Level);
            Floor(Site.Levels[s + 1].Name);
            Braces(Site.Levels[s].Name, Site.Levels[s + 1].Level - Site.Levels[s].Level);
        }

        Flaws();
        _b.Finish();
    }

    private int Type(string keyword, string name, string kind) =>
        _b.Type(
            keyword,
            name,
            $"$,{kind}",
            $"(#{_b.PropertySet(name, "HW_Steel", ("Grade", "IFCLABEL('S355')"), ("Coating", null), ("Design life", "IFCLABEL('50 years')"))})"
        );

    // EN 10365 sections; dimensions in metres.
    private int Hea300() =>
        _b.Add(
            "IFCISHAPEPROFILEDEF",
            $".AREA.,'HEA 300',#{Centred()},{_b.L(0.3)},{_b.L(0.29)},{_b.L(0.0085)},{_b.L(0.014)},{_b.L(0.027)}"
        );

    private int Ipe240() =>
        _b.Add(
            "IFCISHAPEPROFILEDEF",
            $".AREA.,'IPE 240',#{Centred()},{_b.L(0.12)},{_b.L(0.24)},{_b.L(0.0062)},{_b.L(0.0098)},{_b.L(0.015)}"
        );

    private int Chs273() =>
        _b.Add(
            "IFCCIRCLEHOLLOWPROFILEDEF",
            $".AREA.,{ModelBuilder.Text("CHS 273 × 10")},#{Centred()},{_b.L(0.1365)},{_b.L(0.01)}"
        );

    private int Shs120() =>
        _b.Add(
            "IFCRECTANGLEHOLLOWPROFILEDEF",
            $".AREA.,'SHS 120 x 6',#{Centred()},{_b.L(0.12)},{_b.L(0.12)},{_b.L(0.006)},{_b.L(0.009)},{_b.L(0.012)}"
        );

    private int Centred() => _b.Add("IFCAXIS2PLACEMENT2D", $"#{_b.Point2(0, 0)},$");

    private void Footings()
    {
        for (int i = 0; i <= Site.BaysX; i++)
        {
            for (int j = 0; j <= Site.BaysY; j++)
            {
                string tag = Tag(i, j);
                int placement = _b.Placement(_site.Placement("Foundations"), i * Site.Bay, j * Site.Bay, 0);
                int pad = Element(
                    "IFCFOOTING",
                    $"footing/{tag}",
                    $"Pad {tag}",
                    placement,
                    _b.Solid("S-FNDN", Concrete, _b.Extrude(_b.Rectangle(2.4, 2.4, 0, 0), 0.8)),
                    ",.PAD_FOOTING."
                );
                _b.Contain(pad, _site.Storey("Foundations"));
                _b.OfMaterial(pad, _b.Material("Concrete C30/37"));
                int profile = _b.Add("IFCCIRCLEPROFILEDEF", $".AREA.,$,#{Centred()},{_b.L(0.3)}");
                for (int k = 0; k < 2; k++)
                {
                    int at = _b.Placement(placement, k == 0 ? -0.7 : 0.7, 0, -9);
                    int pile = _b.Root(
                        "IFCPILE",
                        $"pile/{tag}/{k}",
                        $"'Pile {tag}.{k + 1}',$,$,#{at},#{_b.Solid("S-FNDN-PILE", Concrete, _b.Extrude(profile, 9))},$,.SUPPORT.,$"
                    );
                    _b.Contain(pile, _site.Storey("Foundations"));
                    _b.OfMaterial(pile, _b.Material("Concrete C30/37"));
                }
            }
        }
    }

    private void Columns(string storey, double height)
    {
        int profile = Chs273();
        double foot = storey == "Quay level" ? -0.4 : -Build;
        for (int i = 0; i <= Site.BaysX; i++)
        {
            for (int j = 0; j <= Site.BaysY; j++)
            {
                string tag = Tag(i, j);
                int placement = _b.Placement(_site.Placement(storey), i * Site.Bay, j * Site.Bay, foot);
                int column = Element(
                    "IFCCOLUMN",
                    $"column/{storey}/{tag}",
                    $"Column {tag}",
                    placement,
                    _b.Solid("S-COLS", Steel, _b.Extrude(profile, height - foot - Build - 0.002)),
                    ""
                );
                Steelwork(column, storey, _column);
            }
        }
    }

    private void Floor(string storey)
    {
        int main = Hea300(),
            secondary = Ipe240();
        const double top = -0.25 - Build;
        for (int i = 0; i <= Site.BaysX; i++)
        for (int j = 0; j < Site.BaysY; j++)
            Beam(
                storey,
                main,
                _main,
                (i * Site.Bay, (j * Site.Bay) + 0.14, top - 0.145),
                (0, 1, 0),
                Site.Bay - 0.28,
                "HEA 300"
            );
        for (int j = 0; j <= Site.BaysY; j++)
        for (int i = 0; i < Site.BaysX; i++)
            Beam(
                storey,
                main,
                _main,
                ((i * Site.Bay) + 0.15, j * Site.Bay, top - 0.145),
                (1, 0, 0),
                Site.Bay - 0.3,
                "HEA 300"
            );
        for (int j = 0; j < Site.BaysY; j++)
        for (int i = 0; i < Site.BaysX; i++)
        for (int k = 1; k < 4; k++)
            Beam(
                storey,
                secondary,
                _secondary,
                ((i * Site.Bay) + 0.15, (j * Site.Bay) + (2 * k), top - 0.12),
                (1, 0, 0),
                Site.Bay - 0.3,
                "IPE 240"
            );
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int j = 0; j < Site.BaysY; j++)
            {
                if (storey != "Roof" && j == 1 && i is 1 or 4)
                    continue;
                int placement = _b.Placement(_site.Placement(storey), i * Site.Bay, j * Site.Bay, top);
                int slab = Element(
                    "IFCSLAB",
                    $"slab/{storey}/{i}.{j}",
                    $"Deck {Tag(i, j)}",
                    placement,
                    _b.Solid("S-SLAB", Concrete, _b.Extrude(_b.Rectangle(Site.Bay, Site.Bay), Build)),
                    ",.FLOOR."
                );
                _b.Contain(slab, _site.Storey(storey));
                _b.OfMaterial(slab, _b.Material("Concrete C30/37"));
            }
        }
    }

    private void Beam(
        string storey,
        int profile,
        int type,
        (double X, double Y, double Z) at,
        (double X, double Y, double Z) along,
        double length,
        string name
    )
    {
        // Z runs along the beam, Y up, so X is along × up.
        (double X, double Y, double Z) across = along.X == 1 ? (0, 1, 0) : (-1, 0, 0);
        int placement = _b.PlacementAlong(_site.Placement(storey), at, along, across);
        int beam = Element(
            "IFCBEAM",
            $"beam/{++_number}",
            $"{name} {_number:000}",
            placement,
            _b.Solid("S-BEAM", Steel, _b.Extrude(profile, length)),
            ""
        );
        Steelwork(beam, storey, type);
    }

    private void Braces(string storey, double height)
    {
        int profile = Shs120();
        foreach (int i in (int[])[0, 5])
        {
            foreach (int j in (int[])[0, 3])
            {
                for (int side = 0; side < 2; side++)
                {
                    double dx = side == 0 ? 4 : -4,
                        rise = height - 0.7,
                        length = Math.Sqrt((dx * dx) + (rise * rise));
                    int placement = _b.PlacementAlong(
                        _site.Placement(storey),
                        ((i + side) * Site.Bay, j * Site.Bay, 0),
                        (dx / length, 0, rise / length),
                        (0, 1, 0)
                    );
                    int brace = Element(
                        "IFCMEMBER",
                        $"brace/{storey}/{i}.{j}.{side}",
                        $"Brace {Tag(i, j)}.{side + 1}",
                        placement,
                        _b.Solid("S-BRAC", Steel, _b.Extrude(profile, length - 0.2)),
                        ""
                    );
                    Steelwork(brace, storey, _brace);
                }
            }
        }
    }

    private void Steelwork(int element, string storey, int type)
    {
        _b.Contain(element, _site.Storey(storey));
        _b.OfType(element, type);
        _b.OfMaterial(element, _b.Material("Steel S355"));
        _b.Define(
            _b.PropertySet(
                $"{element}",
                "HW_Handover",
                ("Erection stage", $"IFCLABEL('{1 + (element % 4)}')"),
                ("Bolt bag", element % 5 == 0 ? null : $"IFCLABEL('B{element % 97:00}')")
            ),
            element
        );
    }

    // Each is named in the demo's README with the finding it gives.
    private void Flaws() => _b.Add("IFCHERONWHARFTAG", "'not in any schema'");

    private int Element(string keyword, string key, string name, int placement, int shape, string rest) =>
        _b.Root(keyword, key, $"{ModelBuilder.Text(name)},$,$,#{placement},#{shape},$" + rest);

    private static string Tag(int i, int j) => $"{(char)('A' + i)}{j + 1}";
}
