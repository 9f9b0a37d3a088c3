using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Which options go with which form of file, stated a second time; where numbers of an order begin and end.</summary>
public class OrderOptionTests
{
    // The forms that take each option; all others refuse it.
    private static readonly (string Option, Func<HandoverOrder, HandoverOrder> With, string[] Takes)[] Options =
    [
        ("solids", o => o with { Solids = true }, ["DrawingMeshes"]),
        ("boxes", o => o with { Detail = DetailLevel.Boxes }, ["Ifc", "Glb", "Obj", "Stl", "StlText", "DrawingMeshes"]),
        (
            "section lines",
            o => o with { LineWork = new LineWork { Lines = [new SectionLine("A", new Vec2(0, 0), new Vec2(1, 0))] } },
            ["DrawingSection"]
        ),
        (
            "sheets",
            o => o with { Sheet = new SheetOrder(PaperSize.Find("A3")!, 100, false), SplitByStorey = true },
            ["DrawingMeshes", "DrawingPlan", "DrawingSection"]
        ),
        ("attributes", o => o with { Attributes = true }, ["DrawingMeshes", "DrawingPlan", "DrawingSection"]),
        (
            "layer table",
            o => o with { Layers = new LayerTable([]) },
            ["DrawingMeshes", "DrawingPlan", "DrawingSection"]
        ),
        ("name table", o => o with { Names = new NameTable([]) }, ["Ifc"]),
        ("job's storeys", o => o with { JobStoreys = true }, ["Ifc"]),
        ("schema", o => o with { Schema = "IFC4" }, ["Ifc"]),
        ("merge", o => o with { Merge = true }, ["Ifc"]),
        ("changes", o => o with { Edits = [new ModelEdit(EditKind.MoveLayer, "A", "B")] }, ["Ifc"]),
        ("other classes", o => o with { Classes = Table("IfcCovering") }, ["Ifc"]),
    ];

    private static readonly string[] Forms =
    [
        "Ifc",
        "Glb",
        "Obj",
        "Stl",
        "StlText",
        "DrawingMeshes",
        "DrawingPlan",
        "DrawingSection",
    ];

    private static ClassTable Table(string? to) =>
        ClassTable.Read(
            TableFile.Read(System.Text.Encoding.UTF8.GetBytes($"class,to\nIfcWall,{to ?? "do not send"}\n"))
        );

    private static HandoverOrder Order(string form)
    {
        var order = new HandoverOrder(Selection.All, TargetNames.Of(form), false, null, "{n}");
        return form == "DrawingSection"
            ? order with
            {
                LineWork = new LineWork { Lines = [new SectionLine("S", new Vec2(0, 0), new Vec2(5, 0))] },
            }
            : order;
    }

    [Fact]
    public void An_option_goes_with_the_forms_that_it_is_for_and_with_no_other()
    {
        Assert.All(Forms, form => Assert.Null(Order(form).Problem()));
        Assert.All(from form in Forms from option in Options select (form, option), c =>
            Assert.True(
                c.option.Takes.Contains(c.form) == c.option.With(Order(c.form)).Problem() is null,
                $"{c.option.Option} with {c.form}"
            )
        );
        // A class table that only leaves classes out goes with all.
        Assert.All(Forms, form => Assert.Null((Order(form) with { Classes = Table(null) }).Problem()));
    }

    [Theory]
    [InlineData("\"chord\":1", 1, 48)]
    [InlineData("\"chord\":0.0005", 0.0005, 48)]
    [InlineData("\"angle\":0.5", 0.001, 720)]
    [InlineData("\"angle\":90", 0.001, 4)]
    [InlineData("\"chord\":0.01,\"angle\":10", 0.01, 36)]
    public void Fineness_is_what_the_order_says(string words, double chord, int circle)
    {
        var order = OrderDocument.Read($"{{\"into\":{{{words}}}}}").ToOrder();
        Assert.Equal((chord, circle), (order.Tolerance!.Chord, order.Tolerance.FullCircle));
        Assert.Null(OrderDocument.Read("{}").ToOrder().Tolerance);
    }

    [Theory]
    [InlineData("\"chord\":1.01")]
    [InlineData("\"chord\":0")]
    [InlineData("\"angle\":0.49")]
    [InlineData("\"angle\":90.1")]
    public void Fineness_has_bounds(string words) =>
        Assert.Throws<OrderException>(() => OrderDocument.Read($"{{\"into\":{{{words}}}}}").ToOrder());

