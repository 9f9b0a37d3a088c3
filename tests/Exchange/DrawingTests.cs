using System.Text.RegularExpressions;
using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class DrawingTests
{
    private static Drawing Sample(int units = 4)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Units = units;
        var wall = drawing.AddLayer("A-WALL", 0x123456).Handle;
        for (int i = 0; i < 12; i++)
            drawing.Add(
                new Line
                {
                    Layer = wall,
                    Start = new(i * 1000, 0, 0),
                    End = new(i * 1000, 9000, 0),
                }
            );
        drawing.AddLayer("HIDDEN").On = false;
        drawing.Add(
            new Circle
            {
                Layer = drawing.Layers["HIDDEN"]!.Handle,
                Centre = new(3000, 3000, 0),
                Radius = 500,
            }
        );
        return drawing;
    }

    private static DrawingReport Report(Drawing drawing) =>
        DrawingIntake.Read(drawing, new CadForm(true, drawing.Version));

    [Fact]
    public void A_report_counts_layers_kinds_and_inserts()
    {
        var drawing = Sample();
        var block = drawing.AddBlock("Door");
        drawing.Add(new Line { End = new(900, 0, 0) }, block);
        drawing.Add(new Insert { Block = block.Handle });
        drawing.Add(new Insert { Block = block.Handle, Location = new(5000, 0, 0) });
        var report = Report(drawing);
        Assert.Empty(report.Findings);
        Assert.Equal(("millimetre", 0.001), (report.Unit, report.Metres));
        Assert.Equal(12, report.Layers.Single(l => l.Name == "A-WALL").Count);
        Assert.False(report.Layers.Single(l => l.Name == "HIDDEN").On);
        Assert.Equal(new DrawingBlock("Door", 1, 2), Assert.Single(report.Blocks));
        Assert.Equal(
            [new NamedCount("LINE", 13), new NamedCount("INSERT", 2), new NamedCount("CIRCLE", 1)],
            report.Entities
        );
    }

    [Theory]
    [InlineData(0, "CAD-UNIT-NONE", "millimetre")]
    [InlineData(7, "CAD-UNIT-ODD", "kilometre")]
    public void A_unit_that_is_missing_or_odd_is_asked_about(int units, string code, string word)
    {
        var finding = Assert.Single(Report(Sample(units)).Findings);
        Assert.Equal(code, finding.Code);
        Assert.Contains(word, finding.Message);
    }

    [Fact]
    public void What_lies_far_away_and_what_is_missing_is_said()
    {
        var drawing = Sample();
        drawing.Add(new Point { Location = new(9e9, 0, 0) });
        var grid = drawing.AddBlock("grid");
        (grid.IsXref, grid.IsLoaded, grid.Path) = (true, false, "grid.dwg");
        Assert.Equal(
            ["CAD-FAR", "CAD-UNIT-ODD", "CAD-XREF-MISSING"],
            Report(drawing).Findings.Select(f => f.Code).Order()
        );
    }

    [Fact]
    public void The_picture_shows_layers_as_the_drawing_does()
    {
        var svg = XElement.Parse(PlanPicture.Of(Sample())!);
        XNamespace n = "http://www.w3.org/2000/svg";
        var layers = svg.Descendants(n + "g")
            .Where(g => g.Attribute("data-layer") is not null)
            .ToDictionary(g => g.Attribute("data-layer")!.Value);
        Assert.Equal(["A-WALL", "HIDDEN"], layers.Keys.Order());
        Assert.Null(layers["A-WALL"].Attribute("display"));
        Assert.Equal("none", layers["HIDDEN"].Attribute("display")!.Value);
        var path = Assert.Single(layers["A-WALL"].Elements(n + "path"));
        Assert.Equal("#123456", path.Attribute("stroke")!.Value);
        // Twelve lines in one path, upwards in the picture.
        Assert.Equal(12, path.Attribute("d")!.Value.Count(c => c == 'M'));
        // Eleven metres in millimetres are told in hundredths.
        Assert.Equal("0.01", svg.Attribute("data-unit")!.Value);
        Assert.StartsWith("M0 0l0 -900000", path.Attribute("d")!.Value);
    }

    // 1:100: a line at 2 m in model space stands 20 mm beside the middle of what the viewport looks at.
    [Fact]
    public void A_layout_shows_model_space_through_its_viewports()
    {
        var drawing = Sample();
        var paper = drawing.Blocks[BlockRecord.PaperSpace]!;
        var window = new Viewport
        {
            Centre = new(200, 150, 0),
            Size = (200, 100),
            ViewCentre = new(2000, 4000),
            ViewHeight = 10_000,
        };
        window.Frozen.Add(drawing.Layers["HIDDEN"]!.Handle);
        drawing.Add(window, paper);
        string svg = PlanPicture.Of(drawing, "Layout1")!;
        Assert.Null(PlanPicture.Of(drawing, "Layout9"));
        Assert.Contains(
            "<clipPath id=\"window1\"><rect x=\"1000000\" y=\"-2000000\" width=\"2000000\" height=\"1000000\"/>",
            svg
        );
        string through = svg[svg.IndexOf("url(#window1)", StringComparison.Ordinal)..];
        Assert.DoesNotContain("HIDDEN", through);
        Assert.Contains("d=\"M1800000 -1100000l0 -900000M1900000 -1100000", through);
    }

    // A semicircle of radius 5 by a bulge of 1: its points lie 5 from the middle.
    [Fact]
    public void Bulges_are_arcs()
    {
        var points = CurvePoints.Bulged([(new Vec2(0, 0), 1), (new Vec2(10, 0), 0)], false).ToList();
        Assert.True(points.Count > 20);
        Assert.All(points, p => Assert.Equal(5, (p - new Vec2(5, 0)).Length, 9));
        Assert.Contains(points, p => p.Y < -4.9);
    }

    [Fact]
    public void A_block_of_itself_and_a_huge_array_come_to_an_end()
    {
        var drawing = Sample();
        var block = drawing.AddBlock("Loop");
        drawing.Add(new Line { End = new(1, 0, 0) }, block);
        drawing.Add(new Insert { Block = block.Handle, Location = new(1, 0, 0) }, block);
        drawing.Add(
            new Insert
            {
                Block = block.Handle,
                Array = (30000, 30000),
                Spacing = (10, 10),
            }
        );
        Assert.NotNull(PlanPicture.Of(drawing));
        Assert.False(drawing.Extents().IsEmpty);
    }

    // Thirty blocks, each with ten inserts of the next: ten to the thirtieth, with nothing to draw at the end.
    [Fact]
    public void Blocks_that_multiply_come_to_an_end()
    {
        var drawing = Sample();
        var blocks = Enumerable.Range(0, 30).Select(i => drawing.AddBlock("B" + i)).ToList();
        for (int i = 0; i + 1 < blocks.Count; i++)
        for (int k = 0; k < 10; k++)
            drawing.Add(new Insert { Block = blocks[i + 1].Handle }, blocks[i]);
        drawing.Add(new Insert { Block = blocks[0].Handle });
        Assert.NotNull(PlanPicture.Of(drawing));
        Assert.Equal(11_000, drawing.Extents().Max.X);
    }

    [Fact]
    public void A_conversion_accounts_for_every_entity()
    {
        using var stream = new MemoryStream();
        DxfWriter.Write(Sample(), stream);
        var result = DrawingConverter.Convert(
            stream.ToArray(),
            new CadForm(true, CadVersion.AC1032),
            ConversionTests.OnLayers("A-WALL")
        );
        Assert.True(result.Balanced);
        Assert.Equal(
            [new ConversionRow("CIRCLE", "HIDDEN", 1, 1, 0, 0), new ConversionRow("LINE", "A-WALL", 12, 0, 0, 12)],
            result.Rows
        );
    }

    [Theory]
    [InlineData(
        "<Dictionary xmlns=\"urn:x\"><ProjectedCoordinateSystem id=\"UTM84-33N\"/><Alias id=\"32633\" type=\"CoordinateSystem\"><Namespace>EPSG Code</Namespace></Alias></Dictionary>",
        "EPSG:32633"
    )]
    [InlineData("<Dictionary><ProjectedCoordinateSystem id=\"UTM84-33N\"/></Dictionary>", "UTM84-33N")]
    [InlineData("UTM84-33N", "UTM84-33N")]
    [InlineData("<broken", "")]
    public void Where_a_drawing_stands_on_the_earth_is_reported(string definition, string system)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        Assert.Null(DrawingIntake.Read(drawing, CadForm.Default).Place);
        drawing.Objects.Add(
            new GeoData
            {
                Handle = drawing.NextHandle(),
                System = definition,
                Design = new(1, 2, 0),
                Reference = new(385_000, 5_820_000, 0),
                North = new(0, 2),
            }
        );
        var place = DrawingIntake.Read(drawing, CadForm.Default).Place!;
        Assert.Equal(
            (system, new Vec3(385_000, 5_820_000, 0), 90),
            (place.System, place.Reference, Math.Round(place.North, 9))
        );
    }

    [Fact]
    public void Pictures_and_pages_are_among_what_a_drawing_draws_on()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Objects.Add(
            new ImageDefinition
            {
                Handle = drawing.NextHandle(),
                Path = "site.png",
                Loaded = false,
            }
        );
        drawing.Objects.Add(
            new UnderlayDefinition("PDFDEFINITION")
            {
                Handle = drawing.NextHandle(),
                Path = "plan.pdf",
                Page = "2",
            }
        );
        Assert.Equal(
            [new("site.png", "site.png", false), new("2", "plan.pdf", true)],
            DrawingIntake.Read(drawing, CadForm.Default).ExternalReferences
        );
    }

    [Fact]
    public void A_multi_leader_is_drawn_with_its_words()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var leader = new MultiLeader();
        leader.Context.Text = new MultiLeaderText
        {
            Value = "HEB 200",
            Position = (Vec3.AxisZ, new(20, 20, 0), Vec3.AxisX, 0),
        };
        leader.Context.Branches.Add(
            new MultiLeaderBranch
            {
                End = new(15, 20, 0),
                HookLength = 3,
                Lines = { new MultiLeaderLine { Points = { new(0, 0, 0) } } },
            }
        );
        drawing.Add(leader);
        string svg = PlanPicture.Of(drawing)!;
        Assert.Contains("HEB 200", svg);
        Assert.Contains("M0 ", svg);
        Assert.Equal(1, DrawingIntake.Read(drawing, CadForm.Default).Texts);
        Assert.Equal(18, drawing.Extents().Max.X, 1e-9);
    }

    [Theory]
    // Counter-clockwise as seen is 0 in SVG, whose y runs down; a block turned over turns it round.
    [InlineData(1, 0, Math.PI / 2, "M200000 -100000a100000 100000 0 0 0 -100000 -100000")]
    [InlineData(-1, 0, Math.PI / 2, "M0 -100000a100000 100000 0 0 1 100000 -100000")]
    [InlineData(1, 0, Math.PI * 1.25, "a100000 100000 0 1 0")]
    public void Arcs_that_stay_round_are_arcs(double scale, double from, double to, string path)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var block = drawing.AddBlock("B");
        drawing.Add(
            new ArcEntity
            {
                Radius = 10,
                Start = from,
                End = to,
            },
            block
        );
        drawing.Add(
            new Insert
            {
                Block = block.Handle,
                Location = new(10, 0, 0),
                Scale = new(scale, 1, 1),
            }
        );
        drawing.Add(new Line { Start = new(0, -10, 0), End = new(20, 20, 0) });
        string svg = PlanPicture.Of(drawing)!;
        Assert.Contains("data-unit=\"1E-05\"", svg);
        Assert.Contains(path.Replace("00000", "000000", StringComparison.Ordinal), svg);
    }

    [Fact]
    public void A_circle_is_two_arcs_and_a_flattened_one_is_lines()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var block = drawing.AddBlock("B");
        drawing.Add(new Circle { Radius = 10 }, block);
        drawing.Add(new Insert { Block = block.Handle });
        Assert.Equal(2, Regex.Count(PlanPicture.Of(drawing)!, "a1000000 1000000 0 0 0"));
        ((Insert)drawing.Model.Entities[0]).Scale = new(2, 1, 1);
        string flat = PlanPicture.Of(drawing)!;
        Assert.DoesNotContain("a1000000 1000000", flat);
        Assert.Equal(72, Regex.Count(flat, "l-?[0-9]+ -?[0-9]+"));
    }

    // A plan of a hundred metres: a wall along it, and a bolt and its number in each of two corners.
    [Fact]
    public void What_is_small_or_elsewhere_can_be_left_out()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Add(new Line { End = new(100, 100, 0) });
        foreach (double at in (double[])[1, 99])
        {
            drawing.Add(new Circle { Centre = new(at, at, 0), Radius = 0.01 });
            drawing.Add(
                new Text
                {
                    Value = "M20",
                    Insertion = new(at, at, 0),
                    Height = 0.25,
                    Style = drawing.Styles["Standard"]!.Handle,
                }
            );
        }

        var svg = XElement.Parse(PlanPicture.Of(drawing)!);
        var parts = svg.Descendants().Where(e => e.Attribute("data-box") is not null).ToList();
        double unit = double.Parse(
            svg.Attribute("data-unit")!.Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
        Assert.Equal(
            [0.02, 0.02, 0.25, 0.25, 100],
            parts.Select(p => Math.Round((long)p.Attribute("data-size")! * unit, 3)).Order()
        );
        var texts = parts.Where(p => p.Attribute("data-text") is not null).ToList();
        Assert.Equal(2, texts.Count);
        // Letters are a little taller than the capitals that a drawing measures.
        double scale = double.Parse(
            Regex
                .Match(texts[0].Elements().Single().Attribute("transform")!.Value, @"scale\(\S+ (\S+)\)")
                .Groups[1]
                .Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
        Assert.Equal(0.25 * 1.35, scale * (double)texts[0].Attribute("font-size")! * unit, 1e-6);
        var bolt = parts
            .First(p => (long)p.Attribute("data-size")! * unit < 0.1)
            .Attribute("data-box")!
            .Value.Split(' ')
            .Select(v => long.Parse(v, System.Globalization.CultureInfo.InvariantCulture) * unit)
            .ToList();
        Assert.Equal((0.02, 0.02), (Math.Round(bolt[2] - bolt[0], 6), Math.Round(bolt[3] - bolt[1], 6)));
    }

    [Fact]
    public void A_conversion_to_dwg_accounts_for_tables_as_pictures()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var picture = drawing.AddBlock("*T1");
        drawing.Add(new Line { End = new(10, 0, 0) }, picture);
        drawing.Add(new Table { Block = picture.Handle, Location = new(1, 2, 0) });
        Assert.Contains("l", PlanPicture.Of(drawing)!);
        using var dxf = new MemoryStream();
        DxfWriter.Write(drawing, dxf);
        var result = DrawingConverter.Convert(dxf.ToArray(), new CadForm(true, CadVersion.AC1024));
        Assert.All(result.Rows, r => Assert.Equal(0, r.Unaccounted));
        Assert.Equal(
            (1, 1, 0),
            result.Rows.Where(r => r.Type == "ACAD_TABLE").Select(r => (r.In, r.TakenApart, r.Found)).Single()
        );
        Assert.Equal(
            (0, 1, 1),
            result.Rows.Where(r => r.Type == "INSERT").Select(r => (r.In, r.Made, r.Found)).Single()
        );
        Assert.Contains(result.Findings, f => f.Code == "CAD-TABLE-PICTURE");
        Assert.Contains(DrawingConverter.Convert(dxf.ToArray(), CadForm.Default).Rows, r =>
            r is { Type: "ACAD_TABLE", Found: 1 }
        );
    }
}
