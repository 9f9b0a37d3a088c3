using System.Xml.Linq;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>What is written comes back, in the order the standard asks for, with what nobody knows.</summary>
public class TopicWritingTests
{
    private const string Topic = TopicSamples.Topic;

    [Fact]
    public void Everything_that_3_0_has_comes_back()
    {
        var archive = TopicSamples.Full();
        var read = TopicSamples.Read(TopicSamples.Write(archive));
        Assert.Empty(read.Findings);
        Assert.Equal(TopicText.Of(archive.Topics[0]), TopicText.Of(read.Topics[0]));
        Assert.Equal(TopicSamples.Png, read.Topics[0].Parts.Single(p => p.Name == "view.png").Bytes());
        Assert.Equal(archive.Documents, read.Documents);
        Assert.Equal(("p-1", "Heron Wharf"), (read.ProjectId, read.ProjectName));
        foreach (var list in TopicExtensions.Lists)
            Assert.Equal(list.Of(archive.Extensions!), list.Of(read.Extensions!));
        var camera = read.Topics[0].Viewpoints[0].Info!.Perspective;
        Assert.Equal(TopicSamples.FullView().Perspective, camera);
    }

    [Fact]
    public void Elements_are_in_the_order_of_the_standard()
    {
        // From memory of markup.xsd and visinfo.xsd of both versions: no schema file was to be had.
        string three = TopicSamples.Entry(TopicSamples.Write(TopicSamples.Full()), $"{Topic}/markup.bcf");
        var topic = XElement.Parse(three).Element("Topic")!;
        Assert.Equal(
            [
                "ReferenceLinks",
                "Title",
                "Priority",
                "Index",
                "Labels",
                "CreationDate",
                "CreationAuthor",
                "ModifiedDate",
                "ModifiedAuthor",
                "DueDate",
                "AssignedTo",
                "Stage",
                "Description",
                "BimSnippet",
                "DocumentReferences",
                "RelatedTopics",
                "Comments",
                "Viewpoints",
            ],
            topic.Elements().Select(e => e.Name.LocalName)
        );
        var two = TopicSamples.Write(TopicConversion.To(TopicSamples.Full(), TopicVersion.V21));
        var markup = XElement.Parse(TopicSamples.Entry(two, $"{Topic}/markup.bcf"));
        Assert.Equal(["Header", "Topic", "Comment", "Viewpoints"], markup.Elements().Select(e => e.Name.LocalName));
        Assert.Equal(
            [
                "ReferenceLink",
                "ReferenceLink",
                "Title",
                "Priority",
                "Index",
                "Labels",
                "Labels",
                "CreationDate",
                "CreationAuthor",
                "ModifiedDate",
                "ModifiedAuthor",
                "DueDate",
                "AssignedTo",
                "Stage",
                "Description",
                "BimSnippet",
                "DocumentReference",
                "DocumentReference",
                "RelatedTopic",
                "RelatedTopic",
            ],
            markup.Element("Topic")!.Elements().Select(e => e.Name.LocalName)
        );
        Assert.Equal(
            ["Components", "PerspectiveCamera", "Lines", "ClippingPlanes", "Bitmap"],
            XElement.Parse(TopicSamples.Entry(two, $"{Topic}/view.bcfv")).Elements().Select(e => e.Name.LocalName)
        );
    }

    [Fact]
    public void Elements_attributes_and_files_that_nobody_knows_are_written_back()
    {
        byte[] file = TopicSamples.File21(
            """<Weight unit="kg">12<Deep a="1"/></Weight><Weight>13</Weight><Price xmlns="urn:own">7</Price>""",
            "<Mood>calm</Mood>"
        );
        var first = TopicSamples.Read(file);
        byte[] again = TopicSamples.Write(first);
        var second = TopicSamples.Read(again);
        Assert.Equal(TopicText.Of(first.Topics[0]), TopicText.Of(second.Topics[0]));
        string markup = TopicSamples.Entry(again, $"{Topic}/markup.bcf");
        Assert.Contains("""<Weight unit="kg">12<Deep a="1" /></Weight>""", markup, StringComparison.Ordinal);
        Assert.Contains("<Weight>13</Weight>", markup, StringComparison.Ordinal);
        Assert.Contains("""<Price xmlns="urn:own">7</Price>""", markup, StringComparison.Ordinal);
        Assert.Contains("<Mood>calm</Mood>", markup, StringComparison.Ordinal);
        Assert.Equal("from a program of another kind", TopicSamples.Entry(again, "notes/readme.txt"));
        Assert.Equal("not a picture", TopicSamples.Entry(again, $"{Topic}/snapshot.png"));
    }

    [Theory]
    [InlineData("<Labels><Label>A</Label><Hint>h</Hint></Labels>", "<Hint>h</Hint>")]
    [InlineData("""<Title lang="cy">Drws</Title>""", "lang=\"cy\"")]
    [InlineData(
        """<Comments><Comment Guid="c"><Comment>x</Comment></Comment><Note>n</Note></Comments>""",
        "<Note>n</Note>"
    )]
    public void What_is_within_a_list_or_at_a_text_is_written_back_once(string inside, string expected)
    {
        var file = TopicSamples.Zip(
            ("bcf.version", """<Version VersionId="3.0"/>"""),
            ("t/markup.bcf", $"""<Markup><Topic Guid="t" TopicType="a" TopicStatus="b">{inside}</Topic></Markup>""")
        );
        byte[] again = TopicSamples.Write(TopicSamples.Read(file));
        byte[] third = TopicSamples.Write(TopicSamples.Read(again));
        string markup = TopicSamples.Entry(again, "t/markup.bcf");
        Assert.Equal(2, markup.Split(expected).Length);
        Assert.Equal(markup, TopicSamples.Entry(third, "t/markup.bcf"));
    }

    [Fact]
    public void The_same_topics_are_the_same_file()
    {
        Assert.Equal(TopicSamples.Write(TopicSamples.Full()), TopicSamples.Write(TopicSamples.Full()));
    }
}
