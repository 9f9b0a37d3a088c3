using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

/// <summary>Which instances go with a chosen element, kind by kind.</summary>
public class SubsetTests
{
    // Two walls on one storey; wall #20 has everything that can hang on an element, wall #21 shares some of it.
    private const string Data = """
        ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;
        #1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(#3),#2);
        #2=IFCUNITASSIGNMENT((#4));
        #3=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#5,$);
        #4=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
        #5=IFCAXIS2PLACEMENT3D(#6,$,$);
        #6=IFCCARTESIANPOINT((0.,0.,0.));
        #7=IFCMAPCONVERSION(#3,#8,1.,2.,3.,$,$,$);
        #8=IFCPROJECTEDCRS('EPSG:25832',$,$,$,$,$,$);
        #10=IFCBUILDING('0000000000000000000010',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);
        #11=IFCBUILDINGSTOREY('0000000000000000000011',$,'One',$,$,$,$,$,.ELEMENT.,0.);
        #12=IFCBUILDINGSTOREY('0000000000000000000012',$,'Two',$,$,$,$,$,.ELEMENT.,4.);
        #13=IFCRELAGGREGATES('0000000000000000000013',$,$,$,#1,(#10));
        #14=IFCRELAGGREGATES('0000000000000000000014',$,$,$,#10,(#11,#12));
        #20=IFCWALL('0000000000000000000020',$,'W1',$,$,$,#30,$,$);
        #21=IFCWALL('0000000000000000000021',$,'W2',$,$,$,#31,$,$);
        #22=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000022',$,$,$,(#20,#21),#11);
        #30=IFCPRODUCTDEFINITIONSHAPE($,$,(#32));
        #31=IFCPRODUCTDEFINITIONSHAPE($,$,(#33));
        #32=IFCSHAPEREPRESENTATION(#3,'Body','SweptSolid',(#34));
        #33=IFCSHAPEREPRESENTATION(#3,'Body','SweptSolid',(#35));
        #34=IFCBLOCK(#5,1.,1.,1.);
        #35=IFCBLOCK(#5,2.,1.,1.);
        #36=IFCSTYLEDITEM(#34,(#37),$);
        #37=IFCSURFACESTYLE($,.BOTH.,(#38));
        #38=IFCSURFACESTYLESHADING(#39,$);
        #39=IFCCOLOURRGB($,1.,0.,0.);
        #40=IFCPRESENTATIONLAYERASSIGNMENT('A-WALL',$,(#32,#33),$);
        #41=IFCSHAPEASPECT((#42),'aspect',$,.F.,#30);
        #42=IFCSHAPEREPRESENTATION(#3,'Body','SweptSolid',(#34));
        #50=IFCMATERIAL('Brick',$,$);
        #51=IFCRELASSOCIATESMATERIAL('0000000000000000000051',$,$,$,(#20,#21),#50);
        #52=IFCMATERIALPROPERTIES('Thermal',$,(#53),#50);
        #53=IFCPROPERTYSINGLEVALUE('Conductivity',$,IFCREAL(0.6),$);
        #60=IFCPROPERTYSET('0000000000000000000060',$,'Set',$,(#61));
        #61=IFCPROPERTYSINGLEVALUE('A',$,IFCLABEL('a'),$);
        #62=IFCRELDEFINESBYPROPERTIES('0000000000000000000062',$,$,$,(#20),#60);
        #63=IFCWALLTYPE('0000000000000000000063',$,'T',$,$,$,$,$,$,.STANDARD.);
        #64=IFCRELDEFINESBYTYPE('0000000000000000000064',$,$,$,(#20),#63);
        #65=IFCMATERIAL('Type material',$,$);
        #66=IFCRELASSOCIATESMATERIAL('0000000000000000000066',$,$,$,(#63),#65);
        #67=IFCRELDECLARES('0000000000000000000067',$,$,$,#1,(#63));
        #70=IFCZONE('0000000000000000000070',$,'Z',$,$,$);
        #71=IFCRELASSIGNSTOGROUP('0000000000000000000071',$,$,$,(#20,#21),$,#70);
        #72=IFCRELCONNECTSELEMENTS('0000000000000000000072',$,$,$,$,#20,#21);
        #73=IFCCLASSIFICATIONREFERENCE($,'W',$,$,$,$);
        #74=IFCRELASSOCIATESCLASSIFICATION('0000000000000000000074',$,$,$,(#20),#73);
        #80=IFCOPENINGELEMENT('0000000000000000000080',$,$,$,$,$,$,$,$);
        #81=IFCRELVOIDSELEMENT('0000000000000000000081',$,$,$,#20,#80);
        #82=IFCDOOR('0000000000000000000082',$,'D',$,$,$,$,$,$,$,$,$,$);
        #83=IFCRELFILLSELEMENT('0000000000000000000083',$,$,$,#80,#82);
        #84=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000084',$,$,$,(#82),#12);
        #90=IFCELEMENTASSEMBLY('0000000000000000000090',$,'Assembly',$,$,$,$,$,$,$);
        #91=IFCMEMBER('0000000000000000000091',$,'Part',$,$,$,$,$,$);
        #92=IFCRELAGGREGATES('0000000000000000000092',$,$,$,#90,(#91));
        #93=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000093',$,$,$,(#90),#12);
        ENDSEC;END-ISO-10303-21;
        """;

