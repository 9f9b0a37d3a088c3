using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>Writes a <c>markup.bcf</c> of 2.1 or 3.0, elements in the order of the schema (from memory: no schema file was to be
/// had).</summary>
internal sealed class MarkupWriter(TopicVersion version)
{
    private bool V3 => version == TopicVersion.V30;

    /// <summary>The markup of a topic.</summary>
    public XElement Write(Topic t)
    {
        var markup = new ElementBuilder("Markup", t.MarkupExtras);
        if (t.Files.Count > 0 || t.HeaderExtras.Count > 0)
            markup.Add(Header(t));
        markup.Add(TopicElement(t));
        if (!V3)
            markup.AddAll(t.Comments.Select(Comment)).AddAll(t.Viewpoints.Select(v => View("Viewpoints", v)));
        return markup.Element();
    }

    private XElement Header(Topic t)
    {
        var header = new ElementBuilder("Header", t.HeaderExtras);
        var files = t.Files.Select(f =>
            new ElementBuilder("File", f.Extras)
                .Attribute("IfcProject", f.IfcProject)
                .Attribute("IfcSpatialStructureElement", f.SpatialElement)
                .Flag(External, f.IsExternal)
                .Text("Filename", f.Filename)
                .Text("Date", f.Date)
                .Text("Reference", f.Reference)
                .Element()
        );
        return (V3 ? header.List("Files", files) : header.AddAll(files)).Element();
    }

    private string External => V3 ? "IsExternal" : "isExternal";

    private XElement TopicElement(Topic t)
    {
        var topic = new ElementBuilder("Topic", t.Extras)
            .Attribute("Guid", t.Guid)
            .Attribute("ServerAssignedId", t.ServerAssignedId)
            .Attribute("TopicType", t.Type)
            .Attribute("TopicStatus", t.Status);
        Texts(topic, "ReferenceLinks", "ReferenceLink", "ReferenceLink", t.ReferenceLinks);
        topic.Text("Title", t.Title).Text("Priority", t.Priority).Text("Index", t.Index);
        Texts(topic, "Labels", "Label", "Labels", t.Labels);
        topic
            .Text("CreationDate", t.CreationDate)
            .Text("CreationAuthor", t.CreationAuthor)
            .Text("ModifiedDate", t.ModifiedDate)
            .Text("ModifiedAuthor", t.ModifiedAuthor)
            .Text("DueDate", t.DueDate)
            .Text("AssignedTo", t.AssignedTo)
            .Text("Stage", t.Stage)
            .Text("Description", t.Description)
            .Add(t.Snippet is { } s ? Snippet(s) : null);
        var documents = t.Documents.Select(Document);
        var related = t.RelatedTopics.Select(g => new XElement("RelatedTopic", new XAttribute("Guid", g)));
        if (V3)
            topic
                .List("DocumentReferences", documents)
                .List("RelatedTopics", related)
                .List("Comments", t.Comments.Select(Comment))
                .List("Viewpoints", t.Viewpoints.Select(v => View("ViewPoint", v)));
        else
            topic.AddAll(documents).AddAll(related);
        return topic.Element();
    }

    private void Texts(ElementBuilder topic, string list, string entry, string bare, IReadOnlyList<string> values)
    {
        var elements = values.Select(v => new XElement(V3 ? entry : bare, v));
        _ = V3 ? topic.List(list, elements) : topic.AddAll(elements);
    }

    private static XElement Comment(TopicComment c) =>
        new ElementBuilder("Comment", c.Extras)
            .Attribute("Guid", c.Guid)
            .Text("Date", c.Date)
            .Text("Author", c.Author)
            .Text("Comment", c.Text)
            .Add(c.Viewpoint is null ? null : new XElement("Viewpoint", new XAttribute("Guid", c.Viewpoint)))
            .Text("ModifiedDate", c.ModifiedDate)
            .Text("ModifiedAuthor", c.ModifiedAuthor)
            .Element();

    private static XElement View(string name, Viewpoint v) =>
        new ElementBuilder(name, v.Extras)
            .Attribute("Guid", v.Guid)
            .Text("Viewpoint", v.File)
            .Text("Snapshot", v.Snapshot)
            .Text("Index", v.Index)
            .Element();

    private XElement Snippet(BimSnippet s) =>
        new ElementBuilder("BimSnippet", s.Extras)
            .Attribute("SnippetType", s.Type)
            .Flag(External, s.IsExternal)
            .Text("Reference", s.Reference)
            .Text("ReferenceSchema", s.Schema)
            .Element();

    private XElement Document(DocumentReference d)
    {
        var reference = new ElementBuilder("DocumentReference", d.Extras).Attribute("Guid", d.Guid);
        if (V3)
            reference.Text("DocumentGuid", d.Document).Text("Url", d.Url ?? d.Path);
        else
            reference.Flag(External, d.Url is not null).Text("ReferencedDocument", d.Url ?? d.Path ?? d.Document);
        return reference.Text("Description", d.Description).Element();
    }
}
