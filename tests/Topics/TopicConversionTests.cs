using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>From one version to the other, with a ledger.</summary>
public class TopicConversionTests
{
    [Fact]
    public void What_has_no_place_in_2_1_is_listed_and_the_rest_comes_back()
    {
        var archive = TopicSamples.Full();
        var down = TopicConversion.To(archive, TopicVersion.V21);
        Assert.Equal(["BCF-TO-FIELD-OF-VIEW", "BCF-TO-LEFT-OUT"], down.Findings.Select(f => f.Code));
        Assert.Equal(
            ["ServerAssignedId HW-7", $"AspectRatio of {TopicSamples.View}"],
            down.Findings[1].Elements.Select(e => e.Detail)
        );
        byte[] two = TopicSamples.Write(down);
        Assert.Equal("\u0001\u0002\u0003", TopicSamples.Entry(two, "documents/doc-1/plan.pdf"));
        var read = TopicSamples.Read(two);
        Assert.Empty(read.Findings);
        Assert.Equal("../documents/doc-1/plan.pdf", read.Topics[0].Documents[0].Path);

        var up = TopicSamples.Read(TopicSamples.Write(TopicConversion.To(read, TopicVersion.V30)));
        var topic = up.Topics[0];
        var v = archive.Topics[0].Viewpoints[0];
        var expected = archive.Topics[0] with
        {
            ServerAssignedId = null,
            Viewpoints =
            [
                v with
                {
                    Info = v.Info! with { Perspective = v.Info.Perspective! with { AspectRatio = null } },
                },
            ],
        };
        Assert.Equal(TopicText.Of(expected), TopicText.Of(topic));
        Assert.Equal(("plan.pdf", "The plan"), (up.Documents[0].Filename, up.Documents[0].Description));
        Assert.Equal([1, 2, 3], up.Parts.Single(p => p.Name == $"documents/{up.Documents[0].Guid}").Bytes());
    }

    [Fact]
    public void What_3_0_asks_for_and_2_1_did_not_say_is_listed()
    {
        var archive = TopicSamples.Read(
            TopicSamples.Zip(
                ("bcf.version", """<Version VersionId="2.1"/>"""),
                ("t/markup.bcf", """<Markup><Topic Guid="t"><Title>x</Title></Topic><Viewpoints Guid="v"/></Markup>"""),
                ("t/viewpoint.bcfv", """<VisualizationInfo Guid="v"/>""")
            )
        );
        var up = TopicConversion.To(archive, TopicVersion.V30);
        Assert.Equal(["BCF-TO-CAMERA", "BCF-TO-MISSING"], up.Findings.Select(f => f.Code));
        Assert.Equal(["TopicType", "TopicStatus"], up.Findings[1].Elements.Select(e => e.Detail));
    }

    [Fact]
    public void A_document_named_to_lead_out_of_the_archive_does_not()
    {
        var archive = TopicSamples.Full() with { Documents = [new TopicDocument("doc-1", "../../etc/passwd", null)] };
        byte[] two = TopicSamples.Write(TopicConversion.To(archive, TopicVersion.V21));
        var read = TopicSamples.Read(two);
        Assert.Equal("../documents/doc-1/passwd", read.Topics[0].Documents[0].Path);
        Assert.DoesNotContain(read.Findings, f => f.Code == "BCF-NAME-WRONG");
    }

    [Fact]
    public void Into_its_own_version_nothing_changes()
    {
        var archive = TopicSamples.Read(TopicSamples.File21());
        var same = TopicConversion.To(archive, TopicVersion.V21);
        Assert.Same(archive.Topics, same.Topics);
        Assert.Empty(same.Findings);
    }
}
