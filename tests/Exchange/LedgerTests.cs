using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>What an exchange can lose without counting elements, kind by kind: found again, or in a named account.</summary>
public class LedgerTests
{
    private static readonly ModelSnapshot Sink = ModelSnapshot.Open(ModelSink.Bytes());

    private static (HandoverResult Result, MemoryFiles Files) Run(HandoverOrder order, params ModelSnapshot[] models)
    {
        var files = new MemoryFiles();
        var sources = (models.Length > 0 ? models : [Sink])
            .Select((m, n) => new HandoverSource($"P{n}", $"m{n}", m))
            .ToList();
        return (HandoverRunner.Run(new HandoverRun(order, sources, files) { Job = "J" }), files);
    }

    private static HandoverOrder Only(params string[] names) =>
        Everything with
        {
            Selection = new Selection([
                new SelectionRule(
                    RuleField.GlobalId,
                    [.. Sink.Elements.Where(e => names.Contains(e.Name)).Select(e => e.GlobalId)],
                    true
                ),
            ]),
        };

    private static HandoverOrder Everything => new(Selection.All, TargetCatalog.Ifc, false, null, "{source}-{storey}");

    private static LedgerLine Line(HandoverResult result, string kind) =>
        result.Reconciliation.Ledger.Single(l => l.Kind == kind);

    private static ModelSnapshot Again(MemoryFiles files) =>
        ModelSnapshot.Open(files.Read(Assert.Single(files.Files).Key));

