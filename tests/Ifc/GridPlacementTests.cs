using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Elements that stand where grid lines cross.</summary>
public class GridPlacementTests
{
    // Axis A runs up at x = 8, axis 1 runs right at y = 5; the grid itself stands at (100, 0, 3).
    private const string Grid =
        "#20=IFCCARTESIANPOINT((8.,0.));#21=IFCCARTESIANPOINT((8.,20.));#22=IFCPOLYLINE((#20,#21));#23=IFCGRIDAXIS('A',#22,.T.);"
        + "#24=IFCCARTESIANPOINT((0.,5.));#25=IFCCARTESIANPOINT((6.,5.));#26=IFCPOLYLINE((#24,#25));#27=IFCGRIDAXIS('1',#26,.T.);"
        + "#28=IFCCARTESIANPOINT((0.,9.));#29=IFCCARTESIANPOINT((20.,9.));#30=IFCPOLYLINE((#28,#29));#31=IFCGRIDAXIS('2',#30,.T.);"
        + "#32=IFCCARTESIANPOINT((100.,0.,3.));#33=IFCAXIS2PLACEMENT3D(#32,$,$);#34=IFCLOCALPLACEMENT($,#33);"
        + "#35=IFCGRID('0000000000000000000035',$,'G',$,$,#34,$,(#23),(#27,#31),$,$);";

    private static Frame Place(string data, string schema = "IFC4")
    {
        var model = Sample.Model(
            $"{Grid}{data}#60=IFCBUILDINGELEMENTPROXY('0000000000000000000060',$,'C',$,$,#50,$,$,$);",
            "m",
            schema
        );
        return new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).Placements.Product(
            model.File.IndexOf(60)
        );
    }

    [Fact]
    public void It_stands_where_they_cross_and_runs_along_the_first()
    {
        // Axis 1 ends before A: grid lines go on.
        var at = Place("#40=IFCVIRTUALGRIDINTERSECTION((#23,#27),(0.,0.));#50=IFCGRIDPLACEMENT(#40,$);");
        Assert.Equal(new Vec3(108, 5, 3), at.Origin);
        Assert.Equal(Vec3.AxisY, at.X);
    }

    [Fact]
    public void Offsets_are_to_the_left_of_each_axis_and_up()
    {
        // Left of A, which runs up, is smaller x; left of 1, which runs right, is larger y.
        var at = Place("#40=IFCVIRTUALGRIDINTERSECTION((#23,#27),(0.5,0.25,1.));#50=IFCGRIDPLACEMENT(#40,$);");
        Assert.True((at.Origin - new Vec3(107.5, 5.25, 4)).Length < 1e-9, at.Origin.ToString());
    }

    [Theory]
    [InlineData("IFC4", "#41=IFCDIRECTION((1.,0.,0.));#50=IFCGRIDPLACEMENT(#40,#41);", 1, 0)]
    [InlineData("IFC4", "#41=IFCVIRTUALGRIDINTERSECTION((#23,#31),(0.,0.));#50=IFCGRIDPLACEMENT(#40,#41);", 0, 1)]
    [InlineData("IFC2X3", "#41=IFCVIRTUALGRIDINTERSECTION((#23,#31),(0.,0.));#50=IFCGRIDPLACEMENT(#40,#41);", 0, 1)]
    [InlineData("IFC4X3", "#41=IFCDIRECTION((0.,-1.,0.));#50=IFCGRIDPLACEMENT($,#40,#41);", 0, -1)]
    public void It_runs_along_a_direction_or_toward_another_crossing(string schema, string data, double x, double y)
    {
        var at = Place("#40=IFCVIRTUALGRIDINTERSECTION((#23,#27),(0.,0.));" + data, schema);
        Assert.Equal(new Vec3(108, 5, 3), at.Origin);
        Assert.True((at.X - new Vec3(x, y, 0)).Length < 1e-9, at.X.ToString());
    }

    [Theory]
    [InlineData("#40=IFCVIRTUALGRIDINTERSECTION((#27,#31),(0.,0.));#50=IFCGRIDPLACEMENT(#40,$);", "do not cross")]
    [InlineData("#40=IFCVIRTUALGRIDINTERSECTION((#27),(0.));#50=IFCGRIDPLACEMENT(#40,$);", "does not name two axes")]
    [InlineData(
        "#38=IFCGRIDAXIS('Z',#22,.T.);#40=IFCVIRTUALGRIDINTERSECTION((#38,#27),(0.,0.));#50=IFCGRIDPLACEMENT(#40,$);",
        "belongs to no grid"
    )]
    public void What_gives_no_place_is_told(string data, string word) =>
        Assert.Contains(word, Assert.Throws<ShapeException>(() => Place(data)).Message);

    [Fact]
    public void A_grid_that_stands_on_itself_is_told()
    {
        string text = Sample.Text(
            Grid.Replace("$,#34,$,(#23)", "$,#50,$,(#23)")
                + "#40=IFCVIRTUALGRIDINTERSECTION((#23,#27),(0.,0.));#50=IFCGRIDPLACEMENT(#40,$);#60=IFCBUILDINGELEMENTPROXY('0000000000000000000060',$,'C',$,$,#50,$,$,$);"
        );
        var model = IfcModel.Open(System.Text.Encoding.ASCII.GetBytes(text));
        var placements = new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).Placements;
        Assert.Contains(
            "placed on a grid",
            Assert.Throws<ShapeException>(() => placements.Product(model.File.IndexOf(60))).Message
        );
    }

    [Fact]
    public void Axes_of_a_grid_are_drawn_with_their_tags()
    {
        var model = Sample.Model(Grid);
        var drawn = new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).ForPlan(
            model.File.IndexOf(35)
        );
        Assert.Equal(3, drawn.Lines.Count);
        Assert.Equal(["A", "A", "1", "1", "2", "2"], drawn.Texts.Select(t => t.Content));
        Assert.Equal(new Vec3(108, 0, 3), drawn.Lines[0][0]);
    }
}
