using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

public class SelectionTests
{
    private static SelectionSubject Subject(
        string storey = "Level 1",
        string name = "IfcWall",
        string schema = "IFC2X3",
        params string[] layers
    ) => new(IfcSchema.For(schema)!, storey, name, layers, "0000000000000000000001");

    private static SelectionRule Keep(RuleField field, params string[] values) => new(field, values, true);

    private static SelectionRule Leave(RuleField field, params string[] values) => new(field, values, false);

    [Fact]
    public void No_rule_leaves_nothing_out() => Assert.Null(Selection.All.Decide(Subject()));

    [Theory]
    [InlineData("IfcWall", "IfcWall", null)]
    [InlineData("IfcWallStandardCase", "IfcWall", null)]
    [InlineData("IfcWallStandardCase", "ifcwall", null)]
    [InlineData("IfcWall", "IfcWallStandardCase", "class not chosen")]
    [InlineData("IfcSlab", "IfcBuildingElement", null)]
    [InlineData("IfcSlab", "IfcWall", "class not chosen")]
    [InlineData("IfcSomethingElse", "IfcWall", "class not chosen")]
    public void A_class_takes_its_subtypes_along(string element, string chosen, string? reason) =>
        Assert.Equal(reason, new Selection([Keep(RuleField.Class, chosen)]).Decide(Subject(name: element)));

    [Theory]
    [InlineData("Level 1", null)]
    [InlineData("level 1", null)]
    [InlineData("Level 2", "storey not chosen")]
    [InlineData("", "storey not chosen")]
    public void Storeys_go_by_name(string storey, string? reason) =>
        Assert.Equal(reason, new Selection([Keep(RuleField.Storey, "Level 1")]).Decide(Subject(storey)));

    [Fact]
    public void The_empty_name_stands_for_no_storey_and_no_layer()
    {
        Assert.Null(new Selection([Keep(RuleField.Storey, "")]).Decide(Subject("")));
        Assert.Null(new Selection([Keep(RuleField.Layer, "")]).Decide(Subject()));
        Assert.Equal("layer not chosen", new Selection([Keep(RuleField.Layer, "")]).Decide(Subject(layers: "A")));
    }

    [Fact]
    public void One_layer_of_several_is_enough()
    {
        Assert.Null(new Selection([Keep(RuleField.Layer, "B")]).Decide(Subject(layers: ["A", "B"])));
        Assert.Equal(
            "layer left out",
            new Selection([Leave(RuleField.Layer, "B")]).Decide(Subject(layers: ["A", "B"]))
        );
    }

    [Fact]
    public void The_first_rule_that_leaves_out_decides()
    {
        var selection = new Selection([
            Keep(RuleField.Class, "IfcWall"),
            Leave(RuleField.Storey, "Level 1"),
            Leave(RuleField.Layer, "A"),
        ]);
        Assert.Equal("storey left out", selection.Decide(Subject(layers: "A")));
        Assert.Equal("class not chosen", selection.Decide(Subject(name: "IfcSlab", layers: "A")));
        Assert.Equal("layer left out", selection.Decide(Subject("Level 2", layers: "A")));
        Assert.Null(selection.Decide(Subject("Level 2")));
    }

    [Fact]
    public void Single_elements_go_by_GlobalId_letter_by_letter()
    {
        Assert.Null(new Selection([Keep(RuleField.GlobalId, "0000000000000000000001")]).Decide(Subject()));
        Assert.Equal(
            "element not chosen",
            new Selection([Keep(RuleField.GlobalId, "000000000000000000000A")]).Decide(Subject())
        );
    }

    // Rules are an order of steps: each acts on what the ones before it left.
    [Theory]
    [InlineData("IfcWall", "A", "layer left out")]
    [InlineData("IfcWall", "B", null)]
    [InlineData("IfcSlab", "A", null)]
    [InlineData("IfcSlab", "B", null)]
    public void A_later_rule_brings_back_what_an_earlier_one_left_out(string name, string layer, string? reason) =>
        Assert.Equal(
            reason,
            new Selection([Leave(RuleField.Layer, "A"), new(SelectionVerb.With, RuleField.Class, ["IfcSlab"])]).Decide(
                Subject(name: name, layers: layer)
            )
        );

