using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class ShapeTests
{
    private const string Box = "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,1.);#60=IFCEXTRUDEDAREASOLID(#50,#2,#3,3.);";

    [Theory]
    [InlineData("m", 1)]
    [InlineData("mm", 0.001)]
    [InlineData("ft", 0.3048)]
    public void Units_come_out_in_metres(string unit, double metres) =>
        Assert.Equal(6 * Math.Pow(metres, 3), Sample.Measure(Box.Replace("#60", "#100"), unit).Volume, 12);

    [Fact]
    public void Placements_add_up_and_far_ones_keep_the_volume()
    {
        const string placement =
            "#70=IFCCARTESIANPOINT((5500000.,1000000.,50.));#71=IFCDIRECTION((0.,1.,0.));#72=IFCAXIS2PLACEMENT3D(#70,#3,#71);#73=IFCLOCALPLACEMENT($,#72);#74=IFCCARTESIANPOINT((10.,0.,0.));#75=IFCAXIS2PLACEMENT3D(#74,$,$);#76=IFCLOCALPLACEMENT(#73,#75);";
        var mass = Sample.Measure(Box.Replace("#60", "#100") + placement, "m", "#76");
        Assert.Equal(6, mass.Volume, 6);
        // Turned a quarter: the 2 m side lies along Y.
        Assert.Equal(new Vec3(5499999.5, 1000009, 50), mass.Bounds.Min);
        Assert.Equal(new Vec3(5500000.5, 1000011, 53), mass.Bounds.Max);
    }

    [Fact]
    public void A_chain_of_placements_that_bites_its_tail_is_told() =>
        Assert.Contains(
            "refers to itself",
            Sample.Shape(Box.Replace("#60", "#100") + "#73=IFCLOCALPLACEMENT(#73,#2);", "m", "#73").Problems[0]
        );

    // The plane x + z = 3 through the middle of the 2 × 1 × 3 box halves it only in part: the wedge left is found by integration, 4 m³.
    [Fact]
    public void A_half_space_cuts_at_its_plane()
    {
        const string half =
            "#80=IFCCARTESIANPOINT((0.,0.,2.));#81=IFCDIRECTION((1.,0.,1.));#82=IFCDIRECTION((1.,0.,-1.));#83=IFCAXIS2PLACEMENT3D(#80,#81,#82);#84=IFCPLANE(#83);#85=IFCHALFSPACESOLID(#84,.F.);#100=IFCBOOLEANCLIPPINGRESULT(.DIFFERENCE.,#60,#85);";
        var mass = Sample.Measure(Box + half);
        Assert.Equal(4, mass.Volume, 6);
        Assert.True(mass.Closed);
        Assert.Equal(2, Sample.Measure(Box + half.Replace("#84,.F.", "#84,.T.")).Volume, 6);
    }

    [Fact]
    public void A_bounded_half_space_cuts_inside_its_boundary_only()
    {
        const string half =
            "#80=IFCCARTESIANPOINT((0.,0.,2.));#83=IFCAXIS2PLACEMENT3D(#80,$,$);#84=IFCPLANE(#83);#90=IFCCARTESIANPOINT((0.,-5.));#91=IFCCARTESIANPOINT((5.,-5.));#92=IFCCARTESIANPOINT((5.,5.));#93=IFCCARTESIANPOINT((0.,5.));#94=IFCPOLYLINE((#90,#91,#92,#93,#90));#85=IFCPOLYGONALBOUNDEDHALFSPACE(#84,.F.,#2,#94);#100=IFCBOOLEANRESULT(.DIFFERENCE.,#60,#85);";
        var mass = Sample.Measure(Box + half);
        Assert.Equal(6 - 1, mass.Volume, 6);
        Assert.True(mass.Closed);
    }

    private const string Corners =
        "#20=IFCCARTESIANPOINT((0.,0.,0.));#21=IFCCARTESIANPOINT((1.,0.,0.));#22=IFCCARTESIANPOINT((0.,1.,0.));#23=IFCCARTESIANPOINT((0.,0.,1.));";

    // A tetrahedron on the unit axes: 1/6 m³.
    [Fact]
    public void Faceted_breps_and_surface_models_are_closed()
    {
        string faces = string.Concat(
            new[] { "#20,#22,#21", "#20,#21,#23", "#20,#23,#22", "#21,#22,#23" }.Select(
                (f, i) =>
                    $"#{30 + i}=IFCPOLYLOOP(({f}));#{40 + i}=IFCFACEOUTERBOUND(#{30 + i},.T.);#{50 + i}=IFCFACE((#{40 + i}));"
            )
        );
        foreach (
            string body in new[]
            {
                "#60=IFCCLOSEDSHELL((#50,#51,#52,#53));#100=IFCFACETEDBREP(#60);",
                "#60=IFCCONNECTEDFACESET((#50,#51,#52,#53));#100=IFCFACEBASEDSURFACEMODEL((#60));",
                "#60=IFCOPENSHELL((#50,#51,#52,#53));#100=IFCSHELLBASEDSURFACEMODEL((#60));",
            }
        )
        {
            var mass = Sample.Measure(Corners + faces + body);
            Assert.Equal(1 / 6.0, mass.Volume, 12);
            Assert.True(mass.Closed);
        }
    }

    [Fact]
    public void Tessellations_are_shaped_and_turned_outward()
    {
        const string points = "#20=IFCCARTESIANPOINTLIST3D(((0.,0.,0.),(1.,0.,0.),(0.,1.,0.),(0.,0.,1.)));";
        Assert.Equal(
            1 / 6.0,
            Sample
                .Measure(points + "#100=IFCTRIANGULATEDFACESET(#20,$,.T.,((1,3,2),(1,2,4),(1,4,3),(2,3,4)),$);")
                .Volume,
            12
        );
        // The same inside out.
        Assert.Equal(
            1 / 6.0,
            Sample
                .Measure(points + "#100=IFCTRIANGULATEDFACESET(#20,$,.T.,((1,2,3),(1,4,2),(1,3,4),(2,4,3)),$);")
                .Volume,
            12
        );
        Assert.Equal(
            1 / 6.0,
            Sample
                .Measure(
                    points
                        + "#31=IFCINDEXEDPOLYGONALFACE((1,3,2));#32=IFCINDEXEDPOLYGONALFACE((1,2,4));#33=IFCINDEXEDPOLYGONALFACE((1,4,3));#34=IFCINDEXEDPOLYGONALFACE((2,3,4));#100=IFCPOLYGONALFACESET(#20,.T.,(#31,#32,#33,#34),$);"
                )
                .Volume,
            12
        );
    }

    [Fact]
    public void Mapped_items_take_their_operator()
    {
        const string map =
            Box
            + "#61=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#60));#62=IFCREPRESENTATIONMAP(#2,#61);#63=IFCDIRECTION((-1.,0.,0.));#64=IFCDIRECTION((0.,1.,0.));#65=IFCCARTESIANTRANSFORMATIONOPERATOR3DNONUNIFORM(#63,#64,#1,2.,$,1.,3.);#100=IFCMAPPEDITEM(#62,#65);";
        var mass = Sample.Measure(map);
        Assert.Equal(6 * 2 * 1 * 3, mass.Volume, 9);
        Assert.Equal(9, mass.Bounds.Size.Z, 9);
    }

    [Fact]
    public void Openings_are_cut_out_of_their_wall()
    {
        const string wall =
            "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,4.,0.3);#100=IFCEXTRUDEDAREASOLID(#50,#2,#3,3.);"
            + "#110=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,1.,1.);#111=IFCEXTRUDEDAREASOLID(#110,#2,#3,2.);#112=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#111));#113=IFCPRODUCTDEFINITIONSHAPE($,$,(#112));#114=IFCOPENINGELEMENT('0000000000000000000003',$,$,$,$,$,#113,$,$);#115=IFCRELVOIDSELEMENT('0000000000000000000004',$,$,$,#103,#114);";
        var mass = Sample.Measure(wall);
        Assert.Equal(0.3 * (12 - 2), mass.Volume, 9);
        Assert.True(mass.Closed);
        // A pocket leaves no prism; an opening right through is a hole or a notch in the regions of one.
        Assert.Null(Assert.Single(Sample.Shape(wall).Parts).Prism);
        var part = Assert.Single(Sample.Shape(wall.Replace("#3,2.)", "#3,3.)")).Parts);
        Assert.True(part.Item >= 0);
        Assert.Equal(0.3 * (12 - 3), part.Prism!.Regions.Sum(r => r.Area) * part.Prism.Sweep.Length, 9);
    }

    [Fact]
    public void What_is_not_shaped_yet_is_told_by_name() =>
        Assert.Contains(
            "IfcTextLiteral is not shaped yet",
            Assert.Single(Sample.Shape("#100=IFCTEXTLITERAL('a',#2,.LEFT.);").Problems)
        );

    [Fact]
    public void A_boolean_of_itself_is_told() =>
        Assert.NotEmpty(Sample.Shape("#100=IFCBOOLEANRESULT(.UNION.,#100,#100);").Problems);
}
