using System.Globalization;
using System.Xml.Linq;
using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Writes an element: what BCF defines in its order, then what else was there.</summary>
internal sealed class ElementBuilder(string name, Extras extras)
{
    private readonly XElement _element = new(name);

    /// <summary>Adds an attribute where it has a value.</summary>
    public ElementBuilder Attribute(string name, string? value)
    {
        if (value is not null)
            _element.SetAttributeValue(name, value);
        return this;
    }

    /// <summary>Adds an attribute that is true or false.</summary>
    public ElementBuilder Flag(string name, bool? value) =>
        Attribute(
            name,
            value switch
            {
                null => null,
                true => "true",
                _ => "false",
            }
        );

    /// <summary>Adds a child that is a text where it has one.</summary>
    public ElementBuilder Text(string name, string? value)
    {
        if (value is null)
            return this;
        var child = new XElement(name, value);
        foreach (var (key, text) in extras.Attributes)
            if (key.StartsWith(name + "/", StringComparison.Ordinal))
                child.SetAttributeValue(XName.Get(key[(name.Length + 1)..]), text);
        _element.Add(child);
        return this;
    }

    /// <summary>Adds a number so that it comes back the same.</summary>
    public ElementBuilder Number(string name, double? value) =>
        Text(name, value?.ToString("R", CultureInfo.InvariantCulture));

    /// <summary>Adds a point or direction.</summary>
    public ElementBuilder Point(string name, Vec3 point) =>
        Add(
            new ElementBuilder(name, Extras.None)
                .Number("X", point.X)
                .Number("Y", point.Y)
                .Number("Z", point.Z)
                .Element()
        );

    /// <summary>Adds a child.</summary>
    public ElementBuilder Add(XElement? child)
    {
        if (child is not null)
            _element.Add(child);
        return this;
    }

    /// <summary>Adds children.</summary>
    public ElementBuilder AddAll(IEnumerable<XElement> children)
    {
        foreach (var child in children)
            _element.Add(child);
        return this;
    }

    /// <summary>Adds children within an element of their own, unless there are none.</summary>
    public ElementBuilder List(string name, IEnumerable<XElement> children)
    {
        var list = new XElement(name, children);
        return Add(list.HasElements ? list : null);
    }

    /// <summary>The element.</summary>
    public XElement Element()
    {
        foreach (var (key, text) in extras.Attributes)
            if (key[0] == '{' || !key.Contains('/', StringComparison.Ordinal))
                _element.SetAttributeValue(XName.Get(key), text);
        foreach (string xml in extras.Elements)
        {
            var extra = SafeXml.Element(xml);
            // What was left of a list joins the list that is written.
            if (_element.Element(extra.Name) is { HasElements: true } list && extra.HasElements && IsList(extra))
                list.Add(extra.Elements());
            else
                _element.Add(extra);
        }

        return _element;
    }

    private static bool IsList(XElement extra) => Lists.Contains(extra.Name.LocalName);

    private static readonly HashSet<string> Lists =
    [
        "Labels",
        "ReferenceLinks",
        "RelatedTopics",
        "DocumentReferences",
        "Comments",
        "Files",
        "Selection",
        "Visibility",
        "Exceptions",
        "Coloring",
        "Lines",
        "ClippingPlanes",
    ];
}
