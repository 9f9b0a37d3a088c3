using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Representations by purpose: what products draw rather than build.</summary>
public class DrawnTests
{
    private const string Curve =
        "#40=IFCCARTESIANPOINT((0.,0.));#41=IFCCARTESIANPOINT((3.,0.));#42=IFCPOLYLINE((#40,#41));#43=IFCAXIS2PLACEMENT2D(#41,$);#44=IFCCIRCLE(#43,1.);";

    private static (IfcModel Model, ShapeReader Shapes) Open(string purpose, string items, string schema = "IFC4")
    {
        string tail = schema == "IFC4X3" ? ",$" : "";
        var model = Sample.Model(
            $"{Curve}#60=IFCCARTESIANPOINT((10.,20.,5.));#61=IFCAXIS2PLACEMENT3D(#60,$,$);#62=IFCLOCALPLACEMENT($,#61);{items}#101=IFCSHAPEREPRESENTATION(#8,'{purpose}','x',(#100));#102=IFCPRODUCTDEFINITIONSHAPE($,$,(#101));#103=IFCANNOTATION('0000000000000000000103',$,'X',$,$,#62,#102{tail});",
            "m",
            schema
        );
        return (model, new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)));
    }

    [Theory]
    [InlineData("Annotation", "#100=IFCGEOMETRICCURVESET((#42,#44));", 2)]
    [InlineData("Plan", "#100=IFCGEOMETRICSET((#42,#44));", 2)]
    [InlineData(
        "FootPrint",
        "#50=IFCPOLYLINE((#40,#41,#51,#40));#51=IFCCARTESIANPOINT((3.,2.));#100=IFCANNOTATIONFILLAREA(#50,(#44));",
        2
    )]
    [InlineData(
        "Axis",
        "#100=IFCTRIMMEDCURVE(#44,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(1.)),.T.,.PARAMETER.);",
        1
    )]
    [InlineData("Box", "#100=IFCBOUNDINGBOX(#1,2.,1.,3.);", 1)]
    [InlineData(
        "Annotation",
        "#52=IFCREPRESENTATIONMAP(#2,#53);#53=IFCSHAPEREPRESENTATION(#8,'Annotation','x',(#42));#54=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,$,#1,2.,$);#100=IFCMAPPEDITEM(#52,#54);",
        1
    )]
    public void Lines_come_in_the_world_frame(string purpose, string items, int lines)
    {
        var (model, shapes) = Open(purpose, items);
        var drawn = shapes.Drawn(model.File.IndexOf(103), purpose);
        Assert.Equal(lines, drawn.Lines.Count);
        Assert.All(drawn.Lines.SelectMany(l => l), p => Assert.InRange(p.X, 10, 16.01));
        Assert.All(drawn.Lines.SelectMany(l => l), p => Assert.Equal(5, p.Z, 1e-9));
        Assert.Null(shapes.Read(model.File.IndexOf(103)));
        // A box is no line of a plan; everything else is.
        Assert.Equal(purpose == "Box", shapes.ForPlan(model.File.IndexOf(103)).IsEmpty);
    }

    [Theory]
    [InlineData("#100=IFCTEXTLITERAL('Gate 2',#43,.RIGHT.);", 0.25)]
    [InlineData(
        "#55=IFCPLANAREXTENT(1.,0.4);#100=IFCTEXTLITERALWITHEXTENT('Gate 2',#43,.RIGHT.,#55,'bottom-left');",
        0.4
    )]
    public void Texts_come_with_place_and_height(string items, double height)
    {
        var (model, shapes) = Open("Annotation", items);
        var text = Assert.Single(shapes.ForPlan(model.File.IndexOf(103)).Texts);
        Assert.Equal("Gate 2", text.Content);
        Assert.Equal(new Vec3(13, 20, 5), text.Place.Origin);
        Assert.Equal(height, text.Height, 1e-9);
    }

    [Fact]
    public void Occurrences_of_IFC2X3_are_looked_into()
    {
        var (model, shapes) = Open("Annotation", "#100=IFCANNOTATIONCURVEOCCURRENCE(#42,(),$);", "IFC2X3");
        Assert.Single(shapes.ForPlan(model.File.IndexOf(103)).Lines);
    }

    [Theory]
    // A broken curve does not take the others; a mapped item of itself ends.
    [InlineData("#100=IFCGEOMETRICCURVESET((#42,#45));#45=IFCPOLYLINE(());", 1)]
    [InlineData("#100=IFCGEOMETRICCURVESET((#100,#42));", 11)]
    [InlineData(
        "#52=IFCREPRESENTATIONMAP(#2,#101);#54=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,$,#1,1.,$);#100=IFCMAPPEDITEM(#52,#54);",
        0
    )]
    [InlineData("#100=IFCMAPPEDITEM($,$);", 0)]
    public void What_is_broken_is_passed_over(string items, int most)
    {
        var (model, shapes) = Open("Annotation", items);
        Assert.InRange(shapes.ForPlan(model.File.IndexOf(103)).Lines.Count, 0, most);
    }

    [Fact]
    public void A_body_is_found_by_its_identifier_and_others_are_none()
    {
        var model = Sample.Model(
            "#100=IFCBLOCK(#2,1.,1.,1.);#101=IFCSHAPEREPRESENTATION(#8,'Clearance','CSG',(#100));#104=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#100));#102=IFCPRODUCTDEFINITIONSHAPE($,$,(#101,#104));#103=IFCBUILDINGELEMENTPROXY('0000000000000000000103',$,'X',$,$,$,#102,$,$);"
        );
        int product = model.File.IndexOf(103);
        Assert.Equal(model.File.IndexOf(104), Representations.Body(model, product));
        Assert.Equal(model.File.IndexOf(101), Representations.For(model, product, "Clearance"));
        Assert.Equal(-1, Representations.For(model, product, "Axis"));
    }
}
