using System.Xml;
using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>Reads a <c>markup.bcf</c> of 2.0, 2.1 or 3.0. A list of 3.0 in a file of 2.1 is read too, and the reverse: programs
/// mix them.</summary>
internal static class MarkupReader
{
    /// <summary>Reads a topic; its parts and what its viewpoints show are not here.</summary>
    /// <exception cref="XmlException">The markup has no topic with a GUID of letters, digits and hyphens.</exception>
    public static Topic Read(XElement root)
    {
        var markup = new ElementFields(root);
        if (markup.One("Topic") is not { } element)
            throw new XmlException("The markup has no topic.");
        var (files, headerExtras) = Header(markup);
        var topic = new ElementFields(markup.Take(element));
        // The folder is named like it: it must not lead anywhere.
        string guid =
            topic.Attribute("Guid") is { Length: > 0 } g
            && g.All(c => char.IsLetterOrDigit(c) || c is '-' or '_' or '$')
                ? g
                : throw new XmlException("The topic has no GUID.");
        var comments = Comments(markup).Concat(Within(topic, "Comments", Comments)).ToList();
        var viewpoints = Viewpoints(markup, "Viewpoints")
            .Concat(Within(topic, "Viewpoints", v => Viewpoints(v, "ViewPoint")))
            .ToList();
        var read = new Topic
        {
            Guid = guid,
            ServerAssignedId = topic.Attribute("ServerAssignedId"),
            Type = topic.Attribute("TopicType"),
            Status = topic.Attribute("TopicStatus"),
            ReferenceLinks = [.. topic.Texts("ReferenceLink"), .. topic.List("ReferenceLinks", "ReferenceLink")],
            Title = topic.Text("Title"),
            Priority = topic.Text("Priority"),
            Index = topic.Text("Index"),
            Labels = [.. topic.List("Labels", "Label"), .. topic.Texts("Labels")],
            CreationDate = topic.Text("CreationDate"),
            CreationAuthor = topic.Text("CreationAuthor"),
            ModifiedDate = topic.Text("ModifiedDate"),
            ModifiedAuthor = topic.Text("ModifiedAuthor"),
            DueDate = topic.Text("DueDate"),
            AssignedTo = topic.Text("AssignedTo"),
            Stage = topic.Text("Stage"),
            Description = topic.Text("Description"),
            Snippet = Snippet(topic),
            Documents = [.. Documents(topic), .. Within(topic, "DocumentReferences", Documents)],
            RelatedTopics = [.. Related(topic), .. Within(topic, "RelatedTopics", Related)],
            Files = files,
            Comments = comments,
            Viewpoints = viewpoints,
            HeaderExtras = headerExtras,
        };
        return read with { Extras = topic.Rest(), MarkupExtras = markup.Rest() };
    }

    // A list in an element of its own, as 3.0 has them. What else is in it stays where it was.
    private static List<T> Within<T>(ElementFields parent, string name, Func<ElementFields, IEnumerable<T>> read)
    {
        var found = new List<T>();
        foreach (var list in parent.All(name).Where(e => e.HasElements && !e.HasAttributes).ToList())
        {
            var inner = new ElementFields(list);
            var entries = read(inner).ToList();
            found.AddRange(entries);
            if (entries.Count > 0)
                parent.TakeList(list, inner);
        }

        return found;
    }

    private static (IReadOnlyList<HeaderFile>, Extras) Header(ElementFields markup)
    {
        if (markup.One("Header") is not { } element)
            return ([], Extras.None);
        var header = new ElementFields(markup.Take(element));
        List<HeaderFile> files = [.. Files(header), .. Within(header, "Files", Files)];
        return (files, header.Rest());
    }

    private static IEnumerable<HeaderFile> Files(ElementFields parent) =>
        parent
            .All("File")
            .ToList()
            .Select(e =>
            {
                var f = new ElementFields(parent.Take(e));
                var file = new HeaderFile
                {
                    IfcProject = f.Attribute("IfcProject"),
                    SpatialElement = f.Attribute("IfcSpatialStructureElement"),
                    IsExternal = f.Flag("IsExternal"),
                    Filename = f.Text("Filename"),
                    Date = f.Text("Date"),
                    Reference = f.Text("Reference"),
                };
                return file with { Extras = f.Rest() };
            });

    private static IEnumerable<TopicComment> Comments(ElementFields parent) =>
        parent
            .All("Comment")
            .Where(e => e.Attribute("Guid") is { Value.Length: > 0 })
            .ToList()
            .Select(e =>
            {
                var c = new ElementFields(parent.Take(e));
                string? viewpoint = null;
                if (c.One("Viewpoint") is { } v && v.Attribute("Guid") is { } of)
                {
                    c.Take(v);
                    viewpoint = of.Value;
                }

                // 2.0 names the topic again in every comment.
                if (c.One("Topic") is { HasElements: false } back)
                    c.Take(back);
                var comment = new TopicComment
                {
                    Guid = c.Attribute("Guid")!,
                    Date = c.Text("Date"),
                    Author = c.Text("Author"),
                    Text = c.Text("Comment"),
                    Viewpoint = viewpoint,
                    ModifiedDate = c.Text("ModifiedDate"),
                    ModifiedAuthor = c.Text("ModifiedAuthor"),
                };
                return comment with { Extras = c.Rest() };
            });

    private static IEnumerable<Viewpoint> Viewpoints(ElementFields parent, string name) =>
        parent
            .All(name)
            .Where(e => e.Attribute("Guid") is { Value.Length: > 0 })
            .ToList()
            .Select(e =>
            {
                var v = new ElementFields(parent.Take(e));
                var viewpoint = new Viewpoint
                {
                    Guid = v.Attribute("Guid")!,
                    File = v.Text("Viewpoint"),
                    Snapshot = v.Text("Snapshot"),
                    Index = v.Text("Index"),
                };
                return viewpoint with { Extras = v.Rest() };
            });

    private static BimSnippet? Snippet(ElementFields topic)
    {
        if (topic.One("BimSnippet") is not { } element)
            return null;
        var s = new ElementFields(topic.Take(element));
        var snippet = new BimSnippet(
            s.Attribute("SnippetType"),
            s.Flag("IsExternal"),
            s.Text("Reference"),
            s.Text("ReferenceSchema")
        );
        return snippet with { Extras = s.Rest() };
    }

    private static IEnumerable<string> Related(ElementFields parent) =>
        [
            .. parent
                .All("RelatedTopic")
                .Concat(parent.All("RelatedTopics").Where(e => !e.HasElements))
                .Where(e => e.Attribute("Guid") is { Value.Length: > 0 })
                .ToList()
                .Select(e => parent.Take(e).Attribute("Guid")!.Value),
        ];

    // 2.0 calls them DocumentReferences too, but without an element round them.
    private static IEnumerable<DocumentReference> Documents(ElementFields parent) =>
        parent
            .All("DocumentReference")
            .Concat(parent.All("DocumentReferences").Where(e => e.Element("ReferencedDocument") is not null))
            .ToList()
            .Select(e =>
            {
                var d = new ElementFields(parent.Take(e));
                bool external = d.Flag("IsExternal") ?? false;
                string? referenced = d.Text("ReferencedDocument");
                var reference = new DocumentReference
                {
                    Guid = d.Attribute("Guid"),
                    Document = d.Text("DocumentGuid"),
                    Url = d.Text("Url") ?? (external ? referenced : null),
                    Path = external ? null : referenced,
                    Description = d.Text("Description"),
                };
                return reference with { Extras = d.Rest() };
            });
}
