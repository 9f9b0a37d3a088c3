using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>Reads and writes the words of a project.</summary>
internal static class ExtensionsFile
{
    private static readonly XNamespace Schema = "http://www.w3.org/2001/XMLSchema";

    /// <summary>Reads <c>extensions.xml</c>.</summary>
    public static TopicExtensions Read(XElement root)
    {
        var fields = new ElementFields(root);
        var read = new TopicExtensions();
        foreach (var list in TopicExtensions.Lists)
            read = list.With(read, fields.List(list.Name, list.Entry));
        // An empty list says that no word may be used: nothing more than no list.
        foreach (var list in TopicExtensions.Lists)
            if (fields.One(list.Name) is { HasElements: false, HasAttributes: false } empty)
                fields.Take(empty);
        return read with { Extras = fields.Rest() };
    }

    /// <summary>Reads <c>extensions.xsd</c>: the enumerations of its simple types.</summary>
    public static TopicExtensions ReadSchema(XElement root)
    {
        var read = new TopicExtensions();
        foreach (var list in TopicExtensions.Lists)
            read = list.With(
                read,
                [
                    .. root.Descendants(Schema + "simpleType")
                        .Where(t => t.Attribute("name")?.Value == list.SimpleType)
                        .Descendants(Schema + "enumeration")
                        .Select(e => e.Attribute("value")?.Value)
                        .OfType<string>()
                        .Distinct(),
                ]
            );
        return read;
    }

    /// <summary>Writes <c>extensions.xml</c>.</summary>
    public static XElement Write(TopicExtensions extensions)
    {
        var root = new ElementBuilder("Extensions", extensions.Extras);
        foreach (var list in TopicExtensions.Lists)
            root.List(list.Name, list.Of(extensions).Select(w => new XElement(list.Entry, w)));
        return root.Element();
    }

    /// <summary>Writes <c>extensions.xsd</c>: a schema that redefines the simple types of the markup (from memory).</summary>
    public static XElement WriteSchema(TopicExtensions extensions) =>
        new(
            Schema + "schema",
            new XAttribute(XNamespace.Xmlns + "xs", Schema),
            new XElement(
                Schema + "redefine",
                new XAttribute("schemaLocation", "markup.xsd"),
                TopicExtensions.Lists.Select(l => new XElement(
                    Schema + "simpleType",
                    new XAttribute("name", l.SimpleType),
                    new XElement(
                        Schema + "restriction",
                        new XAttribute("base", l.SimpleType),
                        l.Of(extensions).Select(w => new XElement(Schema + "enumeration", new XAttribute("value", w)))
                    )
                ))
            )
        );
}
