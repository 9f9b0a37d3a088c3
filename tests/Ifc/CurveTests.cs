using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Every kind of curve, by its length and ends.</summary>
public class CurveTests
{
    private const double Pi = Math.PI;
    private const string Points =
        "#30=IFCCARTESIANPOINT((0.,0.));#31=IFCCARTESIANPOINT((4.,0.));#32=IFCCARTESIANPOINT((4.,3.));#33=IFCAXIS2PLACEMENT2D(#30,$);";

    /// <summary>Name, instances around #100, length, last point.</summary>
    public static TheoryData<string, string, double, double[]> Curves =>
        new()
        {
            { "polyline", "#100=IFCPOLYLINE((#30,#31,#32));", 7, [4, 3, 0] },
            {
                "trimmed line by parameters",
                "#40=IFCDIRECTION((0.6,0.8));#41=IFCVECTOR(#40,2.);#42=IFCLINE(#30,#41);#100=IFCTRIMMEDCURVE(#42,(IFCPARAMETERVALUE(1.)),(IFCPARAMETERVALUE(3.)),.T.,.PARAMETER.);",
                4,
                [3.6, 4.8, 0]
            },
            {
                "arc against the sense",
                "#40=IFCCIRCLE(#33,4.);#41=IFCCARTESIANPOINT((0.,4.));#100=IFCTRIMMEDCURVE(#40,(#41),(#31),.F.,.CARTESIAN.);",
                2 * Pi,
                [4, 0, 0]
            },
            {
                "three quarters with the sense",
                "#40=IFCCIRCLE(#33,4.);#41=IFCCARTESIANPOINT((0.,4.));#100=IFCTRIMMEDCURVE(#40,(#41),(#31),.T.,.CARTESIAN.);",
                6 * Pi,
                [4, 0, 0]
            },
            {
                "indexed with an arc",
                "#40=IFCCARTESIANPOINTLIST2D(((0.,0.),(1.,0.),(2.,1.),(1.,2.)));#100=IFCINDEXEDPOLYCURVE(#40,(IFCLINEINDEX((1,2)),IFCARCINDEX((2,3,4))),$);",
                1 + Pi,
                [1, 2, 0]
            },
            {
                "composite, one part reversed",
                "#40=IFCPOLYLINE((#30,#31));#41=IFCPOLYLINE((#32,#31));#42=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#40);#43=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.F.,#41);#100=IFCCOMPOSITECURVE((#42,#43),.F.);",
                7,
                [4, 3, 0]
            },
            {
                "composite trimmed by parameters",
                "#40=IFCPOLYLINE((#30,#31));#41=IFCPOLYLINE((#31,#32));#42=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#40);#43=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#41);#44=IFCCOMPOSITECURVE((#42,#43),.F.);#100=IFCTRIMMEDCURVE(#44,(IFCPARAMETERVALUE(0.5)),(IFCPARAMETERVALUE(2.)),.T.,.PARAMETER.);",
                5,
                [4, 3, 0]
            },
            {
                "composite with a part reversed, trimmed within it",
                "#40=IFCPOLYLINE((#30,#31));#41=IFCPOLYLINE((#32,#31));#42=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#40);#43=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.F.,#41);#44=IFCCOMPOSITECURVE((#42,#43),.F.);#100=IFCTRIMMEDCURVE(#44,(IFCPARAMETERVALUE(1.)),(IFCPARAMETERVALUE(1.5)),.T.,.PARAMETER.);",
                1.5,
                [4, 1.5, 0]
            },
            {
                "polyline trimmed against its sense",
                "#40=IFCPOLYLINE((#30,#31,#32));#100=IFCTRIMMEDCURVE(#40,(IFCPARAMETERVALUE(2.)),(IFCPARAMETERVALUE(0.5)),.F.,.PARAMETER.);",
                5,
                [2, 0, 0]
            },
            // A quarter of the perimeter after Ramanujan (1914), which is exact here to six digits.
            {
                "quarter of an ellipse",
                "#40=IFCELLIPSE(#33,4.,3.);#100=IFCTRIMMEDCURVE(#40,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(1.5707963267948966)),.T.,.PARAMETER.);",
                Ellipse(4, 3) / 4,
                [0, 3, 0]
            },
            {
                "three quarters of an ellipse against the sense",
                "#40=IFCELLIPSE(#33,4.,3.);#100=IFCTRIMMEDCURVE(#40,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(1.5707963267948966)),.F.,.PARAMETER.);",
                Ellipse(4, 3) * 3 / 4,
                [0, 3, 0]
            },
            // A straight Bézier curve of degree 2 with even control points.
            {
                "B-spline",
                "#40=IFCCARTESIANPOINT((2.,0.));#100=IFCBSPLINECURVEWITHKNOTS(2,(#30,#40,#31),.UNSPECIFIED.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.);",
                4,
                [4, 0, 0]
            },
            // A quarter circle of radius 4 (Piegl and Tiller, The NURBS Book, section 7.3).
            {
                "rational B-spline",
                "#40=IFCCARTESIANPOINT((4.,4.));#41=IFCCARTESIANPOINT((0.,4.));#100=IFCRATIONALBSPLINECURVEWITHKNOTS(2,(#31,#40,#41),.CIRCULAR_ARC.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.,(1.,0.7071067811865476,1.));",
                2 * Pi,
                [0, 4, 0]
            },
            {
                "rational B-spline, trimmed in half",
                "#40=IFCCARTESIANPOINT((4.,4.));#41=IFCCARTESIANPOINT((0.,4.));#42=IFCRATIONALBSPLINECURVEWITHKNOTS(2,(#31,#40,#41),.CIRCULAR_ARC.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.,(1.,0.7071067811865476,1.));#100=IFCTRIMMEDCURVE(#42,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(0.5)),.T.,.PARAMETER.);",
                Pi,
                [2.8284271247461903, 2.8284271247461903, 0]
            },
            {
                "offset to the left",
                "#40=IFCPOLYLINE((#30,#31,#32));#100=IFCOFFSETCURVE2D(#40,1.,.F.);",
                3 + 2,
                [3, 3, 0]
            },
            {
                "offset of a circle inward",
                "#40=IFCCIRCLE(#33,4.);#41=IFCTRIMMEDCURVE(#40,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(3.141592653589793)),.T.,.PARAMETER.);#100=IFCOFFSETCURVE2D(#41,1.,.F.);",
                3 * Pi,
                [-3, 0, 0]
            },
            {
                "offset in space",
                "#40=IFCPOLYLINE((#1,#41));#41=IFCCARTESIANPOINT((5.,0.,0.));#42=IFCDIRECTION((0.,1.,0.));#100=IFCOFFSETCURVE3D(#40,2.,.F.,#42);",
                5,
                [5, 0, -2]
            },
            {
                "on a surface",
                "#40=IFCPOLYLINE((#1,#41));#41=IFCCARTESIANPOINT((5.,0.,1.));#42=IFCPLANE(#2);#100=IFCSURFACECURVE(#40,(),.CURVE3D.);",
                Math.Sqrt(26),
                [5, 0, 1]
            },
        };

