using System.Text.Json;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>bcf-js reads the topics we write, value by value.</summary>
public class TopicOutsideTests
{
    [Theory]
    [InlineData("2.1")]
    [InlineData("3.0")]
    public void Another_reader_finds_the_same_values(string version)
    {
        var archive = TopicSamples.Full();
        // bcf-js looks for coloured components of 3.0 where 2.1 has them.
        if (version == "3.0")
            archive = archive with { Topics = [.. archive.Topics.Select(Uncoloured)] };
        using var folder = new TestFolder();
        string path = folder.File("topics.bcfzip");
        File.WriteAllBytes(path, TopicSamples.Write(TopicConversion.To(archive, TopicVersions.Written(version))));
        var read = OutsideReaders.Bcf(version, path);
        var t = archive.Topics[0];
        var theirs = read.GetProperty("topics")[0].GetProperty("topic");
        Assert.Equal(
            [t.Guid, t.Type, t.Status, t.Title, t.Priority, t.CreationDate, t.CreationAuthor, t.ModifiedDate],
            Texts(
                theirs,
                "guid",
                "topic_type",
                "topic_status",
                "title",
                "priority",
                "creation_date",
                "creation_author",
                "modified_date"
            )
        );
        Assert.Equal(
            [t.ModifiedAuthor, t.AssignedTo, t.Description],
            Texts(theirs, "modified_author", "assigned_to", "description")
        );
        Assert.Equal(t.Labels, theirs.GetProperty("labels").EnumerateArray().Select(l => l.GetString()));
        Assert.Equal(
            t.ReferenceLinks,
            theirs.GetProperty("reference_links").EnumerateArray().Select(l => l.GetString())
        );
        var c = t.Comments[0];
        Assert.Equal(
            [c.Guid, c.Date, c.Author, c.Text, c.ModifiedDate, c.ModifiedAuthor],
            Texts(
                theirs.GetProperty("comments")[0],
                "guid",
                "date",
                "author",
                "comment",
                "modified_date",
                "modified_author"
            )
        );
        Assert.Contains(
            c.Viewpoint!,
            theirs.GetProperty("comments")[0].GetProperty("viewpoint").ToString(),
            StringComparison.Ordinal
        );
        Assert.Equal(
            [t.Viewpoints[0].Guid, "view.bcfv", "view.png"],
            Texts(theirs.GetProperty("viewpoints")[0], "guid", "viewpoint", "snapshot")
        );
        View(read.GetProperty("topics")[0].GetProperty("viewpoints")[0], t.Viewpoints[0].Info!);
    }

    private static void View(JsonElement theirs, ViewInfo info)
    {
        var camera = theirs.GetProperty("perspective_camera");
        var at = camera.GetProperty("camera_view_point");
        var own = info.Perspective!;
        Assert.Equal(
            (own.ViewPoint.X, own.ViewPoint.Y, own.ViewPoint.Z, own.Extent),
            (Number(at, "x"), Number(at, "y"), Number(at, "z"), Number(camera, "field_of_view"))
        );
        var components = theirs.GetProperty("components");
        Assert.Equal(info.Selection.Select(s => s.IfcGuid), Guids(components.GetProperty("selection")));
        var visibility = components.GetProperty("visibility");
        Assert.Equal("false", visibility.GetProperty("default_visibility").ToString().ToLowerInvariant());
        Assert.Equal(info.Visibility!.Exceptions.Select(s => s.IfcGuid), Guids(visibility.GetProperty("exceptions")));
        foreach (
            var (colour, of) in info.Colouring.Zip(
                info.Colouring.Count == 0 ? [] : components.GetProperty("coloring").EnumerateArray()
            )
        )
        {
            Assert.Equal(colour.Colour, of.GetProperty("color").GetString());
            Assert.Equal(colour.Components.Select(s => s.IfcGuid), Guids(of.GetProperty("components")));
        }
    }

    private static Topic Uncoloured(Topic t) =>
        t with
        {
            Viewpoints = [.. t.Viewpoints.Select(v => v with { Info = v.Info! with { Colouring = [] } })],
        };

    private static IEnumerable<string?> Texts(JsonElement of, params string[] names) =>
        names.Select(n => of.GetProperty(n).GetString());

    private static IEnumerable<string?> Guids(JsonElement list) =>
        list.EnumerateArray().Select(c => c.GetProperty("ifc_guid").GetString());

    private static double Number(JsonElement of, string name) => of.GetProperty(name).GetDouble();
}
