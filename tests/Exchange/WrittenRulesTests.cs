using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>What tables and lists make of a model passes the same rule check as the model did, and what cannot be is refused before a byte is
/// written.</summary>
public class WrittenRulesTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static TableRows Table(params string[] lines) =>
        TableFile.Read(Encoding.UTF8.GetBytes(string.Join("\n", lines)));

    private (HandoverResult Result, ModelSnapshot Again, MemoryFiles Files) Run(
        OrderDocument document,
        OrderLibrary library,
        string party
    )
    {
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(
                (document with { Name = "out" }).ToOrder(library),
                [.. demo.Sources.Where(s => s.Party == party)],
                files
            )
            {
                Job = "HW",
                TimeStamp = "2026-11-29T08:00:00",
            }
        );
        return (result, ModelSnapshot.Open(files.Read("out.ifc")), files);
    }

    private static Dictionary<string, int> Codes(ModelSnapshot model) =>
        RuleCheck.Read(model).Where(f => f.Severity > Severity.Note).ToDictionary(f => f.Code, f => f.Count);

    // No finding that the source does not have, and none more often.
    private static void PassesAsTheSource(ModelSnapshot source, ModelSnapshot again)
    {
        var (before, after) = (Codes(source), Codes(again));
        Assert.All(after, f =>
            Assert.True(
                f.Value <= before.GetValueOrDefault(f.Key),
                $"{f.Key}: {before.GetValueOrDefault(f.Key)} → {f.Value}"
            )
        );
    }

    [Theory]
    [InlineData(null)]
    [InlineData("IFC2X3")]
    [InlineData("IFC4X3")]
    public void An_element_of_another_class_has_no_type_of_the_old_one(string? schema)
    {
        var library = new OrderLibrary
        {
            Classes = new Dictionary<string, ClassTable>
            {
                ["Theirs"] = ClassTable.Read(
                    Table(
                        "class,predefined type,property,value,to",
                        "IfcWall,,Pset_WallCommon.IsExternal,False,IfcCovering.CLADDING",
                        "IfcDoor,,,,IfcBuildingElementProxy",
                        "IfcRailing,,,,IfcMember"
                    )
                ),
            },
        };
        var (result, again, _) = Run(
            new OrderDocument
            {
                Tables = new OrderTables { Classes = "Theirs" },
                Into = new OrderInto { Schema = schema },
            },
            library,
            "ARC"
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(10)));
        PassesAsTheSource(demo.Snapshots["ARC"], again);
        // By the standard's naming: IfcCovering and IfcCoveringType, IfcMember and IfcMemberType.
        foreach (var element in again.Elements.Where(e => e.Class is "IfcCovering" or "IfcMember"))
            if (again.Relations.Type.First(element.Index) is >= 0 and var type)
                Assert.Equal(element.Class + "Type", again.Model.ClassName(type));
        // Nothing of it is silent: a type that stays behind is named with its reason.
        var source = demo.Snapshots["ARC"];
        int lost =
            source.Elements.Count(e => source.Relations.Type.First(e.Index) >= 0)
            - again.Elements.Count(e => again.Relations.Type.First(e.Index) >= 0);
        int named = result
            .Reconciliation.Ledger.SelectMany(l => l.NotCarried)
            .Where(r => r.Key.Contains("cannot be the type of", StringComparison.Ordinal))
            .Sum(r => r.Value);
        Assert.Equal(lost, named);
    }

    [Fact]
    public void A_type_whose_elements_all_change_class_changes_with_them()
    {
        var library = new OrderLibrary
        {
            Classes = new Dictionary<string, ClassTable>
            {
                ["Theirs"] = ClassTable.Read(Table("class,to", "IfcColumn,IfcMember")),
            },
        };
        var (result, again, _) = Run(
            new OrderDocument { Tables = new OrderTables { Classes = "Theirs" } },
            library,
            "STR"
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(10)));
        var source = demo.Snapshots["STR"];
        int typed = source.Elements.Count(e => e.Class == "IfcColumn" && source.Relations.Type.First(e.Index) >= 0);
        Assert.True(typed > 10);
        Assert.Equal(
            typed,
            again.Elements.Count(e =>
                e.Class == "IfcMember"
                && again.Relations.Type.First(e.Index) is >= 0 and var t
                && again.Model.ClassName(t) == "IfcMemberType"
            ) - source.Elements.Count(e => e.Class == "IfcMember" && source.Relations.Type.First(e.Index) >= 0)
        );
        PassesAsTheSource(source, again);
    }

    [Theory]
    [InlineData("under one name", "Pset_WallCommon,*,Qto_WallBaseQuantities,", "*,*,,")]
    [InlineData("calls two properties", "Pset_WallCommon,FireRating,,LoadBearing", "*,*,,")]
    public void Names_that_would_be_given_twice_are_refused(string why, params string[] rows)
    {
        var library = new OrderLibrary
        {
            Properties = new Dictionary<string, PropertyList>
            {
                ["Theirs"] = PropertyList.Read(Table(["set,property,as set,as", .. rows])),
            },
        };
        var files = new MemoryFiles();
        var refusal = Assert.Throws<OrderException>(() =>
            HandoverRunner.Run(
                new HandoverRun(
                    new OrderDocument
                    {
                        Properties = new OrderProperties { List = "Theirs" },
                        Name = "out",
                    }.ToOrder(library),
                    [.. demo.Sources.Where(s => s.Party == "ARC")],
                    files
                )
                {
                    Job = "HW",
                    TimeStamp = "2026-11-29T08:00:00",
                }
            )
        );
        Assert.Contains(why, refusal.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void An_order_that_chooses_nothing_says_so_and_writes_nothing()
    {
        var files = new MemoryFiles();
        var order = new OrderDocument
        {
            Rules = [new OrderRule { What = "class", Are = ["IfcChimney"] }],
            Name = "out",
        }.ToOrder();
        var refusal = Assert.Throws<OrderException>(() =>
            HandoverRunner.Run(
                new HandoverRun(order, [.. demo.Sources.Where(s => s.Party == "STR")], files)
                {
                    Job = "HW",
                    TimeStamp = "2026-11-29T08:00:00",
                }
            )
        );
        Assert.Contains("chooses nothing", refusal.Message, StringComparison.Ordinal);
        Assert.Contains("class not chosen", refusal.Message, StringComparison.Ordinal);
        Assert.Empty(files.Files);
    }

    // STR is IFC2X3: IfcFurniture is of IFC4, IfcBuiltElement of IFC4X3, and the model has no IfcChimney.
    [Theory]
    [InlineData("IfcFurniture")]
    [InlineData("IfcBuiltElement")]
    [InlineData("IfcChimney")]
    public void A_class_that_this_model_has_not_is_no_mistake_and_a_misspelt_one_is(string name)
    {
        var files = new MemoryFiles();
        HandoverResult With(string type) =>
            HandoverRunner.Run(
                new HandoverRun(
                    new OrderDocument
                    {
                        Rules =
                        [
                            new OrderRule
                            {
                                Do = "without",
                                What = "class",
                                Are = [type],
                            },
                        ],
                        Name = "out",
                    }.ToOrder(),
                    [.. demo.Sources.Where(s => s.Party == "STR")],
                    files
                )
                {
                    Job = "HW",
                    TimeStamp = "2026-11-29T08:00:00",
                }
            );
        Assert.True(With(name).Balanced);
        Assert.Contains(
            "Nearest: ",
            Assert.Throws<OrderException>(() => With(name + "x")).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_receivers_frame_that_scales_is_refused_before_a_byte_is_written()
    {
        var files = new MemoryFiles();
        var order = new OrderDocument { Frame = "party", Name = "out" }.ToOrder();
        order = order with { Frame = order.Frame with { Receiver = new SettingOutDocument { Scale = 1.001 }.Frame } };
        Assert.Contains(
            "scale",
            Assert
                .Throws<OrderException>(() =>
                    HandoverRunner.Run(
                        new HandoverRun(order, [.. demo.Sources.Where(s => s.Party == "STR")], files)
                        {
                            Job = "HW",
                            TimeStamp = "2026-11-29T08:00:00",
                        }
                    )
                )
                .Message,
            StringComparison.Ordinal
        );
        Assert.Empty(files.Files);
    }

    // Each rule by a model that breaks it; what each demands is told by its name in ISO 16739-1 (from memory).
    [Theory]
    [InlineData(
        "IFC-SET-TWICE",
        "#80=IFCPROPERTYSET('3000000000000000000080',$,'A',$,(#82));#81=IFCPROPERTYSET('3000000000000000000081',$,'A',$,(#82));#82=IFCPROPERTYSINGLEVALUE('P',$,IFCREAL(1.),$);#83=IFCRELDEFINESBYPROPERTIES('3000000000000000000083',$,$,$,(#20),#80);#84=IFCRELDEFINESBYPROPERTIES('3000000000000000000084',$,$,$,(#20),#81);"
    )]
    [InlineData(
        "IFC-PROPERTY-TWICE",
        "#80=IFCPROPERTYSET('3000000000000000000080',$,'A',$,(#82,#83));#82=IFCPROPERTYSINGLEVALUE('P',$,IFCREAL(1.),$);#83=IFCPROPERTYSINGLEVALUE('P',$,IFCREAL(2.),$);"
    )]
    [InlineData(
        "IFC-TYPE-CLASS",
        "#80=IFCSLABTYPE('3000000000000000000080',$,'S',$,$,$,$,$,$,.FLOOR.);#81=IFCRELDEFINESBYTYPE('3000000000000000000081',$,$,$,(#20),#80);"
    )]
    [InlineData("IFC-SELF-REFERENCE", "#80=IFCRELAGGREGATES('3000000000000000000080',$,$,$,#20,(#20));")]
    [InlineData(
        "IFC-ENUMERATED-VALUE",
        "#80=IFCPROPERTYENUMERATEDVALUE('P',$,(IFCLABEL('C')),#81);#81=IFCPROPERTYENUMERATION('E',(IFCLABEL('A'),IFCLABEL('B')),$);"
    )]
    [InlineData("IFC-VALUE-TYPES", "#80=IFCPROPERTYLISTVALUE('P',$,(IFCLABEL('C'),IFCREAL(1.)),$);")]
    [InlineData("IFC-DIRECTION-ZERO", "#80=IFCDIRECTION((0.,0.,0.));")]
    [InlineData(
        "IFC-AXES-PARALLEL",
        "#80=IFCAXIS2PLACEMENT3D(#6,#81,#82);#81=IFCDIRECTION((0.,0.,1.));#82=IFCDIRECTION((0.,0.,-2.));"
    )]
    public void A_broken_rule_is_found_and_only_then(string code, string instances)
    {
        string broken = ModelSink.Text.Replace(
            "ENDSEC;\nEND-ISO",
            instances.Replace("#8", "#98", StringComparison.Ordinal) + "\nENDSEC;\nEND-ISO",
            StringComparison.Ordinal
        );
        Assert.NotEqual(ModelSink.Text, broken);
        Assert.DoesNotContain(RuleCheck.Read(ModelSnapshot.Open(ModelSink.Bytes())), f => f.Code == code);
        Assert.Contains(RuleCheck.Read(ModelSnapshot.Open(Encoding.ASCII.GetBytes(broken))), f => f.Code == code);
    }
}