    private static double Ellipse(double a, double b) =>
        Pi * ((3 * (a + b)) - Math.Sqrt(((3 * a) + b) * (a + (3 * b))));

    private static IReadOnlyList<Vec3> Read(string data, string schema = "IFC4")
    {
        var model = Sample.Model(Points + data, "m", schema);
        return new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).Curve(model.File.IndexOf(100));
    }

    private static double Length(IReadOnlyList<Vec3> points)
    {
        double sum = 0;
        for (int i = 1; i < points.Count; i++)
            sum += (points[i] - points[i - 1]).Length;
        return sum;
    }

    [Theory]
    [MemberData(nameof(Curves))]
    public void A_curve_has_its_length_and_its_end(string name, string data, double length, double[] end)
    {
        var points = Read(data);
        Assert.InRange(Length(points) / length, 0.999, 1.001);
        Assert.True((points[^1] - new Vec3(end[0], end[1], end[2])).Length < 0.001, $"{name} ends at {points[^1]}");
    }

    // Bézier curves went with IFC4. Pieces meet at every degree-th point; a quarter circle as a rational one (Piegl and Tiller, The NURBS
    // Book, section 7.3).
    [Theory]
    [InlineData("#40=IFCCARTESIANPOINT((2.,0.));#100=IFCBEZIERCURVE(2,(#30,#40,#31),.UNSPECIFIED.,.F.,.F.);", 4, 4, 0)]
    [InlineData(
        "#40=IFCCARTESIANPOINT((2.,0.));#41=IFCCARTESIANPOINT((4.,1.5));#100=IFCBEZIERCURVE(2,(#30,#40,#31,#41,#32),.UNSPECIFIED.,.F.,.F.);",
        7,
        4,
        3
    )]
    [InlineData(
        "#40=IFCCARTESIANPOINT((4.,4.));#41=IFCCARTESIANPOINT((0.,4.));#100=IFCRATIONALBEZIERCURVE(2,(#31,#40,#41),.CIRCULAR_ARC.,.F.,.F.,(1.,0.7071067811865476,1.));",
        2 * Pi,
        0,
        4
    )]
    public void Bezier_curves_of_IFC2X3_are_read(string data, double length, double x, double y)
    {
        var points = Read(data, "IFC2X3");
        Assert.InRange(Length(points) / length, 0.999, 1.001);
        Assert.True((points[^1] - new Vec3(x, y, 0)).Length < 0.001);
    }

    [Theory]
    [InlineData("#100=IFCBEZIERCURVE(3,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.);", "degree does not fit")]
    [InlineData("#100=IFCBEZIERCURVE(0,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.);", "degree does not fit")]
    [InlineData("#100=IFCRATIONALBEZIERCURVE(2,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.,(1.,1.));", "weights do not fit")]
    [InlineData("#100=IFCRATIONALBEZIERCURVE(2,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.,(1.,0.,1.));", "weights do not fit")]
    public void Bezier_curves_that_make_no_sense_say_why(string data, string words) =>
        Assert.Contains(words, Assert.Throws<ShapeException>(() => Read(data, "IFC2X3")).Message);

    [Fact]
    public void Angles_are_in_the_unit_of_the_file()
    {
        // The same quarter in degrees.
        string text = Sample
            .Text(
                "#40=IFCAXIS2PLACEMENT3D(#1,$,$);#41=IFCCIRCLE(#40,2.);#100=IFCTRIMMEDCURVE(#41,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(90.)),.T.,.PARAMETER.);#50=IFCCONVERSIONBASEDUNIT(#51,.PLANEANGLEUNIT.,'DEGREE',#52);#51=IFCDIMENSIONALEXPONENTS(0,0,0,0,0,0,0);#52=IFCMEASUREWITHUNIT(IFCPLANEANGLEMEASURE(0.017453292519943295),#53);#53=IFCSIUNIT(*,.PLANEANGLEUNIT.,$,.RADIAN.);"
            )
            .Replace("((#5))", "((#5,#50))");
        var model = IfcModel.Open(System.Text.Encoding.ASCII.GetBytes(text));
        Assert.InRange(
            Length(new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).Curve(model.File.IndexOf(100))),
            Pi * 0.999,
            Pi * 1.001
        );
    }

    // A line, a clothoid and an arc that follow each other, as a railway has them; A² = R · L.
    [Fact]
    public void Segments_of_an_alignment_follow_their_placements()
    {
        const string line =
            "#40=IFCDIRECTION((1.,0.));#41=IFCVECTOR(#40,1.);#42=IFCLINE(#30,#41);#43=IFCCURVESEGMENT(.CONTSAMEGRADIENT.,#33,IFCLENGTHMEASURE(0.),IFCLENGTHMEASURE(100.),#42);";
        const string clothoid =
            "#44=IFCCLOTHOID(#33,200.);#45=IFCCARTESIANPOINT((100.,0.));#46=IFCAXIS2PLACEMENT2D(#45,#40);#47=IFCCURVESEGMENT(.CONTSAMEGRADIENT.,#46,IFCLENGTHMEASURE(0.),IFCLENGTHMEASURE(80.),#44);";
        var points = Read(line + clothoid + "#100=IFCCOMPOSITECURVE((#43,#47),.F.);", "IFC4X3");
        Assert.Equal(180, Length(points), 0.05);
        // Series of the clothoid (Abramowitz and Stegun 7.3.11, 7.3.13): x = s − s⁵/40A⁴, y = s³/6A² − s⁷/336A⁶.
        double s = 80,
            a2 = 200.0 * 200;
        Assert.Equal(100 + s - (Math.Pow(s, 5) / (40 * a2 * a2)), points[^1].X, 0.01);
        Assert.Equal((Math.Pow(s, 3) / (6 * a2)) - (Math.Pow(s, 7) / (336 * a2 * a2 * a2)), points[^1].Y, 0.01);
    }

    [Fact]
    public void A_gradient_lifts_its_plan_and_elements_hang_on_it()
    {
        const string plan = "#40=IFCCARTESIANPOINT((100.,0.));#41=IFCPOLYLINE((#30,#40));";
        // A rise of one in ten over the whole length.
        const string rise =
            "#42=IFCDIRECTION((1.,0.1));#43=IFCVECTOR(#42,1.);#44=IFCLINE(#30,#43);#45=IFCAXIS2PLACEMENT2D(#30,#42);#46=IFCCURVESEGMENT(.CONTINUOUS.,#45,IFCLENGTHMEASURE(0.),IFCLENGTHMEASURE(100.498756),#44);#47=IFCGRADIENTCURVE((#46),.F.,#41,$);";
        var model = Sample.Model(
            Points
                + plan
                + rise
                + "#50=IFCPOINTBYDISTANCEEXPRESSION(IFCLENGTHMEASURE(40.),2.,0.5,$,#47);#51=IFCAXIS2PLACEMENTLINEAR(#50,$,$);#52=IFCLINEARPLACEMENT($,#51,$);#53=IFCSIGN('0000000000000000000053',$,'S',$,$,#52,$,$,$);",
            "m",
            "IFC4X3"
        );
        var reader = new ShapeReader(model, new IfcRelations(model), new IfcUnits(model));
        Assert.Equal(10, reader.Curve(model.File.IndexOf(47))[^1].Z, 0.001);
        var at = reader.Placements.Product(model.File.IndexOf(53));
        Assert.True(
            (at.Origin - new Vec3(40 - (0.5 * 0.0995), 2, 4 + (0.5 * 0.995))).Length < 0.01,
            at.Origin.ToString()
        );
        Assert.Equal(0.0995, at.X.Z, 0.001);
    }

    [Theory]
    [InlineData(
        "#100=IFCBSPLINECURVEWITHKNOTS(2,(#30,#31),.UNSPECIFIED.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.);",
        "do not fit together"
    )]
    [InlineData(
        "#100=IFCBSPLINECURVEWITHKNOTS(2,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.,(3,3),(1.,0.),.UNSPECIFIED.);",
        "do not ascend"
    )]
    [InlineData(
        "#100=IFCBSPLINECURVEWITHKNOTS(2,(#30,#31,#32),.UNSPECIFIED.,.F.,.F.,(3,2000000000),(0.,1.),.UNSPECIFIED.);",
        "do not fit together"
    )]
    [InlineData("#100=IFCOFFSETCURVE2D(#100,1.,.F.);", "refers to itself")]
    [InlineData("#100=IFCCOMPOSITECURVE((),.F.);", "no points")]
    public void Broken_curves_are_told(string data, string word) =>
        Assert.Contains(word, Assert.Throws<ShapeException>(() => Read(data)).Message);
}