    private static StepFile Subset(params string[] names)
    {
        var snapshot = ModelSnapshot.Open(Encoding.ASCII.GetBytes(Data));
        using var stream = new MemoryStream();
        SubsetWriter.Write(
            snapshot,
            SubsetPlan.Of(snapshot, [.. snapshot.Elements.Where(e => names.Contains(e.Name))], []),
            null,
            "x",
            "",
            stream
        );
        return StepFile.Read(stream.ToArray());
    }

    private static string Raw(StepFile file, int id) => Encoding.ASCII.GetString(file.Raw(file.IndexOf(id)));

    [Theory]
    [InlineData("project, units, contexts and the map", 1, 2, 3, 4, 7, 8)]
    [InlineData("spatial structure above", 10, 11, 13, 14)]
    [InlineData("shape, style and shape aspect", 30, 32, 34, 36, 37, 38, 39, 41, 42)]
    [InlineData("material with its properties", 50, 51, 52, 53)]
    [InlineData("property set", 60, 61, 62)]
    [InlineData("type with its material", 63, 64, 65, 66, 67)]
    [InlineData("group and classification", 70, 71, 73, 74)]
    [InlineData("opening", 80, 81)]
    public void A_wall_brings_what_belongs_to_it(string what, params int[] ids)
    {
        var file = Subset("W1");
        Assert.All(ids, id => Assert.True(file.IndexOf(id) >= 0, $"{what}: #{id} is missing"));
    }

    [Fact]
    public void It_leaves_what_belongs_to_others()
    {
        var file = Subset("W1");
        Assert.All(new[] { 12, 21, 31, 33, 35, 72, 82, 83, 84, 90, 91, 92, 93 }, id =>
            Assert.True(file.IndexOf(id) < 0, $"#{id} should have stayed")
        );
    }

    [Fact]
    public void Lists_are_cut_to_who_is_there()
    {
        var file = Subset("W1");
        Assert.Equal("#22=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000022',$,$,$,(#20),#11);", Raw(file, 22));
        Assert.Equal("#14=IFCRELAGGREGATES('0000000000000000000014',$,$,$,#10,(#11));", Raw(file, 14));
        Assert.Equal("#40=IFCPRESENTATIONLAYERASSIGNMENT('A-WALL',$,(#32),$);", Raw(file, 40));
        Assert.Equal("#51=IFCRELASSOCIATESMATERIAL('0000000000000000000051',$,$,$,(#20),#50);", Raw(file, 51));
        Assert.Equal("#71=IFCRELASSIGNSTOGROUP('0000000000000000000071',$,$,$,(#20),$,#70);", Raw(file, 71));
    }

