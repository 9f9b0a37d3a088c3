using System.Text;
using CsCheck;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Models on their way into another unit, frame, schema or file, read again.</summary>
public class RewriteTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static ModelSnapshot Rewritten(ModelSnapshot source, RewriteOptions options) =>
        Rewritten(source, options, out _);

    private static ModelSnapshot Rewritten(ModelSnapshot source, RewriteOptions options, out RewriteSet set)
    {
        using var stream = new MemoryStream();
        set = new RewriteSet(source, null, options);
        SubsetWriter.Write(source, null, set, "x", "", stream);
        return ModelSnapshot.Open(stream.ToArray());
    }

    private static Dictionary<string, MassProperties> Masses(ModelSnapshot snapshot, Func<ModelElement, bool> which)
    {
        var masses = new Dictionary<string, MassProperties>();
        snapshot.ForEachShape([.. snapshot.Elements.Where(which)], (e, shape) =>
        {
            if (shape is { Parts.Count: > 0 })
                masses[e.GlobalId + e.Name] = shape.Measure();
        });
        return masses;
    }

    private static void Same(Vec3 a, Vec3 b, double metres) => Assert.True((a - b).Length <= metres, $"{a} and {b}");

    [Theory]
    [InlineData("ARC")]
    [InlineData("STR")]
    [InlineData("SRV")]
    public void A_frame_and_its_inverse_give_the_same_model(string party)
    {
        var source = demo.Snapshots[party];
        var move = FrameRewrite.Move(new Vec3(500_000, 5_500_000, 12.5), 33.3);
        var there = Rewritten(source, new RewriteOptions { Move = move });
        var back = Rewritten(there, new RewriteOptions { Move = move.Inverse() });
        var before = Masses(source, e => e.Number % 9 == 0);
        var moved = Masses(there, e => e.Number % 9 == 0);
        var after = Masses(back, e => e.Number % 9 == 0);
        Assert.NotEmpty(before);
        Assert.Equal(before.Keys.Order(), after.Keys.Order());
        foreach (var (id, mass) in before)
        {
            Same(mass.Bounds.Min, after[id].Bounds.Min, 1e-6);
            Same(mass.Bounds.Max, after[id].Bounds.Max, 1e-6);
            Assert.Equal(mass.Volume, moved[id].Volume, 1e-6 * Math.Max(1, mass.Volume));
        }
    }

    [Fact]
    public void The_map_conversion_keeps_the_model_where_it_was()
    {
        const string map =
            "#20=IFCPROJECTEDCRS('EPSG:25832',$,$,$,$,$,#21);#21=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);#22=IFCMAPCONVERSION(#8,#20,500000.,5500000.,10.,0.8,0.6,0.001);";
        const string wall =
            "#30=IFCCARTESIANPOINT((4000.,3000.,0.));#31=IFCAXIS2PLACEMENT3D(#30,$,$);#32=IFCLOCALPLACEMENT($,#31);#33=IFCWALL('0000000000000000000033',$,'W',$,$,#32,$,$,$);";
        var source = ModelSnapshot.Open(Sample.Model(map + wall, "mm"));
        foreach (string? unit in new[] { null, "ft" })
        {
            var moved = Rewritten(
                source,
                new RewriteOptions
                {
                    Move = FrameRewrite.Move(new Vec3(-7, 11, 3), 50),
                    Unit = unit is null ? null : LengthUnit.Find(unit),
                }
            );
            Same(OnMap(source), OnMap(moved), 1e-6);
            Assert.True((OnModel(source) - OnModel(moved)).Length > 5);
        }
    }

    private static Vec3 OnModel(ModelSnapshot snapshot) =>
        snapshot.Shapes.Placements.Product(snapshot.Elements[0].Index).Origin;

    private static Vec3 OnMap(ModelSnapshot snapshot)
    {
        var g = GeoReference.Read(snapshot.Model, snapshot.Structure, snapshot.Units);
        return FrameRewrite
            .Move(new Vec3(g.Eastings, g.Northings, g.Height), g.RotationDegrees)
            .Point(OnModel(snapshot));
    }

    [Theory]
    [InlineData("ARC", "ft")]
    [InlineData("STR", "mm")]
    [InlineData("SRV", "m")]
    public void Another_unit_and_back_gives_the_same_values(string party, string unit)
    {
        var source = demo.Snapshots[party];
        var own = LengthUnit.Nearest(source.Units.Metres);
        var back = Rewritten(
            Rewritten(source, new RewriteOptions { Unit = LengthUnit.Find(unit) }),
            new RewriteOptions { Unit = own }
        );
        Assert.Equal(source.Units.Metres, back.Units.Metres, 15);
        for (int n = 0; n < source.Elements.Count; n += 7)
        {
            var before = source.Properties.Of(source.Elements[n].Index).SelectMany(s => s.Properties).ToList();
            var after = back.Properties.Of(back.Elements[n].Index).SelectMany(s => s.Properties).ToList();
            Assert.Equal(before.Count, after.Count);
            foreach (var (a, b) in before.Zip(after))
            {
                Assert.Equal((a.Name, a.Measure, a.Unit), (b.Name, b.Measure, b.Unit));
                if (double.TryParse(a.Value, out double x) && double.TryParse(b.Value, out double y))
                    Assert.Equal(x, y, 1e-9 * Math.Max(1, Math.Abs(x)));
                else
                    Assert.Equal(a.Value, b.Value);
            }
        }
    }

    [Fact]
    public void Everything_chosen_is_everything_and_a_part_with_the_rest_is_all()
    {
        var source = demo.Snapshots["ARC"];
        var all = SubsetPlan.Of(source, source.Elements, Enumerable.Range(0, source.Structure.Storeys.Count));
        // What nothing refers to and nobody chose (a material without use) may stay; products and relationships may not.
        Assert.All(
            source.Model.OfType("IfcProduct").Concat(source.Model.OfType("IfcRelContainedInSpatialStructure")),
            p => Assert.True(all.Has(p))
        );
        Gen.Int[0, 1_000_000]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var part = source.Elements.Where(_ => random.Next(3) == 0).ToList();
                    var rest = source.Elements.Except(part).ToList();
                    var (a, b) = (SubsetPlan.Of(source, part, []), SubsetPlan.Of(source, rest, []));
                    return source.Elements.All(e => a.Has(e.Index) || b.Has(e.Index)) && part.All(e => a.Has(e.Index));
                },
                iter: 12
            );
    }

    [Theory]
    [InlineData("ARC", "IFC2X3")]
    [InlineData("ARC", "IFC4X3")]
    [InlineData("SRV", "IFC2X3")]
    [InlineData("STR", "IFC4")]
    [InlineData("STR", "IFC4X3")]
    public void Another_schema_keeps_every_element_its_shape_and_its_properties(string party, string schema)
    {
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Schema = schema };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [.. demo.Sources.Where(s => s.Party == party)], files) { Job = "HW" }
        );
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(5)));
        var again = ModelSnapshot.Open(files.Read(result.Files[0].Name));
        Assert.Equal(schema, again.Model.Schema.Name);
        // Nothing in the file is unknown to its schema, has the wrong number of attributes, or points nowhere.
        var findings = new FindingListProbe(again);
        Assert.DoesNotContain("IFC-ENTITY-UNKNOWN", findings.Codes);
        // The architects' file has a dangling reference of its own.
        Assert.Equal(party == "ARC", findings.Codes.Contains("IFC-REFERENCE-DANGLING"));
        // By the rules of the other schema it is as sound as it came: the only findings are the flaws that were put into the demo.
        Assert.DoesNotContain(RuleCheck.Read(again), f =>
            f.Code.StartsWith("IFC-ATTRIBUTE", StringComparison.Ordinal)
            || f.Code.StartsWith("IFC-SELECT", StringComparison.Ordinal)
            || f.Code.StartsWith("IFC-ENUMERATION", StringComparison.Ordinal)
            || f.Code.StartsWith("IFC-LIST", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_a_schema_lacks_is_written_otherwise_and_told()
    {
        const string data =
            "#20=IFCCARTESIANPOINTLIST3D(((0.,0.,0.),(1.,0.,0.),(0.,1.,0.),(0.,0.,1.)));#21=IFCTRIANGULATEDFACESET(#20,$,.T.,((1,3,2),(1,2,4),(1,4,3),(2,3,4)),$);#22=IFCSHAPEREPRESENTATION(#8,'Body','Tessellation',(#21));#23=IFCPRODUCTDEFINITIONSHAPE($,$,(#22));#24=IFCCHIMNEY('0000000000000000000024',$,'C',$,$,$,#23,'tag',.USERDEFINED.);"
            + "#30=IFCCARTESIANPOINTLIST2D(((0.,0.),(2.,0.),(2.,1.),(1.,2.),(0.,1.)));#31=IFCINDEXEDPOLYCURVE(#30,(IFCLINEINDEX((1,2,3)),IFCARCINDEX((3,4,5)),IFCLINEINDEX((5,1))),$);#32=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#31);#33=IFCEXTRUDEDAREASOLID(#32,$,#3,2.);#34=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#33));#35=IFCPRODUCTDEFINITIONSHAPE($,$,(#34));#36=IFCSLAB('0000000000000000000036',$,'S',$,$,$,#35,$,.FLOOR.);"
            + "#40=IFCCOLOURRGB($,1.,0.,0.);#41=IFCSURFACESTYLESHADING(#40,0.5);#42=IFCSURFACESTYLE($,.BOTH.,(#41));#43=IFCSTYLEDITEM(#21,(#42),$);#44=IFCSPATIALZONE('0000000000000000000044',$,'Z',$,$,$,$,$,$);";
        var source = ModelSnapshot.Open(Sample.Model(data));
        var old = Rewritten(source, new RewriteOptions { Schema = "IFC2X3" }, out var set);
        string Class(string name) => old.Elements.Single(e => e.Name == name).Class;
        Assert.Equal(("IfcBuildingElementProxy", "IfcSlab"), (Class("C"), Class("S")));
        var (was, now) = (Masses(source, _ => true), Masses(old, _ => true));
        Assert.Equal(
            was.Values.Select(m => Math.Round(m.Volume, 6)).Order(),
            now.Values.Select(m => Math.Round(m.Volume, 6)).Order()
        );
        Assert.All(now.Values, m => Assert.True(m.Closed));
        Assert.Single(old.Model.OfType("IfcFacetedBrep"));
        Assert.Single(old.Model.OfType("IfcCompositeCurve"));
        Assert.Single(old.Model.OfType("IfcPresentationStyleAssignment"));
        Assert.Empty(old.Model.OfType("IfcSpatialZone"));
        Assert.All(old.Model.OfType("IfcRoot"), r => Assert.True(old.Model.Ref(r, "OwnerHistory") >= 0));
        // The class and the predefined type that have no place are kept as values.
        var chimney = old.Elements.Single(e => e.Name == "C");
        Assert.Contains(old.Properties.Of(chimney.Index), s =>
            s.Name == SchemaRewrite.AttributeSet && s.Properties.Any(p => p is { Name: "Class", Value: "IfcChimney" })
        );
        var balance = Balance(source, "IFC2X3");
        Assert.True(balance.Balanced, string.Join("\n", balance.Differences));
        Assert.Equal([new NotCarried("IfcSpatialZone has no place in IFC2X3", 1)], balance.NotCarried);
        Assert.Equal(1, balance.Ledger.Single(l => l.Kind == "IfcChimney").Changed.Values.Sum());
        // IFC2X3 has no transparency in a shading, but in its subtype.
        Colour Of(ModelSnapshot s, string name) =>
            s.Shapes.Read(s.Elements.Single(e => e.Name == name).Index)!.Parts[0].Colour;
        Assert.Equal(Of(source, "C"), Of(old, "C"));
        Assert.InRange(Of(old, "C").A, 120, 135);
    }

    [Fact]
    public void A_mirrored_profile_stays_mirrored()
    {
        // An L whose short leg lies at +X, mirrored to −X.
        const string data =
            "#40=IFCCARTESIANPOINT((0.,0.));#41=IFCCARTESIANPOINT((3.,0.));#42=IFCCARTESIANPOINT((3.,1.));#43=IFCCARTESIANPOINT((0.,2.));#44=IFCPOLYLINE((#40,#41,#42,#43,#40));#45=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#44);#46=IFCMIRROREDPROFILEDEF(.AREA.,$,#45,*,$);"
            + "#47=IFCEXTRUDEDAREASOLID(#46,$,#3,2.);#48=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#47));#49=IFCPRODUCTDEFINITIONSHAPE($,$,(#48));#50=IFCSLAB('0000000000000000000050',$,'S',$,$,$,#49,$,$);";
        var source = ModelSnapshot.Open(Sample.Model(data));
        var old = Rewritten(source, new RewriteOptions { Schema = "IFC2X3" }, out var set);
        MassProperties was = Masses(source, _ => true).Values.Single(),
            now = Masses(old, _ => true).Values.Single();
        Assert.Equal((-3, 0), (was.Bounds.Min.X, was.Bounds.Max.X));
        Same(was.Bounds.Min, now.Bounds.Min, 1e-9);
        Same(was.Bounds.Max, now.Bounds.Max, 1e-9);
        Assert.DoesNotContain(Balance(source, "IFC2X3").NotCarried, n => n.What.Contains("Operator"));
    }

    private static Reconciliation Balance(ModelSnapshot source, string schema) =>
        HandoverRunner
            .Run(
                new HandoverRun(
                    new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Schema = schema },
                    [new HandoverSource("T", "t", source)],
                    new MemoryFiles()
                )
                {
                    Job = "T",
                }
            )
            .Reconciliation;

    // IFC2X3 wraps styles in assignments, IFC4X3 knows none.
    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4X3")]
    public void Colours_survive_the_other_way_of_assigning_them(string schema)
    {
        string style =
            schema == "IFC2X3"
                ? "#43=IFCSTYLEDITEM(#31,(#42),$);"
                : "#44=IFCPRESENTATIONSTYLEASSIGNMENT((#42));#43=IFCSTYLEDITEM(#31,(#44),$);";
        string data =
            "#30=IFCRECTANGLEPROFILEDEF(.AREA.,$,#38,2.,1.);#37=IFCCARTESIANPOINT((0.,0.));#38=IFCAXIS2PLACEMENT2D(#37,$);#31=IFCEXTRUDEDAREASOLID(#30,#2,#3,3.);#32=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#31));#33=IFCPRODUCTDEFINITIONSHAPE($,$,(#32));#34=IFCSLAB('0000000000000000000034',$,'S',$,$,$,#33,$,.FLOOR.);"
            + "#40=IFCCOLOURRGB($,1.,0.,0.5);#41=IFCSURFACESTYLERENDERING(#40,0.25,$,$,$,$,$,$,.NOTDEFINED.);#42=IFCSURFACESTYLE($,.BOTH.,(#41));"
            + style;
        var source = ModelSnapshot.Open(Sample.Model(data));
        var other = Rewritten(source, new RewriteOptions { Schema = schema }, out var set);
        Colour Of(ModelSnapshot s) => s.Shapes.Read(s.Elements[0].Index)!.Parts[0].Colour;
        Assert.Equal(255, Of(source).R);
        Assert.Equal(Of(source), Of(other));
        Assert.DoesNotContain(Balance(source, schema).NotCarried, n => n.What.Contains("Style"));
        Assert.Equal(schema == "IFC2X3" ? 1 : 0, other.Model.OfType("IfcPresentationStyleAssignment").Count());
    }

    [Fact]
    public void A_context_that_the_first_part_leaves_behind_is_not_shared()
    {
        // Both have the same sub-context; the first source's storey has nothing in it.
        const string sub =
            "#9=IFCGEOMETRICREPRESENTATIONSUBCONTEXT('Body','Model',*,*,*,*,#8,$,.MODEL_VIEW.,$);#20=IFCBUILDINGSTOREY('00000000000000000000{0}0',$,'L',$,$,$,$,$,.ELEMENT.,0.);#21=IFCRELAGGREGATES('00000000000000000000{0}1',$,$,$,#7,(#20));"
            + "#22=IFCWALL('00000000000000000000{0}2',$,'W{0}',$,$,$,{1},$,$);#23=IFCRELCONTAINEDINSPATIALSTRUCTURE('00000000000000000000{0}3',$,$,$,(#22),#20);#30=IFCEXTRUDEDAREASOLID(#31,$,#3,1.);#31=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,1.,1.);#32=IFCSHAPEREPRESENTATION(#9,'Body','SweptSolid',(#30));#33=IFCPRODUCTDEFINITIONSHAPE($,$,(#32));";
        HandoverSource Source(string n, string shape) =>
            new($"P{n}", $"P{n}", ModelSnapshot.Open(Sample.Model(sub.Replace("{0}", n).Replace("{1}", shape))));
        var files = new MemoryFiles();
        var order = new HandoverOrder(
            new Selection([new(RuleField.Class, ["IfcWall"], true)]),
            TargetCatalog.Ifc,
            true,
            null
        )
        {
            Merge = true,
        };
        var result = HandoverRunner.Run(new HandoverRun(order, [Source("1", "$"), Source("2", "#33")], files));
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences));
        var merged = ModelSnapshot.Open(files.Read(Assert.Single(result.Files).Name));
        Assert.DoesNotContain(RuleCheck.Read(merged), f => f.Code == "IFC-REFERENCE-DANGLING");
        Assert.Single(merged.Model.OfType("IfcGeometricRepresentationSubContext"));
    }

    [Theory]
    [InlineData(false, null)]
    [InlineData(true, "IFC2X3")]
    [InlineData(false, "IFC4X3")]
    public void Merged_sources_are_one_project_with_one_set_of_units(bool split, string? schema)
    {
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, split, null, "{storey}")
                {
                    Merge = true,
                    Schema = schema,
                },
                demo.Sources,
                files
            )
            {
                Job = "HW",
            }
        );
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(5)));
        Assert.Equal(2256, result.Files.Sum(f => f.Elements));
        foreach (var file in result.Files)
        {
            var merged = ModelSnapshot.Open(files.Read(file.Name));
            Assert.Single(merged.Model.OfType("IfcProject"));
            Assert.Single(merged.Model.OfType("IfcUnitAssignment"));
            Assert.Equal(0, merged.Model.File.ProblemCount);
            var findings = new FindingListProbe(merged);
            Assert.InRange(
                findings.Count("IFC-REFERENCE-DANGLING"),
                0,
                new FindingListProbe(demo.Snapshots["ARC"]).Count("IFC-REFERENCE-DANGLING")
            );
            if (schema is not null)
                Assert.DoesNotContain("IFC-ENTITY-UNKNOWN", findings.Codes);
            var materials = merged.Model.OfType("IfcMaterial").Select(merged.Model.Name).ToList();
            Assert.Equal(materials.Distinct().Count(), materials.Count);
        }
    }

    [Fact]
    public void The_same_model_merged_with_itself_shares_its_structure_and_renames_its_elements()
    {
        var twice = new[]
        {
            demo.Sources.Single(s => s.Party == "STR"),
            demo.Sources.Single(s => s.Party == "STR") with
            {
                Party = "OTHER",
            },
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Merge = true },
                twice,
                files
            )
            {
                Job = "HW",
            }
        );
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(5)));
        var merged = ModelSnapshot.Open(files.Read(result.Files[0].Name));
        Assert.Equal(2 * 539, merged.Elements.Count);
        Assert.Equal(demo.Snapshots["STR"].Structure.Storeys.Count, merged.Structure.Storeys.Count);
        Assert.Equal(merged.Elements.Count, merged.Elements.Select(e => e.GlobalId).Distinct().Count());
        Assert.Contains(result.Reconciliation.NotCarried, n =>
            n is { What: "a GlobalId that another source uses was replaced", Count: > 2 * 539 }
        );
    }

    [Fact]
    public void Values_under_other_units_get_a_unit_of_their_own()
    {
        const string area =
            "#20=IFCWALL('0000000000000000000020',$,'W',$,$,$,$,$,$);#21=IFCPROPERTYSINGLEVALUE('Face',$,IFCAREAMEASURE(2.),$);#22=IFCPROPERTYSET('0000000000000000000022',$,'Own',$,(#21));#23=IFCRELDEFINESBYPROPERTIES('0000000000000000000023',$,$,$,(#20),#22);#24=IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.);";
        string first = Sample.Text(area, "m").Replace("((#5))", "((#5,#24))"),
            second = Sample
                .Text(area.Replace(".AREAUNIT.,$", ".AREAUNIT.,.MILLI.").Replace("20'", "2z'"), "mm")
                .Replace("((#5))", "((#5,#24))");
        var sources = new[] { first, second }
            .Select((t, i) => new HandoverSource($"P{i}", $"P{i}", ModelSnapshot.Open(Encoding.ASCII.GetBytes(t))))
            .ToList();
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Merge = true },
                sources,
                files
            )
        );
        var merged = ModelSnapshot.Open(files.Read(result.Files[0].Name));
        Assert.Equal(
            ["2 mm²", "2 m²"],
            merged
                .Elements.Select(e => merged.Properties.Of(e.Index)[0].Properties[0])
                .Select(p => $"{p.Value} {p.Unit}")
                .Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Edits_change_names_layers_classes_and_properties()
    {
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null)
        {
            Edits =
            [
                new(EditKind.RenameStorey, "Concourse", "Level 01"),
                new(EditKind.MoveLayer, "A-WALL-INT", "A-PARTITION"),
                new(EditKind.ChangeClass, "IfcRailing", "IfcBuildingElementProxy"),
                new(EditKind.SetProperty, "IfcWall", "EI 120", "Pset_WallCommon", "FireRating"),
                new(EditKind.SetProperty, "IfcSlab", "yes", "Own_Set", "Checked"),
            ],
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [.. demo.Sources.Where(s => s.Party == "ARC")], files) { Job = "HW" }
        );
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(5)));
        var (before, after) = (demo.Snapshots["ARC"], ModelSnapshot.Open(files.Read(result.Files[0].Name)));
        Assert.Contains(after.Structure.Storeys, s => s.Name == "Level 01");
        Assert.Contains("A-PARTITION", after.Layers.Names);
        Assert.DoesNotContain("A-WALL-INT", after.Layers.Names);
        int railings = before.Elements.Count(e => e.Class == "IfcRailing");
        Assert.True(railings > 0);
        Assert.Equal(
            before.Elements.Count(e => e.Class == "IfcBuildingElementProxy") + railings,
            after.Elements.Count(e => e.Class == "IfcBuildingElementProxy")
        );
        Assert.All(after.Elements.Where(e => e.Class == "IfcWall"), e =>
            Assert.Contains(after.Properties.Of(e.Index), s =>
                s.Name == "Pset_WallCommon" && s.Properties.Any(p => p is { Name: "FireRating", Value: "EI 120" })
            )
        );
        Assert.All(after.Elements.Where(e => e.Class == "IfcSlab"), e =>
            Assert.Contains(after.Properties.Of(e.Index), s =>
                s.Name == "Own_Set" && s.Properties.Any(p => p is { Name: "Checked", Value: "yes" })
            )
        );
    }

    [Fact]
    public void Everything_at_once_balances()
    {
        var order = new HandoverOrder(
            new Selection([new(RuleField.Storey, ["Concourse", "Gallery"], true)]),
            TargetCatalog.Ifc,
            true,
            LengthUnit.Foot,
            "{storey}"
        )
        {
            Schema = "IFC2X3",
            Frame = FrameChoice.Parse("12.5,-3,0,90")!,
            Merge = true,
            Edits =
            [
                new(EditKind.RenameStorey, "Concourse", "L1"),
                new(EditKind.ChangeClass, "IfcFurniture", "IfcChimney"),
                new(EditKind.MoveLayer, "A-WALL-INT", "A-PART"),
            ],
        };
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(new HandoverRun(order, demo.Sources, files) { Job = "HW" });
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(5)));
        Assert.Contains("L1.ifc", files.Files.Keys);
        var concourse = ModelSnapshot.Open(files.Read("L1.ifc"));
        Assert.Equal((0.3048, "IFC2X3"), (concourse.Units.Metres, concourse.Model.Schema.Name));
        // A chimney is none of IFC2X3's classes either.
        Assert.Contains(concourse.Elements, e => e.Class == "IfcBuildingElementProxy");
    }

    [Theory]
    [InlineData("1,2,3,90", FrameKind.Given)]
    [InlineData("local", FrameKind.Local)]
    [InlineData("job", FrameKind.Job)]
    [InlineData("source", FrameKind.Source)]
    public void Frames_are_read_from_text(string text, FrameKind kind) =>
        Assert.Equal(kind, FrameChoice.Parse(text)!.Kind);

    [Theory]
    [InlineData("1,2,3")]
    [InlineData("1,2,3,x")]
    [InlineData("1,2,3,NaN")]
    [InlineData("elsewhere")]
    public void Wrong_frames_are_told(string text) => Assert.Null(FrameChoice.Parse(text));

    [Fact]
    public void A_local_frame_has_no_negative_placement()
    {
        var far = Rewritten(
            demo.Snapshots["STR"],
            new RewriteOptions { Move = FrameRewrite.Move(new Vec3(-500_000.5, -300, 0), 10) }
        );
        var near = Rewritten(
            far,
            new RewriteOptions
            {
                Move = new FrameChoice(FrameKind.Local).Moves([new HandoverSource("STR", "far", far)])[0],
            }
        );
        var origins = near.Elements.Select(e => near.Shapes.Placements.Product(e.Index).Origin).ToList();
        Assert.InRange(origins.Min(o => o.X), 0, 1);
        Assert.InRange(origins.Min(o => o.Y), 0, 1);
    }
}

/// <summary>The codes of the findings about a model's exchange structure.</summary>
internal sealed class FindingListProbe(ModelSnapshot snapshot)
{
    private readonly IReadOnlyList<Finding> _findings = IntakeReader.Read(snapshot).Findings;

    public IEnumerable<string> Codes => _findings.Select(f => f.Code);

    public int Count(string code) => _findings.Where(f => f.Code == code).Sum(f => f.Count);
}
