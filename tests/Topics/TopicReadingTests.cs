using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Files written by hand are read value by value.</summary>
public class TopicReadingTests
{
    [Fact]
    public void A_file_of_2_1_is_read_value_by_value()
    {
        var archive = TopicSamples.Read(TopicSamples.File21());
        Assert.Equal(
            (TopicVersion.V21, "p-1", "Heron Wharf"),
            (archive.Version, archive.ProjectId, archive.ProjectName)
        );
        Assert.Equal(["Open", "Closed"], archive.Extensions!.Statuses);
        Assert.Equal(["minutes.txt", "notes/readme.txt"], archive.Parts.Select(p => p.Name).Order());
        var t = Assert.Single(archive.Topics);
        Assert.Equal(
            ("Clash", "Open", "Duct & beam", "High", "3", "3"),
            (t.Type, t.Status, t.Title, t.Priority, t.Index, t.Stage)
        );
        Assert.Equal(
            ("2026-11-02T10:00:00+01:00", "ann@arc.example", "2026-11-03T08:30:00Z", "bo@mep.example"),
            (t.CreationDate, t.CreationAuthor, t.ModifiedDate, t.ModifiedAuthor)
        );
        Assert.Equal(
            ("2026-12-01T00:00:00Z", "bo@mep.example", "Line one\nline two"),
            (t.DueDate, t.AssignedTo, t.Description)
        );
        Assert.Equal(["MEP", "Level 2"], t.Labels);
        Assert.Equal(["https://wharf.example/1"], t.ReferenceLinks);
        Assert.Equal(["r-1"], t.RelatedTopics);
        Assert.Equal(
            new BimSnippet("IFC", true, "https://wharf.example/s.ifc", "https://wharf.example/IFC4.xsd"),
            t.Snippet
        );
        var document = Assert.Single(t.Documents);
        Assert.Equal(
            ("d-1", "../minutes.txt", null, "Minutes"),
            (document.Guid, document.Path, document.Url, document.Description)
        );
        var file = Assert.Single(t.Files);
        Assert.Equal(
            ("0M6o7Znnv7hxsbWgeu7oQq", false, "arc.ifc", "2026-11-02T10:00:00Z", "../arc.ifc"),
            (file.IfcProject, file.IsExternal, file.Filename, file.Date, file.Reference)
        );
        var comment = Assert.Single(t.Comments);
        Assert.Equal(
            (TopicSamples.Comment, "2026-11-02T11:00:00Z", "bo@mep.example", "Who moves?", TopicSamples.View),
            (comment.Guid, comment.Date, comment.Author, comment.Text, comment.Viewpoint)
        );
    }

    [Fact]
    public void A_viewpoint_of_2_1_is_read_value_by_value()
    {
        var v = TopicSamples.Read(TopicSamples.File21()).Topics[0].Viewpoints.Single();
        Assert.Equal(("viewpoint.bcfv", "snapshot.png", "1"), (v.File, v.Snapshot, v.Index));
        var info = v.Info!;
        Assert.Equal([new ViewComponent(TopicSamples.Wall, "Own", "17")], info.Selection);
        Assert.False(info.Visibility!.Default);
        Assert.Equal([TopicSamples.Wall, TopicSamples.Door], info.Visibility.Exceptions.Select(c => c.IfcGuid));
        Assert.Equal(new ViewHints(false, false, true), info.Visibility.Hints);
        Assert.Equal(
            ("FF00FF00", TopicSamples.Door),
            (info.Colouring.Single().Colour, info.Colouring.Single().Components.Single().IfcGuid)
        );
        Assert.Equal(new ViewCamera(new Vec3(1.5, -2, 30), Vec3.AxisY, Vec3.AxisZ, 60, null), info.Perspective);
        Assert.Null(info.Orthogonal);
        Assert.Equal((Vec3.Zero, new Vec3(1, 2, 3)), info.Lines.Single());
        Assert.Equal((new Vec3(0, 0, 4.8), Vec3.AxisZ), info.ClippingPlanes.Single());
        Assert.Equal(
            new ViewBitmap("png", "mark.png", new Vec3(1, 1, 1), Vec3.AxisZ, Vec3.AxisY, 2),
            info.Bitmaps.Single()
        );
        Assert.Same(Extras.None, info.Extras);
        Assert.Same(Extras.None, info.ComponentExtras);
    }