    [Fact]
    public void Words_about_properties_are_in_the_order()
    {
        var said = OrderDocument
            .Read(
                """{"split":"property","splitKey":"A.B","name":"{n}","properties":{"blanks":"out","computed":true,"table":"csv"}}"""
            )
            .ToOrder();
        Assert.Equal(("A.B", true, true, "csv"), (said.SplitKey, said.BlanksOut, said.Computed, said.PropertyTable));
        var silent = OrderDocument.Read("{}").ToOrder();
        Assert.Equal(
            ("", false, false, null),
            (silent.SplitKey, silent.BlanksOut, silent.Computed, silent.PropertyTable)
        );
    }

    private static OrderDocument Rule(string json) => OrderDocument.Read($"{{\"rules\":[{{{json}}}]}}");

    [Fact]
    public void Rules_keep_their_words()
    {
        var rule = Rule("\"do\":\"without\",\"what\":\"property\",\"key\":\"A.B\",\"is\":\"missing\"")
            .ToOrder()
            .Selection.Rules[0];
        Assert.Equal(
            (SelectionVerb.Without, RuleField.Property, RuleTest.Missing, "A.B", 0),
            (rule.Verb, rule.Field, rule.Test, rule.Key, rule.Values.Count)
        );
        // Both bounds may be one number.
        Assert.Equal(
            (2, 2),
            Rule("\"do\":\"only\",\"what\":\"size\",\"are\":[\"2\",\"2\"]").ToOrder().Selection.Rules[0].Bounds()
        );
        Assert.Throws<OrderException>(() =>
            Rule("\"do\":\"only\",\"what\":\"size\",\"are\":[\"2 m\",\"3 m2\"]").ToOrder()
        );
        Assert.Throws<OrderException>(() =>
            Rule("\"do\":\"only\",\"what\":\"class\",\"key\":\"A.B\",\"are\":[\"IfcWall\"]").ToOrder()
        );
    }

    // A set of a set of a set: as deep as is allowed, and one deeper.
    [Theory]
    [InlineData(8, true)]
    [InlineData(9, false)]
    public void Saved_sets_name_one_another_so_deep_and_no_deeper(int depth, bool goes)
    {
        var sets = new Dictionary<string, SetDocument> { ["0"] = SetDocument.Of(["0000000000000000000020"]) };
        for (int n = 1; n < depth; n++)
            sets[$"{n}"] = new SetDocument
            {
                Rules =
                [
                    new OrderRule
                    {
                        Do = "only",
                        What = "set",
                        Are = [$"{n - 1}"],
                    },
                ],
            };
        var library = new OrderLibrary { Sets = sets };
        var document = Rule($"\"do\":\"only\",\"what\":\"set\",\"are\":[\"{depth - 1}\"]");
        if (!goes)
        {
            Assert.Throws<OrderException>(() => document.ToOrder(library));
            return;
        }

        var selection = document.ToOrder(library).Selection;
        Assert.Null(selection.Decide(new SelectionSubject(null, "", "IfcWall", [], "0000000000000000000020")));
        Assert.NotNull(selection.Decide(new SelectionSubject(null, "", "IfcWall", [], "0000000000000000000021")));
        Assert.Throws<OrderException>(() => document.ToOrder());
    }

    [Theory]
    [InlineData("ARC", "Terminal", "Terminal", true)]
    [InlineData("ARC", "Terminal", "ARC Terminal", true)]
    [InlineData("ARC", "Terminal", "ARC", false)]
    public void A_source_is_chosen_by_its_name_with_or_without_its_party(
        string party,
        string name,
        string value,
        bool matches
    ) =>
        Assert.Equal(
            matches,
            new SelectionRule(SelectionVerb.Only, RuleField.Source, [value]).Matches(
                new SelectionSubject(null, "", "IfcWall", [], "") { Party = party, SourceName = name }
            )
        );

    [Fact]
    public void A_change_needs_both_its_names()
    {
        string Change(string from, string to) =>
            $"{{\"changes\":[{{\"do\":\"move layer\",\"from\":\"{from}\",\"to\":\"{to}\"}}]}}";
        Assert.Equal("B", OrderDocument.Read(Change("A", "B")).ToOrder().Edits.Single().To);
        Assert.Throws<OrderException>(() => OrderDocument.Read(Change("", "B")).ToOrder());
        Assert.Throws<OrderException>(() => OrderDocument.Read(Change("A", "")).ToOrder());
    }

