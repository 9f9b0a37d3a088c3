namespace SteadyLintel.Demo;

/// <summary>ARC: walls with doors and windows, slabs, ceilings, spaces, stairs, railings, roof, seats. IFC4, millimetres.</summary>
internal sealed partial class Architecture
{
    private const double ExternalWall = 0.3,
        Partition = 0.15,
        SlabDepth = 0.25;
    private const string White = "0.93 0.92 0.89",
        Glass = "0.62 0.78 0.85 0.6",
        Timber = "0.72 0.55 0.36",
        Stone = "0.74 0.72 0.68",
        Zinc = "0.55 0.58 0.6",
        Cloth = "0.25 0.38 0.47";
    private readonly ModelBuilder _b;
    private readonly Site _site;
    private readonly int _external,
        _partition,
        _door,
        _window,
        _seat,
        _doorMap,
        _windowMap,
        _seatMap;
    private int _number;

    private Architecture(Stream target, string time)
    {
        _b = new ModelBuilder(target, "ARC", "IFC4", "mm", "Plumbline Draft", time);
        _site = new Site(_b, Site.Levels.Select(l => (l.Name, l.Level, l.Level)));
        _external = _b.Type(
            "IFCWALLTYPE",
            "External wall 300",
            "$,.SOLIDWALL.",
            Sets(
                "external",
                "Pset_WallCommon",
                ("Reference", "IFCIDENTIFIER('EW-300')"),
                ("ThermalTransmittance", "IFCTHERMALTRANSMITTANCEMEASURE(0.21)"),
                ("IsExternal", "IFCBOOLEAN(.T.)")
            )
        );
        _partition = _b.Type(
            "IFCWALLTYPE",
            "Partition 150",
            "$,.PARTITIONING.",
            Sets(
                "partition",
                "Pset_WallCommon",
                ("Reference", "IFCIDENTIFIER('IW-150')"),
                ("IsExternal", "IFCBOOLEAN(.F.)")
            )
        );
        _doorMap = _b.Map(
            "SweptSolid",
            Timber,
            _b.Extrude(_b.Rectangle(0.98, 0.06, 0.5, 0.075), 2.08, _b.Position(0, 0, 0))
        );
        _windowMap = _b.Map(
            "SweptSolid",
            Glass,
            _b.Extrude(_b.Rectangle(2.38, 0.04, 1.2, 0.15), 1.38, _b.Position(0, 0, 0.01))
        );
        _seatMap = _b.Map(
            "SweptSolid",
            Cloth,
            _b.Extrude(_b.Rectangle(0.5, 0.5), 0.08, _b.Position(0, 0, 0.4)),
            _b.Extrude(_b.Rectangle(0.5, 0.06), 0.45, _b.Position(0, 0, 0.48))
        );
        _door = _b.Type("IFCDOORTYPE", "Door 1000 × 2100", "$,.DOOR.,.SINGLE_SWING_LEFT.,$,$", "$", $"(#{_doorMap})");
        _window = _b.Type(
            "IFCWINDOWTYPE",
            "Window 2400 × 1400",
            "$,.WINDOW.,.SINGLE_PANEL.,$,$",
            "$",
            $"(#{_windowMap})"
        );
        _seat = _b.Type("IFCFURNITURETYPE", "Bench seat", "$,.SITE.,.CHAIR.", "$", $"(#{_seatMap})");
    }

    /// <summary>Writes the model.</summary>
    public static void Write(Stream target, string time) => new Architecture(target, time).All();

    private void All()
    {
        _site.Grid("Quay level");
        for (int s = 0; s < 3; s++)
        {
            double height = Site.Levels[s + 1].Level - Site.Levels[s].Level - SlabDepth;
            Perimeter(Site.Levels[s].Name, height);
            Partitions(Site.Levels[s].Name, height);
            Slabs(Site.Levels[s].Name);
            Rooms(Site.Levels[s].Name, height);
        }

        Stairs("Quay level", 4.8);
        Stairs("Concourse", 3.8);
        CurvedWall();
        Roof();
        Seats();
        Flaws();
        _b.Finish();
    }

