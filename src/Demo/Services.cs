namespace SteadyLintel.Demo;

/// <summary>SRV: ducts, pipes, cable trays, fittings, terminals, plant. IFC4, feet.</summary>
internal sealed class Services
{
    private const string Supply = "0.55 0.7 0.8",
        Pipe = "0.7 0.45 0.3",
        Tray = "0.6 0.6 0.55",
        Plant = "0.4 0.5 0.45";
    private readonly ModelBuilder _b;
    private readonly Site _site;
    private readonly int _duct,
        _pipe,
        _tray,
        _elbow,
        _elbowMap,
        _diffuser,
        _diffuserMap,
        _sprinkler,
        _sprinklerMap,
        _light,
        _lightMap;
    private int _number;

    private Services(Stream target, string time)
    {
        _b = new ModelBuilder(target, "SRV", "IFC4", "ft", "Conduit Bench", time);
        // The gallery says 8.600 and is 300 mm lower: a flaw the intake report must find.
        _site = new Site(
            _b,
            [
                ("Foundations", -1.2, -1.2),
                .. Site.Levels.Select(l => (l.Name, l.Level, l.Name == "Gallery" ? l.Level - 0.3 : l.Level)),
            ]
        );
        _duct = Type(
            "IFCDUCTSEGMENTTYPE",
            "Supply duct 600 × 300",
            ".RIGIDSEGMENT.",
            "$",
            "Pset_DuctSegmentTypeCommon",
            ("Shape", "IFCLABEL('RECTANGULAR')"),
            ("WorkingPressure", "IFCPRESSUREMEASURE(500.)")
        );
        _pipe = Type(
            "IFCPIPESEGMENTTYPE",
            "Pipe DN 100",
            ".RIGIDSEGMENT.",
            "$",
            "Pset_PipeSegmentTypeCommon",
            ("NominalDiameter", $"IFCPOSITIVELENGTHMEASURE({_b.L(0.1)})"),
            ("WorkingPressure", "IFCPRESSUREMEASURE(600000.)")
        );
        _tray = Type(
            "IFCCABLECARRIERSEGMENTTYPE",
            "Cable tray 300",
            ".CABLETRAYSEGMENT.",
            "$",
            "HW_Handover",
            ("Load", "IFCLABEL('60 kg/m')")
        );
        _elbowMap = _b.Map("Brep", Supply, Elbow());
        _elbow = Type(
            "IFCDUCTFITTINGTYPE",
            "Bend 90° 400 × 200",
            ".BEND.",
            $"(#{_elbowMap})",
            "HW_Handover",
            ("Gauge", "IFCLABEL('0.8 mm')")
        );
        _diffuserMap = _b.Map("SweptSolid", "0.9 0.9 0.9", _b.Extrude(_b.Rectangle(0.6, 0.6, 0, 0), 0.05));
        _diffuser = Type(
            "IFCAIRTERMINALTYPE",
            "Ceiling diffuser 600",
            ".DIFFUSER.",
            $"(#{_diffuserMap})",
            "Pset_AirTerminalTypeCommon",
            ("AirFlowrateRange", null)
        );
        _sprinklerMap = _b.Map("SweptSolid", "0.8 0.2 0.15", _b.Extrude(Circle(0.02), 0.09));
        _sprinkler = Type(
            "IFCFIRESUPPRESSIONTERMINALTYPE",
            "Sprinkler head",
            ".SPRINKLER.",
            $"(#{_sprinklerMap})",
            "HW_Handover",
            ("K factor", "IFCREAL(80.)")
        );
        _lightMap = _b.Map("SweptSolid", "0.95 0.93 0.75", _b.Extrude(_b.Rectangle(1.2, 0.15, 0, 0), 0.06));
        _light = Type(
            "IFCLIGHTFIXTURETYPE",
            "Linear light 1200",
            ".DIRECTIONSOURCE.",
            $"(#{_lightMap})",
            "HW_Handover",
            ("Circuit", null)
        );
    }

    /// <summary>Writes the model.</summary>
    public static void Write(Stream target, string time) => new Services(target, time).All();

    private void All()
    {
        for (int s = 0; s < 3; s++)
        {
            string storey = Site.Levels[s].Name;
            double clear = Site.Levels[s + 1].Level - Site.Levels[s].Level;
            Mains(storey, clear - 1.05);
            Branches(storey, clear - 1.05);
            Pipes(storey, clear - 0.85);
            Terminals(storey, clear - 0.72);
        }

        RoofPlant();
        Flaws();
        _b.Finish();
    }

