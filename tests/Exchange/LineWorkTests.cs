using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Plans, sections, elevations and sheets, against lengths and areas by formula.</summary>
public class LineWorkTests(DemoModels demo) : IClassFixture<DemoModels>
{
    // A storey at 2 m with a wall of 6 × 0.3 × 3 m of concrete along X, a box of 1 × 1 × 0.5 m right of its foot, under a slab that is
    // below the cut, a door with a swing of its own, and a grid.
    private const string Model =
        "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#21=IFCBUILDING('0000000000000000000021',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);#22=IFCBUILDINGSTOREY('0000000000000000000022',$,'Deck',$,$,$,$,$,.ELEMENT.,2.);"
        + "#23=IFCRELAGGREGATES('0000000000000000000023',$,$,$,#7,(#20));#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#20,(#21));#25=IFCRELAGGREGATES('0000000000000000000025',$,$,$,#21,(#22));"
        + "#60=IFCCARTESIANPOINT((0.,0.,2.));#61=IFCAXIS2PLACEMENT3D(#60,$,$);#62=IFCLOCALPLACEMENT($,#61);#63=IFCBLOCK(#2,6.,0.3,3.);#64=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#63));#65=IFCPRODUCTDEFINITIONSHAPE($,$,(#64));#66=IFCWALL('0000000000000000000066',$,'Wall',$,$,#62,#65,$,$);"
        + "#67=IFCMATERIAL('In-situ concrete C30',$,$);#68=IFCRELASSOCIATESMATERIAL('0000000000000000000068',$,$,$,(#66),#67);"
        + "#70=IFCCARTESIANPOINT((10.,0.,2.));#71=IFCAXIS2PLACEMENT3D(#70,$,$);#72=IFCLOCALPLACEMENT($,#71);#73=IFCBLOCK(#2,1.,1.,0.5);#74=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#73));#75=IFCPRODUCTDEFINITIONSHAPE($,$,(#74));#76=IFCFURNITURE('0000000000000000000076',$,'Box',$,$,#72,#75,$,$);"
        + "#80=IFCCARTESIANPOINT((9.5,-0.5,2.6));#81=IFCAXIS2PLACEMENT3D(#80,$,$);#82=IFCLOCALPLACEMENT($,#81);#83=IFCBLOCK(#2,2.,2.,0.1);#84=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#83));#85=IFCPRODUCTDEFINITIONSHAPE($,$,(#84));#86=IFCSLAB('0000000000000000000086',$,'Top',$,$,#82,#85,$,$);"
        + "#90=IFCCARTESIANPOINT((20.,0.));#91=IFCCARTESIANPOINT((20.,0.9));#92=IFCPOLYLINE((#90,#91));#93=IFCGEOMETRICCURVESET((#92));#94=IFCSHAPEREPRESENTATION(#8,'Plan','GeometricCurveSet',(#93));#95=IFCBLOCK(#96,0.9,0.05,2.);#96=IFCAXIS2PLACEMENT3D(#97,$,$);#97=IFCCARTESIANPOINT((20.,0.,0.));#98=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#95));#99=IFCPRODUCTDEFINITIONSHAPE($,$,(#94,#98));#100=IFCDOOR('0000000000000000000100',$,'Door',$,$,#62,#99,$,$,$,$,$,$);"
        + "#110=IFCCARTESIANPOINT((0.,-1.));#111=IFCCARTESIANPOINT((0.,5.));#112=IFCPOLYLINE((#110,#111));#113=IFCGRIDAXIS('1',#112,.T.);#114=IFCGRID('0000000000000000000114',$,'Grid',$,$,$,$,(#113),(),$,$);"
        + "#120=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000120',$,$,$,(#66,#76,#86,#100,#114),#22);";

