using System.Text;
using System.Text.Json;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>The demo's orders, run and read by readers that nobody here wrote.</summary>
public class OrderOutsideTests
{
    // Where services draws, as the demo has it.
    private static readonly Frame Services = FrameRewrite.Move(new Vec3(118.4, -63.2, -30.48), 12);

    private static readonly OrderLibrary Library = new()
    {
        Layers = Tables("layers", LayerTable.Read),
        Classes = Tables("classes", ClassTable.Read),
        Properties = Tables("properties", PropertyList.Read),
    };

    private static readonly Lazy<IReadOnlyList<HandoverSource>> Sources = new(() =>
        [
            .. HeronWharf.Models.Select(d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return new HandoverSource(d.Party, d.Source, ModelSnapshot.Open(stream.ToArray()), Frame.Identity)
                {
                    Revision = 1,
                };
            }),
        ]
    );

    private static Dictionary<string, T> Tables<T>(string kind, Func<TableRows, T> read) =>
        DemoOrders
            .Tables.Where(t => t.Kind == kind)
            .ToDictionary(t => t.Name, t => read(TableFile.Read(Encoding.UTF8.GetBytes(t.Csv))));

    private static HandoverResult Run(OrderDocument document, TestFolder folder)
    {
        using var files = new FolderFileSet(folder.Path);
        var order = document.ToOrder(Library);
        if (order.Frame.Kind == FrameKind.Party)
            order = order with { Frame = order.Frame with { Receiver = Services } };
        var result = HandoverRunner.Run(
            new HandoverRun(order, Sources.Value, files) { Job = "HW", TimeStamp = "2026-11-29T10:00:00" }
        );
        files.Commit();
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences));
        return result;
    }

    private static OrderDocument Demo(int number) => OrderDocument.Read(DemoOrders.All[number].Json);

    // Both readers' layers against the table's own rows, as text: colour number, true colour, line type, weight.
    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void The_fabricators_background_has_the_offices_layers_and_properties(string file)
    {
        using var folder = new TestFolder();
        var document = Demo(0);
        var result = Run(document with { Into = document.Into with { File = file } }, folder);
        Assert.Equal(
            ["HW-ARC-Concourse-r1", "HW-SRV-Concourse-r1", "HW-STR-Concourse-r1"],
            result.Files.Select(f => Path.GetFileNameWithoutExtension(f.Name)).Order()
        );
        var rows = DemoOrders
            .Tables.Single(t => t.Kind == "layers")
            .Csv.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Skip(1)
            .Select(l => l.Trim().Split(','))
            .DistinctBy(r => r[4])
            .ToDictionary(r => r[4]);
        var seen = new HashSet<string>();
        foreach (var written in result.Files)
        {
            string path = folder.File(written.Name);
            if (file == "dwg")
            {
                string dxf = Path.ChangeExtension(path, ".by-libredwg.dxf");
                Assert.True(OutsideReaders.Redwg(path, dxf) < 128, written.Name);
                path = dxf;
            }

            var read = OutsideReaders.Ezdxf(path);
            if (file == "dxf")
                Assert.Equal(0, read.GetProperty("errors").GetArrayLength());
            Assert.Equal(4, read.GetProperty("units").GetInt32());
            foreach (var layer in read.GetProperty("byLayer").EnumerateObject())
            {
                string[] row = rows[layer.Name];
                var look = read.GetProperty("looks").GetProperty(layer.Name);
                seen.Add(layer.Name);
                if (row[5][0] == '#')
                    Assert.Equal(Convert.ToInt32(row[5][1..], 16), look[1].GetInt32() & 0xFFFFFF);
                // libredwg reads every layer as on and writes it as off into its DXF.
                else
                    Assert.Equal(int.Parse(row[5]), file == "dwg" ? Math.Abs(look[0].GetInt32()) : look[0].GetInt32());
                Assert.Equal(row[6].Length == 0 ? "CONTINUOUS" : row[6], look[2].GetString(), ignoreCase: true);
                Assert.Equal(
                    row[7],
                    (look[3].GetInt32() / 100.0).ToString(System.Globalization.CultureInfo.InvariantCulture)
                );
            }

            // A wall's flag is a whole number 1 or 0, its reference a text, each behind its name.
            if (!written.Name.Contains("ARC", StringComparison.Ordinal))
                continue;
            var source = Sources.Value[0].Snapshot;
            // One GlobalId is used twice in the demo.
            var byId = source.Elements.GroupBy(e => e.GlobalId).ToDictionary(g => g.Key, g => g.First());
            int compared = 0;
            foreach (var element in read.GetProperty("properties").EnumerateObject())
            {
                var pairs = element
                    .Value.EnumerateArray()
                    .Where(t => t[0].GetInt32() != 1001)
                    .Chunk(2)
                    .ToDictionary(p => p[0][1].GetString()!, p => p[1]);
                if (!pairs.TryGetValue("Background.External", out var flag))
                    continue;
                Assert.Equal(1070, flag[0].GetInt32());
                Assert.Equal(
                    source.PropertyText(byId[element.Name], "Pset_WallCommon.IsExternal") == "True" ? 1 : 0,
                    flag[1].GetInt32()
                );
                compared++;
            }

            Assert.True(compared > 15, $"{compared}");
        }

        Assert.True(seen.Count >= 8, string.Join(", ", seen));
        Assert.DoesNotContain("HW-ROOM", seen);
    }

    [Fact]
    public void The_acousticians_model_is_what_bounds_rooms_to_another_reader()
    {
        using var folder = new TestFolder();
        var result = Run(Demo(1), folder);
        var file = Assert.Single(result.Files);
        Assert.True(IfcOutsideTests.Compare(folder.File(file.Name)) > 300);
        var classes = OutsideReaders
            .WebIfc(folder.File(file.Name))
            .SkipLast(1)
            .Select(e => e.GetProperty("class").GetString()!.ToUpperInvariant())
            .ToHashSet();
        Assert.DoesNotContain(classes, c =>
            c.Contains("DUCT", StringComparison.Ordinal)
            || c.Contains("PIPE", StringComparison.Ordinal)
            || c.Contains("FURN", StringComparison.Ordinal)
            || c.Contains("RAILING", StringComparison.Ordinal)
        );
        Assert.Contains("IFCSPACE", classes);
    }

    [Fact]
    public void The_viewers_models_and_their_table_are_the_same_to_other_readers()
    {
        using var folder = new TestFolder();
        var result = Run(Demo(2), folder);
        foreach (var file in result.Files.Where(f => f.Name.EndsWith(".ifc", StringComparison.Ordinal)))
            Assert.True(IfcOutsideTests.Compare(folder.File(file.Name)) > 300);
        string sheet = result.Files.Single(f => f.Name.EndsWith(".xlsx", StringComparison.Ordinal)).Name;
        var theirs = OutsideReaders.Table(folder.File(sheet));
        var ours = TableFile.Read(File.ReadAllBytes(folder.File(sheet)));
        Assert.Equal(ours.Rows.Count + 1, theirs.GetArrayLength());
        Assert.Equal(result.Reconciliation.Rows.Where(r => r.Class != "IfcSite").Sum(r => r.Found), ours.Rows.Count);
        string[] heads = [.. theirs[0].EnumerateArray().Select(Cell)];
        Assert.Equal(ours.Headings, heads);
        int numbers = 0,
            truths = 0;
        for (int r = 0; r < ours.Rows.Count; r++)
        for (int c = 0; c < ours.Rows[r].Cells.Count; c++)
        {
            var other = theirs[r + 1][c];
            Assert.Equal(ours.Rows[r].Cells[c], Cell(other));
            numbers += other.ValueKind == JsonValueKind.Number ? 1 : 0;
            truths += other.ValueKind is JsonValueKind.True or JsonValueKind.False ? 1 : 0;
        }

        Assert.True(numbers > 5000 && truths > 100, $"{numbers} numbers, {truths} booleans");
        // The same as CSV, by papaparse.
        File.WriteAllBytes(
            folder.File("again.csv"),
            TableFile.WriteCsv(
                ours.Rows.Select(row => (IReadOnlyList<object?>)[.. row.Cells]).Prepend([.. ours.Headings])
            )
        );
        var csv = OutsideReaders.Table(folder.File("again.csv"));
        Assert.Equal(ours.Rows.Count + 1, csv.GetArrayLength());
        Assert.Equal(ours.Rows[7].Cells, csv[8].EnumerateArray().Take(ours.Rows[7].Cells.Count).Select(Cell));
    }

    [Fact]
    public void A_gltf_of_everything_has_no_fault_and_every_triangle()
    {
        using var folder = new TestFolder();
        var result = Run(
            new OrderDocument
            {
                Into = new OrderInto { File = "glb" },
                Rules = [new OrderRule { What = "storey", Are = ["Concourse"] }],
                Name = "look",
            },
            folder
        );
        var report = OutsideReaders.Gltf(folder.File("look.glb"));
        Assert.Equal((0, 0), (report.GetProperty("errors").GetInt32(), report.GetProperty("warnings").GetInt32()));
        long triangles = GlbScene.Read(File.ReadAllBytes(folder.File("look.glb"))).Sum(e => (long)e.Mesh.TriangleCount);
        Assert.Equal(triangles, report.GetProperty("triangles").GetInt64());
        Assert.True(result.Files[0].Elements > 500);
    }

    private static string Cell(JsonElement cell) =>
        cell.ValueKind switch
        {
            JsonValueKind.Null => "",
            JsonValueKind.True => "True",
            JsonValueKind.False => "False",
            JsonValueKind.Number => cell.GetDouble().ToString("R", System.Globalization.CultureInfo.InvariantCulture),
            _ => cell.GetString()!,
        };

    // Plans on sheets: ezdxf, and libredwg's reading of the DWG, see the scale of each viewport, the paper, the title block, and hatches
    // over the area that the walls' own section has by formula elsewhere (LineWorkTests).
    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void Sheets_have_their_scale_their_hatches_and_their_attributes(string file)
    {
        using var folder = new TestFolder();
        var result = Run(
            new OrderDocument
            {
                To = "SRV",
                Into = new OrderInto
                {
                    File = file,
                    As = "plan",
                    Hidden = "dashed",
                    Hatch = true,
                    Symbols = true,
                    Marks = true,
                    Sheet = new OrderSheet { Paper = "A1", Scale = 200 },
                },
                Rules =
                [
                    new OrderRule { What = "storey", Are = ["Concourse"] },
                    new OrderRule
                    {
                        Do = "only",
                        What = "party",
                        Are = ["ARC"],
                    },
                ],
                Properties = new OrderProperties { Attributes = true },
                Split = "storey",
                Unit = "mm",
                Name = "{party}-{storey}",
            },
            folder
        );
        var read = Read(folder, file, "ARC-Concourse");
        var layout = Assert.Single(read.GetProperty("layouts").EnumerateArray(), l =>
            l.GetProperty("scales").GetArrayLength() > 0
        );
        Assert.Equal("Concourse", layout.GetProperty("name").GetString());
        Assert.Equal([841.0, 594.0], layout.GetProperty("paper").EnumerateArray().Select(p => p.GetDouble()));
        Assert.Equal(1 / 200.0, Assert.Single(layout.GetProperty("scales").EnumerateArray()).GetDouble(), 1e-9);
        var texts = layout.GetProperty("texts").EnumerateArray().Select(t => t.GetString()).ToHashSet();
        Assert.Superset(new HashSet<string?>(["HW", "Concourse", "1:200", "r1", "SRV"]), texts);
        // Each element is an insert with its attributes; the wall's rating is that of the model.
        var attributes = read.GetProperty("attributes");
        Assert.Equal(result.Files[0].Elements, attributes.EnumerateObject().Count());
        var model = Sources.Value.Single(s => s.Party == "ARC").Snapshot;
        var wall = model.Elements.First(e =>
            e.Class == "IfcWall"
            && model.StoreyName(e.Storey) == "Concourse"
            && model.PropertyText(e, "Pset_WallCommon.FireRating") is { Length: > 0 }
        );
        Assert.Equal(
            model.PropertyText(wall, "Pset_WallCommon.FireRating"),
            attributes.GetProperty(wall.GlobalId).GetProperty("PSET_WALLCOMMON.FIRERATING").GetString()
        );
    }

    // A section of one wall, hatched: pattern lines and area as ezdxf reads them. The concourse's outer walls are 0.4 m thick at most.
    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void A_section_is_hatched_over_what_it_cuts(string file)
    {
        using var folder = new TestFolder();
        Run(
            new OrderDocument
            {
                Into = new OrderInto
                {
                    File = file,
                    As = "section",
                    Hatch = true,
                    Lines =
                    [
                        new OrderLine
                        {
                            Name = "A",
                            From = [-6, 5],
                            To = [62, 5],
                        },
                    ],
                },
                Rules =
                [
                    new OrderRule { What = "class", Are = ["IfcWall", "IfcSlab"] },
                    new OrderRule
                    {
                        Do = "only",
                        What = "party",
                        Are = ["ARC"],
                    },
                ],
                Unit = "mm",
                Frame = "job",
                Name = "{section}",
            },
            folder
        );
        var hatches = Read(folder, file, "A").GetProperty("hatches").EnumerateArray().ToList();
        Assert.True(hatches.Count > 5);
        Assert.All(hatches, h =>
            Assert.True(h[0].GetString()!.StartsWith("CUT-", StringComparison.Ordinal) && h[1].GetInt32() > 0)
        );
        // Each cut face against the section of the exact body: its volume is the sum of such areas.
        var model = Sources.Value.Single(s => s.Party == "ARC").Snapshot;
        double area = model
            .Elements.Where(e => e.Class is "IfcWall" or "IfcSlab")
            .Select(e => model.Shapes.Read(e.Index))
            .Where(s => s is { Parts.Count: > 0 })
            .Sum(s => s!.Parts.Sum(p => SliceArea(p.Mesh.Map(s.World.Compose(p.Frame)), 5)));
        Assert.Equal(area, hatches.Sum(h => h[2].GetDouble()) / 1e6, 1e-3 * area);
    }

    // The area of a body in the plane y = a, as the limit of the volume of a thin slice: by the divergence theorem over its triangles.
    private static double SliceArea(Mesh mesh, double y)
    {
        const double half = 5e-4;
        double Below(double level)
        {
            // The volume below a level: tetrahedra against the level plane, each triangle clipped to what is below.
            double six = 0;
            for (int i = 0; i < mesh.Triangles.Length; i += 3)
            {
                var corners = new List<Vec3>
                {
                    mesh.Points[mesh.Triangles[i]],
                    mesh.Points[mesh.Triangles[i + 1]],
                    mesh.Points[mesh.Triangles[i + 2]],
                };
                var kept = new List<Vec3>();
                for (int k = 0; k < 3; k++)
                {
                    Vec3 p = corners[k],
                        q = corners[(k + 1) % 3];
                    if (p.Y <= level)
                        kept.Add(p);
                    if ((p.Y <= level) != (q.Y <= level))
                        kept.Add(p + ((q - p) * ((level - p.Y) / (q.Y - p.Y))));
                }

                var origin = new Vec3(0, level, 0);
                for (int k = 2; k < kept.Count; k++)
                    six += (kept[0] - origin).Dot((kept[k - 1] - origin).Cross(kept[k] - origin));
            }

            return six / 6;
        }

        return (Below(y + half) - Below(y - half)) / (2 * half);
    }

    // The sheets' file refers to the plans, and each of its viewports freezes all references but its own.
    [Theory]
    [InlineData("dxf")]
    [InlineData("dwg")]
    public void A_file_of_sheets_refers_to_the_others(string file)
    {
        using var folder = new TestFolder();
        var result = Run(
            new OrderDocument
            {
                Into = new OrderInto
                {
                    File = file,
                    As = "plan",
                    Sheet = new OrderSheet
                    {
                        Paper = "A1",
                        Scale = 200,
                        References = true,
                    },
                },
                Rules = [new OrderRule { What = "party", Are = ["ARC"] }],
                Split = "storey",
                Unit = "mm",
                Name = "{party}-{storey}",
            },
            folder
        );
        var read = Read(folder, file, "ARC-sheets");
        string[] others =
        [
            .. result
                .Files.Select(f => f.Name)
                .Where(n => !n.StartsWith("ARC-sheets", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal),
        ];
        Assert.Equal(
            others,
            read.GetProperty("references").EnumerateArray().Select(r => r.GetString()!).Order(StringComparer.Ordinal)
        );
        var sheets = read.GetProperty("layouts")
            .EnumerateArray()
            .Where(l => l.GetProperty("scales").GetArrayLength() > 0)
            .ToList();
        Assert.Equal(others.Length, sheets.Count);
        // libredwg's DXF of a DWG names no frozen layers of viewports; ezdxf reads them in ours.
        if (file == "dxf")
            Assert.All(sheets, s => Assert.Equal(others.Length - 1, s.GetProperty("frozen")[0].GetInt32()));
    }

    // With DWG, as libredwg reads it.
    private static JsonElement Read(TestFolder folder, string file, string name)
    {
        string path = folder.File($"{name}.{file}");
        if (file == "dwg")
        {
            string dxf = Path.ChangeExtension(path, ".by-libredwg.dxf");
            Assert.True(OutsideReaders.Redwg(path, dxf) < 128, name);
            path = dxf;
        }

        var read = OutsideReaders.Ezdxf(path);
        if (file == "dxf")
            Assert.Equal(
                (0, 0),
                (read.GetProperty("errors").GetArrayLength(), read.GetProperty("fixes").GetArrayLength())
            );
        return read;
    }

    // web-ifc's meshes of boxes: eight corners each, twelve triangles.
    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    public void Boxes_are_boxes_to_another_reader(string schema)
    {
        using var folder = new TestFolder();
        var result = Run(
            new OrderDocument
            {
                Into = new OrderInto { Schema = schema, Detail = "boxes" },
                Rules = [new OrderRule { What = "class", Are = ["IfcWall", "IfcBeam"] }],
                Name = "{party}",
            },
            folder
        );
        int boxes = 0;
        foreach (var written in result.Files)
        {
            var source = Sources.Value.Single(s => written.Name.StartsWith(s.Party, StringComparison.Ordinal)).Snapshot;
            foreach (
                var shape in OutsideReaders
                    .WebIfc(folder.File(written.Name))
                    .Where(e => e.TryGetProperty("volume", out _))
            )
            {
                var element = source.Elements.FirstOrDefault(e =>
                    e.GlobalId == shape.GetProperty("globalId").GetString()
                );
                if (element is null || source.Shapes.Read(element.Index) is not { Parts.Count: > 0 } own)
                    continue;
                var size = (own with { World = Frame.Identity }).Bounds().Size;
                Assert.Equal(
                    size.X * size.Y * size.Z,
                    shape.GetProperty("volume").GetDouble(),
                    (0.001 * size.X * size.Y * size.Z) + 1e-6
                );
                boxes++;
            }
        }

        Assert.True(boxes > 100, $"{boxes} boxes");
    }
}