    private void Perimeter(string storey, double height)
    {
        double w = Site.BaysX * Site.Bay,
            d = Site.BaysY * Site.Bay;
        for (int i = 0; i < Site.BaysX; i++)
        {
            Wall(
                storey,
                i * Site.Bay,
                0,
                0,
                Site.Bay,
                ExternalWall,
                height,
                _external,
                i % 3 == 1 ? "door" : "windows"
            );
            Wall(storey, (i + 1) * Site.Bay, d, Math.PI, Site.Bay, ExternalWall, height, _external, "windows");
        }

        for (int i = 0; i < Site.BaysY; i++)
            Wall(storey, 0, (i + 1) * Site.Bay, -Math.PI / 2, Site.Bay, ExternalWall, height, _external, "windows");
        if (storey == "Quay level")
            for (int i = 0; i < Site.BaysY; i++)
                Wall(storey, w, i * Site.Bay, Math.PI / 2, Site.Bay, ExternalWall, height, _external, "door");
    }

    private void Partitions(string storey, double height)
    {
        for (int i = 1; i < Site.BaysX; i++)
        for (int j = 0; j < Site.BaysY; j += 2)
            Wall(
                storey,
                (i * Site.Bay) + (Partition / 2),
                (j * Site.Bay) + 0.3,
                Math.PI / 2,
                Site.Bay - 0.6,
                Partition,
                height,
                _partition,
                "door"
            );
        for (int i = 0; i < Site.BaysX; i++)
        for (int j = 1; j < Site.BaysY; j++)
            Wall(
                storey,
                (i * Site.Bay) + 0.3,
                (j * Site.Bay) - (Partition / 2),
                0,
                Site.Bay - 0.6,
                Partition,
                height,
                _partition,
                i % 2 == 0 ? "door" : ""
            );
    }

    private void Wall(
        string storey,
        double x,
        double y,
        double turn,
        double length,
        double thickness,
        double height,
        int type,
        string filling
    )
    {
        string key = $"wall/{++_number}";
        int placement = _b.Placement(_site.Placement(storey), x, y, 0, turn);
        bool external = type == _external;
        string layer = external ? "A-WALL-EXT" : "A-WALL-INT";
        int shape = _b.Solid(layer, White, _b.Extrude(_b.Rectangle(length, thickness), height));
        int wall = _b.Root(
            "IFCWALL",
            key,
            $"'{(external ? "External wall" : "Partition")} {_number:000}',$,$,#{placement},#{shape},'W{_number:000}',{(external ? ".SOLIDWALL." : ".PARTITIONING.")}"
        );
        _b.Contain(wall, _site.Storey(storey));
        _b.OfType(wall, type);
        _b.OfMaterial(wall, _b.Material(external ? "Brick, lime mortar" : "Plasterboard on studs"));
        Facts(
            key,
            wall,
            "Pset_WallCommon",
            ("FireRating", _number % 3 == 0 ? null : $"IFCLABEL('{(external ? "EI 60" : "EI 30")}')"),
            ("LoadBearing", "IFCBOOLEAN(.F.)")
        );
        _b.Define(
            _b.Quantities(
                key,
                "Qto_WallBaseQuantities",
                ("Length", 'L', length),
                ("Height", 'L', height),
                ("Width", 'L', thickness),
                ("GrossVolume", 'V', length * thickness * height)
            ),
            wall
        );
        if (filling == "door")
            Fill(storey, wall, placement, key, (length / 2) - 0.5, 0, 1, 2.1, thickness, true);
        if (filling == "windows")
            for (int i = 0; i < 2; i++)
                Fill(storey, wall, placement, $"{key}/{i}", 0.9 + (i * 3.8), 0.9, 2.4, 1.4, thickness, false);
    }

