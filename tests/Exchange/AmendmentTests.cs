using System.Text;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>What is said beside a file becomes IFC of its schema, and nothing else changes.</summary>
public class AmendmentTests(DemoModels demo, ITestOutputHelper output) : IClassFixture<DemoModels>
{
    private static readonly DateTime Noon = new(2026, 11, 30, 12, 0, 0, DateTimeKind.Utc);

    private ModelSnapshot Architecture => demo.Snapshots["ARC"];

    private static ModelElement First(ModelSnapshot model, string type) =>
        model.Elements.First(e => e.Class == type && e.GlobalId.Length == 22);

    private AmendedModel Apply(ModelSnapshot model, params Amendment[] amendments)
    {
        var amended = AmendedModel.Of(model, amendments, Noon);
        var balance = AmendmentLedger.Of(amended);
        output.WriteLine(string.Join("\n", balance.Differences));
        Assert.True(balance.Balanced, string.Join("\n", balance.Differences));
        return amended;
    }

    private static string Read(AmendedModel amended, Amendment what)
    {
        var reader = new AmendmentReader(amended.Snapshot);
        return reader.Read(what, reader.IndexOf(what.Element)).ToString();
    }

    [Fact]
    public void Without_amendments_the_model_is_the_file_byte_for_byte()
    {
        var amended = AmendedModel.Of(Architecture, [], Noon);
        Assert.Same(Architecture, amended.Snapshot);
        Assert.False(amended.IsChanged);
        // What the file says already, and blank where nothing is, write nothing either.
        var door = First(Architecture, "IfcDoor");
        var nothing = Apply(
            Architecture,
            new Amendment
            {
                Element = door.GlobalId,
                Set = "Pset_DoorCommon",
                Name = "SelfClosing",
                Value = "yes",
            },
            new Amendment
            {
                Element = door.GlobalId,
                Set = "Nowhere",
                Name = "Nothing",
                Value = "",
            }
        );
        Assert.Same(Architecture, nothing.Snapshot);
        Assert.All(nothing.Results, r => Assert.Equal(AmendmentOutcome.Nothing, r.Outcome));
    }

