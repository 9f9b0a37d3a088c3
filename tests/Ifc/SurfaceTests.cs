using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Surfaces and solids that are neither swept along a path nor breps: by area or volume.</summary>
public class SurfaceTests
{
    private static MassProperties Measure(string data, string schema = "IFC4") =>
        Sample.Measure(data, schema: schema, tolerance: Tolerance.Default);

    [Theory]
    [InlineData("IFCCYLINDRICALSURFACE(#2,2.)", "0.,0.,1.5707963267948966,3.", 3 * Math.PI)]
    [InlineData("IFCPLANE(#2)", "0.,0.,2.,3.", 6)]
    // From the equator to 30 degrees: 2πr² sin v, a quarter of the way round.
    [InlineData("IFCSPHERICALSURFACE(#2,2.)", "0.,0.,1.5707963267948966,0.5235987755982988", Math.PI)]
    public void Rectangular_trimmed_surfaces_have_their_area(string basis, string bounds, double area)
    {
        var mass = Measure($"#60={basis};#100=IFCRECTANGULARTRIMMEDSURFACE(#60,{bounds},.T.,.T.);");
        Assert.InRange(mass.Area / area, 0.999, 1.001);
        Assert.False(mass.Closed);
    }

    [Fact]
    public void A_curve_bounded_plane_has_its_holes_and_stands_where_its_plane_does()
    {
        const string data =
            "#40=IFCCARTESIANPOINT((0.,0.));#41=IFCCARTESIANPOINT((4.,0.));#42=IFCCARTESIANPOINT((4.,3.));#43=IFCCARTESIANPOINT((0.,3.));#44=IFCPOLYLINE((#40,#41,#42,#43,#40));#45=IFCCARTESIANPOINT((2.,1.5));#46=IFCAXIS2PLACEMENT2D(#45,$);#47=IFCCIRCLE(#46,1.);"
            + "#50=IFCCARTESIANPOINT((0.,0.,7.));#51=IFCAXIS2PLACEMENT3D(#50,$,$);#52=IFCPLANE(#51);#100=IFCCURVEBOUNDEDPLANE(#52,#44,(#47));";
        var mass = Measure(data);
        Assert.InRange(mass.Area / (12 - Math.PI), 0.999, 1.001);
        Assert.Equal((7, 7), (mass.Bounds.Min.Z, mass.Bounds.Max.Z));
    }

    [Fact]
    public void Surfaces_of_a_geometric_set_are_shown_and_its_curves_are_not()
    {
        const string data =
            "#60=IFCPLANE(#2);#61=IFCRECTANGULARTRIMMEDSURFACE(#60,0.,0.,2.,1.,.T.,.T.);#62=IFCCARTESIANPOINT((9.,9.,9.));#63=IFCPOLYLINE((#1,#62));#100=IFCGEOMETRICSET((#61,#63));";
        Assert.Equal(2, Measure(data).Area, 9);
    }

    [Fact]
    public void A_triangulated_irregular_network_leaves_its_voids_out()
    {
        const string points = "#60=IFCCARTESIANPOINTLIST3D(((0.,0.,0.),(2.,0.,0.),(2.,2.,0.),(0.,2.,0.)));";
        Assert.Equal(
            4,
            Measure(
                points + "#100=IFCTRIANGULATEDIRREGULARNETWORK(#60,$,.F.,((1,2,3),(1,3,4)),$,(0,0));",
                "IFC4X3"
            ).Area,
            9
        );
        Assert.Equal(
            2,
            Measure(
                points + "#100=IFCTRIANGULATEDIRREGULARNETWORK(#60,$,.F.,((1,2,3),(1,3,4)),$,(0,-2));",
                "IFC4X3"
            ).Area,
            9
        );
    }

    // A sectioned road along 10 m that widens from 2 × 1 to 4 × 1: the mean section times the length.
    [Fact]
    public void A_sectioned_solid_widens_along_its_directrix()
    {
        const string data =
            "#40=IFCCARTESIANPOINT((10.,0.,0.));#41=IFCPOLYLINE((#1,#40));#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,1.);#51=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,4.,1.);"
            + "#60=IFCPOINTBYDISTANCEEXPRESSION(IFCLENGTHMEASURE(0.),$,$,$,#41);#61=IFCPOINTBYDISTANCEEXPRESSION(IFCLENGTHMEASURE(10.),$,$,$,#41);#62=IFCAXIS2PLACEMENTLINEAR(#60,$,$);#63=IFCAXIS2PLACEMENTLINEAR(#61,$,$);#100=IFCSECTIONEDSOLIDHORIZONTAL(#41,(#50,#51),(#62,#63));";
        var mass = Measure(data, "IFC4X3");
        Assert.True(mass.Closed);
        Assert.Equal(30, mass.Volume, 9);
        Assert.Equal(new Vec3(0, -2, -0.5), mass.Bounds.Min);
    }

    [Fact]
    public void A_sectioned_solid_keeps_its_section_round_a_bend()
    {
        // Pappus: a section about the directrix of a half circle of radius 20.
        const string data =
            "#39=IFCCARTESIANPOINTLIST3D(((20.,0.,0.),(0.,20.,0.),(-20.,0.,0.)));#41=IFCINDEXEDPOLYCURVE(#39,(IFCARCINDEX((1,2,3))),$);#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,1.);"
            + "#60=IFCPOINTBYDISTANCEEXPRESSION(IFCLENGTHMEASURE(0.),$,$,$,#41);#61=IFCPOINTBYDISTANCEEXPRESSION(IFCLENGTHMEASURE(62.8),$,$,$,#41);#62=IFCAXIS2PLACEMENTLINEAR(#60,$,$);#63=IFCAXIS2PLACEMENTLINEAR(#61,$,$);#100=IFCSECTIONEDSOLIDHORIZONTAL(#41,(#50,#50),(#62,#63));";
        var mass = Measure(data, "IFC4X3");
        Assert.True(mass.Closed);
        Assert.InRange(mass.Volume / (2 * 62.8), 0.999, 1.001);
    }

    [Theory]
    [InlineData("IFCEXTRUDEDAREASOLIDTAPERED(#50,#2,#3,3.,#51)", "do not match")]
    [InlineData("IFCREVOLVEDAREASOLID(#50,#2,#52,0.)", "no angle")]
    [InlineData("IFCSWEPTDISKSOLID(#53,0.1,$,$,$)", "without length")]
    [InlineData("IFCSECTIONEDSPINE($,(#50,#51),(#2))", "do not match")]
    [InlineData("IFCRECTANGULARTRIMMEDSURFACE($,0.,0.,1.,1.,.T.,.T.)", "surface is missing")]
    public void Broken_solids_say_why(string solid, string word)
    {
        const string parts =
            "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,2.);#51=IFCCIRCLEPROFILEDEF(.AREA.,$,$,1.);#52=IFCAXIS1PLACEMENT(#1,#3);#53=IFCPOLYLINE((#1,#1));";
        Assert.Contains(word, Assert.Single(Sample.Shape(parts + $"#100={solid};").Problems));
    }
}
