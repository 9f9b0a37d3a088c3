using System.Text;
using CsCheck;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class HandoverTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly SelectionRule Walls = new(
        RuleField.Class,
        ["IfcWall", "IfcStairFlight", "IfcDuctSegment"],
        true
    );

    private (HandoverResult Result, MemoryFiles Files) Run(HandoverOrder order, params string[] parties)
    {
        var files = new MemoryFiles();
        var sources = demo.Sources.Where(s => parties.Length == 0 || parties.Contains(s.Party)).ToList();
        return (
            HandoverRunner.Run(
                new HandoverRun(order, sources, files) { Job = "HW", TimeStamp = "2026-11-23T10:00:00" }
            ),
            files
        );
    }

    [Theory]
    [InlineData("Ifc", true, null)]
    [InlineData("Ifc", false, "ft")]
    [InlineData("Ifc", true, "mm")]
    [InlineData("DrawingMeshes", true, "m")]
    [InlineData("DrawingPlan", true, "mm")]
    public void Every_form_balances(string form, bool split, string? unit)
    {
        var (result, _) = Run(
            new HandoverOrder(Selection.All, TargetNames.Of(form), split, unit is null ? null : LengthUnit.Find(unit))
        );
        Assert.Empty(result.Reconciliation.Differences);
        Assert.True(result.Reconciliation.Balanced);
        Assert.Equal(2256, result.Reconciliation.Rows.Sum(r => r.In));
        Assert.Equal(result.Reconciliation.Rows.Sum(r => r.Found), result.Files.Sum(f => f.Elements));
        Assert.Equal(2256, result.Reconciliation.Rows.Sum(r => r.Found + r.LeftOut));
    }

    [Theory]
    [InlineData("DrawingMeshes", CadVersion.AC1015)]
    [InlineData("DrawingMeshes", CadVersion.AC1024)]
    [InlineData("DrawingPlan", CadVersion.AC1018)]
    [InlineData("DrawingPlan", CadVersion.AC1032)]
    public void Every_version_of_dwg_balances(string form, CadVersion version)
    {
        var (result, files) = Run(
            new HandoverOrder(Selection.All, TargetNames.Of(form), true, LengthUnit.Millimetre)
            {
                Form = new CadForm(true, version),
            },
            "STR",
            "ARC"
        );
        Assert.Empty(result.Reconciliation.Differences);
        Assert.True(result.Reconciliation.Balanced);
        Assert.All(result.Files, f => Assert.EndsWith(".dwg", f.Name));
        var drawing = CadFile.Read(files.Read(result.Files[0].Name).ToArray()).Drawing;
        Assert.Equal((version, 4), (drawing.Version, drawing.Units));
        // MESH came with 2010; before, bodies are polyface meshes.
        if (form == nameof(TargetCatalog.DrawingMeshes))
            Assert.Equal(
                version >= CadVersion.AC1024 ? "MESH" : "POLYLINE",
                Assert.Single(drawing.Model.Entities.Select(e => e.Type).Distinct())
            );
    }

    // Doors, chairs and fittings that share a shape are one block and an insert each; the balance looks into the blocks.
    [Theory]
    [InlineData(false, CadVersion.AC1027)]
    [InlineData(true, CadVersion.AC1024)]
    [InlineData(true, CadVersion.AC1015)]
    public void Repeated_shapes_become_blocks(bool dwg, CadVersion version)
    {
        var (result, files) = Run(
            new HandoverOrder(Selection.All, TargetCatalog.DrawingMeshes, false, LengthUnit.Millimetre)
            {
                Form = new CadForm(dwg, version),
            },
            "ARC"
        );
        Assert.Empty(result.Reconciliation.Differences);
        Assert.True(result.Reconciliation.Balanced);
        Assert.Contains(result.Reconciliation.Checks, c => c.Name == "volumes (%)" && c.Same > 700 && c.Differ == 0);
        var drawing = CadFile.Read(files.Read(Assert.Single(result.Files).Name).ToArray()).Drawing;
        var uses = drawing.Model.Entities.OfType<Insert>().CountBy(i => i.Block).ToList();
        Assert.NotEmpty(uses);
        Assert.All(uses, u => Assert.True(u.Value > 1));
        Assert.Equal(uses.Count, drawing.Blocks.Count(b => !b.IsSpace));
        // Each insert carries its element's colour; the block shows it.
        Assert.All(drawing.Blocks.Where(b => !b.IsSpace).SelectMany(b => b.Entities), e =>
            Assert.Equal(CadColour.ByBlock, e.Colour)
        );
        Assert.All(drawing.Model.Entities.OfType<Insert>(), i =>
            Assert.True(version == CadVersion.AC1015 ? i.Colour.Index is > 0 and < 256 : i.Colour.Rgb is not null)
        );
    }

    [Theory]
    [InlineData(false, CadVersion.AC1024, "ARC")]
    [InlineData(true, CadVersion.AC1015, "STR", Traits = ["Slow", "yes"])]
    [InlineData(true, CadVersion.AC1024, "STR", Traits = ["Slow", "yes"])]
    [InlineData(false, CadVersion.AC1032, "STR", Traits = ["Slow", "yes"])]
    [InlineData(true, CadVersion.AC1027, "STR")]
    public void Closed_bodies_can_be_solids_and_balance(bool dwg, CadVersion version, string party)
    {
        var (result, files) = Run(
            new HandoverOrder(Selection.All, TargetCatalog.DrawingMeshes, false, LengthUnit.Millimetre)
            {
                Form = new CadForm(dwg, version),
                Solids = true,
            },
            party
        );
        Assert.Empty(result.Reconciliation.Differences);
        Assert.True(result.Reconciliation.Balanced);
        Assert.Contains(result.Reconciliation.Checks, c => c.Name == "volumes (%)" && c.Same > 400 && c.Differ == 0);
        var drawing = CadFile.Read(files.Read(Assert.Single(result.Files).Name).ToArray()).Drawing;
        int solids = drawing.Blocks.SelectMany(b => b.Entities).Count(e => e is ModelerEntity),
            others = drawing.Blocks.SelectMany(b => b.Entities).Count(e => e is MeshEntity or Polyline);
        Assert.True(solids > 9 * others, $"{solids} solids, {others} meshes");
        // What could not be a solid is a line of the ledger.
        int named = result.Reconciliation.Ledger.Where(l => l.Kind == "solid").Sum(l => l.NotCarried.Values.Sum());
        Assert.Equal(others > 0, named > 0);
        Assert.InRange(named, 0, others);
    }

    [Fact]
    public void Solids_in_plans_are_refused() =>
        Assert.Contains(
            "drawings of bodies",
            Assert
                .Throws<OrderException>(() =>
                    Run(
                        new HandoverOrder(Selection.All, TargetCatalog.DrawingPlan, false, null) { Solids = true },
                        "STR"
                    )
                )
                .Message
        );

    [Fact]
    public void Rules_leave_out_and_are_named()
    {
        var order = new HandoverOrder(
            new Selection([
                new(RuleField.Storey, ["gallery"], true),
                Walls,
                new(RuleField.Layer, ["A-WALL-INT"], false),
            ]),
            TargetCatalog.Ifc,
            true,
            null
        );
        var (result, files) = Run(order);
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences));
        Assert.Equal(
            ["class not chosen", "layer left out", "storey not chosen"],
            result.Reconciliation.Rows.SelectMany(r => r.Reasons.Keys).Distinct().Order()
        );
        var walls = ModelSnapshot.Open(files.Read("ARC-Gallery.ifc"));
        Assert.Equal("Gallery", Assert.Single(walls.Structure.Storeys).Name);
        Assert.All(walls.Elements, e => Assert.Equal(("IfcWall", 0), (e.Class, e.Storey)));
        // Openings go with their walls, doors and windows that were not chosen do not.
        Assert.NotEmpty(walls.Model.OfType("IfcOpeningElement"));
        Assert.Empty(walls.Model.OfType("IfcDoor"));
        Assert.DoesNotContain(IntakeReader.Read(walls).Findings, f => f.Severity == Severity.Error);
    }

    [Fact]
    public void A_part_without_its_whole_stays_on_its_storey()
    {
        var (_, files) = Run(new HandoverOrder(new Selection([Walls]), TargetCatalog.Ifc, false, null), "ARC");
        var again = ModelSnapshot.Open(files.Read("ARC-all.ifc"));
        Assert.Empty(again.Model.OfType("IfcStair"));
        Assert.Equal(4, again.Elements.Count(e => e.Class == "IfcStairFlight" && e.Storey >= 0));
    }

    [Fact]
    public void Untouched_instances_come_byte_for_byte()
    {
        var (_, files) = Run(new HandoverOrder(new Selection([Walls]), TargetCatalog.Ifc, true, null), "ARC");
        var source = demo.Snapshots["ARC"].Model.File;
        var again = StepFile.Read(files.Read("ARC-Concourse.ifc"));
        int same = 0;
        for (int i = 0; i < again.Count; i++)
        {
            int at = source.IndexOf(again.Id(i));
            if (at >= 0 && source.Raw(at).SequenceEqual(again.Raw(i)))
                same++;
        }

        // What differs is relationships and layers cut down to the chosen.
        Assert.InRange(again.Count - same, 1, 60);
    }

    [Fact]
    public void Everything_is_everything()
    {
        var (_, files) = Run(new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null), "STR");
        var source = demo.Snapshots["STR"].Model.File;
        var again = StepFile.Read(files.Read("STR-all.ifc"));
        Assert.Equal(
            Enumerable.Range(0, source.Count).Select(i => Encoding.Latin1.GetString(source.Raw(i))),
            Enumerable.Range(0, again.Count).Select(i => Encoding.Latin1.GetString(again.Raw(i)))
        );
    }

    [Fact]
    public void Subset_and_complement_are_all_and_neither_dangles() =>
        Gen.Int[0, 2]
            .Select(Gen.Int[0, int.MaxValue])
            .Sample(
                (party, seed) =>
                {
                    var snapshot = demo.Snapshots.Values.ElementAt(party);
                    var random = new Random(seed);
                    var chosen = snapshot.Elements.Where(_ => random.Next(3) == 0).ToList();
                    var rest = snapshot.Elements.Except(chosen).ToList();
                    Assert.Equal(snapshot.Elements.Count, Reopened(snapshot, chosen) + Reopened(snapshot, rest));
                },
                iter: 12
            );

    private static int Reopened(ModelSnapshot snapshot, List<ModelElement> chosen)
    {
        using var stream = new MemoryStream();
        SubsetWriter.Write(snapshot, SubsetPlan.Of(snapshot, chosen, []), null, "x", "", stream);
        var again = ModelSnapshot.Open(stream.ToArray());
        Assert.Equal(
            chosen.Select(e => e.GlobalId).Order(StringComparer.Ordinal),
            again.Elements.Select(e => e.GlobalId).Order(StringComparer.Ordinal)
        );
        Assert.Equal(chosen.Count(e => e.Storey >= 0), again.Elements.Count(e => e.Storey >= 0));
        // The demo's own dangling reference is the only one allowed.
        Assert.True(
            IntakeReader.Read(again).Findings.Where(f => f.Code == "IFC-REFERENCE-DANGLING").Sum(f => f.Count) <= 1
        );
        return again.Elements.Count;
    }

    [Fact]
    public void Feet_and_back_gives_the_same_values()
    {
        var source = demo.Snapshots["STR"];
        var feet = Rewritten(source, LengthUnit.Foot);
        Assert.Equal(("foot", 0.3048), (feet.Units.LengthName, feet.Units.Metres));
        var metres = Rewritten(feet, LengthUnit.Metre);
        for (int i = 0; i < source.Model.File.Count; i++)
        {
            int at = metres.Model.File.IndexOf(source.Model.File.Id(i));
            if (i == source.Units.Assignment)
                continue;
            Assert.Equal(Numbers(source.Model.File.Raw(i)), Numbers(metres.Model.File.Raw(at)), (a, b) =>
                Math.Abs(a - b) <= 1e-9 * Math.Max(1, Math.Abs(a))
            );
        }
    }

    private static ModelSnapshot Rewritten(ModelSnapshot snapshot, LengthUnit unit)
    {
        using var stream = new MemoryStream();
        SubsetWriter.Write(
            snapshot,
            null,
            new RewriteSet(snapshot, null, new RewriteOptions { Unit = unit }),
            "x",
            "",
            stream
        );
        return ModelSnapshot.Open(stream.ToArray());
    }

    private static List<double> Numbers(ReadOnlySpan<byte> raw) =>
        [
            .. System
                .Text.RegularExpressions.Regex.Matches(
                    Encoding.Latin1.GetString(raw),
                    @"(?<![#\w'])-?\d+\.?\d*(E[-+]?\d+)?(?![\w'])"
                )
                .Select(m => double.Parse(m.Value, System.Globalization.CultureInfo.InvariantCulture)),
        ];

    [Fact]
    public void Lengths_with_their_own_unit_and_areas_stay()
    {
        const string data = """
            ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;
            #5=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
            #6=IFCUNITASSIGNMENT((#5));
            #7=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(#8),#6);
            #8=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,0.001,$,$);
            #9=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
            #10=IFCPROPERTYSINGLEVALUE('project unit',$,IFCPOSITIVELENGTHMEASURE(2.5),$);
            #11=IFCPROPERTYSINGLEVALUE('own unit',$,IFCLENGTHMEASURE(25.),#9);
            #12=IFCPROPERTYSINGLEVALUE('area',$,IFCAREAMEASURE(3.),$);
            #13=IFCQUANTITYLENGTH('q',$,$,4.,$);
            #14=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(0.3048),#5);
            #15=IFCMAPCONVERSION(#8,#16,500000.,5500000.,10.,1.,0.,$);
            #16=IFCPROJECTEDCRS('EPSG:25832',$,$,$,$,$,#5);
            #17=IFCCARTESIANPOINTLIST2D(((1.,2.),(3.,4.)));
            #18=IFCDIRECTION((0.,1.));
            #19=IFCPROPERTYLISTVALUE('list',$,(IFCLENGTHMEASURE(1.),IFCLABEL('1.')),$);
            ENDSEC;END-ISO-10303-21;
            """;
        var again = Rewritten(ModelSnapshot.Open(Encoding.ASCII.GetBytes(data)), LengthUnit.Millimetre);
        string Raw(int id) => Encoding.ASCII.GetString(again.Model.File.Raw(again.Model.File.IndexOf(id)));
        Assert.Equal("#8=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.,$,$);", Raw(8));
        Assert.Contains("IFCPOSITIVELENGTHMEASURE(2500.)", Raw(10));
        Assert.Contains("IFCLENGTHMEASURE(25.)", Raw(11));
        Assert.Contains("IFCAREAMEASURE(3.)", Raw(12));
        Assert.Contains("4000.", Raw(13));
        Assert.Contains("IFCLENGTHMEASURE(0.3048)", Raw(14));
        // The map's metres stay, and the scale says how many of ours make one.
        Assert.Equal("#15=IFCMAPCONVERSION(#8,#16,500000.,5500000.,10.,1.,0.,0.001);", Raw(15));
        Assert.Equal("#17=IFCCARTESIANPOINTLIST2D(((1000.,2000.),(3000.,4000.)));", Raw(17));
        Assert.Equal("#18=IFCDIRECTION((0.,1.));", Raw(18));
        Assert.Contains("(IFCLENGTHMEASURE(1000.),IFCLABEL('1.'))", Raw(19));
        Assert.Equal(0.001, again.Units.Metres);
    }

    [Fact]
    public void A_plan_has_its_cut_below_and_above_on_layers_of_their_own()
    {
        var (result, files) = Run(
            new HandoverOrder(
                new Selection([new(RuleField.Class, ["IfcColumn", "IfcWall"], true)]),
                TargetCatalog.DrawingPlan,
                true,
                LengthUnit.Millimetre
            ),
            "STR",
            "ARC"
        );
        Assert.True(result.Reconciliation.Balanced);
        var plan = DxfReader.Read(
            new MemoryStream(files.Read("STR+ARC-Concourse.dxf".Replace("STR+ARC", "ARC+STR")).ToArray())
        );
        var cuts = plan
            .Model.Entities.OfType<LightPolyline>()
            .Where(e => plan.LayerName(e.Layer) == "S-COLS_CUT")
            .ToList();
        // 28 hollow columns: an outer and an inner ring each, 273 and 253 mm across.
        Assert.Equal(56, cuts.Count);
        Assert.All(cuts, c => Assert.True(c.Closed));
        Assert.Equal(
            [253, 273],
            cuts.Select(c => Math.Round(Box.Of(c.Vertices.Select(v => new Vec3(v.Point.X, v.Point.Y, 0))).Size.X))
                .Distinct()
                .Order()
        );
        Assert.Equal("DASHED", plan.LineTypes[plan.Layers["A-WALL-INT_ABOVE"]!.LineType]!.Name);
        Assert.Equal("Continuous", plan.LineTypes[plan.Layers["A-WALL-INT_BELOW"]!.LineType]!.Name);
        Assert.All(plan.Model.Entities.OfType<LightPolyline>(), p => Assert.Equal(4800, p.Elevation, 6));
        Assert.All(plan.Model.Entities.OfType<Line>().SelectMany(l => new[] { l.Start, l.End }), p =>
            Assert.Equal(4800, p.Z, 6)
        );
    }

    [Fact]
    public void Parties_that_call_a_level_differently_share_its_drawing()
    {
        // The structure's concourse is renamed; it still stands at +4.800.
        string text = Encoding.Latin1.GetString(demo.Bytes["STR"]);
        var renamed = ModelSnapshot.Open(
            Encoding.Latin1.GetBytes(text.Replace("'Concourse'", "'L01'", StringComparison.Ordinal))
        );
        Assert.Contains(renamed.Structure.Storeys, s => s.Name == "L01");
        var files = new MemoryFiles();
        var order = new HandoverOrder(
            new Selection([new(RuleField.Class, ["IfcColumn"], true)]),
            TargetCatalog.DrawingMeshes,
            true,
            LengthUnit.Metre
        );
        var sources = demo
            .Sources.Select(s => s.Party == "STR" ? s with { Snapshot = renamed } : s)
            .Where(s => s.Party != "SRV")
            .ToList();
        Assert.True(HandoverRunner.Run(new HandoverRun(order, sources, files) { Job = "HW" }).Reconciliation.Balanced);
        // The structure has most storeys, so it names the level.
        Assert.Contains("STR-L01.dxf", files.Files.Keys);
        Assert.DoesNotContain(files.Files.Keys, k => k.Contains("Concourse"));
    }

    [Fact]
    public void A_lost_element_is_not_balanced()
    {
        // A file set that loses an instance between writing and reading shows that the sheet is found by re-reading.
        var files = new LosingFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null),
                [.. demo.Sources.Where(s => s.Party == "STR")],
                files
            )
            {
                Job = "HW",
            }
        );
        Assert.False(result.Reconciliation.Balanced);
        // The column, and what says where it stands, of what type and material it is; its property set and more point at it too.
        Assert.Equal(1, result.Reconciliation.Rows.Sum(r => r.Unaccounted));
        Assert.Equal(1, result.Reconciliation.Ledger.Single(l => l.Kind == "IfcColumn").Unaccounted);
        Assert.Contains(result.Reconciliation.Differences, d =>
            d.Contains("IfcColumn", StringComparison.Ordinal)
            && d.Contains("is not in the file", StringComparison.Ordinal)
        );
    }

    private sealed class LosingFiles : IFileSet
    {
        private readonly MemoryFiles _files = new();

        public Stream Create(string name) => _files.Create(name);

        public ReadOnlyMemory<byte> Read(string name)
        {
            string text = Encoding.Latin1.GetString(_files.Read(name).Span);
            int at = text.IndexOf("=IFCCOLUMN(", StringComparison.Ordinal);
            return Encoding.Latin1.GetBytes(
                text.Remove(text.LastIndexOf('#', at), text.IndexOf('\n', at) - text.LastIndexOf('#', at))
            );
        }
    }

    [Theory]
    [InlineData("{job}-{party}-{storey}", "HW-A_B-Level 1_2")]
    [InlineData("../{storey}", "Level 1_2")]
    [InlineData("{storey}{unit}", "Level 1_2mm")]
    public void Names_are_filled_and_kept_in_their_folder(string template, string name) =>
        Assert.Equal(
            name,
            NameTemplate.Fill(
                template,
                new Dictionary<string, string>
                {
                    ["job"] = "HW",
                    ["party"] = "A/B",
                    ["storey"] = "Level 1/2",
                    ["unit"] = "mm",
                }
            )
        );

    [Theory]
    [InlineData("{nothing}")]
    [InlineData("{party")]
    [InlineData(" ")]
    public void Wrong_templates_are_told(string template) => Assert.NotNull(NameTemplate.Problem(template));
}