    [Fact]
    public void A_file_of_2_0_has_flags_at_its_components()
    {
        var archive = TopicSamples.Read(
            TopicSamples.Zip(
                ("bcf.version", """<Version VersionId="2.0"/>"""),
                (
                    "t-1/markup.bcf",
                    """<Markup><Topic Guid="t-1" TopicStatus="Open"><Title>Old</Title><DocumentReferences Guid="d" isExternal="true"><ReferencedDocument>https://wharf.example/x</ReferencedDocument></DocumentReferences><RelatedTopics Guid="t-2"/></Topic><Comment Guid="c-1"><VerbalStatus>asked</VerbalStatus><Status>Error</Status><Date>2015-01-01T00:00:00Z</Date><Author>a@b.example</Author><Comment>Look</Comment><Topic Guid="t-1"/></Comment><Viewpoints Guid="v-1"/></Markup>"""
                ),
                (
                    "t-1/viewpoint.bcfv",
                    """<VisualizationInfo><Components><Component IfcGuid="A" Selected="true" Visible="true" Color="FF0000"/><Component IfcGuid="B" Visible="false"/></Components><OrthogonalCamera><CameraViewPoint><X>0</X><Y>0</Y><Z>10</Z></CameraViewPoint><CameraDirection><X>0</X><Y>0</Y><Z>-1</Z></CameraDirection><CameraUpVector><X>0</X><Y>1</Y><Z>0</Z></CameraUpVector><ViewToWorldScale>12.5</ViewToWorldScale></OrthogonalCamera></VisualizationInfo>"""
                )
            )
        );
        var t = archive.Topics.Single();
        Assert.Equal(TopicVersion.V20, archive.Version);
        Assert.Equal("https://wharf.example/x", t.Documents.Single().Url);
        Assert.Equal(["t-2"], t.RelatedTopics);
        Assert.Equal(2, t.Comments.Single().Extras.Elements.Count);
        var info = t.Viewpoints.Single().Info!;
        Assert.Equal("A", info.Selection.Single().IfcGuid);
        Assert.Equal((true, "B"), (info.Visibility!.Default, info.Visibility.Exceptions.Single().IfcGuid));
        Assert.Equal("FF0000", info.Colouring.Single().Colour);
        Assert.Equal(12.5, info.Orthogonal!.Extent);
        var written = TopicSamples.Read(TopicSamples.Write(TopicConversion.To(archive, TopicVersion.V21)));
        Assert.Equal(
            TopicText.Of(t with { Viewpoints = [] }),
            TopicText.Of(written.Topics[0] with { Viewpoints = [] })
        );
    }

    [Fact]
    public void What_is_wrong_with_a_file_is_found()
    {
        var archive = TopicSamples.Read(TopicSamples.File21("<Extra>1</Extra>").ToArray());
        // The snapshot is a text, and the person is in no list because there is none.
        Assert.Equal(["BCF-PICTURE-WRONG"], archive.Findings.Select(f => f.Code));
        var worse = TopicSamples.Read(
            TopicSamples.Zip(
                ("bcf.version", """<Version VersionId="9.9"/>"""),
                (
                    "t/markup.bcf",
                    """<Markup><Topic Guid="t" TopicStatus="Lost"><Title/><CreationDate>soon</CreationDate></Topic><Comment Guid="c"><Comment>x</Comment><Viewpoint Guid="none"/></Comment><Viewpoints Guid="v"><Viewpoint>gone.bcfv</Viewpoint><Snapshot>gone.png</Snapshot></Viewpoints></Markup>"""
                ),
                ("u/markup.bcf", """<Markup><Topic Guid="T"><Title>again</Title></Topic></Markup>"""),
                ("w/markup.bcf", "<Markup><Topic Guid="),
                (
                    "extensions.xml",
                    "<Extensions><TopicStatuses><TopicStatus>Open</TopicStatus></TopicStatuses></Extensions>"
                )
            )
        );
        Assert.Equal(
            [
                "BCF-MARKUP-DAMAGED",
                "BCF-TOPIC-DUPLICATE",
                "BCF-COMMENT-VIEWPOINT",
                "BCF-DATE-WRONG",
                "BCF-PICTURE-MISSING",
                "BCF-VALUE-MISSING",
                "BCF-VERSION-UNKNOWN",
                "BCF-VIEWPOINT-MISSING",
                "BCF-WORD-UNKNOWN",
            ],
            worse.Findings.Select(f => f.Code)
        );
        Assert.Equal(["u/markup.bcf", "w/markup.bcf"], worse.Parts.Select(p => p.Name).Order());
        Assert.Contains("line 1", worse.Findings[0].Elements[0].Detail, StringComparison.OrdinalIgnoreCase);
        Assert.Equal(Severity.Error, worse.Findings[0].Severity);
    }
}
