using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

public class SelectionTests
{
    private static SelectionSubject Subject(string storey = "Level 1", string name = "IfcWall", string schema = "IFC2X3", params string[] layers) =>
        new(IfcSchema.For(schema)!, storey, name, layers, "0000000000000000000001");

    private static SelectionRule Keep(SelectionField field, params string[] values) => new(field, values, true);

    private static SelectionRule Leave(SelectionField field, params string[] values) => new(field, values, false);

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
        Assert.Equal(reason, new Selection([Keep(SelectionField.Class, chosen)]).Decide(Subject(name: element)));

    [Theory]
    [InlineData("Level 1", null)]
    [InlineData("level 1", null)]
    [InlineData("Level 2", "storey not chosen")]
    [InlineData("", "storey not chosen")]
    public void Storeys_go_by_name(string storey, string? reason) => Assert.Equal(reason, new Selection([Keep(SelectionField.Storey, "Level 1")]).Decide(Subject(storey)));

    [Fact]
    public void The_empty_name_stands_for_no_storey_and_no_layer()
    {
        Assert.Null(new Selection([Keep(SelectionField.Storey, "")]).Decide(Subject("")));
        Assert.Null(new Selection([Keep(SelectionField.Layer, "")]).Decide(Subject()));
        Assert.Equal("layer not chosen", new Selection([Keep(SelectionField.Layer, "")]).Decide(Subject(layers: "A")));
    }

    [Fact]
    public void One_layer_of_several_is_enough()
    {
        Assert.Null(new Selection([Keep(SelectionField.Layer, "B")]).Decide(Subject(layers: ["A", "B"])));
        Assert.Equal("layer left out", new Selection([Leave(SelectionField.Layer, "B")]).Decide(Subject(layers: ["A", "B"])));
    }

    [Fact]
    public void The_first_rule_that_leaves_out_decides()
    {
        var selection = new Selection([Keep(SelectionField.Class, "IfcWall"), Leave(SelectionField.Storey, "Level 1"), Leave(SelectionField.Layer, "A")]);
        Assert.Equal("storey left out", selection.Decide(Subject(layers: "A")));
        Assert.Equal("class not chosen", selection.Decide(Subject(name: "IfcSlab", layers: "A")));
        Assert.Equal("layer left out", selection.Decide(Subject("Level 2", layers: "A")));
        Assert.Null(selection.Decide(Subject("Level 2")));
    }

    [Fact]
    public void Single_elements_go_by_GlobalId_letter_by_letter()
    {
        Assert.Null(new Selection([Keep(SelectionField.GlobalId, "0000000000000000000001")]).Decide(Subject()));
        Assert.Equal("element not chosen", new Selection([Keep(SelectionField.GlobalId, "000000000000000000000A")]).Decide(Subject()));
    }
}