    // A storey's elevation counts from the building's zero, which lies where most storeys are placed off what they say.
    [Fact]
    public void Storeys_are_at_their_heights_in_the_job()
    {
        var frame = Frame.Identity with { Origin = new Vec3(0, 0, 7), Z = Vec3.AxisZ * 0.5 };
        var storeys = LevelSchedule.InJob(
            [
                new SourceStorey(0, 0, "a", 0, 100),
                new SourceStorey(0, 1, "b", 4, 104),
                new SourceStorey(0, 2, "c", 8, 108.5),
                new SourceStorey(1, 0, "d", 4, null),
            ],
            n => n == 0 ? frame : Frame.Identity
        );
        Assert.Equal([57, 59, 61, 4], storeys.Select(s => s.Elevation));
        Assert.Equal([57, 59, 61.25, null], storeys.Select(s => s.PlacementZ));
    }

    [Theory]
    [InlineData(RuleTest.Missing, new string[0], true)]
    [InlineData(RuleTest.Missing, new[] { "" }, false)]
    [InlineData(RuleTest.Missing, new[] { "x" }, false)]
    [InlineData(RuleTest.Blank, new string[0], false)]
    [InlineData(RuleTest.Blank, new[] { "" }, true)]
    [InlineData(RuleTest.Blank, new[] { "", "x" }, false)]
    [InlineData(RuleTest.Equals, new string[0], true)]
    [InlineData(RuleTest.Equals, new[] { "" }, true)]
    [InlineData(RuleTest.Equals, new[] { "x" }, false)]
    public void Missing_and_blank_are_not_the_same(RuleTest test, string[] values, bool matches)
    {
        var rule = new SelectionRule(SelectionVerb.Only, RuleField.Property, [], "A.B") { Test = test };
        var subject = new SelectionSubject(null, "", "IfcWall", [], "")
        {
            Property = _ => [.. values.Select(v => new PropertyText(v, ""))],
        };
        Assert.Equal(matches, rule.Matches(subject));
    }

    [Theory]
    [InlineData("Ss_25", "Ss_25_10", true)]
    [InlineData("Ss_25", "Ss_25", true)]
    [InlineData("Ss_25", "Ss_251", false)]
    [InlineData("Ss_25", "Ss_2", false)]
    [InlineData("", "Ss_25", false)]
    [InlineData("", "_25", false)]
    public void A_code_takes_in_the_codes_below_it(string wanted, string code, bool matches) =>
        Assert.Equal(
            matches,
            new SelectionRule(SelectionVerb.Only, RuleField.Classification, [wanted]).Matches(
                new SelectionSubject(null, "", "IfcWall", [], "") { Classifications = [code] }
            )
        );

    [Theory]
    [InlineData("IfcWall.SOLIDWALL", "SOLIDWALL", true)]
    [InlineData("IfcWall.SOLIDWALL", "PARTITIONING", false)]
    [InlineData("IfcWall.SOLIDWALL", "OLIDWALL", false)]
    [InlineData(".SOLIDWALL", "SOLIDWALL", false)]
    public void A_word_after_a_point_is_the_predefined_type(string wanted, string predefined, bool matches) =>
        Assert.Equal(
            matches,
            new SelectionRule(SelectionVerb.Only, RuleField.Class, [wanted]).Matches(
                new SelectionSubject(null, "", "IfcWall", [], "") { Predefined = predefined }
            )
        );

    // Of a property, the key is its set's name and its own, whatever points these have, without regard to case.
    [Theory]
    [InlineData("set.pressure", 1)]
    [InlineData("Set.Pressur", 0)]
    [InlineData("Set.Pressuree", 0)]
    [InlineData("SetXPressure", 0)]
    [InlineData("Sex.Pressure", 0)]
    [InlineData("Set.Prezzure", 0)]
    public void A_key_is_a_set_and_a_property(string key, int values)
    {
        var model = ModelSnapshot.Open(ModelSink.Bytes());
        var wall = model.Elements.First(e => e.GlobalId == "0000000000000000000020");
        var subject = SelectionSubject.Of(model, wall, new HashSet<RuleField>());
        Assert.Equal(values, subject.Property(key).Count);
    }
}
