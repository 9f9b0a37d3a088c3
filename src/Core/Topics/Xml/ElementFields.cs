using System.Globalization;
using System.Xml.Linq;
using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Takes what BCF defines out of an element, and knows what is left.</summary>
internal sealed class ElementFields(XElement element)
{
    private readonly HashSet<XObject> _taken = [];
    private readonly Dictionary<string, string> _attributes = [];
    private ILookup<string, XElement>? _children;

    private ILookup<string, XElement> Children =>
        _children ??= element
            .Elements()
            .Where(e => e.Name.Namespace == XNamespace.None)
            .ToLookup(e => e.Name.LocalName);

    /// <summary>An attribute; null where there is none. 2.1 writes <c>isExternal</c> and 3.0 <c>IsExternal</c>: case does not
    /// matter.</summary>
    public string? Attribute(string name)
    {
        var found = element.Attribute(name)
            ?? element
                .Attributes()
                .FirstOrDefault(a =>
                    a.Name.Namespace == XNamespace.None
                    && a.Name.LocalName.Equals(name, StringComparison.OrdinalIgnoreCase)
                );
        if (found is null)
            return null;
        _taken.Add(found);
        return found.Value;
    }

    /// <summary>An attribute that is true or false; what is neither stays where it is.</summary>
    public bool? Flag(string name)
    {
        bool? flag = Attribute(name) switch
        {
            "true" or "1" or "True" => true,
            "false" or "0" or "False" => false,
            _ => null,
        };
        if (flag is null)
            _taken.RemoveWhere(a =>
                a is XAttribute x && x.Name.LocalName.Equals(name, StringComparison.OrdinalIgnoreCase)
            );
        return flag;
    }

    /// <summary>The text of a child; null where there is none.</summary>
    public string? Text(string name)
    {
        // A child with children is not a text: it stays.
        if (Children[name].FirstOrDefault(e => !_taken.Contains(e)) is not { HasElements: false } child)
            return null;
        _taken.Add(child);
        foreach (var a in child.Attributes().Where(a => !a.IsNamespaceDeclaration))
            _attributes[$"{name}/{a.Name}"] = a.Value;
        return child.Value;
    }

    /// <summary>The texts of all children of a name that are only texts.</summary>
    public IReadOnlyList<string> Texts(string name) =>
        [.. All(name).Where(e => !e.HasElements && !e.HasAttributes).Select(e => Take(e).Value)];

    /// <summary>The first child of a name; null where there is none. It is not taken yet.</summary>
    public XElement? One(string name) => Children[name].FirstOrDefault(e => !_taken.Contains(e));

    /// <summary>The children of a name. They are not taken yet.</summary>
    public IEnumerable<XElement> All(string name) => Children[name];

    /// <summary>Takes a child whole.</summary>
    public XElement Take(XElement child)
    {
        _taken.Add(child);
        return child;
    }

    /// <summary>Takes a list of texts in an element of its own, such as <c>Labels</c> of 3.0; what else the list has stays.</summary>
    public IReadOnlyList<string> List(string name, string entry)
    {
        if (One(name) is not { HasElements: true } list)
            return [];
        var inner = new ElementFields(list);
        var texts = inner.Texts(entry);
        TakeList(list, inner);
        return texts;
    }

    /// <summary>Takes a list whose entries were read; what else is in it stays, without them.</summary>
    public void TakeList(XElement list, ElementFields inner)
    {
        if (inner.Rest().Count == 0)
            Take(list);
        else
            foreach (var entry in inner._taken.OfType<XElement>())
                entry.Remove();
    }

    /// <summary>Takes a child that is a point or direction; null where it is none.</summary>
    public Vec3? Point(string name)
    {
        if (One(name) is not { } child)
            return null;
        var inner = new ElementFields(child);
        if (inner.Number("X") is not { } x || inner.Number("Y") is not { } y || inner.Number("Z") is not { } z)
            return null;
        Take(child);
        return new Vec3(x, y, z);
    }

    /// <summary>Takes a child that is a finite number; null where it is none.</summary>
    public double? Number(string name)
    {
        if (
            One(name) is not { } child
            || !double.TryParse(child.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out double number)
            || !double.IsFinite(number)
        )
            return null;
        Take(child);
        return number;
    }

    /// <summary>What was not taken.</summary>
    public Extras Rest()
    {
        foreach (var a in element.Attributes().Where(a => !a.IsNamespaceDeclaration && !_taken.Contains(a)))
            _attributes[a.Name.ToString()] = a.Value;
        string[] elements =
        [
            .. element
                .Elements()
                .Where(e => !_taken.Contains(e))
                .Select(e => e.ToString(SaveOptions.DisableFormatting)),
        ];
        return _attributes.Count == 0 && elements.Length == 0 ? Extras.None : new Extras(_attributes, elements);
    }
}