    private int Type(
        string keyword,
        string name,
        string kind,
        string maps,
        string set,
        params (string Name, string? Value)[] properties
    ) => _b.Type(keyword, name, $"$,{kind}", $"(#{_b.PropertySet(name, set, properties)})", maps);

    private int Circle(double radius) =>
        _b.Add(
            "IFCCIRCLEPROFILEDEF",
            $".AREA.,$,#{_b.Add("IFCAXIS2PLACEMENT2D", $"#{_b.Point2(0, 0)},$")},{_b.L(radius)}"
        );

    // A quarter bend of a 400 × 200 duct in eight flat steps.
    private int Elbow()
    {
        const int steps = 8;
        var points = new List<(double, double, double)>();
        for (int i = 0; i <= steps; i++)
        {
            double a = Math.PI / 2 * i / steps;
            foreach (double r in (double[])[0.2, 0.6])
            foreach (double z in (double[])[0.0, 0.2])
                points.Add((r * Math.Sin(a), 0.6 - (r * Math.Cos(a)), z));
        }

        var faces = new List<int[]>
        {
            new[] { 0, 1, 3, 2 },
            new[] { (4 * steps) + 2, (4 * steps) + 3, (4 * steps) + 1, 4 * steps },
        };
        for (int i = 0; i < steps; i++)
        {
            int p = 4 * i,
                q = p + 4;
            // Inner, outer, under and upper side; the sides are ruled flat because each step is a plane quadrilateral.
            faces.Add([p, q, q + 1, p + 1]);
            faces.Add([p + 2, p + 3, q + 3, q + 2]);
            faces.Add([p, p + 2, q + 2, q]);
            faces.Add([p + 1, q + 1, q + 3, p + 3]);
        }

        return _b.Brep(points, faces);
    }

    private void Mains(string storey, double z)
    {
        for (int j = 0; j < Site.BaysY; j++)
        for (int i = 0; i < 24; i++)
            Segment(
                "IFCDUCTSEGMENT",
                "Supply duct",
                storey,
                (i * 2.0, (j * Site.Bay) + 5, z),
                (1, 0, 0),
                _b.Rectangle(0.6, 0.3, 0, 0),
                1.98,
                "M-DUCT-SUPPLY",
                Supply,
                _duct,
                "Galvanised sheet",
                ".RIGIDSEGMENT."
            );
        for (int i = 0; i < 24; i++)
            Segment(
                "IFCCABLECARRIERSEGMENT",
                "Cable tray",
                storey,
                (i * 2.0, 6.6, z + 0.25),
                (1, 0, 0),
                _b.Rectangle(0.3, 0.06, 0, 0),
                2,
                "E-TRAY",
                Tray,
                _tray,
                "Galvanised sheet",
                ".CABLETRAYSEGMENT."
            );
    }

