namespace SteadyLintel.Tests;

public class ProfileTests
{
    /// <summary>The kinds with their attributes in metres and area.</summary>
    public static TheoryData<string, string, double> Areas => ProfileCases.Areas;

    [Theory]
    [MemberData(nameof(Areas))]
    public void Parametric_profiles_have_the_area_of_their_formula(string kind, string attributes, double area)
    {
        var mass = Sample.Measure(ProfileCases.Extruded(kind, attributes));
        Assert.True(mass.Closed);
        Assert.InRange(mass.Volume / area, 0.9995, 1.0005);
    }

    // EN 10365:2017, tables of hot rolled I sections: h, b, tw, tf, r in mm and area A in cm².
    [Theory]
    [InlineData("IPE 240", 240, 120, 6.2, 9.8, 15, 39.1)]
    [InlineData("IPE 300", 300, 150, 7.1, 10.7, 15, 53.8)]
    [InlineData("HEA 300", 290, 300, 8.5, 14, 27, 112.5)]
    [InlineData("HEB 200", 200, 200, 9, 15, 18, 78.1)]
    public void I_sections_have_the_area_of_the_table(
        string name,
        double h,
        double b,
        double tw,
        double tf,
        double r,
        double cm2
    )
    {
        string numbers = string.Join(",", new[] { b, h, tw, tf, r }.Select(Sample.N));
        var mass = Sample.Extrude($"#50=IFCISHAPEPROFILEDEF(.AREA.,'{name}',$,{numbers},$,$);", "mm", 0.001);
        // The table prints one decimal.
        Assert.Equal(cm2, mass.Volume * 1e4, 0.06);
    }

    [Fact]
    public void Arbitrary_profiles_with_voids_composites_and_mirrors_are_shaped()
    {
        const string square =
            "#30=IFCCARTESIANPOINT((0.,0.));#31=IFCCARTESIANPOINT((1.,0.));#32=IFCCARTESIANPOINT((1.,1.));#33=IFCCARTESIANPOINT((0.,1.));#34=IFCPOLYLINE((#30,#31,#32,#33,#30));"
            + "#35=IFCCIRCLE(#36,0.2);#36=IFCAXIS2PLACEMENT2D(#37,$);#37=IFCCARTESIANPOINT((0.5,0.5));";
        double holed = 1 - (Math.PI * 0.04);
        Assert.Equal(
            holed,
            Sample.Extrude(square + "#50=IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#34,(#35));").Volume,
            6
        );
        Assert.Equal(
            1,
            Sample
                .Extrude(
                    square
                        + "#40=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#34);#50=IFCMIRROREDPROFILEDEF(.AREA.,$,#40,*,$);"
                )
                .Volume,
            9
        );
        Assert.Equal(
            4,
            Sample
                .Extrude(
                    square
                        + "#40=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#34);#41=IFCCARTESIANTRANSFORMATIONOPERATOR2D($,$,#30,2.);#50=IFCDERIVEDPROFILEDEF(.AREA.,$,#40,#41,$);"
                )
                .Volume,
            9
        );
        Assert.Equal(
            1.06,
            Sample
                .Extrude(
                    square
                        + "#40=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#34);#41=IFCRECTANGLEPROFILEDEF(.AREA.,$,#43,0.2,0.3);#42=IFCCARTESIANPOINT((5.,5.));#43=IFCAXIS2PLACEMENT2D(#42,$);#50=IFCCOMPOSITEPROFILEDEF(.AREA.,$,(#40,#41),$);"
                )
                .Volume,
            9
        );
    }

    [Fact]
    public void Arcs_lines_and_indexed_curves_close_a_half_disc()
    {
        double half = Math.PI / 2;
        const string ends =
            "#30=IFCCARTESIANPOINT((-1.,0.));#31=IFCCARTESIANPOINT((1.,0.));#32=IFCPOLYLINE((#30,#31));#33=IFCCIRCLE(#34,1.);#34=IFCAXIS2PLACEMENT2D(#35,$);#35=IFCCARTESIANPOINT((0.,0.));";
        string trimmed =
            ends
            + "#36=IFCTRIMMEDCURVE(#33,(#31),(#30),.T.,.CARTESIAN.);#37=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#32);#38=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#36);#39=IFCCOMPOSITECURVE((#37,#38),.F.);#50=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#39);";
        Assert.InRange(Sample.Extrude(trimmed).Volume / half, 0.9995, 1.0005);
        string backwards = trimmed
            .Replace("(#33,(#31),(#30),.T.,", "(#33,(#30),(#31),.F.,")
            .Replace(".CONTINUOUS.,.T.,#36", ".CONTINUOUS.,.F.,#36");
        Assert.InRange(Sample.Extrude(backwards).Volume / half, 0.9995, 1.0005);
        const string indexed =
            "#30=IFCCARTESIANPOINTLIST2D(((-1.,0.),(1.,0.),(0.,1.)));#39=IFCINDEXEDPOLYCURVE(#30,(IFCLINEINDEX((1,2)),IFCARCINDEX((2,3,1))),.F.);#50=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#39);";
        Assert.InRange(Sample.Extrude(indexed).Volume / half, 0.9995, 1.0005);
    }

    [Theory]
    [InlineData("#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,0.,1.);", "no area")]
    [InlineData(
        "#50=IFCDERIVEDPROFILEDEF(.AREA.,$,#50,#51,$);#51=IFCCARTESIANTRANSFORMATIONOPERATOR2D($,$,#1,2.);",
        "refers to itself"
    )]
    [InlineData("#50=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#77);", "missing")]
    public void Broken_profiles_are_told(string profile, string why)
    {
        var shape = Sample.Shape(profile + "#100=IFCEXTRUDEDAREASOLID(#50,#2,#3,1.);");
        Assert.Contains(why, Assert.Single(shape.Problems));
    }
}
