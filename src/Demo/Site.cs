namespace SteadyLintel.Demo;

/// <summary>The ferry terminal's frame that all parties share: levels and grid, metres.</summary>
internal sealed class Site
{
    public const double Bay = 8;
    public const int BaysX = 6;
    public const int BaysY = 3;

    public static readonly (string Name, double Level)[] Levels =
    [
        ("Quay level", 0),
        ("Concourse", 4.8),
        ("Gallery", 8.6),
        ("Roof", 12.4),
    ];

    private readonly ModelBuilder _b;
    private readonly Dictionary<string, (int Storey, int Placement, double Level)> _storeys = [];

    /// <summary>Writes site, building and storeys.</summary>
    /// <param name="builder">The file.</param>
    /// <param name="levels">Name, the elevation it says, the height it is at.</param>
    public Site(ModelBuilder builder, IEnumerable<(string Name, double Says, double Stands)> levels)
    {
        _b = builder;
        int sitePlacement = builder.Placement(null, 0, 0, 0),
            buildingPlacement = builder.Placement(sitePlacement, 0, 0, 0);
        int site = builder.Root(
            "IFCSITE",
            "site",
            $"'Heron Wharf quay',$,$,#{sitePlacement},$,$,.ELEMENT.,$,$,{builder.L(0)},$,$"
        );
        Building = builder.Root(
            "IFCBUILDING",
            "building",
            $"'Ferry terminal',$,$,#{buildingPlacement},$,$,.ELEMENT.,$,$,$"
        );
        builder.Aggregate("project", builder.Project, site);
        builder.Aggregate("site", site, Building);
        foreach (var (name, says, stands) in levels)
        {
            int placement = builder.Placement(buildingPlacement, 0, 0, stands);
            int storey = builder.Root(
                "IFCBUILDINGSTOREY",
                $"storey/{name}",
                $"{ModelBuilder.Text(name)},$,$,#{placement},$,$,.ELEMENT.,{builder.L(says)}"
            );
            _storeys[name] = (storey, placement, stands);
        }

        builder.Aggregate("building", Building, [.. _storeys.Values.Select(s => s.Storey)]);
    }

    public int Building { get; }

    public int Storey(string name) => _storeys[name].Storey;

    public int Placement(string name) => _storeys[name].Placement;

    /// <summary>The axes A–G, 1–4 and the arc R at the landward end.</summary>
    /// <param name="storey">The storey on which it is.</param>
    /// <param name="named">What an axis is called instead of its tag; null for its tag.</param>
    public void Grid(string storey, Func<string, string>? named = null)
    {
        named ??= tag => tag;
        var u = Enumerable
            .Range(0, BaysX + 1)
            .Select(i => Axis(named(((char)('A' + i)).ToString()), i * Bay, -2, i * Bay, (BaysY * Bay) + 2))
            .ToList();
        var v = Enumerable
            .Range(0, BaysY + 1)
            .Select(i =>
                Axis(
                    (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture),
                    -2,
                    i * Bay,
                    (BaysX * Bay) + 2,
                    i * Bay
                )
            )
            .ToList();
        int centre = _b.Add("IFCAXIS2PLACEMENT2D", $"#{_b.Point2(BaysX * Bay, BaysY * Bay / 2)},$");
        int circle = _b.Add("IFCCIRCLE", $"#{centre},{_b.L(BaysY * Bay / 2)}");
        int arc = _b.Add(
            "IFCTRIMMEDCURVE",
            $"#{circle},(IFCPARAMETERVALUE({ModelBuilder.N(-Math.PI / 2)})),(IFCPARAMETERVALUE({ModelBuilder.N(Math.PI / 2)})),.T.,.PARAMETER."
        );
        v.Add(_b.Add("IFCGRIDAXIS", $"'R',#{arc},.T."));
        int grid = _b.Root(
            "IFCGRID",
            "grid",
            $"'Grid',$,$,#{Placement(storey)},$,{ModelBuilder.List(u)},{ModelBuilder.List(v)},$"
                + (_b.Schema == "IFC4" ? ",.RECTANGULAR." : "")
        );
        _b.Contain(grid, Storey(storey));
    }

    private int Axis(string tag, double x1, double y1, double x2, double y2)
    {
        int line = _b.Add("IFCPOLYLINE", $"(#{_b.Point2(x1, y1)},#{_b.Point2(x2, y2)})");
        return _b.Add("IFCGRIDAXIS", $"'{tag}',#{line},.T.");
    }
}