    private void Fill(
        string storey,
        int wall,
        int placement,
        string key,
        double x,
        double z,
        double width,
        double height,
        double thickness,
        bool door
    )
    {
        int at = _b.Placement(placement, x, 0, z);
        // The opening is proud of the wall on both sides, as exports often make it.
        int box = _b.Extrude(_b.Rectangle(width, thickness + 0.2, width / 2, thickness / 2), height);
        int opening = _b.Root(
            "IFCOPENINGELEMENT",
            $"opening/{key}",
            $"'Opening',$,$,#{at},#{_b.Solid("", "", box)},$,.OPENING."
        );
        _b.Root("IFCRELVOIDSELEMENT", $"voids/{key}", $"$,$,#{wall},#{opening}");
        int local = _b.Placement(at, 0, 0, 0);
        string name = door ? "Door" : "Window",
            layer = door ? "A-DOOR" : "A-GLAZ";
        int filler = _b.Root(
            door ? "IFCDOOR" : "IFCWINDOW",
            $"{name}/{key}",
            $"'{name} {key[5..].Replace('/', '.')}',$,$,#{local},#{_b.Mapped(layer, door ? _doorMap : _windowMap)},$,{_b.L(height)},{_b.L(width)},{(door ? ".DOOR.,.SINGLE_SWING_LEFT.,$" : ".WINDOW.,.SINGLE_PANEL.,$")}"
        );
        _b.Root("IFCRELFILLSELEMENT", $"fills/{key}", $"$,$,#{opening},#{filler}");
        _b.Contain(filler, _site.Storey(storey));
        _b.OfType(filler, door ? _door : _window);
        if (door)
            Facts(key, filler, "Pset_DoorCommon", ("FireRating", "IFCLABEL('')"), ("SelfClosing", "IFCBOOLEAN(.T.)"));
    }