    private static (HandoverResult Result, MemoryFiles Files) Run(
        OrderInto into,
        string split = "storey",
        string name = "{storey}{section}",
        string? rule = null,
        string transmittal = ""
    )
    {
        var document = new OrderDocument
        {
            Into = into,
            Split = split,
            Name = name,
            Unit = "mm",
            Rules = rule is null ? [] : [new OrderRule { What = "class", Are = [rule] }],
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                OrderDocument.Read(document.Write()).ToOrder(),
                [
                    new HandoverSource("ARC", "arc", ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.Text(Model))))
                    {
                        Revision = 4,
                    },
                ],
                files
            )
            {
                Job = "HW",
                TimeStamp = "2026-11-26T10:00:00",
                Transmittal = transmittal,
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences));
        return (result, files);
    }

    private static Drawing Read(MemoryFiles files, string name) => CadFile.Read(files.Read(name).ToArray()).Drawing;

    private static double Lines(Drawing drawing, string layer) =>
        drawing
            .Model.Entities.OfType<Line>()
            .Where(l => drawing.LayerName(l.Layer) == layer)
            .Sum(l => (l.End - l.Start).Length) / 1000;

    // The box is 0.5 m high, the slab above it 2 × 2 m: all four edges of the box are hidden.
    [Theory]
    [InlineData("shown", 4, 0)]
    [InlineData("dashed", 0, 4)]
    [InlineData("out", 0, 0)]
    public void Edges_under_a_slab_are_hidden(string hidden, double seen, double dashed)
    {
        var (result, files) = Run(
            new OrderInto
            {
                File = "dxf",
                As = "plan",
                Hidden = hidden,
            }
        );
        var drawing = Read(files, "Deck.dxf");
        Assert.Equal(
            (seen, dashed),
            (Math.Round(Lines(drawing, "IfcFurniture_BELOW"), 3), Math.Round(Lines(drawing, "IfcFurniture_HIDDEN"), 3))
        );
        Assert.Equal(8, Lines(drawing, "IfcSlab_BELOW"), 1e-6);
        if (hidden == "dashed")
            Assert.Equal(
                "DASHED",
                drawing.LineTypes.Single(t => t.Handle == drawing.Layers["IfcFurniture_HIDDEN"]!.LineType).Name
            );
        // Nothing of it is seen: it stays, and the balance says why.
        if (hidden == "out")
            Assert.Equal(
                1,
                result.Reconciliation.Rows.Single(r => r.Class == "IfcFurniture").Reasons[DrawingTarget.NoLine]
            );
    }

    // The cut is at 1.2 m: 1 m deep it sees down to 0.2 m above the floor, the slab at 0.6 m and the box up to 0.5 m.
    [Fact]
    public void A_view_is_as_deep_as_the_order_says()
    {
        var (_, files) = Run(
            new OrderInto
            {
                File = "dxf",
                As = "plan",
                Depth = 0.65,
            }
        );
        var drawing = Read(files, "Deck.dxf");
        Assert.Equal(8, Lines(drawing, "IfcSlab_BELOW"), 1e-6);
        Assert.Equal(0, Lines(drawing, "IfcFurniture_BELOW"));
        Assert.Equal(
            4,
            Lines(
                Read(
                    Run(
                        new OrderInto
                        {
                            File = "dxf",
                            As = "plan",
                            Depth = 1,
                        }
                    ).Files,
                    "Deck.dxf"
                ),
                "IfcFurniture_BELOW"
            ),
            1e-6
        );
    }

    [Fact]
    public void Lines_before_the_cut_can_be_left_out()
    {
        Assert.True(
            Lines(Read(Run(new OrderInto { File = "dxf", As = "plan" }).Files, "Deck.dxf"), "IfcWall_ABOVE") > 12
        );
        Assert.Equal(
            0,
            Lines(
                Read(
                    Run(
                        new OrderInto
                        {
                            File = "dxf",
                            As = "plan",
                            Before = "out",
                        }
                    ).Files,
                    "Deck.dxf"
                ),
                "IfcWall_ABOVE"
            )
        );
    }

    // The wall is cut over 6 × 0.3 m; its material is concrete.
    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void Cut_faces_are_hatched_by_their_material(string file)
    {
        var (result, files) = Run(
            new OrderInto
            {
                File = file,
                As = "plan",
                Hatch = true,
            },
            rule: "IfcWall"
        );
        var hatch = Assert.Single(Read(files, $"Deck.{file}").Model.Entities.OfType<Hatch>());
        Assert.Equal("CUT-CONCRETE", hatch.Pattern);
        Assert.Equal(
            1.8,
            Math.Abs(Region.SignedArea([.. hatch.Paths.Single().Vertices.Select(v => v.Point)])) / 1e6,
            1e-6
        );
        // Lines at 45°, 4 mm apart on a sheet of 1:100: 400 mm in the building.
        Assert.Equal(
            (45, 400),
            (Math.Round(hatch.Lines[0].Angle * 180 / Math.PI, 6), Math.Round(hatch.Lines[0].Offset.Length, 6))
        );
        Assert.Contains(result.Reconciliation.Checks, c =>
            c.Name.StartsWith("hatched", StringComparison.Ordinal) && c.Same == 1
        );
    }

    [Fact]
    public void A_door_shows_its_own_drawing_in_place_of_its_edges()
    {
        var drawing = Read(
            Run(
                new OrderInto
                {
                    File = "dxf",
                    As = "plan",
                    Symbols = true,
                },
                rule: "IfcDoor"
            ).Files,
            "Deck.dxf"
        );
        var swing = Assert.Single(drawing.Model.Entities.OfType<LightPolyline>(), p =>
            drawing.LayerName(p.Layer) == "IfcDoor"
        );
        Assert.Equal([new Vec2(20000, 0), new Vec2(20000, 900)], swing.Vertices.Select(v => v.Point));
        Assert.Equal(0, Lines(drawing, "IfcDoor_BELOW"));
        Assert.Contains(drawing.Model.Entities.OfType<LightPolyline>(), p =>
            drawing.LayerName(p.Layer) == "IfcDoor_CUT"
        );
    }

    [Fact]
    public void Axes_have_bubbles_at_their_ends_and_levels_are_marked()
    {
        var drawing = Read(
            Run(
                new OrderInto
                {
                    File = "dxf",
                    As = "plan",
                    Marks = true,
                }
            ).Files,
            "Deck.dxf"
        );
        var circles = drawing.Model.Entities.OfType<Circle>().ToList();
        // 4 mm on paper beyond each end: the axis runs from y = -1 to y = 5 m.
        Assert.Equal(
            [(0.0, -1400.0, 400.0), (0.0, 5400.0, 400.0)],
            circles.Select(c => (c.Centre.X, Math.Round(c.Centre.Y, 6), Math.Round(c.Radius, 6))).Order()
        );
        var texts = drawing.Model.Entities.OfType<Text>().ToList();
        Assert.Equal(2, texts.Count(t => t is { Value: "1", Horizontal: 1, Vertical: 2 }));
        Assert.Contains(texts, t => t.Value == "Deck +2.000" && drawing.LayerName(t.Layer) == "LEVELS");
    }

    // Along y = 0.15 from x = -1 to x = 8, looking north: the wall is cut over 6 × 3 m, from 2 to 5 m high. Across it: 0.3 × 3 m.
    [Theory]
    [InlineData(-1, 0.15, 30, 0.15, 18, 6, 3, 1)]
    [InlineData(3, -2, 3, 4, 0.9, 0.3, 3, 2)]
    public void A_section_cuts_along_its_line(
        double x,
        double y,
        double u,
        double v,
        double area,
        double wide,
        double high,
        double from
    )
    {
        var (_, files) = Run(
            new OrderInto
            {
                File = "dxf",
                As = "section",
                Hatch = true,
                Marks = true,
                Lines =
                [
                    new OrderLine
                    {
                        Name = "A",
                        From = [x, y],
                        To = [u, v],
                    },
                ],
            },
            "none",
            "{section}",
            "IfcWall"
        );
        var drawing = Read(files, "A.dxf");
        var cut = Assert.Single(drawing.Model.Entities.OfType<LightPolyline>(), p =>
            drawing.LayerName(p.Layer) == "IfcWall_CUT"
        );
        var points = cut.Vertices.ConvertAll(p => p.Point * 0.001);
        Assert.Equal(
            (wide, high),
            (
                Math.Round(points.Max(p => p.X) - points.Min(p => p.X), 6),
                Math.Round(points.Max(p => p.Y) - points.Min(p => p.Y), 6)
            )
        );
        Assert.Equal((from, 2), (Math.Round(points.Min(p => p.X), 6), Math.Round(points.Min(p => p.Y), 6)));
        Assert.Equal(
            area,
            drawing
                .Model.Entities.OfType<Hatch>()
                .Sum(h => Math.Abs(Region.SignedArea([.. h.Paths[0].Vertices.Select(p => p.Point)]))) / 1e6,
            1e-6
        );
        Assert.Contains(drawing.Model.Entities.OfType<Text>(), t => t.Value == "Deck +2.000");
    }

    // From the south everything is behind the line; the box hides nothing that is higher.
    [Fact]
    public void An_elevation_cuts_nothing_and_sees_all_that_is_not_hidden()
    {
        var (result, files) = Run(
            new OrderInto
            {
                File = "dwg",
                As = "section",
                Hidden = "out",
                Lines =
                [
                    new OrderLine
                    {
                        Name = "South",
                        From = [-5, -10],
                        To = [30, -10],
                    },
                    new OrderLine
                    {
                        Name = "North",
                        From = [30, 10],
                        To = [-5, 10],
                    },
                ],
            },
            "none",
            "{section}"
        );
        Assert.Equal(["South.dwg", "North.dwg"], result.Files.Select(f => f.Name));
        foreach (string side in (string[])["South", "North"])
        {
            var drawing = Read(files, $"{side}.dwg");
            Assert.DoesNotContain(drawing.Layers, l => l.Name.EndsWith("_CUT", StringComparison.Ordinal));
            // The wall's outline, 6 by 3 m; its back is hidden.
            Assert.Equal(18, Lines(drawing, "IfcWall_BEYOND"), 1e-3);
        }

        // Each element is one thing, though two files show it.
        Assert.All(result.Reconciliation.Rows.Where(r => r.Class != "IfcGrid"), r =>
            Assert.Equal((1, 1), (r.In, r.Found))
        );
    }

    [Fact]
    public void A_section_sees_as_deep_as_its_line_says()
    {
        OrderInto Into(double depth) =>
            new()
            {
                File = "dxf",
                As = "section",
                Lines =
                [
                    new OrderLine
                    {
                        Name = "S",
                        From = [-5, -10],
                        To = [30, -10],
                        Depth = depth,
                    },
                ],
            };
        Assert.Equal(0, Lines(Read(Run(Into(9.6), "none").Files, "allS.dxf"), "IfcWall_BEYOND"));
        Assert.True(Lines(Read(Run(Into(10.2), "none").Files, "allS.dxf"), "IfcWall_BEYOND") > 17);
    }

    // A sheet of A3 at 1:100: the viewport shows 100 mm for a millimetre, and its scale is the relation of paper to model.
    [Theory]
    [InlineData("dxf", "A3", 100)]
    [InlineData("dwg", "ANSI D", 50)]
    public void Each_plan_has_a_sheet_with_a_title_block(string file, string paper, int scale)
    {
        var (result, files) = Run(
            new OrderInto
            {
                File = file,
                As = "plan",
                Sheet = new OrderSheet { Paper = paper, Scale = scale },
            },
            transmittal: "T7"
        );
        var drawing = Read(files, $"Deck.{file}");
        var layout = Assert.Single(drawing.Layouts, l => l.Tab > 0);
        Assert.Equal("Deck", layout.Name);
        Assert.Equal((PaperSize.Find(paper)!.Width, PaperSize.Find(paper)!.Height), layout.Paper);
        var block = drawing.Blocks[layout.Block]!;
        var window = block.Entities.OfType<Viewport>().ElementAt(1);
        Assert.Equal(1.0 / scale, window.Scale, 1e-9);
        // It shows all of model space.
        var box = drawing.Extents();
        Assert.True(
            Math.Abs(window.ViewCentre.X - ((box.Min.X + box.Max.X) / 2)) < 1e-6 && window.ViewHeight >= box.Size.Y
        );
        Assert.Superset(
            new HashSet<string>(["HW", "ARC", "Deck", $"1:{scale}", "r4", "T7", "2026-11-26", $"Deck.{file}"]),
            block.Entities.OfType<Text>().Select(t => t.Value).ToHashSet()
        );
        Assert.Contains(result.Reconciliation.Checks, c => c is { Name: "sheets", Same: 1 });
    }

    [Fact]
    public void What_does_not_fit_on_the_paper_is_refused_with_the_scale_that_does()
    {
        var e = Assert.Throws<OrderException>(() =>
            Run(
                new OrderInto
                {
                    File = "dxf",
                    As = "plan",
                    Sheet = new OrderSheet { Paper = "A4", Scale = 20 },
                }
            )
        );
        Assert.Contains("take 1:100", e.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void All_sheets_can_be_in_one_file_that_refers_to_the_others(string file)
    {
        var document = new OrderDocument
        {
            Into = new OrderInto
            {
                File = file,
                As = "plan",
                Sheet = new OrderSheet
                {
                    Paper = "A0",
                    Scale = 200,
                    References = true,
                },
            },
            Split = "storey",
            Unit = "mm",
            Name = "{party}-{storey}",
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(document.ToOrder(), [.. demo.Sources.Where(s => s.Party == "ARC")], files)
            {
                Job = "HW",
                TimeStamp = "2026-11-26T10:00:00",
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences));
        var drawing = Read(files, $"ARC-sheets.{file}");
        var others = result.Files.Select(f => f.Name).Where(n => n != $"ARC-sheets.{file}").ToList();
        Assert.True(others.Count > 2);
        Assert.Equal(others.Order(), drawing.Blocks.Where(b => b.IsXref).Select(b => b.Path).Order());
        var layouts = drawing.Layouts.Where(l => l.Tab > 0).ToList();
        Assert.Equal(others.Count, layouts.Count);
        // Each viewport freezes the layers of all references but one.
        var shown = layouts
            .Select(l => drawing.Blocks[l.Block]!.Entities.OfType<Viewport>().ElementAt(1))
            .Select(v =>
                Assert
                    .Single(drawing.Layers, l =>
                        l.Name.StartsWith("REFERENCE-", StringComparison.Ordinal) && !v.Frozen.Contains(l.Handle)
                    )
                    .Name
            );
        Assert.Equal(others.Count, shown.Distinct().Count());
    }

    // Whatever is asked for together, the demo's floors balance.
    [Fact]
    public void The_demo_in_full_line_work_balances()
    {
        foreach (string content in (string[])["plan", "section"])
        {
            var document = new OrderDocument
            {
                Into = new OrderInto
                {
                    File = "dwg",
                    As = content,
                    Depth = 30,
                    Hidden = "dashed",
                    Hatch = true,
                    Symbols = content == "plan",
                    Marks = true,
                    Lines =
                        content == "plan"
                            ? null
                            :
                            [
                                new OrderLine
                                {
                                    Name = "A",
                                    From = [-20, 10],
                                    To = [80, 10],
                                },
                            ],
                },
                Properties = new OrderProperties { Attributes = true, Blanks = "out" },
                Split = content == "plan" ? "storey" : "none",
                Unit = "mm",
                Name = "{storey}{section}",
            };
            var result = HandoverRunner.Run(
                new HandoverRun(document.ToOrder(), demo.Sources, new MemoryFiles())
                {
                    Job = "HW",
                    TimeStamp = "2026-11-26T10:00:00",
                }
            );
            Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(10)));
            Assert.True(result.Files.Count > (content == "plan" ? 2 : 0));
        }
    }

    [Fact]
    public void Attributes_carry_the_properties_of_each_element()
    {
        var document = new OrderDocument
        {
            Into = new OrderInto { File = "dwg", As = "meshes" },
            Rules = [new OrderRule { What = "class", Are = ["IfcDoor", "IfcWall"] }],
            Properties = new OrderProperties { Attributes = true },
            Unit = "mm",
            Name = "x",
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(document.ToOrder(), [.. demo.Sources.Where(s => s.Party == "ARC")], files)
            {
                Job = "HW",
                TimeStamp = "2026-11-26T10:00:00",
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(10)));
        var drawing = Read(files, "x.dwg");
        var snapshot = demo.Snapshots["ARC"];
        var going = snapshot.Elements.Where(e => e.Class is "IfcDoor" or "IfcWall").ToList();
        var inserts = drawing.Model.Entities.OfType<Insert>().ToList();
        Assert.Equal(going.Count, inserts.Count);
        // Texts that nobody sees do not stretch the drawing: the building is 60 × 24 m.
        Assert.InRange(drawing.Extents().Size.X, 59_000, 62_000);
        foreach (var element in going.Take(40))
        {
            var insert = inserts.Single(i => i.Attributes.Any(a => a.Tag == "GLOBALID" && a.Value == element.GlobalId));
            string? rating = snapshot.PropertyText(
                element,
                element.Class == "IfcDoor" ? "Pset_DoorCommon.FireRating" : "Pset_WallCommon.FireRating"
            );
            Assert.Equal(
                rating ?? "",
                insert.Attributes.FirstOrDefault(a => a.Tag.EndsWith(".FIRERATING", StringComparison.Ordinal))?.Value
                    ?? ""
            );
        }
    }

    [Fact]
    public void Skins_lose_no_volume()
    {
        var document = new OrderDocument
        {
            Into = new OrderInto { File = "dxf", As = "skins" },
            Split = "none",
            Unit = "m",
            Name = "x",
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(document.ToOrder(), [.. demo.Sources.Where(s => s.Party == "STR")], files)
            {
                Job = "HW",
                TimeStamp = "2026-11-26T10:00:00",
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(10)));
        Assert.Contains("as outer surfaces only", result.Reconciliation.Ledger.SelectMany(l => l.Changed.Keys));
    }

    [Theory]
    [InlineData("{\"into\":{\"file\":\"dxf\",\"as\":\"section\"}}", "say where each begins")]
    [InlineData(
        "{\"into\":{\"file\":\"dxf\",\"as\":\"plan\",\"lines\":[{\"name\":\"A\",\"from\":[0,0],\"to\":[1,0]}]}}",
        "go with sections"
    )]
    [InlineData(
        "{\"into\":{\"file\":\"dxf\",\"as\":\"section\",\"lines\":[{\"name\":\"A\",\"from\":[0,0],\"to\":[0,0]}]}}",
        "at one point"
    )]
    [InlineData(
        "{\"into\":{\"file\":\"dxf\",\"as\":\"section\",\"lines\":[{\"name\":\"A\",\"from\":[0],\"to\":[0,0]}]}}",
        "an X and a Y"
    )]
    [InlineData(
        "{\"into\":{\"file\":\"dxf\",\"as\":\"section\",\"lines\":[{\"name\":\"A\",\"from\":[0,0],\"to\":[1,0]},{\"name\":\"a\",\"from\":[0,0],\"to\":[0,9]}]}}",
        "give one another name"
    )]
    [InlineData(
        "{\"into\":{\"file\":\"dxf\",\"as\":\"section\",\"lines\":[{\"name\":\"A\",\"from\":[0,0],\"to\":[1,0]},{\"name\":\"B\",\"from\":[0,0],\"to\":[0,9]}]}}",
        "{section}"
    )]
    [InlineData("{\"into\":{\"hatch\":true}}", "go with plans")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"hidden\":\"out\"}}", "go with plans")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"as\":\"plan\",\"hidden\":\"dotted\"}}", "shown, dashed or out")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"as\":\"plan\",\"depth\":0}}", "above 0")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"as\":\"plan\",\"sheet\":{\"paper\":\"A5\"}}}", "'A5'")]
    [InlineData(
        "{\"split\":\"storey\",\"into\":{\"file\":\"dwg\",\"as\":\"plan\",\"sheet\":{\"scale\":0}}}",
        "100 for 1:100"
    )]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"as\":\"plan\",\"sheet\":{}}}", "one file a storey")]
    [InlineData("{\"into\":{\"sheet\":{}}}", "go with drawings")]
    [InlineData("{\"properties\":{\"attributes\":true}}", "go with drawings")]
    public void Words_that_make_no_drawing_are_refused(string json, string words) =>
        Assert.Contains(
            words,
            Assert.Throws<OrderException>(() => OrderDocument.Read(json).ToOrder()).Message,
            StringComparison.Ordinal
        );
}