    private static void Balanced(HandoverResult result)
    {
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences));
        Assert.All(result.Reconciliation.Ledger, l =>
            Assert.Equal(
                l.Things,
                l.Same + l.Changed.Values.Sum() + l.LeftOut.Values.Sum() + l.NotCarried.Values.Sum() + l.Unaccounted
            )
        );
    }

    [Fact]
    public void Openings_without_host_zones_with_shape_and_shapes_of_sites_are_elements()
    {
        string[] classes = ["IfcOpeningElement", "IfcSpatialZone", "IfcSite"];
        Assert.All(classes, c => Assert.Contains(Sink.Elements, e => e.Class == c));
        // The opening that voids a wall goes with it and is none.
        Assert.Equal(["Hostless"], Sink.Elements.Where(e => e.Class == "IfcOpeningElement").Select(e => e.Name));
        var (result, files) = Run(Everything with { Into = TargetCatalog.DrawingMeshes });
        Balanced(result);
        Assert.Equal(
            [1, 1],
            result.Reconciliation.Rows.Where(r => r.Class is "IfcSpatialZone" or "IfcSite").Select(r => r.Found)
        );
        Assert.Equal(0, result.Reconciliation.Rows.Sum(r => r.Unaccounted));
        Assert.Contains("IfcOpeningElement", result.Reconciliation.Rows.Select(r => r.Class));
        Assert.NotEmpty(files.Files);
    }

    [Fact]
    public void A_relationship_goes_when_both_its_ends_go()
    {
        var (result, files) = Run(Only("W1", "W2"));
        Balanced(result);
        var again = Again(files).Model;
        Assert.All(
            (string[])
                [
                    "IfcRelConnectsPathElements",
                    "IfcMaterialRelationship",
                    "IfcExternalReferenceRelationship",
                    "IfcRelAssignsToProcess",
                    "IfcRelSequence",
                    "IfcRelAssignsToActor",
                    "IfcRelAssociatesDocument",
                ],
            c => Assert.NotEmpty(again.OfType(c))
        );
        // Its priorities are numbers, not members: the text stays as it was.
        Assert.Contains(
            "(10,20),(30,40)",
            Encoding.ASCII.GetString(again.File.Raw(again.OfType("IfcRelConnectsPathElements").Single()))
        );
        Assert.Equal(1, Line(result, "IfcRelConnectsPathElements").Same);
        Assert.Equal(1, Line(result, "IfcRelConnectsPorts").LeftOut[ModelLedger.OtherEndStays]);
    }

    [Fact]
    public void No_element_is_dragged_in_by_a_relationship()
    {
        var (result, files) = Run(Only("W1", "W2", "R1"));
        Balanced(result);
        var again = Again(files);
        // W3 realises a connection of W1 and W2, and bounds the room above the one that bounds R1.
        Assert.DoesNotContain(again.Elements, e => e.Name is "W3" or "R2");
        Assert.Empty(again.Model.OfType("IfcRelConnectsWithRealizingElements"));
        Assert.Equal(1, Line(result, "IfcRelConnectsWithRealizingElements").LeftOut[ModelLedger.OtherEndStays]);
        int boundary = Assert.Single(again.Model.OfType("IfcRelSpaceBoundary"));
        Assert.True(again.Model.Get(boundary, "CorrespondingBoundary").IsNull);
        Assert.Equal(3, again.Elements.Count(e => !again.IsStructure(e.Index)));
    }

    [Fact]
    public void Merged_values_keep_the_unit_that_the_first_project_gives_otherwise_or_not_at_all()
    {
        var other = ModelSnapshot.Open(ModelSink.Other());
        var (result, files) = Run(Everything with { Merge = true }, Sink, other);
        Balanced(result);
        var again = Again(files);
        int set = again.Model.OfType("IfcPropertySet").Single(s => again.Model.GlobalId(s) == "1000000000000000000060");
        var values = again.Properties.Set(set).Properties.ToDictionary(p => p.Name);
        Assert.Equal(("12.5", "Pa"), (values["Pressure"].Value, values["Pressure"].Unit));
        Assert.Equal("Pa", values["List"].Unit);
        // What the first source has the say in is said: the storey that both have, elsewhere in the second.
        Assert.Contains(Line(result, "IfcBuildingStorey").NotCarried.Keys, k =>
            k.Contains("Elevation", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_measure_that_the_first_project_does_not_assign_gets_its_unit()
    {
        const string head =
            "#1=IFCPROJECT('{0}000000000000000000001',$,'P',$,$,$,$,(#3),#2);#3=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,$,#5,$);#5=IFCAXIS2PLACEMENT3D(#6,$,$);#6=IFCCARTESIANPOINT((0.,0.,0.));#4=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);";
        const string body =
            "#10=IFCWALL('{0}000000000000000000010',$,'W',$,$,$,$,$,$);#11=IFCPROPERTYSET('{0}000000000000000000011',$,'S',$,(#12,#13,#14,#15));#16=IFCRELDEFINESBYPROPERTIES('{0}000000000000000000016',$,$,$,(#10),#11);"
            + "#12=IFCPROPERTYSINGLEVALUE('U',$,IFCTHERMALTRANSMITTANCEMEASURE(0.24),$);#13=IFCPROPERTYBOUNDEDVALUE('B',$,IFCTHERMALTRANSMITTANCEMEASURE(1.),IFCTHERMALTRANSMITTANCEMEASURE(0.1),$,$);"
            + "#14=IFCPROPERTYENUMERATEDVALUE('E',$,(IFCTHERMALTRANSMITTANCEMEASURE(0.2)),$);#15=IFCPROPERTYTABLEVALUE('T',$,(IFCTHERMALTRANSMITTANCEMEASURE(1.)),(IFCLABEL('one')),$,$,$,$);";
        const string unit =
            "#20=IFCDERIVEDUNIT((#21,#22,#23),.THERMALTRANSMITTANCEUNIT.,$);#21=IFCDERIVEDUNITELEMENT(#24,1);#22=IFCDERIVEDUNITELEMENT(#4,-2);#23=IFCDERIVEDUNITELEMENT(#25,-1);#24=IFCSIUNIT(*,.POWERUNIT.,$,.WATT.);#25=IFCSIUNIT(*,.THERMODYNAMICTEMPERATUREUNIT.,$,.KELVIN.);";
        static ModelSnapshot Model(string data, string id, string units) =>
            ModelSnapshot.Open(
                Encoding.ASCII.GetBytes(
                    $"ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;{data.Replace("{0}", id, StringComparison.Ordinal)}#2=IFCUNITASSIGNMENT({units});ENDSEC;END-ISO-10303-21;"
                )
            );
        var (result, files) = Run(
            Everything with
            {
                Merge = true,
            },
            Model(head, "0", "(#4)"),
            Model(head + body + unit, "1", "(#4,#20)")
        );
        Balanced(result);
        var values = Again(files) is var again
            ? again.Properties.Of(again.Elements.Single().Index).SelectMany(s => s.Properties).ToDictionary(p => p.Name)
            : [];
        Assert.Equal(["W/m²·K", "W/m²·K", "W/m²·K"], new[] { "U", "B", "E" }.Select(n => values[n].Unit));
        int table = again.Model.OfType("IfcPropertyTableValue").Single();
        Assert.Equal("IfcDerivedUnit", again.Model.ClassName(again.Model.Ref(table, "DefiningUnit")));
        Assert.True(again.Model.Get(table, "DefinedUnit").IsNull);
    }

    [Fact]
    public void Values_with_units_of_their_own_are_not_scaled_column_by_column()
    {
        var (result, files) = Run(Everything with { Unit = LengthUnit.Millimetre });
        Balanced(result);
        var model = Again(files).Model;
        string Raw(int id) => Encoding.ASCII.GetString(model.File.Raw(model.File.IndexOf(id)));
        // The unit of its own happens to be the new unit of the project.
        Assert.Contains("IFCLENGTHMEASURE(304.8),#169", Raw(165));
        Assert.Contains("(IFCLENGTHMEASURE(1.),IFCLENGTHMEASURE(2.))", Raw(164));
        Assert.Contains("IFCLENGTHMEASURE(2000.),IFCLENGTHMEASURE(1000.)", Raw(162));
    }

    [Fact]
    public void A_change_of_class_says_what_has_no_place_and_writes_no_word_the_class_lacks()
    {
        var (result, files) = Run(
            Everything with
            {
                Edits =
                [
                    new(EditKind.ChangeClass, "IfcDoor", "IfcRailing"),
                    new(EditKind.ChangeClass, "IfcWall", "IfcSlab"),
                ],
            }
        );
        Balanced(result);
        Assert.Contains(
            "IfcDoor.OverallHeight has no place in IfcRailing; IfcDoor.OverallWidth has no place in IfcRailing",
            Line(result, "IfcDoor").NotCarried.Keys
        );
        var model = Again(files).Model;
        int slab = model.OfType("IfcSlab").Single(s => model.Name(s) == "W1");
        Assert.Equal(
            ("USERDEFINED", "SOLIDWALL"),
            (model.Get(slab, "PredefinedType").Enumeration, model.Text(slab, "ObjectType"))
        );
    }

    [Theory]
    [InlineData("Enum", "EXISTING", "IFCLABEL", "EXISTING")]
    [InlineData("Truth", "false", "IFCBOOLEAN", "False")]
    [InlineData("Pressure", "20", "IFCPRESSUREMEASURE", "20")]
    [InlineData("A", "true", "IFCLABEL", "true")]
    public void A_set_property_keeps_its_kind_and_is_not_doubled(
        string property,
        string value,
        string measure,
        string expected
    )
    {
        var order = Everything with
        {
            Edits = [new(EditKind.SetProperty, "IfcWall", value, "Set", property)],
            Selection = new Selection([new SelectionRule(RuleField.GlobalId, ["0000000000000000000020"], true)]),
        };
        var (result, files) = Run(order);
        Balanced(result);
        var again = Again(files);
        var found = Assert.Single(
            again
                .Properties.Of(again.Elements.Single(e => e.Name == "W1").Index)
                .Where(s => s.Name == "Set")
                .SelectMany(s => s.Properties),
            p => p.Name == property
        );
        Assert.Equal((measure, expected), (found.Measure, found.Value));
        // Of a property that another set lists too, only this set's becomes another.
        if (property == "A")
            Assert.Contains(again.Model.OfType("IfcPropertySingleValue"), p =>
                again.Model.Name(p) == "A" && again.Model.Text(p, "NominalValue") == "a"
            );
    }

    [Theory]
    [InlineData("Truth", "perhaps")]
    [InlineData("Pressure", "much")]
    [InlineData("Enum", "OLD")]
    [InlineData("Bounds", "3")]
    public void A_value_that_its_property_cannot_have_is_refused(string property, string value) =>
        Assert.Throws<OrderException>(() =>
            Run(
                Everything with
                {
                    Edits = [new(EditKind.SetProperty, "IfcWall", value, "Set", property)],
                    Selection = new Selection([
                        new SelectionRule(RuleField.GlobalId, ["0000000000000000000020"], true),
                    ]),
                }
            )
        );

    [Fact]
    public void Proxies_have_a_place_in_IFC4X3_and_definition_sets_become_relationships_in_IFC2X3()
    {
        string data = ModelSink
            .Text.Replace(
                "#153=IFCVIRTUALELEMENT('0000000000000000000153',$,'Virtual',$,$,$,$,$);",
                "#153=IFCPROXY('0000000000000000000153',$,'Proxy',$,$,$,$,.PRODUCT.,'T9');",
                StringComparison.Ordinal
            )
            .Replace("(#20),#60);", "(#20),IFCPROPERTYSETDEFINITIONSET((#60,#167)));", StringComparison.Ordinal);
        var model = ModelSnapshot.Open(Encoding.ASCII.GetBytes(data));
        var (newer, files) = Run(Everything with { Schema = "IFC4X3" }, model);
        Balanced(newer);
        Assert.Equal(
            "T9",
            Again(files) is var m ? m.Model.Text(m.Elements.Single(e => e.Name == "Proxy").Index, "Tag") : ""
        );
        var (older, old) = Run(Everything with { Schema = "IFC2X3" }, model);
        Balanced(older);
        var again = Again(old);
        Assert.Equal(
            ["Pset_WallCommon", "Set"],
            again
                .Properties.Of(again.Elements.Single(e => e.Name == "W1").Index)
                .Where(s => !s.FromType && s.Name != SchemaRewrite.AttributeSet)
                .Select(s => s.Name)
                .Order()
        );
    }

    [Fact]
    public void Layers_that_a_drawing_would_make_one_stay_apart_and_long_names_balance()
    {
        string longest = new('x', 300);
        string data = ModelSink
            .Text.Replace("('A-WALL-2',$,(#32),$)", $"('a-wall',$,(#33),$)", StringComparison.Ordinal)
            .Replace("('A-WALL',$,(#32,#33),$)", "('A-WALL',$,(#32),$)", StringComparison.Ordinal)
            .Replace("'One'", $"'{longest}'", StringComparison.Ordinal);
        var (result, files) = Run(
            Everything with
            {
                Into = TargetCatalog.DrawingMeshes,
            },
            ModelSnapshot.Open(Encoding.ASCII.GetBytes(data))
        );
        Balanced(result);
        var drawing = CadFile.Read(files.Read(Assert.Single(files.Files).Key).ToArray()).Drawing;
        Assert.Contains(drawing.Layers, l => l.Name == "A-WALL");
        Assert.Contains(drawing.Layers, l => l.Name == "a-wall-2");
        Assert.True(Line(result, "layer of an element").Changed["name made fit for a drawing"] > 0);
    }

    [Fact]
    public void Second_layers_and_transparency_are_said_or_carried()
    {
        var (modern, files) = Run(Only("W1") with { Into = TargetCatalog.DrawingMeshes });
        Balanced(modern);
        Assert.Equal(1, Line(modern, "layer of an element").NotCarried["an entity is on one layer"]);
        Assert.Contains(CadFile.Read(files.Read(Assert.Single(files.Files).Key).ToArray()).Drawing.Model.Entities, e =>
            (e.Extras.Transparency & 0xFF) == 191
        );
        var (old, _) = Run(
            Only("W1") with
            {
                Into = TargetCatalog.DrawingMeshes,
                Form = new CadForm(true, CadVersion.AC1015),
            }
        );
        Balanced(old);
        Assert.Equal(1, Line(old, "transparency").NotCarried.Values.Sum());
    }

    [Fact]
    public void A_storey_of_the_job_is_one_level_of_each_source()
    {
        // The other party counts from 0: its "One" is at 4 m, where the first has "Two".
        string counted = ModelSink
            .Text.Replace("'00000000000000000000", "'20000000000000000000", StringComparison.Ordinal)
            .Replace("'Two'", "'_'", StringComparison.Ordinal)
            .Replace("'One'", "'Nought'", StringComparison.Ordinal)
            .Replace("'_'", "'One'", StringComparison.Ordinal);
        var other = ModelSnapshot.Open(Encoding.ASCII.GetBytes(counted));
        var (result, _) = Run(
            Everything with
            {
                Selection = new Selection([new SelectionRule(RuleField.Storey, ["One"], true)]),
            },
            Sink,
            other
        );
        Balanced(result);
        int ground = Sink.Elements.Count(e => Sink.StoreyName(e.Storey) == "One");
        Assert.Equal(
            [("Nought", ground), ("One", ground)],
            result
                .Reconciliation.Rows.Where(r => r.Found > 0 && r.Storey.Length > 0)
                .GroupBy(r => r.Storey)
                .Select(g => (g.Key, g.Sum(r => r.Found)))
                .Order()
        );
    }

    [Fact]
    public void The_jobs_frame_is_refused_where_nothing_says_where_a_source_is()
    {
        string bare = ModelSink.Text.Replace(
            "#7=IFCMAPCONVERSION(#3,#8,500000.,5500000.,3.,1.,0.,1.);",
            "",
            StringComparison.Ordinal
        );
        var order = Everything with { Frame = new FrameChoice(FrameKind.Job) };
        Assert.Contains(
            "m1 is not set out",
            Assert
                .Throws<OrderException>(() => Run(order, Sink, ModelSnapshot.Open(Encoding.ASCII.GetBytes(bare))))
                .Message
        );
        // Set out, both can be placed.
        var files = new MemoryFiles();
        var sources = new[]
        {
            new HandoverSource("A", "a", Sink, Frame.Identity),
            new HandoverSource(
                "B",
                "b",
                ModelSnapshot.Open(Encoding.ASCII.GetBytes(bare)),
                FrameRewrite.Move(new Vec3(10, 20, 0), 90)
            ),
        };
        Balanced(HandoverRunner.Run(new HandoverRun(order, sources, files) { Job = "J" }));
        var moved = ModelSnapshot.Open(files.Read("b-all.ifc"));
        Assert.True(
            (
                moved.Shapes.Placements.Product(moved.Elements.Single(e => e.Name == "W2").Index).Origin
                - new Vec3(10, 23, 0)
            ).Length < 1e-9
        );
    }

    [Theory]
    [InlineData("schema")]
    [InlineData("merge")]
    [InlineData("edits")]
    public void A_drawing_that_would_ignore_its_order_is_refused(string what)
    {
        var order = Everything with { Into = TargetCatalog.DrawingMeshes };
        order = what switch
        {
            "schema" => order with { Schema = "IFC4" },
            "merge" => order with { Merge = true },
            _ => order with { Edits = [new(EditKind.RenameStorey, "One", "1")] },
        };
        Assert.Throws<OrderException>(() => Run(order));
    }

    // IEEE 754 single precision: 24 bits of significand; 2 mm from 16 384 m on, 0.5 m from 4 194 304 m on.
    [Theory]
    [InlineData(16_384, 0.001953125)]
    [InlineData(5_500_000, 0.5)]
    public void The_spacing_of_single_precision_is_that_at_the_distance(double metres, double spacing)
    {
        Assert.Equal(spacing, SinglePrecision.Spacing(metres));
        Assert.Equal(spacing, MathF.BitIncrement((float)metres) - (float)metres);
    }
}