    private void Slabs(string storey)
    {
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int j = 0; j < Site.BaysY; j++)
            {
                string key = $"slab/{storey}/{i}.{j}";
                int placement = _b.Placement(_site.Placement(storey), i * Site.Bay, j * Site.Bay, -SlabDepth);
                int shape = _b.Solid("A-FLOR", Stone, _b.Extrude(_b.Rectangle(Site.Bay, Site.Bay), SlabDepth - 0.001));
                int slab = _b.Root(
                    "IFCSLAB",
                    key,
                    $"'Floor {(char)('A' + i)}{j + 1}',$,$,#{placement},#{shape},$,{(storey == "Quay level" ? ".BASESLAB." : ".FLOOR.")}"
                );
                _b.Contain(slab, _site.Storey(storey));
                _b.OfMaterial(slab, _b.Material("Terrazzo on screed"));
                if (storey == "Quay level" || j != 1 || i is not (1 or 4))
                    continue;
                int at = _b.Placement(placement, 2, 2.4, -0.1);
                int hole = _b.Root(
                    "IFCOPENINGELEMENT",
                    $"hole/{key}",
                    $"'Stair well',$,$,#{at},#{_b.Solid("", "", _b.Extrude(_b.Rectangle(5, 3.2), 0.6))},$,.OPENING."
                );
                _b.Root("IFCRELVOIDSELEMENT", $"voids/{key}", $"$,$,#{slab},#{hole}");
            }
        }
    }

    private void Rooms(string storey, double height)
    {
        var rooms = new List<int>();
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int j = 0; j < Site.BaysY; j++)
            {
                string key = $"{storey}/{i}.{j}";
                int placement = _b.Placement(_site.Placement(storey), (i * Site.Bay) + 0.3, (j * Site.Bay) + 0.3, 0);
                int room = _b.Root(
                    "IFCSPACE",
                    $"space/{key}",
                    $"'{(char)('A' + i)}{j + 1}',$,$,#{placement},#{_b.Solid("A-AREA", "0.9 0.85 0.7 0.85", _b.Extrude(_b.Rectangle(7.4, 7.4), height - 0.4))},'{RoomName(storey, i, j)}',.ELEMENT.,.INTERNAL.,$"
                );
                rooms.Add(room);
                Facts(
                    key,
                    room,
                    "HW_Handover",
                    ("Cleaning zone", $"IFCLABEL('Z{j + 1}')"),
                    ("Occupants", (i + j) % 4 == 0 ? null : $"IFCCOUNTMEASURE({10 + (5 * i)})")
                );
                int ceilingAt = _b.Placement(placement, 0, 0, height - 0.4);
                int ceiling = _b.Root(
                    "IFCCOVERING",
                    $"ceiling/{key}",
                    $"'Ceiling {(char)('A' + i)}{j + 1}',$,$,#{ceilingAt},#{_b.Solid("A-CLNG", White, _b.Extrude(_b.Rectangle(7.4, 7.4), 0.02))},$,.CEILING."
                );
                _b.Contain(ceiling, _site.Storey(storey));
            }
        }

        _b.Aggregate($"rooms/{storey}", _site.Storey(storey), [.. rooms]);
    }

    private static string RoomName(string storey, int i, int j) =>
        (storey, j) switch
        {
            ("Quay level", 0) => "Vehicle check-in",
            ("Quay level", _) => i < 3 ? "Baggage" : "Boarding",
            ("Concourse", 1) => "Waiting hall",
            ("Concourse", _) => "Kiosk",
            _ => j == 1 ? "Viewing gallery" : "Office",
        };

    // The landward end wall follows axis R.
    private void CurvedWall()
    {
        const int chords = 24;
        double radius = Site.BaysY * Site.Bay / 2;
        for (int s = 1; s < 3; s++)
        {
            var outer = Enumerable
                .Range(0, chords + 1)
                .Select(i => -Math.PI / 2 + (Math.PI * i / chords))
                .Select(a => (radius * Math.Cos(a), radius * Math.Sin(a)));
            var inner = Enumerable
                .Range(0, chords + 1)
                .Select(i => Math.PI / 2 - (Math.PI * i / chords))
                .Select(a => ((radius - 0.3) * Math.Cos(a), (radius - 0.3) * Math.Sin(a)));
            string storey = Site.Levels[s].Name;
            int placement = _b.Placement(_site.Placement(storey), Site.BaysX * Site.Bay, radius, 0);
            double height = Site.Levels[s + 1].Level - Site.Levels[s].Level - SlabDepth;
            int wall = _b.Root(
                "IFCWALL",
                $"curved/{s}",
                $"'Curved wall R',$,$,#{placement},#{_b.Solid("A-WALL-EXT", Glass, _b.Extrude(_b.Outline(outer.Concat(inner)), height))},$,.SOLIDWALL."
            );
            _b.Contain(wall, _site.Storey(storey));
            _b.OfMaterial(wall, _b.Material("Curved glazing"));
            var floor = outer.ToList();
            int slab = _b.Root(
                "IFCSLAB",
                $"apse/{s}",
                $"'Floor R',$,$,#{_b.Placement(_site.Placement(storey), Site.BaysX * Site.Bay, radius, -SlabDepth)},#{_b.Solid("A-FLOR", Stone, _b.Extrude(_b.Outline(floor), SlabDepth - 0.001))},$,.FLOOR."
            );
            _b.Contain(slab, _site.Storey(storey));
        }
    }

    private void Roof()
    {
        int placement = _b.Placement(_site.Placement("Roof"), 0, 0, 0);
        int roof = _b.Root("IFCROOF", "roof", $"'Folded roof',$,$,#{placement},$,$,.GABLE_ROOF.");
        _b.Contain(roof, _site.Storey("Roof"));
        var parts = new List<int>();
        for (int i = 0; i < Site.BaysX; i++)
        {
            for (int side = 0; side < 2; side++)
            {
                // A folded plate, cut back along a slanting plane at its eaves.
                int at = _b.PlacementAlong(placement, (i * Site.Bay, 24.6, 0), (0, -1, 0), (1, 0, 0));
                double x = side * 4;
                var outline =
                    side == 0
                        ? new[] { (0.0, 0.0), (4.0, 1.2), (4.0, 1.4), (0.0, 0.2) }
                        : [(x, 1.2), (8.0, 0.0), (8.0, 0.2), (x, 1.4)];
                int solid = _b.Extrude(_b.Outline(outline), 25.2);
                int plane = _b.Add(
                    "IFCPLANE",
                    $"#{_b.Add("IFCAXIS2PLACEMENT3D", $"#{_b.Point(0, 0, 24.6)},#{_b.Direction(0, 0.3, 1)},#{_b.Direction(1, 0, 0)}")}"
                );
                int half = _b.Add("IFCHALFSPACESOLID", $"#{plane},.F.");
                int clipped = _b.Add("IFCBOOLEANCLIPPINGRESULT", $".DIFFERENCE.,#{solid},#{half}");
                int shape = _b.Definition(_b.Shape("A-ROOF", "Clipping", Zinc, clipped));
                parts.Add(
                    _b.Root(
                        "IFCSLAB",
                        $"roof/{i}.{side}",
                        $"'Roof plate {(char)('A' + i)}{side + 1}',$,$,#{at},#{shape},$,.ROOF."
                    )
                );
            }
        }

        _b.Aggregate("roof", roof, [.. parts]);
        foreach (int part in parts)
            _b.OfMaterial(part, _b.Material("Zinc on timber"));
    }

    private void Seats()
    {
        int n = 0;
        foreach (string storey in (string[])["Concourse", "Gallery"])
        {
            for (int i = 0; i < Site.BaysX; i++)
            for (int row = 0; row < 4; row++)
            for (int k = 0; k < 8; k++)
                Seat(storey, (i * Site.Bay) + 1.2 + (k * 0.62), 9.2 + (row * 1.5), ++n, null);
        }
    }

    private void Seat(string storey, double x, double y, int n, string? globalId)
    {
        if (storey.Length > 0 && Math.Abs(x - 12.5) < 2.6 && y is > 10 and < 14)
            return;
        int placement = _b.Placement(_site.Placement(storey.Length > 0 ? storey : "Gallery"), x, y, 0);
        int seat = _b.Root(
            "IFCFURNITURE",
            $"seat/{n}",
            $"'Seat {n:000}',$,$,#{placement},#{_b.Mapped("A-FURN", _seatMap)},$,.CHAIR.",
            globalId
        );
        if (storey.Length > 0)
            _b.Contain(seat, _site.Storey(storey));
        _b.OfType(seat, _seat);
    }

    // Each is named in the demo's README with the finding it gives.
    private void Flaws()
    {
        Seat("Gallery", 44.5, 9.2, 901, _b.Id("seat/1"));
        Seat("Gallery", 45.5, 9.2, 902, "not-a-global-id");
        int crossed = _b.Outline([(0, 0), (1, 1), (1, 0), (0, 1), (0.5, 2)]);
        int sign = _b.Root(
            "IFCFURNITURE",
            "sign",
            $"'Bow-tie sign',$,$,#{_b.Placement(_site.Placement("Concourse"), 20, 12, 3)},#{_b.Solid("A-FURN", Timber, _b.Extrude(crossed, 0))},$,.NOTDEFINED."
        );
        _b.Contain(sign, _site.Storey("Concourse"));
        _b.Root("IFCRELASSOCIATESMATERIAL", "dangling", $"$,$,(#{sign}),#99999999");
    }

    private void Facts(string key, int element, string set, params (string Name, string? Value)[] properties) =>
        _b.Define(_b.PropertySet(key, set, properties), element);

    private string Sets(string key, string set, params (string Name, string? Value)[] properties) =>
        $"(#{_b.PropertySet(key, set, properties)})";
}