    [Fact]
    public void Nothing_in_a_subset_points_outside()
    {
        foreach (
            string[] names in (string[][])
                [
                    ["W1"],
                    ["W2"],
                    ["D"],
                    ["Part"],
                    ["Assembly"],
                    ["W1", "D"],
                    [],
                ]
        )
        {
            var file = Subset(names);
            for (int i = 0; i < file.Count; i++)
            {
                var ids = new List<int>();
                StepReferences.Collect(file.Raw(i)[1..], ids);
                Assert.All(ids, id => Assert.True(file.IndexOf(id) >= 0, $"#{file.Id(i)} points to #{id}"));
            }
        }
    }

    [Fact]
    public void A_connection_stays_when_both_ends_do()
    {
        Assert.True(Subset("W1", "W2").IndexOf(72) >= 0);
        Assert.True(Subset("W2").IndexOf(72) < 0);
    }

    [Fact]
    public void A_door_fills_its_opening_only_when_the_wall_is_there()
    {
        Assert.True(Subset("W1", "D").IndexOf(83) >= 0);
        var alone = Subset("D");
        Assert.True(alone.IndexOf(83) < 0 && alone.IndexOf(80) < 0 && alone.IndexOf(82) >= 0);
    }

    [Fact]
    public void A_part_alone_is_contained_by_a_relationship_of_its_own_always_the_same()
    {
        var file = Subset("Part");
        var again = ModelSnapshot.Open(file.Bytes);
        Assert.Equal("Two", again.StoreyName(Assert.Single(again.Elements).Storey));
        Assert.Equal(file.Bytes.ToArray(), Subset("Part").Bytes.ToArray());
    }

    [Fact]
    public void A_part_with_its_whole_keeps_their_relationship()
    {
        var file = Subset("Part", "Assembly");
        Assert.True(file.IndexOf(92) >= 0 && file.IndexOf(93) >= 0);
        Assert.Equal(2, ModelSnapshot.Open(file.Bytes).Elements.Count(e => e.Storey >= 0));
    }

    [Fact]
    public void Nothing_chosen_is_an_empty_project() => Assert.Empty(ModelSnapshot.Open(Subset().Bytes).Elements);

    // Groups of groups, each relationship in front of the one that lets it in; and styles of styles. A pass over what waits for each link
    // would take minutes.
    [Fact]
    public void A_long_chain_in_reverse_order_is_followed_to_its_end()
    {
        const int links = 100_000,
            first = 1_000_000;
        var chain = new StringBuilder();
        for (int i = links; i > 0; i--)
        {
            chain.Append(
                $"#{first + (3 * i) + 1}=IFCRELASSIGNSTOGROUP('{i:0000000000000000000000}',$,$,$,(#{(i == 1 ? 20 : first + (3 * (i - 1)))}),$,#{first + (3 * i)});"
            );
            chain.Append(
                $"#{first + (3 * i)}=IFCGROUP('1{i:000000000000000000000}',$,'G',$,$);#{first + (3 * i) + 2}=IFCSTYLEDITEM(#{(i == 1 ? 34 : first + (3 * (i - 1)) + 2)},(#37),$);\n"
            );
        }

        var snapshot = ModelSnapshot.Open(
            Encoding.ASCII.GetBytes(Data.Replace("ENDSEC;END-ISO", chain + "ENDSEC;END-ISO", StringComparison.Ordinal))
        );
        var plan = SubsetPlan.Of(snapshot, [.. snapshot.Elements.Where(e => e.Name == "W1")], []);
        for (int i = 1; i <= links; i++)
        for (int k = 0; k < 3; k++)
            Assert.True(plan.Has(snapshot.Model.File.IndexOf(first + (3 * i) + k)));
        var other = SubsetPlan.Of(snapshot, [.. snapshot.Elements.Where(e => e.Name == "Assembly")], []);
        Assert.False(other.Has(snapshot.Model.File.IndexOf(first + 3)));
    }
}
