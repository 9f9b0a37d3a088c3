using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Topics;

namespace SteadyLintel.Web;

/// <summary>Topic files that parties of the demo send: BCF 3.0 from the structural engineer, BCF 2.1 from the services engineer, who
/// works in a frame of their own.</summary>
internal sealed class DemoTopicFiles(DemoScene scene)
{
    private const string Engineer = "engineer@structure.example",
        Planner = "planner@services.example";

    /// <summary>What the structural engineer asks, in the frame that all but services share.</summary>
    public TopicArchive Structure() =>
        Archive(
            TopicVersion.V30,
            "3d5c8a1e-0b1f-4a57-9c1b-7a4f2e6d9001",
            [
                Topic(
                    "8f0b6d52-5c0e-4a6c-9a59-1f6e0c3d1001",
                    "Column base below the quay slab",
                    "The base plate is 40 mm below the top of the slab. Is the recess in the architect's model?",
                    "Question",
                    "ARC",
                    Engineer,
                    6,
                    scene.Find(1, "IfcColumn", "Quay level", 2)
                ) with
                {
                    Comments =
                    [
                        Comment("8f0b6d52-5c0e-4a6c-9a59-1f6e0c3d1011", Engineer, 3, "Same at the next three columns."),
                    ],
                },
                Topic(
                    "8f0b6d52-5c0e-4a6c-9a59-1f6e0c3d1002",
                    "Beams of the gallery: fire rating?",
                    "No rating is stated for the beams of the gallery.",
                    "Request",
                    "ARC",
                    Engineer,
                    4,
                    scene.Find(1, "IfcBeam", "Gallery", 4)
                ),
            ]
        );

    /// <summary>What the services engineer asks; views are in the frame of the services model.</summary>
    public TopicArchive Services()
    {
        var own = DemoRoute.ServicesFrame.Inverse();
        var archive = Archive(
            TopicVersion.V21,
            "5b7e2c90-41c3-4f0e-8d11-2f3a9b7c5002",
            [
                Topic(
                    "c41d7a36-92f8-4b1e-b0a4-66d0f7a52001",
                    "Duct under the concourse ceiling",
                    "Can the ceiling be 100 mm lower along this duct?",
                    "Question",
                    "ARC",
                    Planner,
                    5,
                    scene.Find(2, "IfcDuctSegment", "Concourse")
                ),
                Topic(
                    "c41d7a36-92f8-4b1e-b0a4-66d0f7a52002",
                    "Duct crosses a beam of the gallery",
                    "The duct needs an opening, or the beam another height.",
                    "Collision",
                    "STR",
                    Planner,
                    8,
                    [.. scene.Find(2, "IfcDuctSegment", "Gallery"), .. scene.Find(1, "IfcBeam", "Gallery")]
                ),
            ]
        );
        return archive with
        {
            Topics =
            [
                .. archive.Topics.Select(t =>
                    t with
                    {
                        Files = [new HeaderFile { Filename = "HW-SRV-services.ifc" }],
                        Viewpoints = [.. t.Viewpoints.Select(v => v with { Info = ViewMove.Into(v.Info!, own) })],
                    }
                ),
            ],
        };
    }

    private static TopicArchive Archive(TopicVersion version, string project, IReadOnlyList<Topic> topics) =>
        new()
        {
            Version = version,
            ProjectId = project,
            ProjectName = "Heron Wharf",
            Extensions = Jobs.TopicSettings.Words with { Users = [Engineer, Planner] },
            Topics = topics,
        };

    private Topic Topic(
        string guid,
        string title,
        string text,
        string type,
        string to,
        string author,
        int daysAgo,
        string[] elements
    )
    {
        var view = scene.Around(elements);
        string name = $"{guid[..^4]}8{guid[^3..]}";
        return new Topic
        {
            Guid = guid,
            Title = title,
            Description = text,
            Type = type,
            Status = "Open",
            Priority = "Normal",
            Labels = ["coordinates"],
            AssignedTo = to,
            CreationAuthor = author,
            CreationDate = Day(-daysAgo),
            DueDate = Day(7),
            Viewpoints =
            [
                new Viewpoint
                {
                    Guid = name,
                    File = $"{name}.bcfv",
                    Snapshot = $"{name}.png",
                    Info = ViewTranslation.FromDocument(name, view, true, view.Hidden, DemoScene.Aspect),
                },
            ],
            Parts = [TopicPart.Of($"{name}.png", scene.Picture(view))],
        };
    }

    private static TopicComment Comment(string guid, string author, int daysAgo, string text) =>
        new()
        {
            Guid = guid,
            Author = author,
            Date = Day(-daysAgo),
            Text = text,
        };

    private static string Day(int days) =>
        DateTime
            .UtcNow.Date.AddDays(days)
            .AddHours(9)
            .ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
