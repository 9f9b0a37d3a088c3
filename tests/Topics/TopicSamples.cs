using System.IO.Compression;
using System.Text;
using SteadyLintel.Geometry;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Topic files for tests: written by hand as the standard has them (from memory), and one that has everything.</summary>
internal static class TopicSamples
{
    public const string Topic = "6d2b3f0e-1a2b-4c3d-8e4f-000000000001",
        Comment = "6d2b3f0e-1a2b-4c3d-8e4f-0000000000c1",
        View = "6d2b3f0e-1a2b-4c3d-8e4f-0000000000f1",
        Wall = "2O2Fr$t4X7Zf8NOew3FLOH",
        Door = "1hqIFTRjfV6AWq_bMtnZwI";

    public static readonly byte[] Png = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3, 4];

    /// <summary>A ZIP archive of texts.</summary>
    public static byte[] Zip(params (string Name, string Text)[] entries) =>
        Zip(entries.Select(e => (e.Name, Encoding.UTF8.GetBytes(e.Text))));

    public static byte[] Zip(IEnumerable<(string Name, byte[] Bytes)> entries)
    {
        var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            foreach (var (name, bytes) in entries)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }

        return stream.ToArray();
    }

    public static TopicArchive Read(byte[] zip, TopicLimits? limits = null) =>
        TopicArchiveReader.Read(TopicArchiveReader.Open(new MemoryStream(zip)), limits);

    public static byte[] Write(TopicArchive archive)
    {
        var stream = new MemoryStream();
        TopicArchiveWriter.Write(archive, stream);
        return stream.ToArray();
    }

    /// <summary>The text of a file of an archive.</summary>
    public static string Entry(byte[] zip, string name)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        using var reader = new StreamReader(archive.GetEntry(name)!.Open());
        return reader.ReadToEnd();
    }

    /// <summary>A topic of 2.1.</summary>
    public static byte[] File21(string more = "", string moreComment = "") =>
        Zip(
            ("bcf.version", """<Version VersionId="2.1"><DetailedVersion>2.1</DetailedVersion></Version>"""),
            (
                "project.bcfp",
                """<ProjectExtension><Project ProjectId="p-1"><Name>Heron Wharf</Name></Project><ExtensionSchema>extensions.xsd</ExtensionSchema></ProjectExtension>"""
            ),
            (
                "extensions.xsd",
                """<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:redefine schemaLocation="markup.xsd"><xs:simpleType name="TopicStatus"><xs:restriction base="TopicStatus"><xs:enumeration value="Open"/><xs:enumeration value="Closed"/></xs:restriction></xs:simpleType></xs:redefine></xs:schema>"""
            ),
            (
                $"{Topic}/markup.bcf",
                $"""
                <Markup><Header><File IfcProject="0M6o7Znnv7hxsbWgeu7oQq" isExternal="false"><Filename>arc.ifc</Filename><Date>2026-11-02T10:00:00Z</Date><Reference>../arc.ifc</Reference></File></Header>
                <Topic Guid="{Topic}" TopicType="Clash" TopicStatus="Open"><ReferenceLink>https://wharf.example/1</ReferenceLink><Title>Duct &amp; beam</Title><Priority>High</Priority><Index>3</Index><Labels>MEP</Labels><Labels>Level 2</Labels><CreationDate>2026-11-02T10:00:00+01:00</CreationDate><CreationAuthor>ann@arc.example</CreationAuthor><ModifiedDate>2026-11-03T08:30:00Z</ModifiedDate><ModifiedAuthor>bo@mep.example</ModifiedAuthor><DueDate>2026-12-01T00:00:00Z</DueDate><AssignedTo>bo@mep.example</AssignedTo><Stage>3</Stage><Description>Line one
                line two</Description><BimSnippet SnippetType="IFC" isExternal="true"><Reference>https://wharf.example/s.ifc</Reference><ReferenceSchema>https://wharf.example/IFC4.xsd</ReferenceSchema></BimSnippet><DocumentReference Guid="d-1" isExternal="false"><ReferencedDocument>../minutes.txt</ReferencedDocument><Description>Minutes</Description></DocumentReference><RelatedTopic Guid="r-1"/>{more}</Topic>
                <Comment Guid="{Comment}"><Date>2026-11-02T11:00:00Z</Date><Author>bo@mep.example</Author><Comment>Who moves?</Comment><Viewpoint Guid="{View}"/>{moreComment}</Comment>
                <Viewpoints Guid="{View}"><Viewpoint>viewpoint.bcfv</Viewpoint><Snapshot>snapshot.png</Snapshot><Index>1</Index></Viewpoints></Markup>
                """
            ),
            (
                $"{Topic}/viewpoint.bcfv",
                $"""
                <VisualizationInfo Guid="{View}"><Components><ViewSetupHints SpacesVisible="false" SpaceBoundariesVisible="false" OpeningsVisible="true"/><Selection><Component IfcGuid="{Wall}"><OriginatingSystem>Own</OriginatingSystem><AuthoringToolId>17</AuthoringToolId></Component></Selection><Visibility DefaultVisibility="false"><Exceptions><Component IfcGuid="{Wall}"/><Component IfcGuid="{Door}"/></Exceptions></Visibility><Coloring><Color Color="FF00FF00"><Component IfcGuid="{Door}"/></Color></Coloring></Components>
                <PerspectiveCamera><CameraViewPoint><X>1.5</X><Y>-2</Y><Z>3E1</Z></CameraViewPoint><CameraDirection><X>0</X><Y>1</Y><Z>0</Z></CameraDirection><CameraUpVector><X>0</X><Y>0</Y><Z>1</Z></CameraUpVector><FieldOfView>60</FieldOfView></PerspectiveCamera>
                <Lines><Line><StartPoint><X>0</X><Y>0</Y><Z>0</Z></StartPoint><EndPoint><X>1</X><Y>2</Y><Z>3</Z></EndPoint></Line></Lines><ClippingPlanes><ClippingPlane><Location><X>0</X><Y>0</Y><Z>4.8</Z></Location><Direction><X>0</X><Y>0</Y><Z>1</Z></Direction></ClippingPlane></ClippingPlanes>
                <Bitmap><Bitmap>PNG</Bitmap><Reference>mark.png</Reference><Location><X>1</X><Y>1</Y><Z>1</Z></Location><Normal><X>0</X><Y>0</Y><Z>1</Z></Normal><Up><X>0</X><Y>1</Y><Z>0</Z></Up><Height>2</Height></Bitmap></VisualizationInfo>
                """
            ),
            ($"{Topic}/snapshot.png", "not a picture"),
            ($"{Topic}/mark.png", "m"),
            ("minutes.txt", "Said on Monday."),
            ("notes/readme.txt", "from a program of another kind")
        );

    /// <summary>Everything that 3.0 has.</summary>
    public static TopicArchive Full(string title = "Door swings into the rail") =>
        new()
        {
            Version = TopicVersion.V30,
            ProjectId = "p-1",
            ProjectName = "Heron Wharf",
            Extensions = new TopicExtensions
            {
                Types = ["Question"],
                Statuses = ["Open", "Closed"],
                Priorities = ["High"],
                Labels = ["MEP", "Doors"],
                Users = ["ann@arc.example"],
                SnippetTypes = ["IFC"],
                Stages = ["3"],
            },
            Documents = [new TopicDocument("doc-1", "plan.pdf", "The plan")],
            Parts = [TopicPart.Of("documents/doc-1", [1, 2, 3])],
            Topics =
            [
                new Topic
                {
                    Guid = Topic,
                    ServerAssignedId = "HW-7",
                    Type = "Question",
                    Status = "Open",
                    ReferenceLinks = ["https://wharf.example/1", "https://wharf.example/2"],
                    Title = title,
                    Priority = "High",
                    Index = "1",
                    Labels = ["Doors", "MEP"],
                    CreationDate = "2026-11-02T10:00:00Z",
                    CreationAuthor = "ann@arc.example",
                    ModifiedDate = "2026-11-03T10:00:00Z",
                    ModifiedAuthor = "ann@arc.example",
                    DueDate = "2026-12-01T00:00:00Z",
                    AssignedTo = "ann@arc.example",
                    Stage = "3",
                    Description = "See <picture> & say",
                    Snippet = new BimSnippet("IFC", false, "door.ifc", "IFC4.xsd"),
                    Documents =
                    [
                        new DocumentReference
                        {
                            Guid = "d-1",
                            Document = "doc-1",
                            Description = "The plan",
                        },
                        new DocumentReference { Guid = "d-2", Url = "https://wharf.example/plan" },
                    ],
                    RelatedTopics = ["r-1", "r-2"],
                    Files =
                    [
                        new HeaderFile
                        {
                            IfcProject = "0M6o7Znnv7hxsbWgeu7oQq",
                            IsExternal = true,
                            Filename = "arc.ifc",
                            Date = "2026-11-01T00:00:00Z",
                            Reference = "https://wharf.example/arc.ifc",
                        },
                    ],
                    Comments =
                    [
                        new TopicComment
                        {
                            Guid = Comment,
                            Date = "2026-11-02T11:00:00Z",
                            Author = "bo@mep.example",
                            Text = "Turn it",
                            Viewpoint = View,
                            ModifiedDate = "2026-11-02T12:00:00Z",
                            ModifiedAuthor = "bo@mep.example",
                        },
                    ],
                    Viewpoints =
                    [
                        new Viewpoint
                        {
                            Guid = View,
                            File = "view.bcfv",
                            Snapshot = "view.png",
                            Index = "0",
                            Info = FullView(),
                        },
                    ],
                    Parts = [TopicPart.Of("view.png", Png), TopicPart.Of("door.ifc", "ISO"u8.ToArray())],
                },
            ],
        };

    public static ViewInfo FullView() =>
        new()
        {
            Guid = View,
            Selection = [new ViewComponent(Wall, "Own", "17")],
            Visibility = new ViewVisibility(
                false,
                [new ViewComponent(Wall, null, null), new ViewComponent(Door, null, null)],
                new ViewHints(false, true, false)
            ),
            Colouring = [new ViewColour("FF8800", [new ViewComponent(Door, null, null)])],
            Perspective = new ViewCamera(new Vec3(0.1, -2.25, 1e-7), Vec3.AxisY, Vec3.AxisZ, 75, 1.6),
            Lines = [(Vec3.Zero, new Vec3(1, 2, 3))],
            ClippingPlanes = [(new Vec3(0, 0, 4.8), Vec3.AxisZ)],
            Bitmaps = [new ViewBitmap("png", "view.png", Vec3.AxisX, Vec3.AxisZ, Vec3.AxisY, 2.5)],
        };
}
