namespace SteadyLintel.Tests;

/// <summary>Every kind of solid with the measures of its formula.</summary>
public static class SolidCases
{
    private const string Directions = "#10=IFCDIRECTION((1.,0.,0.));#11=IFCDIRECTION((0.,1.,0.));";
    private const string Disc =
        "#50=IFCCIRCLEPROFILEDEF(.AREA.,$,#49,0.2);#49=IFCAXIS2PLACEMENT2D(#48,$);#48=IFCCARTESIANPOINT((1.,0.));";
    private const string AxisY = "#40=IFCAXIS1PLACEMENT(#1,#11);";
    private const double Pi = Math.PI;

    /// <summary>Name, instances around #100, volume, area (0: not told), box size.</summary>
    public static TheoryData<string, string, double, double, double[]> Solids =>
        new()
        {
            // CSG primitives: handbook formulas.
            { "block", "#100=IFCBLOCK(#2,1.,2.,3.);", 6, 22, [1, 2, 3] },
            { "pyramid", "#100=IFCRECTANGULARPYRAMID(#2,2.,2.,3.);", 4, 4 + (4 * Math.Sqrt(10)), [2, 2, 3] },
            { "cone", "#100=IFCRIGHTCIRCULARCONE(#2,3.,1.);", Pi, Pi * (1 + Math.Sqrt(10)), [2, 2, 3] },
            { "cylinder", "#100=IFCRIGHTCIRCULARCYLINDER(#2,3.,1.);", 3 * Pi, 8 * Pi, [2, 2, 3] },
            { "sphere", "#100=IFCSPHERE(#2,0.5);", Pi / 6, Pi, [1, 1, 1] },
            {
                "CSG tree",
                "#60=IFCBLOCK(#2,1.,1.,1.);#61=IFCRIGHTCIRCULARCYLINDER(#63,2.,0.25);#62=IFCCARTESIANPOINT((0.5,0.5,-0.5));#63=IFCAXIS2PLACEMENT3D(#62,$,$);#64=IFCBOOLEANRESULT(.DIFFERENCE.,#60,#61);#100=IFCCSGSOLID(#64);",
                1 - (Pi / 16),
                6 - (2 * Pi / 16) + (Pi / 2),
                [1, 1, 1]
            },
            {
                "union",
                "#60=IFCBLOCK(#2,1.,1.,1.);#61=IFCBLOCK(#63,1.,1.,1.);#62=IFCCARTESIANPOINT((0.5,0.5,0.5));#63=IFCAXIS2PLACEMENT3D(#62,$,$);#64=IFCBOOLEANRESULT(.UNION.,#60,#61);#100=IFCCSGSOLID(#64);",
                1.875,
                10.5,
                [1.5, 1.5, 1.5]
            },
            {
                "intersection",
                "#60=IFCBLOCK(#2,1.,1.,1.);#61=IFCBLOCK(#63,1.,1.,1.);#62=IFCCARTESIANPOINT((0.5,0.5,0.5));#63=IFCAXIS2PLACEMENT3D(#62,$,$);#64=IFCBOOLEANRESULT(.INTERSECTION.,#60,#61);#100=IFCCSGSOLID(#64);",
                0.125,
                1.5,
                [0.5, 0.5, 0.5]
            },
            {
                "half-space in a box",
                "#60=IFCBLOCK(#2,1.,1.,1.);#62=IFCCARTESIANPOINT((0.,0.,0.25));#63=IFCAXIS2PLACEMENT3D(#62,$,$);#64=IFCPLANE(#63);#65=IFCBOUNDINGBOX(#1,2.,2.,2.);#66=IFCBOXEDHALFSPACE(#64,.F.,#65);#100=IFCBOOLEANRESULT(.DIFFERENCE.,#60,#66);",
                0.25,
                3,
                [1, 1, 0.25]
            },
            // Pappus: area of the profile times the way of its centroid; surface, its outline times that way.
            {
                "revolved full turn",
                Disc + Directions + AxisY + "#100=IFCREVOLVEDAREASOLID(#50,#2,#40,6.283185307179586);",
                0.04 * Pi * 2 * Pi,
                0.4 * Pi * 2 * Pi,
                [2.4, 0.4, 2.4]
            },
            {
                "revolved quarter",
                Disc + Directions + AxisY + "#100=IFCREVOLVEDAREASOLID(#50,#2,#40,1.5707963267948966);",
                0.04 * Pi * Pi / 2,
                (0.4 * Pi * Pi / 2) + (0.08 * Pi),
                [1.2, 0.4, 1.2]
            },
            {
                "revolved to a cone at its axis",
                "#50=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#51);#51=IFCPOLYLINE((#52,#53,#54,#52));#52=IFCCARTESIANPOINT((0.,0.));#53=IFCCARTESIANPOINT((1.,0.));#54=IFCCARTESIANPOINT((0.,3.));"
                    + Directions
                    + AxisY
                    + "#100=IFCREVOLVEDAREASOLID(#50,#2,#40,6.283185307179586);",
                Pi,
                Pi * (1 + Math.Sqrt(10)),
                [2, 3, 2]
            },
            // The radius shrinks evenly with the angle: the mean of r² is (a² + ab + b²) / 3. Just before the end it still reaches 2 mm further
            // than there.
            {
                "revolved tapered",
                Disc
                    + Directions
                    + AxisY
                    + "#51=IFCCIRCLEPROFILEDEF(.AREA.,$,#49,0.1);#100=IFCREVOLVEDAREASOLIDTAPERED(#50,#2,#40,1.5707963267948966,#51);",
                Pi * 0.07 / 3 * Pi / 2,
                0,
                [1.2, 0.4, 1.1019]
            },
            // Frustum of a pyramid: h / 3 · (A + a + √(A a)).
            {
                "extruded tapered",
                "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,2.);#51=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,1.,1.);#100=IFCEXTRUDEDAREASOLIDTAPERED(#50,#2,#3,3.,#51);",
                7,
                5 + (4 * 1.5 * Math.Sqrt(9.25)),
                [2, 2, 3]
            },
            {
                "swept disk, straight",
                "#30=IFCCARTESIANPOINT((0.,0.,0.));#31=IFCCARTESIANPOINT((0.,0.,2.));#32=IFCPOLYLINE((#30,#31));#100=IFCSWEPTDISKSOLID(#32,0.1,0.08,$,$);",
                0.0036 * Pi * 2,
                (2 * Pi * 0.18 * 2) + (2 * 0.0036 * Pi),
                [0.2, 0.2, 2]
            },
            // A mitre at a right angle: the centroid's way is the centre line.
            {
                "swept disk, mitred",
                "#30=IFCCARTESIANPOINT((0.,0.,0.));#31=IFCCARTESIANPOINT((1.,0.,0.));#33=IFCCARTESIANPOINT((1.,1.,0.));#32=IFCPOLYLINE((#30,#31,#33));#100=IFCSWEPTDISKSOLID(#32,0.1,$,$,$);",
                0.01 * Pi * 2,
                (0.2 * Pi * 2) + (0.02 * Pi),
                [1.1, 1.1, 0.2]
            },
            {
                "swept disk, filleted",
                "#30=IFCCARTESIANPOINT((0.,0.,0.));#31=IFCCARTESIANPOINT((1.,0.,0.));#33=IFCCARTESIANPOINT((1.,1.,0.));#32=IFCPOLYLINE((#30,#31,#33));#100=IFCSWEPTDISKSOLIDPOLYGONAL(#32,0.1,$,$,$,0.5);",
                0.01 * Pi * (1 + (Pi / 4)),
                (0.2 * Pi * (1 + (Pi / 4))) + (0.02 * Pi),
                [1.1, 1.1, 0.2]
            },
            {
                "swept disk, ring",
                "#32=IFCCIRCLE(#2,1.);#100=IFCSWEPTDISKSOLID(#32,0.1,$,$,$);",
                0.01 * Pi * 2 * Pi,
                0.2 * Pi * 2 * Pi,
                [2.2, 2.2, 0.2]
            },
            {
                "swept disk, part of a circle",
                "#32=IFCCIRCLE(#2,1.);#33=IFCTRIMMEDCURVE(#32,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(1.5707963267948966)),.T.,.PARAMETER.);#100=IFCSWEPTDISKSOLID(#33,0.1,$,$,$);",
                0.01 * Pi * Pi / 2,
                (0.2 * Pi * Pi / 2) + (0.02 * Pi),
                [1.1, 1.1, 0.2]
            },
            // A trimmed curve has the parameters of its basis: a sixth of a circle that is trimmed between 0 and a right angle; from 1 to 3 of
            // a line trimmed between 0 and 4.
            {
                "swept disk by parameters of a trimmed circle",
                "#32=IFCCIRCLE(#2,1.);#33=IFCTRIMMEDCURVE(#32,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(1.5707963267948966)),.T.,.PARAMETER.);#100=IFCSWEPTDISKSOLID(#33,0.1,$,0.2617993877991494,1.3089969389957472);",
                0.01 * Pi * Pi / 3,
                (0.2 * Pi * Pi / 3) + (0.02 * Pi),
                [
                    (1.1 * Math.Cos(Pi / 12)) - (0.9 * Math.Cos(5 * Pi / 12)),
                    (1.1 * Math.Sin(5 * Pi / 12)) - (0.9 * Math.Sin(Pi / 12)),
                    0.2,
                ]
            },
            {
                "swept disk by parameters of a trimmed line",
                "#30=IFCCARTESIANPOINT((0.,0.,0.));#31=IFCVECTOR(#3,0.5);#32=IFCLINE(#30,#31);#33=IFCTRIMMEDCURVE(#32,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(4.)),.T.,.PARAMETER.);#100=IFCSWEPTDISKSOLID(#33,0.1,$,1.,3.);",
                0.01 * Pi,
                (0.2 * Pi) + (0.02 * Pi),
                [0.2, 0.2, 1]
            },
            {
                "swept disk by parameters",
                "#30=IFCCARTESIANPOINT((0.,0.,0.));#31=IFCCARTESIANPOINT((0.,0.,2.));#33=IFCCARTESIANPOINT((0.,0.,6.));#32=IFCPOLYLINE((#30,#31,#33));#100=IFCSWEPTDISKSOLID(#32,0.1,$,0.5,1.5);",
                0.01 * Pi * 3,
                (0.2 * Pi * 3) + (0.02 * Pi),
                [0.2, 0.2, 3]
            },
            {
                "fixed reference",
                "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,0.2,0.1);#32=IFCCIRCLE(#2,1.);#33=IFCTRIMMEDCURVE(#32,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(3.141592653589793)),.T.,.PARAMETER.);#100=IFCFIXEDREFERENCESWEPTAREASOLID(#50,#2,#33,$,$,#3);",
                0.02 * Pi,
                (0.6 * Pi) + 0.04,
                [2.1, 1.05, 0.2]
            },
            {
                "surface curve swept",
                Directions
                    + "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,0.2,0.1);#32=IFCCIRCLE(#2,1.);#33=IFCTRIMMEDCURVE(#32,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(3.141592653589793)),.T.,.PARAMETER.);#34=IFCPLANE(#2);#100=IFCSURFACECURVESWEPTAREASOLID(#50,#2,#33,$,$,#34);",
                0.02 * Pi,
                (0.6 * Pi) + 0.04,
                [2.1, 1.05, 0.2]
            },
            {
                "sectioned spine",
                "#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,2.);#51=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,1.,1.);#30=IFCCARTESIANPOINT((0.,0.,3.));#31=IFCAXIS2PLACEMENT3D(#30,$,$);#32=IFCPOLYLINE((#1,#30));#33=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#32);#34=IFCCOMPOSITECURVE((#33),.F.);#100=IFCSECTIONEDSPINE(#34,(#50,#51),(#2,#31));",
                7,
                5 + (4 * 1.5 * Math.Sqrt(9.25)),
                [2, 2, 3]
            },
            {
                "tapered off a voided profile",
                "#50=IFCRECTANGLEHOLLOWPROFILEDEF(.AREA.,$,$,2.,2.,0.5,$,$);#51=IFCRECTANGLEHOLLOWPROFILEDEF(.AREA.,$,$,1.,1.,0.25,$,$);#100=IFCEXTRUDEDAREASOLIDTAPERED(#50,#2,#3,3.,#51);",
                7 - 1.75,
                0,
                [2, 2, 3]
            },
        };
}
