using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Materials as elements use them.</summary>
public class MaterialTests
{
    private const string Materials = "#40=IFCMATERIAL('Steel',$,$);#41=IFCMATERIAL('Brick',$,$);";

    private static IReadOnlyList<MaterialUse> Of(string data, string unit = "m")
    {
        var model = Sample.Model(
            $"{Materials}{data}#30=IFCMEMBER('0000000000000000000030',$,'M',$,$,$,$,$,$);#31=IFCRELASSOCIATESMATERIAL('0000000000000000000031',$,$,$,(#30),#50);",
            unit
        );
        var relations = new IfcRelations(model);
        return new MaterialReader(model, relations, new IfcUnits(model)).Of(model.File.IndexOf(30));
    }

    [Theory]
    [InlineData("#50=IFCMATERIALLIST((#40,#41));", "Steel Brick")]
    [InlineData(
        "#50=IFCMATERIALCONSTITUENTSET('Set',$,(#51,#52));#51=IFCMATERIALCONSTITUENT('Frame',$,#40,$,$);#52=IFCMATERIALCONSTITUENT('Fill',$,#41,$,$);",
        "Steel/Frame Brick/Fill"
    )]
    [InlineData(
        "#50=IFCMATERIALLAYERSET((#51,#52),'Wall',$);#51=IFCMATERIALLAYER(#41,0.115,$,'Outer',$,$,$);#52=IFCMATERIALLAYER($,0.04,.T.,$,$,$,$);",
        "Brick/Outer 0.115"
    )]
    [InlineData(
        "#50=IFCMATERIALPROFILESET('Set',$,(#51),$);#51=IFCMATERIALPROFILE('Web',$,#40,#52,$,$);#52=IFCISHAPEPROFILEDEF(.AREA.,'HEA 200',$,0.2,0.19,0.0065,0.01,0.018,$,$);",
        "Steel/HEA 200"
    )]
    [InlineData("#50=IFCMATERIALLAYERSETUSAGE(#50,.AXIS2.,.POSITIVE.,0.,$);", "")]
    public void All_forms_are_read(string data, string expected) =>
        Assert.Equal(
            expected,
            string.Join(
                ' ',
                Of(data)
                    .Where(m => m.Name.Length > 0)
                    .Select(m =>
                        FormattableString.Invariant(
                            $"{m.Name}{(m.Role.Length > 0 ? "/" + m.Role : "")}{(m.Thickness is { } t ? $" {t}" : "")}"
                        )
                    )
            )
        );

    [Theory]
    [InlineData(8, "hangs at cardinal point 8, top centre")]
    [InlineData(10, "hangs at cardinal point 10, centroid")]
    [InlineData(99, null)]
    [InlineData(-3, null)]
    public void The_cardinal_point_of_a_profile_is_told(int point, string? placed) =>
        Assert.Equal(
            placed,
            Assert
                .Single(
                    Of(
                        $"#50=IFCMATERIALPROFILESETUSAGE(#51,{point},$);#51=IFCMATERIALPROFILESET('Set',$,(#52),$);#52=IFCMATERIALPROFILE($,$,#40,$,$,$);"
                    )
                )
                .Placed
        );

    [Theory]
    [InlineData("AXIS2", "POSITIVE", "-0.15", "m", "layers run to +Y from -0.150 m")]
    [InlineData("AXIS3", "NEGATIVE", "0.", "m", "layers run to -Z from 0.000 m")]
    [InlineData("AXIS2", "POSITIVE", "150.", "mm", "layers run to +Y from +0.150 m")]
    public void The_place_of_layers_is_told(string axis, string sense, string offset, string unit, string placed) =>
        Assert.Equal(
            placed,
            Assert
                .Single(
                    Of(
                        $"#50=IFCMATERIALLAYERSETUSAGE(#51,.{axis}.,.{sense}.,{offset},$);#51=IFCMATERIALLAYERSET((#52),'W',$);#52=IFCMATERIALLAYER(#41,0.1,$,$,$,$,$);",
                        unit
                    )
                )
                .Placed
        );

    [Fact]
    public void The_type_answers_where_the_element_does_not()
    {
        var model = Sample.Model(
            Materials
                + "#30=IFCMEMBER('0000000000000000000030',$,'M',$,$,$,$,$,$);#32=IFCMEMBERTYPE('0000000000000000000032',$,'T',$,$,$,$,$,$,.MEMBER.);#33=IFCRELDEFINESBYTYPE('0000000000000000000033',$,$,$,(#30),#32);#31=IFCRELASSOCIATESMATERIAL('0000000000000000000031',$,$,$,(#32),#40);"
        );
        Assert.Equal(
            "Steel",
            Assert
                .Single(
                    new MaterialReader(model, new IfcRelations(model), new IfcUnits(model)).Of(model.File.IndexOf(30))
                )
                .Name
        );
    }
}
