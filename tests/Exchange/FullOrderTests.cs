using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Orders with tables, properties, splits and names, run over the demo's models, each balanced by re-reading.</summary>
public class FullOrderTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static byte[] Csv(params string[] lines) => Encoding.UTF8.GetBytes(string.Join("\n", lines));

    private (HandoverResult Result, MemoryFiles Files) Run(
        OrderDocument document,
        OrderLibrary? library = null,
        params string[] parties
    )
    {
        var files = new MemoryFiles();
        var sources = demo
            .Sources.Where(s => parties.Length == 0 || parties.Contains(s.Party))
            .Select(s => s with { Revision = 2 })
            .ToList();
        var result = HandoverRunner.Run(
            new HandoverRun(document.ToOrder(library), sources, files) { Job = "HW", TimeStamp = "2026-11-29T08:00:00" }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(20)));
        Assert.Equal(0, result.Unaccounted);
        return (result, files);
    }

    private static ModelSnapshot Open(MemoryFiles files, string name) => ModelSnapshot.Open(files.Read(name));

    [Fact]
    public void Only_listed_properties_travel_under_the_receivers_names_and_no_blank_one()
    {
        var library = new OrderLibrary
        {
            Properties = new Dictionary<string, PropertyList>
            {
                ["Theirs"] = PropertyList.Read(
                    TableFile.Read(
                        Csv(
                            "set,property,as set,as,blanks",
                            "Pset_WallCommon,FireRating,Fire,Rating,",
                            "Pset_WallCommon,IsExternal,Fire,External,",
                            "Qto_WallBaseQuantities,Length,,,",
                            "Pset_DoorCommon,*,,,keep"
                        )
                    )
                ),
            },
        };
        var (result, files) = Run(
            new OrderDocument
            {
                Properties = new OrderProperties { List = "Theirs", Blanks = "out" },
                Name = "out",
            },
            library,
            "ARC"
        );
        var again = Open(files, "out.ifc");
        var names = again
            .Elements.SelectMany(again.PropertySets)
            .SelectMany(s => s.Properties.Select(p => $"{s.Name}.{p.Name}"))
            .Distinct()
            .Order()
            .ToList();
        Assert.Equal(
            [
                "Fire.External",
                "Fire.Rating",
                "Pset_DoorCommon.FireRating",
                "Pset_DoorCommon.SelfClosing",
                "Qto_WallBaseQuantities.Length",
            ],
            names
        );
        var before = demo.Snapshots["ARC"];
        int rated = before.Elements.Count(e => before.PropertyText(e, "Pset_WallCommon.FireRating") is { Length: > 0 });
        Assert.Equal(rated, again.Elements.Count(e => again.PropertyText(e, "Fire.Rating") is { Length: > 0 }));
        Assert.True(
            rated > 0
                && rated < before.Elements.Count(e => before.PropertyText(e, "Pset_WallCommon.FireRating") is not null)
        );
        // The doors' rating is blank and the list keeps blanks for doors.
        Assert.Contains(again.Elements, e => again.PropertyText(e, "Pset_DoorCommon.FireRating") is "");
        // Booleans stay booleans.
        Assert.Contains(again.Elements.SelectMany(again.PropertySets).SelectMany(s => s.Properties), p =>
            p is { Name: "External", Measure: "IFCBOOLEAN" }
        );
        var values = result.Reconciliation.Ledger.Single(l => l.Kind == "property value");
        Assert.True(values.LeftOut[PropertyWish.NotListed] > 0 && values.LeftOut[PropertyWish.Blank] > 0);
        Assert.Equal(values.Things, values.Same + values.Changed.Values.Sum() + values.LeftOut.Values.Sum());
    }

    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    [InlineData(null)]
    public void Quantities_that_are_missing_are_computed_and_marked(string? schema)
    {
        var (_, files) = Run(
            new OrderDocument
            {
                Rules = [new OrderRule { What = "class", Are = ["IfcBeam", "IfcColumn"] }],
                Into = new OrderInto { Schema = schema },
                Unit = "mm",
                Properties = new OrderProperties { Computed = true },
                Name = "out",
            },
            null,
            "STR"
        );
        var again = Open(files, "out.ifc");
        var source = demo.Snapshots["STR"];
        var byId = source.Elements.ToDictionary(e => e.GlobalId);
        int weighed = 0;
        foreach (var element in again.Elements.Where(e => !again.IsStructure(e.Index)))
        {
            var set = Assert.Single(again.PropertySets(element), s => s.Name == ComputedQuantities.Set);
            var shape = source.Shapes.Read(byId[element.GlobalId].Index)!;
            double volume = shape.Measure().Volume;
            Assert.Equal(
                volume,
                double.Parse(
                    set.Properties.Single(p => p.Name == "NetVolume").Value,
                    System.Globalization.CultureInfo.InvariantCulture
                ),
                1e-9
            );
            if (set.Properties.FirstOrDefault(p => p.Name == "NetWeight") is not { } weight)
                continue;
            // EN 10365 gives masses of sections by 7850 kg/m³.
            Assert.Equal(
                volume * 7850,
                double.Parse(weight.Value, System.Globalization.CultureInfo.InvariantCulture),
                1e-6 * volume * 7850
            );
            weighed++;
        }

        Assert.True(weighed > 20);
    }

    [Fact]
    public void A_class_table_sends_some_as_another_class_and_some_not_at_all()
    {
        var library = new OrderLibrary
        {
            Classes = new Dictionary<string, ClassTable>
            {
                ["Theirs"] = ClassTable.Read(
                    TableFile.Read(
                        Csv(
                            "class,predefined type,property,value,to",
                            "IfcFurniture,,,,do not send",
                            "IfcFurnishingElement,,,,do not send",
                            "IfcWall,,Pset_WallCommon.IsExternal,False,IfcCovering.CLADDING",
                            "IfcRailing,,,,IfcMember"
                        )
                    )
                ),
            },
        };
        var (result, files) = Run(
            new OrderDocument
            {
                Tables = new OrderTables { Classes = "Theirs" },
                Name = "out",
            },
            library,
            "ARC"
        );
        var before = demo.Snapshots["ARC"];
        var again = Open(files, "out.ifc");
        int inner = before.Elements.Count(e =>
            e.Class.StartsWith("IfcWall", StringComparison.Ordinal)
            && before.PropertyText(e, "Pset_WallCommon.IsExternal") == "False"
        );
        Assert.True(inner > 5);
        Assert.Equal(
            inner + before.Elements.Count(e => e.Class == "IfcCovering"),
            again.Elements.Count(e => e.Class == "IfcCovering")
        );
        Assert.Equal(inner, again.Elements.Count(e => e.Class == "IfcCovering" && again.Predefined(e) == "CLADDING"));
        Assert.DoesNotContain(again.Elements, e => e.Class is "IfcFurniture" or "IfcFurnishingElement" or "IfcRailing");
        Assert.Contains(result.Reconciliation.Rows, r => r.Reasons.ContainsKey(ClassTable.NotSent));
    }

    [Fact]
    public void A_name_table_gives_storeys_materials_and_types_the_receivers_names()
    {
        var before = demo.Snapshots["STR"];
        string material = before.Elements.SelectMany(before.MaterialNames).First(m => m.Length > 0);
        string type = before.Elements.Select(before.TypeName).First(t => t.Length > 0);
        var library = new OrderLibrary
        {
            Names = new Dictionary<string, NameTable>
            {
                ["Theirs"] = new([
                    new(NameKind.Storey, "Gallery", "02"),
                    new(NameKind.Material, material, "M-1"),
                    new(NameKind.Type, type, "T-1"),
                    new(NameKind.Material, "not there", "M-2"),
                    new(NameKind.Storey, "", "03"),
                ]),
            },
        };
        var (_, files) = Run(
            new OrderDocument
            {
                Tables = new OrderTables { Names = "Theirs" },
                Split = "storey",
                Name = "{storey}",
            },
            library,
            "STR"
        );
        Assert.Contains("02.ifc", files.Files.Keys);
        Assert.DoesNotContain("Gallery.ifc", files.Files.Keys);
        var all = files.Files.Keys.Select(k => Open(files, k)).ToList();
        Assert.Contains(all, m => m.Elements.Any(e => m.MaterialNames(e).Contains("M-1")));
        Assert.Contains(all, m => m.Elements.Any(e => m.TypeName(e) == "T-1"));
        Assert.DoesNotContain(all, m =>
            m.Elements.Any(e => m.MaterialNames(e).Contains(material) || m.TypeName(e) == type)
        );
    }

    [Theory]
    [InlineData("class", "{class}-{source}")]
    [InlineData("storey+party", "{storey}-{party}")]
    [InlineData("type", "{type}-{n}")]
    [InlineData("assembly", "{n}-{mark}")]
    [InlineData("property", "{n}-{value}")]
    [InlineData("source+class", "{source}-{class}-{revision}-{date}-{to}")]
    [InlineData("group", "{n}-{group}")]
    public void The_sum_over_a_split_is_the_whole(string split, string name)
    {
        string[] parties = ["ARC", "STR"];
        var document = new OrderDocument
        {
            To = "SRV",
            Split = split,
            SplitKey = split == "property" ? "Pset_WallCommon.IsExternal" : null,
            Name = name,
        };
        var (whole, _) = Run(new OrderDocument { Name = "{party}" }, null, parties);
        foreach (var into in (OrderInto[])[new OrderInto(), new OrderInto { File = "dwg", As = "meshes" }])
        {
            var (result, files) = Run(document with { Into = into }, null, parties);
            var rows = result
                .Reconciliation.Rows.Where(r =>
                    r.Class is not ("IfcSite" or "IfcGrid" or "IfcSpace" or "IfcAnnotation")
                )
                .ToList();
            Assert.True(files.Files.Count > (split == "group" ? 0 : 2));
            Assert.Equal(rows.Sum(r => r.In - r.LeftOut), rows.Sum(r => r.Found));
            Assert.Equal(
                result.Files.Sum(f => f.Elements),
                result.Reconciliation.Rows.Sum(r => r.Written) - Structure(result)
            );
            if (into.File == "ifc")
                Assert.Equal(Elements(whole), Elements(result));
        }

        static int Elements(HandoverResult r) =>
            r.Reconciliation.Rows.Where(x => x.Class != "IfcSite").Sum(x => x.Found);
        static int Structure(HandoverResult r) =>
            r.Reconciliation.Rows.Where(x => x.Class == "IfcSite").Sum(x => x.Written);
    }

    [Fact]
    public void A_template_that_gives_two_files_one_name_is_refused_with_the_words_that_part_them()
    {
        string message = Assert
            .Throws<OrderException>(() =>
                Run(new OrderDocument { Split = "storey+class", Name = "{storey}" }, null, "STR")
            )
            .Message;
        Assert.Contains("two files the name", message, StringComparison.Ordinal);
        Assert.Contains("{class}", message, StringComparison.Ordinal);
        Assert.Contains(
            "device",
            Assert.Throws<OrderException>(() => Run(new OrderDocument { Name = "con" }, null, "STR")).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "letters",
            Assert
                .Throws<OrderException>(() => Run(new OrderDocument { Name = new string('x', 121) }, null, "STR"))
                .Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Running_twice_gives_the_same_bytes_and_a_zipped_model_is_the_model()
    {
        var order = new OrderDocument
        {
            Into = new OrderInto { File = "ifczip" },
            Split = "storey",
            Unit = "mm",
            Name = "{storey}",
        };
        var (_, first) = Run(order, null, "STR");
        var (_, second) = Run(order, null, "STR");
        var (_, plain) = Run(order with { Into = new OrderInto() }, null, "STR");
        Assert.Equal(first.Files.Keys.Order(), second.Files.Keys.Order());
        foreach (string name in first.Files.Keys)
        {
            Assert.True(first.Read(name).Span.SequenceEqual(second.Read(name).Span), name);
            using var model = new MemoryStream();
            IfcZip.Extract(first.Files[name] is var s ? new MemoryStream(s.ToArray()) : s, model, 1 << 28);
            string ifc = Path.ChangeExtension(name, ".ifc");
            // The header names the archive, else it is the same model.
            Assert.Equal(
                Encoding.Latin1.GetString(plain.Read(ifc).Span),
                Encoding.Latin1.GetString(model.ToArray()).Replace(name, ifc, StringComparison.Ordinal)
            );
        }
    }

    [Fact]
    public void Storeys_can_have_the_names_of_the_jobs_schedule()
    {
        string text = Encoding.Latin1.GetString(demo.Bytes["STR"]);
        var renamed = ModelSnapshot.Open(
            Encoding.Latin1.GetBytes(text.Replace("'Concourse'", "'L01'", StringComparison.Ordinal))
        );
        var sources = demo.Sources.Select(s => s.Party == "STR" ? s with { Snapshot = renamed } : s).ToList();
        var levels = LevelSchedule.Of([.. demo.Sources.Select(s => s.Snapshot)]);
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new OrderDocument
                {
                    Split = "storey",
                    Storeys = "job",
                    Name = "{party}-{storey}",
                }.ToOrder(),
                sources,
                files
            )
            {
                Job = "HW",
                Levels = levels,
            }
        );
        Assert.True(result.Balanced);
        Assert.Contains("STR-Concourse.ifc", files.Files.Keys);
        Assert.Equal("Concourse", Assert.Single(Open(files, "STR-Concourse.ifc").Structure.Storeys).Name);
    }

    [Theory]
    [InlineData("dwg", "AC1024", "solids")]
    [InlineData("dwg", "AC1015", "meshes")]
    [InlineData("dxf", "AC1032", "meshes")]
    [InlineData("dxf", "AC1024", "plan")]
    public void A_layer_table_gives_layers_with_colour_line_type_and_weight_and_properties_go_as_extended_data(
        string file,
        string version,
        string content
    )
    {
        var library = new OrderLibrary
        {
            Layers = new Dictionary<string, LayerTable>
            {
                ["Office"] = LayerTable.Read(
                    TableFile.Read(
                        Csv(
                            "class,predefined type,property,value,layer,colour,line type,weight",
                            "IfcWall,,Pset_WallCommon.IsExternal,True,X-WALL-EXT,1,,0.5",
                            "IfcWall,,,,X-WALL,#80c040,HIDDEN,0.18",
                            "IfcSlab,,,,X-SLAB,,CENTER,"
                        )
                    )
                ),
            },
            Properties = new Dictionary<string, PropertyList>
            {
                ["Few"] = PropertyList.Read(
                    TableFile.Read(
                        Csv(
                            "set,property,as set,as,blanks",
                            "Pset_WallCommon,IsExternal,,,",
                            "Qto_WallBaseQuantities,Length,Size,L,"
                        )
                    )
                ),
            },
        };
        var (result, files) = Run(
            new OrderDocument
            {
                Rules =
                [
                    new OrderRule { What = "storey", Are = ["Concourse"] },
                    new OrderRule
                    {
                        Do = "without",
                        What = "class",
                        Are = ["IfcFurniture"],
                    },
                ],
                Into = new OrderInto
                {
                    File = file,
                    Version = version,
                    As = content,
                },
                Tables = new OrderTables { Layers = "Office" },
                Properties = new OrderProperties { List = "Few", Table = "csv" },
                Unit = "mm",
                Frame = "10,20,-4,12",
                Name = "out",
            },
            library,
            "ARC"
        );
        var drawing = Cad.CadFile.Read(files.Files[$"out.{file}"].ToArray()).Drawing;
        string suffix = content == "plan" ? "_CUT" : "";
        Assert.Equal(
            (1, 50),
            (drawing.Layers["X-WALL-EXT" + suffix]!.Colour.Index, drawing.Layers["X-WALL-EXT" + suffix]!.LineWeight)
        );
        var inner = drawing.Layers["X-WALL" + suffix]!;
        Assert.Equal(18, inner.LineWeight);
        Assert.Equal("HIDDEN", drawing.LineTypes[inner.LineType]!.Name);
        if (version != "AC1015")
            Assert.Equal(0x80c040, inner.Colour.Rgb);
        Assert.Contains(result.Unmatched, u => u.Table == "layer table" && u.Name == "IfcDoor");
        Assert.True(
            result.Reconciliation.Ledger.Single(l => l.Kind == "layer of an element").Changed[
                "layer by the layer table"
            ] > 10
        );
        Assert.True(
            result.Reconciliation.Ledger.Single(l => l.Kind == "property of an element").Changed["as extended data"]
                > 20
        );
        // The table beside it has the same lengths in the order's unit, which the drawing's extended data have too.
        var table = TableFile.Read(files.Read("out-properties.csv"));
        Assert.Equal(
            ["GlobalId", "Class", "Name", "Storey", "Party", "Source", "Pset_WallCommon.IsExternal", "Size.L [mm]"],
            table.Headings
        );
        Assert.Contains(table.Rows, r =>
            r.Cells[7].Length > 0 && double.Parse(r.Cells[7], System.Globalization.CultureInfo.InvariantCulture) > 1000
        );
        Assert.All(table.Rows, r => Assert.Contains(r.Cells[6], (string[])["True", "False", ""]));
    }

    [Theory]
    [InlineData("csv")]
    [InlineData("xlsx")]
    [InlineData("json")]
    public void A_table_of_properties_beside_the_files_reads_back_cell_by_cell(string form)
    {
        var (result, files) = Run(
            new OrderDocument
            {
                Properties = new OrderProperties
                {
                    Table = form,
                    Blanks = "out",
                    Computed = true,
                },
                Name = "out",
            },
            null,
            "STR"
        );
        var check = result.Reconciliation.Checks.Single(c => c.Name == "cells of the property table");
        Assert.True(check is { Same: > 1000, Differ: 0 });
        if (form == "json")
            return;
        var table = TableFile.Read(files.Read($"out-properties.{form}"));
        Assert.Equal(result.Reconciliation.Rows.Where(r => r.Class != "IfcSite").Sum(r => r.Found), table.Rows.Count);
        int weight = table.Column("Lintel_Computed.NetWeight [kg]");
        Assert.True(weight > 0 && table.Rows.Count(r => weight < r.Cells.Count && r.Cells[weight].Length > 0) > 20);
    }

    [Theory]
    [InlineData("glb", null, "all")]
    [InlineData("obj", null, "boxes")]
    [InlineData("stl", "binary", "coarse")]
    [InlineData("stl", "text", "all")]
    public void Bare_triangles_have_every_box_and_volume(string file, string? content, string detail)
    {
        var (result, files) = Run(
            new OrderDocument
            {
                Into = new OrderInto
                {
                    File = file,
                    As = content,
                    Detail = detail,
                },
                Split = "storey",
                Frame = "3,4,5,30",
                Unit = file == "glb" ? null : "mm",
                Name = "{storey}",
            }
        );
        Assert.True(files.Files.Count >= 3);
        Assert.True(result.Reconciliation.Checks.Single(c => c.Name == "boxes (mm)") is { Same: > 100, Differ: 0 });
        Assert.Equal(
            detail == "coarse",
            result.Reconciliation.Rows.Any(r => r.Reasons.ContainsKey(HandoverPlan.Small))
        );
        // A file with a triangle moved is not balanced: the first bytes of coordinates are damaged.
        var sources = demo.Sources.Where(s => s.Party is "ARC" or "STR").ToList();
        var damaged = new DamagedFiles(file == "stl" && content == "binary" ? 100 : 0);
        var again = HandoverRunner.Run(
            new HandoverRun(
                new OrderDocument
                {
                    Into = new OrderInto
                    {
                        File = file,
                        As = content,
                        Detail = detail,
                    },
                    Name = "x",
                }.ToOrder(),
                sources,
                damaged
            )
            {
                Job = "HW",
            }
        );
        Assert.False(again.Balanced);
    }

    [Fact]
    public void A_coarser_chord_has_fewer_triangles()
    {
        long Triangles(double chord)
        {
            var order = new OrderDocument
            {
                Into = new OrderInto
                {
                    File = "stl",
                    Chord = chord,
                    Angle = 30,
                },
                Rules = [new OrderRule { What = "class", Are = ["IfcColumn"] }],
                Name = "x",
            }.ToOrder();
            var files = new MemoryFiles();
            var snapshot = ModelSnapshot.Open(demo.Bytes["STR"], default, order.Tolerance);
            Assert.True(
                HandoverRunner
                    .Run(new HandoverRun(order, [new HandoverSource("STR", "STR", snapshot)], files) { Job = "HW" })
                    .Balanced
            );
            return (files.Read("x.stl").Length - 84) / 50;
        }

        Assert.True(Triangles(0.05) < Triangles(0.0005) / 1.5);
    }

    // Files of which some bytes are other bytes when they are read again.
    private sealed class DamagedFiles(int at) : IFileSet
    {
        private readonly Dictionary<string, MemoryStream> _files = [];

        public Stream Create(string name) => _files[name] = new MemoryStream();

        public ReadOnlyMemory<byte> Read(string name)
        {
            byte[] bytes = _files[name].ToArray();
            if (at > 0)
            {
                for (int n = at; n < at + 40; n++)
                    bytes[n] ^= 0x5A;
                return bytes;
            }

            if (name.EndsWith(".glb", StringComparison.Ordinal))
            {
                // The binary chunk is behind the JSON chunk (glTF 2.0, 4.4).
                int json = BitConverter.ToInt32(bytes, 12);
                for (int n = 20 + json + 8; n < 20 + json + 8 + 120; n += 4)
                    bytes[n + 2] ^= 0x60;
                return bytes;
            }

            string text = Encoding.UTF8.GetString(bytes);
            return Encoding.UTF8.GetBytes(
                System.Text.RegularExpressions.Regex.Replace(
                    text,
                    @"(?<=^v(ertex)? -?)\d",
                    "9$&",
                    System.Text.RegularExpressions.RegexOptions.Multiline
                )
            );
        }
    }

    // A box has the volume of its sides; its colour, layers and place are those of the element.
    [Theory]
    [InlineData(null, false)]
    [InlineData("IFC2X3", false)]
    [InlineData("IFC4X3", true)]
    public void Boxes_stand_in_place_of_shapes_in_a_model(string? schema, bool merge)
    {
        var (result, files) = Run(
            new OrderDocument
            {
                Into = new OrderInto
                {
                    Detail = "boxes",
                    Schema = schema,
                    Merge = merge,
                },
                Unit = "mm",
                Name = merge ? "out" : "{party}",
            }
        );
        foreach (var file in result.Files)
        {
            var again = Open(files, file.Name);
            Assert.Empty(again.Model.OfType("IfcOpeningElement"));
            Assert.Empty(again.Model.OfType("IfcFacetedBrep").Concat(again.Model.OfType("IfcPolygonalFaceSet")));
            // Storeys and sites that parties share have one GlobalId in several models.
            var before = demo
                .Snapshots.Values.SelectMany(m => m.Elements.Select(e => (m, e)))
                .GroupBy(e => e.e.GlobalId)
                .Where(g => g.Count() == 1)
                .ToDictionary(g => g.Key, g => g.Single());
            foreach (var element in again.Elements.Where(e => before.ContainsKey(e.GlobalId)).Take(60))
            {
                var (model, was) = before[element.GlobalId];
                if (model.Shapes.Read(was.Index) is not { Parts.Count: > 0 } shape)
                    continue;
                var size = (shape with { World = Geometry.Frame.Identity }).Bounds().Size;
                var now = again.Shapes.Read(element.Index)!;
                Assert.Equal(size.X * size.Y * size.Z, now.Measure().Volume, 1e-3 * size.X * size.Y * size.Z + 1e-3);
                Assert.Equal(was.Layers, element.Layers);
                Assert.Equal(shape.Parts[0].Colour, now.Parts[0].Colour);
            }
        }

        Assert.Contains(BoxRewrite.Rule, result.Reconciliation.Ledger.SelectMany(l => l.LeftOut.Keys));
    }

    // A rolled section without its fillets: two flanges and a web.
    [Fact]
    public void A_coarse_model_has_no_fillets()
    {
        const string beam =
            "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#21=IFCBUILDING('0000000000000000000021',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);#22=IFCBUILDINGSTOREY('0000000000000000000022',$,'Deck',$,$,$,$,$,.ELEMENT.,0.);"
            + "#23=IFCRELAGGREGATES('0000000000000000000023',$,$,$,#7,(#20));#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#20,(#21));#25=IFCRELAGGREGATES('0000000000000000000025',$,$,$,#21,(#22));"
            + "#30=IFCISHAPEPROFILEDEF(.AREA.,'IPE 300',$,0.15,0.3,0.0071,0.0107,0.015,$,$);#31=IFCEXTRUDEDAREASOLID(#30,#2,#3,4.);#32=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#31));#33=IFCPRODUCTDEFINITIONSHAPE($,$,(#32));"
            + "#34=IFCLOCALPLACEMENT($,#2);#35=IFCBEAM('0000000000000000000035',$,'Beam',$,$,#34,#33,$,$);#36=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000036',$,$,$,(#35),#22);";
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new OrderDocument
                {
                    Into = new OrderInto { Detail = "coarse" },
                    Name = "out",
                    Unit = "mm",
                }.ToOrder(),
                [new HandoverSource("STR", "str", ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.Text(beam))))],
                files
            )
            {
                Job = "HW",
                TimeStamp = "2026-11-29T08:00:00",
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences));
        var again = Open(files, "out.ifc");
        double plain = ((2 * 0.15 * 0.0107) + ((0.3 - (2 * 0.0107)) * 0.0071)) * 4;
        Assert.Equal(plain, again.Shapes.Read(again.Elements[0].Index)!.Measure().Volume, 1e-9);
        Assert.Contains(result.Reconciliation.Ledger.SelectMany(l => l.Changed.Keys), r =>
            r.Contains(FilletRewrite.Rule, StringComparison.Ordinal)
        );
        // With fillets EN 10365 gives 53.8 cm².
        var before = ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.Text(beam)));
        Assert.Equal(53.8e-4, before.Shapes.Read(before.Elements[0].Index)!.Measure().Volume / 4, 1e-5);
    }

    [Theory]
    [InlineData("cm", 0.01)]
    [InlineData("in", 0.0254)]
    [InlineData("us-ft", 1200.0 / 3937)]
    public void Models_and_drawings_go_in_any_usual_unit(string unit, double metres)
    {
        foreach (string file in (string[])["ifc", "dwg"])
        {
            var (result, files) = Run(
                new OrderDocument
                {
                    Into = new OrderInto { File = file },
                    Unit = unit,
                    Name = "out",
                },
                null,
                "STR"
            );
            Assert.True(result.Balanced);
            if (file == "ifc")
                Assert.Equal(metres, Open(files, "out.ifc").Units.Metres, 1e-12);
        }
    }

    // A length of the demo's walls in feet and in centimetres, in a model, in a drawing and in a table; the number times the unit stays.
    [Theory]
    [InlineData("ifc", "ft", 0.3048)]
    [InlineData("ifc", "cm", 0.01)]
    [InlineData("dwg", "in", 0.0254)]
    public void A_property_goes_in_the_unit_of_the_list(string file, string unit, double metres)
    {
        var library = new OrderLibrary
        {
            Properties = new Dictionary<string, PropertyList>
            {
                ["Units"] = PropertyList.Read(
                    TableFile.Read(
                        Csv(
                            "set,property,as set,as,blanks,unit",
                            $"Qto_WallBaseQuantities,Length,,,,{unit}",
                            "Pset_*,*,,,,"
                        )
                    )
                ),
            },
        };
        var (result, files) = Run(
            new OrderDocument
            {
                Into = new OrderInto { File = file },
                Rules = [new OrderRule { What = "class", Are = ["IfcWall"] }],
                Properties = new OrderProperties { List = "Units", Table = "csv" },
                Unit = "mm",
                Name = "out",
            },
            library,
            "ARC"
        );
        var before = demo.Snapshots["ARC"];
        var rows = TableFile.Read(
            files.Read(result.Files.Single(f => f.Name.EndsWith(".csv", StringComparison.Ordinal)).Name)
        );
        int column = rows.Headings.ToList().IndexOf($"Qto_WallBaseQuantities.Length [{unit}]");
        Assert.True(column > 0, string.Join(", ", rows.Headings));
        var again = file == "ifc" ? Open(files, "out.ifc") : null;
        int compared = 0;
        foreach (var row in rows.Rows)
        {
            var wall = before.Elements.Single(e => e.GlobalId == row.Cells[0]);
            if (before.PropertyText(wall, "Qto_WallBaseQuantities.Length") is not { } length)
                continue;
            double was = double.Parse(length, System.Globalization.CultureInfo.InvariantCulture) * before.Units.Metres;
            Assert.Equal(
                was,
                double.Parse(row.Cells[column], System.Globalization.CultureInfo.InvariantCulture) * metres,
                1e-9
            );
            if (again is null)
                continue;
            var now = again
                .PropertySets(again.Elements.Single(e => e.GlobalId == wall.GlobalId))
                .SelectMany(s => s.Properties)
                .Single(p => p.Name == "Length");
            Assert.Equal(
                (was, unit),
                (
                    Math.Round(double.Parse(now.Value, System.Globalization.CultureInfo.InvariantCulture) * metres, 9),
                    now.Unit
                )
            );
            Assert.Equal(metres, again.Units.Factor(now.OwnUnit), 1e-12);
            compared++;
        }

        Assert.True(file != "ifc" || compared > 10);
    }

    // A file a storey, and one of all: the sum of the parts is the whole, and both balance.
    [Theory]
    [InlineData("ifc")]
    [InlineData("dwg")]
    public void Parts_go_apart_and_together_in_one_run(string file)
    {
        var (result, _) = Run(
            new OrderDocument
            {
                Into = new OrderInto { File = file },
                Split = "storey",
                Together = true,
                Unit = "mm",
                Name = "{party}-{storey}",
            }
        );
        var whole = Assert.Single(result.Files, f => f.Name.EndsWith($"-all.{file}", StringComparison.Ordinal));
        Assert.Equal(whole.Elements, result.Files.Where(f => f != whole).Sum(f => f.Elements));
        Assert.True(result.Files.Count > 3);
        Assert.Contains(result.Reconciliation.Checks, c => c is { Name: "all in one: items", Differ: 0, Same: > 1000 });
        Assert.Contains(
            "already",
            Assert
                .Throws<OrderException>(() =>
                    new OrderDocument
                    {
                        Into = new OrderInto { File = file, Merge = file == "ifc" ? true : null },
                        Together = true,
                    }.ToOrder()
                )
                .Message,
            StringComparison.Ordinal
        );
    }
}