    [Fact]
    public void A_rule_that_brings_in_leaves_out_nothing_that_is_in()
    {
        var with = new SelectionRule(SelectionVerb.With, RuleField.Class, ["IfcSlab"]);
        Assert.Null(new Selection([Leave(RuleField.Layer, "A"), with]).Decide(Subject(layers: "B")));
        // At the head it begins with nothing.
        Assert.Equal(Selection.NotBroughtIn, new Selection([with]).Decide(Subject()));
        Assert.Null(new Selection([with]).Decide(Subject(name: "IfcSlab")));
    }

    [Fact]
    public void A_storey_of_the_schedule_is_one_level_of_each_source()
    {
        // The second party counts from 0: its "Level 0" is the first party's "Level 1".
        SourceStorey[] storeys =
        [
            new(0, 0, "Level 1", 0, 0),
            new(0, 1, "Level 2", 4, 4),
            new(1, 0, "Level 0", 0, 0),
            new(1, 1, "Level 1", 4, 4),
            new(1, 2, "Mast", 30, 30),
        ];
        var levels = LevelSchedule.Match(storeys[..4]);
        SelectionSubject At(int source, int storey) =>
            Subject(storey < 0 ? "" : storeys.First(s => s.Source == source && s.Number == storey).Name) with
            {
                Source = source,
                StoreyNumber = storey,
            };
        (int, int)[] Chosen(string name)
        {
            var selection = new Selection([Keep(RuleField.Storey, name)]).On(levels, storeys, 2);
            return
            [
                .. new[] { (0, -1), (0, 0), (0, 1), (1, -1), (1, 0), (1, 1), (1, 2) }.Where(p =>
                    selection.Decide(At(p.Item1, p.Item2)) is null
                ),
            ];
        }

        // A source's own name that the schedule also has means the level of the schedule, everywhere.
        Assert.Equal(levels.Rungs[0].Storeys.Select(s => (s.Source, s.Number)).Order(), Chosen(levels.Rungs[0].Name));
        Assert.Equal(
            levels.Rungs[1].Storeys.Select(s => (s.Source, s.Number)).Order(),
            Chosen(levels.Rungs[1].Name.ToUpperInvariant())
        );
        Assert.Equal([(1, 2)], Chosen("Mast"));
        Assert.Equal([(0, -1), (1, -1)], Chosen(""));
        Assert.Empty(Chosen("nowhere"));
    }

    [Fact]
    public void Only_storeys_are_looked_up_and_only_once()
    {
        var layer = Keep(RuleField.Layer, "A");
        var known = Keep(RuleField.Storey, "A") with { Storeys = new HashSet<(int, int)> { (3, 3) } };
        Assert.Equal([layer, known], new Selection([layer, known]).On(LevelSchedule.Match([]), [], 1).Rules);
    }

    [Fact]
    public void A_property_goes_by_any_of_its_values_and_no_value_means_that_it_is_missing()
    {
        SelectionSubject With(params string[] values) =>
            Subject() with
            {
                Property = key => key == "Pset_A.B" ? [.. values.Select(v => new PropertyText(v, ""))] : [],
            };
        var wanted = new Selection([new(SelectionVerb.Only, RuleField.Property, ["EI 60"], "Pset_A.B")]);
        Assert.Null(wanted.Decide(With("EI 30", "ei 60")));
        Assert.Equal("Pset_A.B not chosen", wanted.Decide(With("EI 30")));
        Assert.Equal("Pset_A.B not chosen", wanted.Decide(With()));
        var missing = new Selection([new(SelectionVerb.Only, RuleField.Property, [], "Pset_A.B")]);
        Assert.Null(missing.Decide(With()));
        Assert.Null(missing.Decide(With("")));
        Assert.Equal("Pset_A.B not chosen", missing.Decide(With("", "EI 30")));
    }

    [Fact]
    public void No_material_goes_by_the_empty_name()
    {
        var bare = new Selection([Keep(RuleField.Material, "")]);
        Assert.Null(bare.Decide(Subject()));
        Assert.Equal("material not chosen", bare.Decide(Subject() with { Materials = ["Steel"] }));
        Assert.Null(
            new Selection([Keep(RuleField.Material, "steel")]).Decide(Subject() with { Materials = ["Glass", "Steel"] })
        );
    }
}