    private void Branches(string storey, double z)
    {
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int j = 0; j < Site.BaysY; j++)
            {
                double x = (i * Site.Bay) + 3,
                    y = (j * Site.Bay) + 4.7;
                Segment(
                    "IFCDUCTSEGMENT",
                    "Branch duct",
                    storey,
                    (x, y, z),
                    (0, -1, 0),
                    _b.Rectangle(0.4, 0.2, 0, 0),
                    1.6,
                    "M-DUCT-SUPPLY",
                    Supply,
                    _duct,
                    "Galvanised sheet",
                    ".RIGIDSEGMENT."
                );
                Mapped(
                    "IFCDUCTFITTING",
                    "Bend",
                    storey,
                    x,
                    y - 2.2,
                    z - 0.1,
                    "M-DUCT-FITT",
                    _elbowMap,
                    _elbow,
                    ".BEND."
                );
            }
        }
    }

    private void Pipes(string storey, double z)
    {
        int circle = Circle(0.054);
        for (int line = 0; line < 4; line++)
        for (int i = 0; i < 16; i++)
            Segment(
                "IFCPIPESEGMENT",
                line < 2 ? "Heating pipe" : "Sprinkler pipe",
                storey,
                (i * 3.0, 2 + (line * 6.2), z),
                (1, 0, 0),
                circle,
                2.98,
                line < 2 ? "M-PIPE-HEAT" : "F-PIPE",
                Pipe,
                _pipe,
                "Carbon steel",
                ".RIGIDSEGMENT."
            );
    }

    private void Terminals(string storey, double z)
    {
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int j = 0; j < Site.BaysY; j++)
            {
                for (int k = 0; k < 2; k++)
                {
                    double x = (i * Site.Bay) + 2.5 + (3 * k),
                        y = (j * Site.Bay) + 2.5;
                    Mapped(
                        "IFCAIRTERMINAL",
                        "Diffuser",
                        storey,
                        x,
                        y,
                        z,
                        "M-DIFF",
                        _diffuserMap,
                        _diffuser,
                        ".DIFFUSER."
                    );
                    Mapped(
                        "IFCFIRESUPPRESSIONTERMINAL",
                        "Sprinkler",
                        storey,
                        x + 1.2,
                        y + 1,
                        z,
                        "F-SPKL",
                        _sprinklerMap,
                        _sprinkler,
                        ".SPRINKLER."
                    );
                    Mapped(
                        "IFCLIGHTFIXTURE",
                        "Light",
                        storey,
                        x,
                        y + 3,
                        z,
                        "E-LITE",
                        _lightMap,
                        _light,
                        ".DIRECTIONSOURCE."
                    );
                }
            }
        }
    }

    private void RoofPlant()
    {
        for (int i = 0; i < 6; i++)
        {
            int placement = _b.Placement(_site.Placement("Roof"), 2 + (8 * i), 10, 1.6);
            int body = _b.Extrude(_b.Rectangle(3.2, 1.8), 1.9),
                hood = _b.Extrude(Circle(0.5), 0.4, _b.Position(1.6, 0.9, 1.9));
            int unit = _b.Root(
                "IFCUNITARYEQUIPMENT",
                $"plant/{i}",
                $"'Air handling unit {i + 1}',$,$,#{placement},#{_b.Solid("M-PLANT", Plant, body, hood)},$,.AIRHANDLER."
            );
            _b.Contain(unit, _site.Storey("Roof"));
            _b.Define(
                _b.PropertySet(
                    $"plant/{i}",
                    "HW_Handover",
                    ("Supplier", i == 2 ? null : "IFCLABEL('to be named')"),
                    ("Weight", $"IFCMASSMEASURE({850 + (40 * i)}.)")
                ),
                unit
            );
        }
    }

    // Each is named in the demo's README with the finding it gives.
    private void Flaws()
    {
        for (int i = 0; i < 3; i++)
            Segment(
                "IFCDUCTSEGMENT",
                "Stray duct",
                "",
                (10 + (2 * i), 20, 10),
                (1, 0, 0),
                _b.Rectangle(0.4, 0.2, 0, 0),
                1.9,
                "M-DUCT-SUPPLY",
                Supply,
                _duct,
                "Galvanised sheet",
                ".RIGIDSEGMENT."
            );
    }

    private void Segment(
        string keyword,
        string name,
        string storey,
        (double X, double Y, double Z) at,
        (double X, double Y, double Z) along,
        int profile,
        double length,
        string layer,
        string colour,
        int type,
        string material,
        string kind
    )
    {
        (double X, double Y, double Z) across = Math.Abs(along.X) == 1 ? (0, along.X, 0) : (-along.Y, 0, 0);
        int placement = _b.PlacementAlong(
            _site.Placement(storey.Length > 0 ? storey : "Quay level"),
            at,
            along,
            across
        );
        int element = _b.Root(
            keyword,
            $"segment/{++_number}",
            $"'{name} {_number:0000}',$,$,#{placement},#{_b.Solid(layer, colour, _b.Extrude(profile, length))},$,{kind}"
        );
        if (storey.Length > 0)
            _b.Contain(element, _site.Storey(storey));
        _b.OfType(element, type);
        _b.OfMaterial(element, _b.Material(material));
        if (_number % 4 == 0)
            _b.Define(
                _b.PropertySet(
                    $"segment/{_number}",
                    "HW_Handover",
                    ("System", "IFCLABEL('S1')"),
                    ("Insulation", _number % 8 == 0 ? null : $"IFCPOSITIVELENGTHMEASURE({_b.L(0.03)})")
                ),
                element
            );
    }

    private void Mapped(
        string keyword,
        string name,
        string storey,
        double x,
        double y,
        double z,
        string layer,
        int map,
        int type,
        string kind
    )
    {
        int placement = _b.Placement(_site.Placement(storey), x, y, z);
        int element = _b.Root(
            keyword,
            $"mapped/{++_number}",
            $"'{name} {_number:0000}',$,$,#{placement},#{_b.Mapped(layer, map)},$,{kind}"
        );
        _b.Contain(element, _site.Storey(storey));
        _b.OfType(element, type);
    }
}
