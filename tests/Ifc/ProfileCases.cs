namespace SteadyLintel.Tests;

/// <summary>Every parametric profile with its area by formula.</summary>
public static class ProfileCases
{
    private const double QuarterFillet = 1 - (Math.PI / 4);

    /// <summary>The profile's attributes in metres, and its area by formula. The solid is 1 m deep, so volume equals area.</summary>
    public static TheoryData<string, string, double> Areas =>
        new()
        {
            { "IFCRECTANGLEPROFILEDEF", "0.3,0.5", 0.15 },
            { "IFCROUNDEDRECTANGLEPROFILEDEF", "0.3,0.5,0.05", 0.15 - (4 * QuarterFillet * 0.0025) },
            { "IFCRECTANGLEHOLLOWPROFILEDEF", "0.2,0.1,0.01,$,$", 0.02 - (0.18 * 0.08) },
            {
                "IFCRECTANGLEHOLLOWPROFILEDEF",
                "0.12,0.12,0.006,0.009,0.012",
                (0.0144 - (4 * QuarterFillet * 0.000144)) - (0.108 * 0.108 - (4 * QuarterFillet * 0.000081))
            },
            { "IFCCIRCLEPROFILEDEF", "0.25", Math.PI * 0.0625 },
            { "IFCCIRCLEHOLLOWPROFILEDEF", "0.1365,0.01", Math.PI * ((0.1365 * 0.1365) - (0.1265 * 0.1265)) },
            { "IFCELLIPSEPROFILEDEF", "0.3,0.2", Math.PI * 0.06 },
            { "IFCTRAPEZIUMPROFILEDEF", "0.4,0.2,0.3,0.05", 0.3 * 0.3 },
            {
                "IFCLSHAPEPROFILEDEF",
                "0.1,0.08,0.01,0.012,$,$",
                (0.1 * 0.01) + (0.07 * 0.01) + (QuarterFillet * 0.000144)
            },
            {
                "IFCUSHAPEPROFILEDEF",
                "0.2,0.075,0.0085,0.0115,0.012,$,$",
                (0.2 * 0.0085) + (2 * 0.0665 * 0.0115) + (2 * QuarterFillet * 0.000144)
            },
            {
                "IFCCSHAPEPROFILEDEF",
                "0.2,0.07,0.003,0.02,$",
                (0.2 * 0.003) + (2 * 0.067 * 0.003) + (2 * 0.017 * 0.003)
            },
            {
                "IFCZSHAPEPROFILEDEF",
                "0.2,0.08,0.01,0.012,0.015,$",
                (0.2 * 0.01) + (2 * 0.07 * 0.012) + (2 * QuarterFillet * 0.000225)
            },
            {
                "IFCTSHAPEPROFILEDEF",
                "0.15,0.1,0.01,0.012,0.01,$,$,$,$",
                (0.1 * 0.012) + (0.138 * 0.01) + (2 * QuarterFillet * 0.0001)
            },
            {
                "IFCASYMMETRICISHAPEPROFILEDEF",
                "0.3,0.4,0.01,0.02,0.015,0.2,0.016,0.01,$,$,$,$",
                (0.3 * 0.02)
                    + (0.2 * 0.016)
                    + (0.364 * 0.01)
                    + (2 * QuarterFillet * 0.000225)
                    + (2 * QuarterFillet * 0.0001)
            },
        };

    /// <summary>A profile, turned and moved, extruded by a metre as #100.</summary>
    public static string Extruded(string kind, string attributes) =>
        $"#49=IFCAXIS2PLACEMENT2D(#48,#47);#48=IFCCARTESIANPOINT((3.,4.));#47=IFCDIRECTION((0.6,0.8));#50={kind}(.AREA.,$,#49,{attributes});#100=IFCEXTRUDEDAREASOLID(#50,#2,#3,1.);";
}
