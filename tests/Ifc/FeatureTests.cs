using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>What is added to, cut out of, layered in and painted on an element.</summary>
public class FeatureTests
{
    private static (IfcModel Model, ShapeReader Shapes) Open(string data, string schema = "IFC4")
    {
        var model = Sample.Model(data, "m", schema);
        return (model, new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)));
    }

    private static string Product(int id, string entity, string item, string more = ",$,$") =>
        $"#{id + 1}=IFCSHAPEREPRESENTATION(#8,'Body','x',({item}));#{id + 2}=IFCPRODUCTDEFINITIONSHAPE($,$,(#{id + 1}));#{id}={entity}('{id:D22}',$,'X',$,$,$,#{id + 2}{more});";

    private const string Block = "#100=IFCBLOCK(#2,4.,0.3,3.);";

    [Theory]
    // A pilaster on the face, one through the wall, one beside it that does not touch.
    [InlineData("(1.,0.3,0.)", 0.5, 0.2, 3.6 + 0.3, 1)]
    [InlineData("(1.,-0.1,0.)", 0.5, 0.5, 3.6 + (0.5 * 3 * 0.2), 1)]
    [InlineData("(9.,0.,0.)", 0.5, 0.2, 3.6 + 0.3, 2)]
    public void A_projection_is_united_with_its_element(string corner, double x, double y, double volume, int parts)
    {
        var (model, shapes) = Open(
            Block
                + Product(110, "IFCWALL", "#100")
                + $"#120=IFCCARTESIANPOINT({corner});#121=IFCAXIS2PLACEMENT3D(#120,$,$);#122=IFCBLOCK(#121,{Sample.N(x)},{Sample.N(y)},3.);"
                + Product(130, "IFCPROJECTIONELEMENT", "#122", ",$,$")
                + "#140=IFCRELPROJECTSELEMENT('0000000000000000000140',$,$,$,#110,#130);"
        );
        var shape = shapes.Read(model.File.IndexOf(110))!;
        Assert.Empty(shape.Problems);
        Assert.Equal(parts, shape.Parts.Count);
        var mass = shape.Measure();
        Assert.True(mass.Closed);
        Assert.Equal(volume, mass.Volume, 1e-6);
    }

    [Fact]
    public void A_projection_that_cannot_be_shaped_is_told_and_the_wall_still_stands()
    {
        var (model, shapes) = Open(
            Block
                + Product(110, "IFCWALL", "#100")
                + "#122=IFCBLOCK(#121,1.,1.,$);"
                + Product(130, "IFCPROJECTIONELEMENT", "#122")
                + "#140=IFCRELPROJECTSELEMENT('0000000000000000000140',$,$,$,#110,#130);"
        );
        var shape = shapes.Read(model.File.IndexOf(110))!;
        Assert.Contains("was not added", Assert.Single(shape.Problems));
        Assert.Equal(3.6, shape.Measure().Volume, 1e-9);
    }

    [Theory]
    [InlineData("AXIS2", "POSITIVE", 0)]
    [InlineData("AXIS2", "NEGATIVE", 0.3)]
    [InlineData("AXIS1", "POSITIVE", 1)]
    [InlineData("AXIS3", "POSITIVE", 0)]
    public void Layers_lie_from_the_reference_line_in_their_sense(string axis, string sense, double offset)
    {
        var (model, shapes) = Open(
            Block
                + Product(110, "IFCWALL", "#100")
                + "#150=IFCMATERIAL('Brick',$,$);#151=IFCMATERIAL('Wool',$,$);#152=IFCMATERIALLAYER(#150,0.1,$,$,$,$,$);#153=IFCMATERIALLAYER(#151,0.2,$,$,$,$,$);#154=IFCMATERIALLAYER(#151,0.,$,$,$,$,$);"
                + $"#155=IFCMATERIALLAYERSET((#152,#154,#153),'Outer wall',$);#156=IFCMATERIALLAYERSETUSAGE(#155,.{axis}.,.{sense}.,{Sample.N(offset)},$);#157=IFCRELASSOCIATESMATERIAL('0000000000000000000157',$,$,$,(#110),#156);"
        );
        int wall = model.File.IndexOf(110);
        var layers = LayerSlices.Of(model, new IfcRelations(model), new IfcUnits(model), wall, shapes.Read(wall)!);
        Assert.Equal(["Brick", "Wool"], layers.Select(l => l.Material.Name));
        // Across the wall the layers fill it; along it and up it they are slices of it.
        double per = axis switch
        {
            "AXIS2" => 4 * 3,
            "AXIS1" => 0.3 * 3,
            _ => 4 * 0.3,
        };
        Assert.Equal(0.1 * per, MassProperties.Of(layers[0].Mesh).Volume, 1e-6);
        Assert.Equal(0.2 * per, MassProperties.Of(layers[1].Mesh).Volume, 1e-6);
        var first = layers[0].Mesh.Bounds();
        if (axis == "AXIS2")
            Assert.Equal(sense == "POSITIVE" ? 0 : 0.2, first.Min.Y, 1e-9);
        if (axis == "AXIS1")
            Assert.Equal(1, first.Min.X, 1e-9);
    }

    [Fact]
    public void Without_a_usage_there_are_no_layers_to_place()
    {
        var (model, shapes) = Open(
            Block
                + Product(110, "IFCWALL", "#100")
                + "#150=IFCMATERIAL('Brick',$,$);#157=IFCRELASSOCIATESMATERIAL('0000000000000000000157',$,$,$,(#110),#150);"
        );
        int wall = model.File.IndexOf(110);
        Assert.Empty(LayerSlices.Of(model, new IfcRelations(model), new IfcUnits(model), wall, shapes.Read(wall)!));
    }

    private const string Tetrahedron = "#90=IFCCARTESIANPOINTLIST3D(((0.,0.,0.),(1.,0.,0.),(0.,1.,0.),(0.,0.,1.)));";
    private const string Palette = "#92=IFCCOLOURRGBLIST(((1.,0.,0.),(0.,0.5,1.)));";

    [Theory]
    [InlineData("#100=IFCTRIANGULATEDFACESET(#90,$,.T.,((1,3,2),(1,2,4),(2,3,4),(3,1,4)),$);")]
    [InlineData(
        "#100=IFCPOLYGONALFACESET(#90,.T.,(#94,#95,#96,#97),$);#94=IFCINDEXEDPOLYGONALFACE((1,3,2));#95=IFCINDEXEDPOLYGONALFACE((1,2,4));#96=IFCINDEXEDPOLYGONALFACE((2,3,4));#97=IFCINDEXEDPOLYGONALFACE((3,1,4));"
    )]
    public void Faces_of_a_tessellation_keep_their_own_colours(string set)
    {
        var part = Assert.Single(
            Sample.Shape($"{Tetrahedron}{Palette}{set}#93=IFCINDEXEDCOLOURMAP(#100,0.5,#92,(1,2,2,9));").Parts
        );
        Assert.Equal(
            [new Colour(255, 0, 0, 128), new Colour(0, 128, 255, 128), new Colour(0, 128, 255, 128), Colour.Default],
            part.FaceColours!
        );
        var pieces = part.ByColour().ToList();
        Assert.Equal([1, 2, 1], pieces.Select(p => p.Mesh.TriangleCount));
        Assert.Equal(part.Mesh.TriangleCount, pieces.Sum(p => p.Mesh.TriangleCount));
        Assert.All(pieces, p => Assert.Null(p.FaceColours));
    }

    [Fact]
    public void Faces_of_a_brep_keep_the_styles_put_on_them()
    {
        const string shell =
            "#80=IFCCARTESIANPOINT((1.,0.,0.));#81=IFCCARTESIANPOINT((0.,1.,0.));#82=IFCCARTESIANPOINT((0.,0.,1.));"
            + "#83=IFCPOLYLOOP((#1,#81,#80));#84=IFCPOLYLOOP((#1,#80,#82));#85=IFCPOLYLOOP((#80,#81,#82));#86=IFCPOLYLOOP((#81,#1,#82));"
            + "#87=IFCFACEOUTERBOUND(#83,.T.);#88=IFCFACEOUTERBOUND(#84,.T.);#89=IFCFACEOUTERBOUND(#85,.T.);#90=IFCFACEOUTERBOUND(#86,.T.);"
            + "#91=IFCFACE((#87));#92=IFCFACE((#88));#93=IFCFACE((#89));#94=IFCFACE((#90));#95=IFCCLOSEDSHELL((#91,#92,#93,#94));#100=IFCFACETEDBREP(#95);";
        const string style =
            "#70=IFCCOLOURRGB($,0.,1.,0.);#71=IFCSURFACESTYLESHADING(#70,$);#72=IFCSURFACESTYLE($,.BOTH.,(#71));#73=IFCSTYLEDITEM(#93,(#72),$);";
        var shape = Sample.Shape(shell + style);
        var part = Assert.Single(shape.Parts);
        Assert.Equal([Colour.Default, Colour.Default, new Colour(0, 255, 0, 255), Colour.Default], part.FaceColours!);
        Assert.Equal(1.0 / 6, shape.Measure().Volume, 1e-9);
    }

    [Fact]
    public void Without_colours_of_faces_nothing_is_split()
    {
        var part = Assert.Single(Sample.Shape(Block).Parts);
        Assert.Null(part.FaceColours);
        Assert.Same(part.Mesh, Assert.Single(part.ByColour()).Mesh);
    }

    private const string Block4 =
        "#60=IFCCARTESIANPOINT((-2.,-2.,-2.));#61=IFCAXIS2PLACEMENT3D(#60,$,$);#62=IFCBLOCK(#61,4.,4.,4.);";

    [Theory]
    // Flag true: the material is within, and is taken away; false: everything outside is.
    [InlineData("IFCCYLINDRICALSURFACE(#2,1.)", "T", 64 - (Math.PI * 4))]
    [InlineData("IFCCYLINDRICALSURFACE(#2,1.)", "F", Math.PI * 4)]
    [InlineData("IFCSPHERICALSURFACE(#2,1.5)", "T", 64 - (Math.PI * 4.5))]
    [InlineData("IFCSPHERICALSURFACE(#2,1.5)", "F", Math.PI * 4.5)]
    [InlineData("IFCTOROIDALSURFACE(#2,1.2,0.4)", "T", 64 - (2 * Math.PI * Math.PI * 1.2 * 0.16))]
    public void Half_spaces_over_round_surfaces_cut(string surface, string agreement, double volume)
    {
        var mass = Sample.Measure(
            Block4
                + $"#63={surface};#64=IFCHALFSPACESOLID(#63,.{agreement}.);#100=IFCBOOLEANRESULT(.DIFFERENCE.,#62,#64);",
            tolerance: Tolerance.Default
        );
        Assert.True(mass.Closed);
        Assert.InRange(mass.Volume / volume, 0.999, 1.001);
    }

    // z = x²/4: below it lie 32 of the block under z = 0, and 4 · ∫x²/4 from -2 to 2 = 16/3 above.
    private const string Parabola =
        "#70=IFCCARTESIANPOINT((-3.,-3.,2.25));#71=IFCCARTESIANPOINT((0.,-3.,-2.25));#72=IFCCARTESIANPOINT((3.,-3.,2.25));#73=IFCCARTESIANPOINT((-3.,3.,2.25));#74=IFCCARTESIANPOINT((0.,3.,-2.25));#75=IFCCARTESIANPOINT((3.,3.,2.25));";
    private const string SplineRelief =
        Parabola
        + "#63=IFCBSPLINESURFACEWITHKNOTS(2,1,((#70,#73),(#71,#74),(#72,#75)),.UNSPECIFIED.,.F.,.F.,.F.,(3,3),(2,2),(0.,1.),(0.,1.),.UNSPECIFIED.);";
    private const string Bowl =
        "#70=IFCCARTESIANPOINT((-3.,-3.,1.));#71=IFCCARTESIANPOINT((-3.,0.,-1.));#72=IFCCARTESIANPOINT((-3.,3.,1.));#73=IFCCARTESIANPOINT((0.,-3.,-1.));#74=IFCCARTESIANPOINT((0.,0.,-3.));#75=IFCCARTESIANPOINT((0.,3.,-1.));"
        + "#76=IFCCARTESIANPOINT((3.,-3.,1.));#77=IFCCARTESIANPOINT((3.,0.,-1.));#78=IFCCARTESIANPOINT((3.,3.,1.));#63=IFCBSPLINESURFACEWITHKNOTS(2,2,((#70,#71,#72),(#73,#74,#75),(#76,#77,#78)),.UNSPECIFIED.,.F.,.F.,.F.,(3,3),(3,3),(0.,1.),(0.,1.),.UNSPECIFIED.);";
    private const string ExtrudedRelief =
        Parabola
        + "#76=IFCBSPLINECURVEWITHKNOTS(2,(#70,#71,#72),.UNSPECIFIED.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.);#77=IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#76);#78=IFCDIRECTION((0.,1.,0.));#63=IFCSURFACEOFLINEAREXTRUSION(#77,$,#78,6.);";

    [Theory]
    // The normal du × dv points up: with the flag true the material is below, and what is above stays.
    [InlineData(SplineRelief, "DIFFERENCE", "T", 32 - (16.0 / 3))]
    [InlineData(SplineRelief, "DIFFERENCE", "F", 32 + (16.0 / 3))]
    [InlineData(SplineRelief, "INTERSECTION", "T", 32 + (16.0 / 3))]
    [InlineData(ExtrudedRelief, "DIFFERENCE", "T", 32 - (16.0 / 3))]
    [InlineData(ExtrudedRelief, "INTERSECTION", "F", 32 - (16.0 / 3))]
    // z = (x² + y²)/9 - 1, bent both ways: below it 64/2 - 16 + 2 · 4 · (16/3)/9.
    [InlineData(Bowl, "INTERSECTION", "T", 16 + (128.0 / 27))]
    public void Half_spaces_over_free_surfaces_cut(string surface, string operation, string agreement, double volume)
    {
        var mass = Sample.Measure(
            Block4
                + surface
                + $"#64=IFCHALFSPACESOLID(#63,.{agreement}.);#100=IFCBOOLEANRESULT(.{operation}.,#62,#64);",
            tolerance: Tolerance.Default
        );
        Assert.True(mass.Closed);
        Assert.InRange(mass.Volume / volume, 0.999, 1.001);
    }

    [Theory]
    // A strip that covers half of the block, a fold, and a tube.
    [InlineData(
        "#70=IFCCARTESIANPOINT((0.,-3.,0.));#71=IFCCARTESIANPOINT((3.,-3.,0.));#76=IFCPOLYLINE((#70,#71));#77=IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#76);#78=IFCDIRECTION((0.,1.,0.));#63=IFCSURFACEOFLINEAREXTRUSION(#77,$,#78,6.);",
        "ends before"
    )]
    [InlineData(
        "#70=IFCCARTESIANPOINT((-3.,-3.,0.));#71=IFCCARTESIANPOINT((2.,-3.,1.));#72=IFCCARTESIANPOINT((-1.,-3.,1.5));#73=IFCCARTESIANPOINT((3.,-3.,2.));#76=IFCPOLYLINE((#70,#71,#72,#73));#77=IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#76);#78=IFCDIRECTION((0.,1.,0.));#63=IFCSURFACEOFLINEAREXTRUSION(#77,$,#78,6.);",
        "folds back"
    )]
    [InlineData(
        "#70=IFCCARTESIANPOINT((1.,0.,0.));#71=IFCCARTESIANPOINT((1.,0.,2.));#76=IFCPOLYLINE((#70,#71));#77=IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#76);#78=IFCAXIS1PLACEMENT(#1,$);#63=IFCSURFACEOFREVOLUTION(#77,$,#78);",
        "closes"
    )]
    public void A_half_space_over_a_surface_that_does_not_divide_the_body_is_told(string surface, string told)
    {
        var shape = Sample.Shape(
            Block4 + surface + "#64=IFCHALFSPACESOLID(#63,.T.);#100=IFCBOOLEANRESULT(.DIFFERENCE.,#62,#64);"
        );
        Assert.Contains(told, Assert.Single(shape.Problems));
    }

    [Fact]
    public void A_type_has_the_shape_it_gives_its_occurrences()
    {
        var (model, shapes) = Open(
            "#100=IFCBLOCK(#2,1.,2.,3.);#101=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#100));#102=IFCCARTESIANPOINT((0.5,0.,0.));#103=IFCAXIS2PLACEMENT3D(#102,$,$);#104=IFCREPRESENTATIONMAP(#103,#101);"
                + "#105=IFCSHAPEREPRESENTATION(#8,'Axis','Curve3D',(#100));#106=IFCREPRESENTATIONMAP(#2,#105);#107=IFCFURNITURETYPE('0000000000000000000107',$,'Chair',$,$,$,(#106,#104),$,$,.NOTDEFINED.,$);#108=IFCWALLTYPE('0000000000000000000108',$,'W',$,$,$,$,$,$,.SOLIDWALL.);"
        );
        var mass = shapes.ReadType(model.File.IndexOf(107))!.Measure();
        Assert.Equal(6, mass.Volume, 1e-9);
        Assert.Equal(-0.5, mass.Bounds.Min.X, 1e-9);
        Assert.Null(shapes.ReadType(model.File.IndexOf(108)));
    }
}