    public static TheoryData<string, string> Kinds() =>
        new()
        {
            { """{"do":"property","set":"Pset_DoorCommon","name":"FireRating","value":"EI 60"}""", "EI 60" },
            { """{"do":"property","set":"Pset_DoorCommon","name":"SelfClosing","value":""}""", "blank" },
            { """{"do":"property","set":"Own","name":"Width","value":"1.2 m","type":"length"}""", "1200 mm" },
            { """{"do":"property","set":"Own","name":"Width","value":"900","type":"length","unit":"m"}""", "900 m" },
            { """{"do":"property","set":"Own","name":"Zero","value":"0","type":"integer"}""", "0" },
            { """{"do":"property","set":"Own","name":"No","value":"no","type":"boolean"}""", "False" },
            { """{"do":"property","set":"Own","name":"Words","value":"a; b","form":"list"}""", "a, b" },
            {
                """{"do":"property","set":"Qto_DoorBaseQuantities","name":"Area","value":"2.1","type":"area"}""",
                "2.1 m²"
            },
            { """{"do":"remove property","set":"Pset_DoorCommon","name":"SelfClosing"}""", "missing" },
            { """{"do":"remove set","set":"Pset_DoorCommon"}""", "missing" },
            { """{"do":"name","value":"D-101"}""", "D-101" },
            { """{"do":"mark","value":"D101"}""", "D101" },
            { """{"do":"description","value":"über Eck"}""", "über Eck" },
            { """{"do":"type","value":"Another door"}""", "Another door" },
            { """{"do":"class","value":"IfcDoor.GATE"}""", "IfcDoor.GATE" },
            { """{"do":"class","value":"IfcWindow"}""", "IfcWindow" },
            { """{"do":"storey","value":"Gallery"}""", "Gallery" },
            { """{"do":"layer","value":"A-DOOR-NEW"}""", "A-DOOR-NEW" },
            { """{"do":"material","value":"Oak"}""", "Oak" },
            { """{"do":"classification","set":"DIN 276","name":"344","value":"Doors"}""", "344 Doors" },
            { """{"do":"zone","name":"North","value":"yes"}""", "yes" },
            { """{"do":"system","name":"Exits","value":"yes"}""", "yes" },
        };

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Each_kind_is_read_back_as_it_was_said(string json, string says)
    {
        var amendment = JsonSerializer.Deserialize<Amendment>(json, JsonSerializerOptions.Web)! with
        {
            Element = First(Architecture, "IfcDoor").GlobalId,
        };
        // A door whose shape is its type's is on the layer of the type: refused, and a wall has its own.
        if (amendment.Kind == AmendmentKind.Layer)
            amendment = amendment with { Element = First(Architecture, "IfcWall").GlobalId };
        var amended = Apply(Architecture, amendment);
        Assert.Equal(AmendmentOutcome.Applied, Assert.Single(amended.Results).Outcome);
        Assert.Equal(says, Read(amended, amendment));
    }

    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    [InlineData("IFC4X3")]
    public void In_every_schema_it_is_IFC_of_that_schema(string schema)
    {
        var files = new MemoryFiles();
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Schema = schema };
        var result = HandoverRunner.Run(new HandoverRun(order, [demo.Sources.First(s => s.Party == "ARC")], files));
        var model = ModelSnapshot.Open(files.Read(result.Files[0].Name));
        string door = First(model, "IfcDoor").GlobalId,
            wall = First(model, "IfcWall").GlobalId;
        int before = RuleCheck.Read(model).Where(f => f.Severity == Severity.Error).Sum(f => f.Count);
        var amended = Apply(
            model,
            new Amendment
            {
                Element = door,
                Set = "S",
                Name = "Date",
                Value = "2026-11-30",
                Type = "date",
                By = "Ida",
                At = Noon,
            },
            new Amendment
            {
                Element = door,
                Set = "S",
                Name = "Range",
                Value = "3 … 5",
                Type = "length",
                Form = "range",
            },
            new Amendment
            {
                Element = door,
                Set = "S",
                Name = "Table",
                Value = "1=2;3=4",
                Type = "real",
                Form = "table",
            },
            new Amendment
            {
                Element = door,
                Set = "S",
                Name = "Plan",
                Value = "https://example.org/a.pdf",
                Form = "reference",
            },
            new Amendment
            {
                Element = door,
                Do = "classification",
                Set = "DIN 276",
                Name = "344",
                Value = "Doors",
            },
            new Amendment
            {
                Element = door,
                Do = "zone",
                Name = "Z",
                Value = "yes",
            },
            new Amendment
            {
                Element = door,
                Do = "system",
                Name = "S",
                Value = "yes",
            },
            new Amendment
            {
                Element = door,
                Do = "type",
                Value = "New type",
            },
            new Amendment
            {
                Element = wall,
                Do = "material",
                Value = "Brick",
            },
            new Amendment
            {
                Element = wall,
                Do = "layer",
                Value = "A-X",
            },
            new Amendment
            {
                Element = wall,
                Do = "move",
                X = 1,
                Turn = 15,
            },
            new Amendment
            {
                Element = wall,
                Do = "length",
                End = 0.2,
            }
        );
        Assert.All(amended.Results, r =>
            Assert.True(r.Outcome == AmendmentOutcome.Applied, $"{r.Amendment.About}: {r.Sentence}")
        );
        // The rules between instances and the types of attributes are kept: no error more than there were.
        Assert.Equal(
            before,
            RuleCheck.Read(amended.Snapshot).Where(f => f.Severity == Severity.Error).Sum(f => f.Count)
        );
        var ifc = amended.Snapshot.Model;
        int history = ifc.Ref(new AmendmentReader(amended.Snapshot).IndexOf(door), "OwnerHistory");
        Assert.Equal("MODIFIED", ifc.Get(history, "ChangeAction").Enumeration);
        Assert.Equal((int)(Noon - DateTime.UnixEpoch).TotalSeconds, ifc.Get(history, "LastModifiedDate").Integer);
        Assert.Equal("Ida", ifc.Text(ifc.Ref(ifc.Ref(history, "LastModifyingUser"), "ThePerson"), "FamilyName"));
        Assert.Equal("Steady Lintel", ifc.Text(ifc.Ref(history, "LastModifyingApplication"), "ApplicationFullName"));
        // Every rooted instance that was added says who added it: IFC2X3 demands it.
        Assert.All(ifc.OfType("IfcRoot").Where(i => model.Model.File.IndexOf(ifc.File.Id(i)) < 0), i =>
            Assert.Equal("ADDED", ifc.Get(ifc.Ref(i, "OwnerHistory"), "ChangeAction").Enumeration)
        );
    }

    [Fact]
    public void A_set_that_others_have_stays_theirs()
    {
        string text = Encoding
            .ASCII.GetString(ModelSink.Bytes())
            .Replace("(#20),#60);", "(#20,#21),#60);", StringComparison.Ordinal);
        var model = ModelSnapshot.Open(Encoding.ASCII.GetBytes(text));
        var shared = model.PropertySets(model.Elements.First(e => e.GlobalId.EndsWith("21", StringComparison.Ordinal)))[
            0
        ];
        var amended = Apply(
            model,
            new Amendment
            {
                Element = "0000000000000000000020",
                Set = shared.Name,
                Name = shared.Properties[0].Name,
                Value = "",
            }
        );
        var other = amended.Snapshot.Elements.First(e => e.GlobalId.EndsWith("21", StringComparison.Ordinal));
        Assert.Equal(
            shared.Properties.Select(p => p.Value),
            amended.Snapshot.PropertySets(other).First(s => s.Name == shared.Name).Properties.Select(p => p.Value)
        );
    }

    // A wall of 300 × depth: what is added on top adds its section times the length.
    [Fact]
    public void A_stretched_member_is_longer_by_what_was_said_at_the_end_that_was_said()
    {
        var model = demo.Snapshots["STR"];
        var beam = First(model, "IfcBeam");
        var amended = Apply(
            model,
            new Amendment
            {
                Element = beam.GlobalId,
                Do = "length",
                Start = 0.2,
                End = 0.3,
            }
        );
        var before = model.Shapes.Read(beam.Index)!.Measure();
        var now = amended.Snapshot.ElementAt(new AmendmentReader(amended.Snapshot).IndexOf(beam.GlobalId))!;
        var after = amended.Snapshot.Shapes.Read(now.Index)!.Measure();
        int solid = LengthAmender.SolidOf(model, beam.Index, out _);
        double depth = model.Model.Get(solid, "Depth").Real * model.Units.Metres;
        Assert.Equal((depth + 0.5) / depth, after.Volume / before.Volume, 9);
        Assert.Equal(
            0.5,
            (after.Bounds.Max - after.Bounds.Min).Length - (before.Bounds.Max - before.Bounds.Min).Length,
            2
        );
        Assert.Equal(
            "IfcExtrudedAreaSolid",
            amended.Snapshot.Model.ClassName(LengthAmender.SolidOf(amended.Snapshot, now.Index, out _))
        );
    }

    [Theory]
    [InlineData("IfcDoor", """{"do":"length","end":1}""", "is that of its type")]
    [InlineData("IfcWall", """{"do":"length","end":-100}""", "nothing would be left")]
    [InlineData("IfcDoor", """{"do":"storey","value":"Galery"}""", "'Gallery'")]
    [InlineData("IfcDoor", """{"do":"class","value":"IfcPipeFitting.ELBOW"}""", "")]
    [InlineData(
        "IfcDoor",
        """{"do":"property","set":"Pset_DoorCommon","name":"SelfClosing","value":"often"}""",
        "is no boolean"
    )]
    [InlineData("IfcWall", """{"do":"remove set","set":"Pset_WallCommon"}""", "comes with the element's type")]
    public void What_cannot_be_done_is_refused_with_its_reason_and_the_rest_is_done(
        string type,
        string json,
        string why
    )
    {
        string id = First(Architecture, type).GlobalId;
        var amendment = JsonSerializer.Deserialize<Amendment>(json, JsonSerializerOptions.Web)! with { Element = id };
        var amended = Apply(
            Architecture,
            amendment,
            new Amendment
            {
                Element = id,
                Do = "name",
                Value = "Other",
            }
        );
        var result = amended.Results[0];
        if (why.Length > 0)
        {
            Assert.Equal(AmendmentOutcome.Refused, result.Outcome);
            Assert.Contains(why, result.Sentence, StringComparison.Ordinal);
        }

        Assert.Equal(AmendmentOutcome.Applied, amended.Results[1].Outcome);
    }

    [Fact]
    public void A_wall_that_moves_takes_its_openings_and_doors_with_it_and_nothing_else()
    {
        var wall = Architecture.Elements.First(e =>
            e.Class == "IfcWall" && Architecture.Relations.Openings.First(e.Index) >= 0
        );
        var amended = Apply(
            Architecture,
            new Amendment
            {
                Element = wall.GlobalId,
                Do = "move",
                X = 2,
                Z = -0.5,
                Turn = 90,
            }
        );
        int opening = Architecture.Relations.Openings.First(wall.Index);
        var before = Architecture.Shapes.Placements.Product(opening);
        var after = amended.Snapshot.Shapes.Placements.Product(
            amended.Snapshot.Model.File.IndexOf(Architecture.Model.File.Id(opening))
        );
        var axis = Architecture.Shapes.Placements.Product(wall.Index).Origin;
        var off = before.Origin - axis;
        Assert.Equal(axis.X - off.Y + 2, after.Origin.X, 6);
        Assert.Equal(axis.Y + off.X, after.Origin.Y, 6);
        Assert.Equal(before.Origin.Z - 0.5, after.Origin.Z, 6);
    }

    [Fact]
    public void Model_data_are_said_and_written()
    {
        int project = Architecture.Structure.Project,
            building = Architecture.Structure.Buildings[0];
        string p = Architecture.Model.GlobalId(project),
            b = Architecture.Model.GlobalId(building);
        Amendment Said(string element, string name, string value) =>
            new()
            {
                Element = element,
                Do = "model",
                Name = name,
                Value = value,
            };
        Amendment[] all =
        [
            Said(p, "phase", "Tender"),
            Said(p, "classification", "DIN 276"),
            Said(b, "street", "Quay 1; Berth 2"),
            Said(b, "town", "Heron"),
            Said("file", "author", "Ida; Ole"),
        ];
        var amended = Apply(Architecture, all);
        Assert.Equal(["Tender", "DIN 276", "Quay 1; Berth 2", "Heron"], all.Take(4).Select(a => Read(amended, a)));
        Assert.Equal(["Ida", "Ole"], amended.Snapshot.Model.File.Header.Author);
        Assert.Contains(ModelDatum.Read(amended.Snapshot), d => d is { Name: "town", Statement.Text: "Heron" });
    }

    [Fact]
    public void Every_form_of_file_carries_them_and_an_order_can_leave_them_out()
    {
        var source = demo.Sources.First(s => s.Party == "ARC");
        string door = First(source.Snapshot, "IfcDoor").GlobalId,
            wall = First(source.Snapshot, "IfcWall").GlobalId;
        Amendment[] said =
        [
            new()
            {
                Element = door,
                Set = "S",
                Name = "P",
                Value = "written",
            },
            new()
            {
                Element = door,
                Set = "S",
                Name = "Cost",
                Value = "410",
                NotForExchange = true,
            },
            new()
            {
                Element = door,
                Do = "remove set",
                Set = "Pset_DoorCommon",
            },
            new() { Element = wall, Do = "leave out" },
        ];
        HandoverResult Run(HandoverOrder order, out MemoryFiles files)
        {
            files = new MemoryFiles();
            return HandoverRunner.Run(
                new HandoverRun(order, [source], files)
                {
                    Amendments = new Dictionary<int, IReadOnlyList<Amendment>> { [0] = said },
                }
            );
        }

        // Sections need lines of their own.
        foreach (var form in FileForm.All.Where(f => f != TargetCatalog.DrawingSection))
        {
            var result = Run(new HandoverOrder(Selection.All, form, true, null), out _);
            Assert.True(result.Balanced, $"{form.Family}: {string.Join("\n", result.Reconciliation.Differences)}");
            Assert.Equal(1, result.Reconciliation.Rows.Sum(r => r.Reasons.GetValueOrDefault(AmendedModel.LeftOutRule)));
        }

        var ifc = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null);
        var with = Run(ifc, out var carried);
        string text = Encoding.Latin1.GetString(carried.Read(with.Files[0].Name).Span);
        Assert.Contains("'written'", text, StringComparison.Ordinal);
        Assert.DoesNotContain("'Cost'", text, StringComparison.Ordinal);
        Assert.Contains(with.Reconciliation.Ledger, l => l.Changed.ContainsKey(ModelLedger.AmendedRule));
        Assert.Contains(with.Reconciliation.Ledger, l => l.LeftOut.ContainsKey(AmendmentLedger.Removed));
        var without = Run(ifc with { Amendments = false }, out var plain);
        Assert.DoesNotContain(
            "'written'",
            Encoding.Latin1.GetString(plain.Read(without.Files[0].Name).Span),
            StringComparison.Ordinal
        );
        Assert.All(without.Reconciliation.Rows, r => Assert.Equal(0, r.LeftOut));
    }

    [Fact]
    public void Every_damage_to_an_amended_model_is_caught()
    {
        var sink = ModelSnapshot.Open(ModelSink.Bytes());
        var amended = AmendedModel.Of(
            sink,
            [
                new()
                {
                    Element = "0000000000000000000020",
                    Set = "Set",
                    Name = "New",
                    Value = "1.5",
                    By = "Ida",
                },
                new()
                {
                    Element = "0000000000000000000020",
                    Do = "zone",
                    Name = "New zone",
                    Value = "yes",
                },
                new()
                {
                    Element = "0000000000000000000021",
                    Do = "name",
                    Value = "Other",
                },
                new()
                {
                    Element = "0000000000000000000021",
                    Do = "material",
                    Value = "Oak",
                },
                new()
                {
                    Element = "0000000000000000000023",
                    Do = "storey",
                    Value = "One",
                },
                new()
                {
                    Element = "0000000000000000000023",
                    Do = "move",
                    X = 1,
                },
            ],
            Noon
        );
        Assert.All(amended.Results, r => Assert.True(r.Outcome == AmendmentOutcome.Applied, r.Sentence));
        Assert.True(AmendmentLedger.Of(amended).Balanced, string.Join("\n", AmendmentLedger.Of(amended).Differences));
        string text = Encoding.Latin1.GetString(amended.Snapshot.Model.File.Bytes.Span);
        var missed = new List<string>();
        int caught = 0;
        foreach (var (name, damaged) in LedgerMutantTests.Mutants(text).Where((_, n) => n % 3 == 1))
        {
            var again = amended.ReadAs(ModelSnapshot.Open(Encoding.Latin1.GetBytes(damaged)));
            if (AmendmentLedger.Of(again).Balanced)
                missed.Add(name);
            else
                caught++;
        }

        output.WriteLine($"{caught} caught");
        Assert.True(
            missed.Count == 0,
            $"{missed.Count} of {caught + missed.Count} not caught:\n{string.Join('\n', missed.Take(20))}"
        );
        Assert.True(caught > 150, $"only {caught}");
    }
}
