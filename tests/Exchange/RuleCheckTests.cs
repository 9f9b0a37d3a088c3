using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

public class RuleCheckTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private const string Storey =
        "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#21=IFCBUILDING('0000000000000000000021',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);#22=IFCBUILDINGSTOREY('0000000000000000000022',$,'L',$,$,$,$,$,.ELEMENT.,0.);"
        + "#23=IFCRELAGGREGATES('0000000000000000000023',$,$,$,#7,(#20));#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#20,(#21));#25=IFCRELAGGREGATES('0000000000000000000025',$,$,$,#21,(#22));";
    private const string Wall =
        "#30=IFCWALL('0000000000000000000030',$,'W',$,$,$,$,$,$);#31=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000031',$,$,$,(#30),#22);";

    private static IReadOnlyList<Finding> Check(string data, string schema = "IFC4") =>
        RuleCheck.Read(ModelSnapshot.Open(Encoding.Latin1.GetBytes(Sample.Text(data, "m", schema))));

    [Fact]
    public void A_sound_model_has_no_findings() => Assert.Empty(Check(Storey + Wall));

    [Theory]
    [InlineData("#40=IFCWALL('0000000000000000000040',$,'W',$,$,$,$,$);", "IFC-ATTRIBUTE-COUNT", "8 for 9")]
    [InlineData("#40=IFCCARTESIANPOINT($);", "IFC-ATTRIBUTE-REQUIRED", "Coordinates")]
    [InlineData("#40=IFCDIRECTION((1.,'x',0.));", "IFC-ATTRIBUTE-KIND", "DirectionRatios should be number")]
    [InlineData("#40=IFCDIRECTION(1.);", "IFC-ATTRIBUTE-KIND", "DirectionRatios is no list")]
    [InlineData("#40=IFCLOCALPLACEMENT(2.,#2);", "IFC-ATTRIBUTE-KIND", "PlacementRelTo is no reference")]
    [InlineData(
        "#40=IFCLOCALPLACEMENT(#2,#2);",
        "IFC-ATTRIBUTE-CLASS",
        "PlacementRelTo is IfcAxis2Placement3D, not IfcObjectPlacement"
    )]
    [InlineData("#40=IFCLOCALPLACEMENT($,#3);", "IFC-SELECT-VALUE", "RelativePlacement is IfcDirection")]
    [InlineData(
        "#40=IFCWALLTYPE('0000000000000000000040',$,'W',$,$,$,$,$,$,.BRICK.);",
        "IFC-ENUMERATION-VALUE",
        "PredefinedType = .BRICK."
    )]
    [InlineData(
        "#40=IFCPROPERTYSINGLEVALUE('a',$,'bare',$);",
        "IFC-SELECT-VALUE",
        "NominalValue has a value without its type"
    )]
    [InlineData("#40=IFCPROPERTYSINGLEVALUE('a',$,IFCWEIGHT(1.),$);", "IFC-SELECT-VALUE", "NominalValue = IFCWEIGHT")]
    [InlineData("#40=IFCPOLYLOOP(());", "IFC-LIST-EMPTY", "Polygon")]
    [InlineData("#40=IFCPOLYLOOP((#1,#1));", "IFC-LIST-BOUNDS", "Polygon has 2, not 3 to any number")]
    [InlineData("#40=IFCPOLYLINE((#1));", "IFC-LIST-BOUNDS", "Points has 1, not 2 to any number")]
    [InlineData(
        "#40=IFCCARTESIANPOINTLIST3D(((0.,0.,0.),(1.,1.)),$);",
        "IFC-LIST-BOUNDS",
        "A list in CoordList has 2, not 3"
    )]
    [InlineData(
        "#40=IFCINDEXEDPOLYGONALFACEWITHVOIDS((1,2,3),((4,5)));",
        "IFC-LIST-BOUNDS",
        "A list in InnerCoordIndices has 2, not 3 to any number"
    )]
    [InlineData("#40=IFCCOLOURRGBLIST(((1.,0.,0.),()));", "IFC-LIST-EMPTY", "A list in ColourList")]
    [InlineData("#40=IFCDIRECTION((1.,0.,0.,0.));", "IFC-LIST-BOUNDS", "DirectionRatios has 4, not 2 to 3")]
    [InlineData(
        "#40=IFCTRIMMEDCURVE(#41,(#1,#1,#1),(#1),.T.,.CARTESIAN.);#41=IFCPOLYLINE((#1,#1));",
        "IFC-LIST-BOUNDS",
        "Trim1 has 3, not 1 to 2"
    )]
    [InlineData("#40=IFCPROPERTYSINGLEVALUE('a',$,IFCLABEL('M\u00FCller'),$);", "STEP-TEXT-LATIN1", "NominalValue")]
    [InlineData("#40=IFCPROPERTYSINGLEVALUE('a',$,IFCLABEL('M\u00C3\u00BCller'),$);", "STEP-TEXT-UTF8", "NominalValue")]
    [InlineData("#40=IFCPROPERTYSINGLEVALUE('a',$,IFCAREAMEASURE(1.),$);", "IFC-UNIT-INCOMPLETE", "AREAUNIT")]
    [InlineData(
        "#40=IFCPROPERTYSINGLEVALUE('a',$,IFCAREAMEASURE(1.),#5);#41=IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.);",
        "IFC-UNIT-MEASURE",
        "IFCAREAMEASURE in LENGTHUNIT"
    )]
    [InlineData(
        "#40=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000040',$,$,$,(#30),#21);",
        "IFC-CONTAINED-TWICE",
        ""
    )]
    [InlineData(
        "#40=IFCBUILDINGSTOREY('0000000000000000000040',$,'M',$,$,$,$,$,.ELEMENT.,3.);",
        "IFC-STRUCTURE-LOOSE",
        ""
    )]
    [InlineData(
        "#40=IFCWALLTYPE('0000000000000000000040',$,'W',$,$,$,$,$,$,.NOTDEFINED.);#41=IFCWALLTYPE('0000000000000000000041',$,'V',$,$,$,$,$,$,.NOTDEFINED.);#42=IFCRELDEFINESBYTYPE('0000000000000000000042',$,$,$,(#30),#40);#43=IFCRELDEFINESBYTYPE('0000000000000000000043',$,$,$,(#30),#41);",
        "IFC-TYPE-TWICE",
        ""
    )]
    public void A_broken_rule_is_found_with_its_place(string data, string code, string detail)
    {
        var finding = Assert.Single(Check(Storey + Wall + data), f => f.Code == code);
        Assert.Equal(1, finding.Count);
        Assert.Equal(detail, finding.Elements[0].Detail);
        Assert.True(finding.Elements[0].StepId >= 20);
    }

    [Theory]
    [InlineData("#40=IFCPLANE(#2);#41=IFCPOLYLINE((#1,#1));#42=IFCCURVEBOUNDEDPLANE(#40,#41,());")]
    [InlineData("#40=IFCCARTESIANPOINT((1.));")]
    public void Lists_that_may_be_short_or_empty_are_no_finding(string data) =>
        Assert.Empty(Check(Storey + Wall + data));

    // The report names a thousand of a kind and counts the rest; one kind never hides another.
    [Fact]
    public void Many_cases_of_one_rule_leave_room_for_others()
    {
        string many =
            string.Concat(Enumerable.Range(100, 2500).Select(i => $"#{i}=IFCCARTESIANPOINT($);"))
            + "#90000=IFCLOCALPLACEMENT(#2,#2);";
        var findings = Check(many);
        Assert.Equal(
            (2500, Finding.MaxElements),
            (
                findings.Single(f => f.Code == "IFC-ATTRIBUTE-REQUIRED").Count,
                findings.Single(f => f.Code == "IFC-ATTRIBUTE-REQUIRED").Elements.Count
            )
        );
        Assert.Equal(Severity.Error, findings.Single(f => f.Code == "IFC-ATTRIBUTE-CLASS").Severity);
        Assert.Equal(90000, findings.Single(f => f.Code == "IFC-ATTRIBUTE-CLASS").Elements[0].StepId);
    }

    [Fact]
    public void Parts_that_hold_each_other_are_a_circle()
    {
        const string circle =
            "#40=IFCELEMENTASSEMBLY('0000000000000000000040',$,'A',$,$,$,$,$,$,$);#41=IFCELEMENTASSEMBLY('0000000000000000000041',$,'B',$,$,$,$,$,$,$);#42=IFCRELAGGREGATES('0000000000000000000042',$,$,$,#40,(#41));#43=IFCRELAGGREGATES('0000000000000000000043',$,$,$,#41,(#40));";
        Assert.Equal(2, Assert.Single(Check(Storey + circle), f => f.Code == "IFC-STRUCTURE-CIRCLE").Count);
    }

    [Fact]
    public void There_must_be_one_project() =>
        Assert.Contains(Check("#40=IFCPROJECT('0000000000000000000040',$,'Q',$,$,$,$,(#8),#6);"), f =>
            f.Code == "IFC-PROJECT-COUNT"
        );

    [Fact]
    public void Words_of_one_edition_are_unknown_to_another()
    {
        const string pipe = "#40=IFCPIPESEGMENTTYPE('0000000000000000000040',$,'P',$,$,$,$,$,$,.CULVERT.);";
        Assert.DoesNotContain(Check(pipe, "IFC4"), f => f.Code == "IFC-ENUMERATION-VALUE");
        Assert.Contains(Check(pipe, "IFC2X3"), f => f.Code == "IFC-ENUMERATION-VALUE");
    }

    [Fact]
    public void The_demo_breaks_no_rule_but_those_it_is_meant_to() =>
        Assert.DoesNotContain(demo.Snapshots.Values.SelectMany(s => RuleCheck.Read(s)), f =>
            f.Code.StartsWith("IFC-ATTRIBUTE", StringComparison.Ordinal)
            || f.Code.StartsWith("IFC-UNIT", StringComparison.Ordinal)
            || f.Code.StartsWith("IFC-SELECT", StringComparison.Ordinal)
        );
}
