namespace SteadyLintel.Ifc;

/// <summary>One explicit attribute of an entity, at its position in the file.</summary>
/// <param name="Name">The attribute's name in the standard.</param>
/// <param name="Type">The entity or type it holds; empty when the attribute is redeclared as derived.</param>
/// <param name="Optional">Whether <c>$</c> is allowed.</param>
/// <param name="Depth">How many lists are nested around the type: 0 for a single value.</param>
/// <param name="IsEntity">Whether <paramref name="Type"/> is an entity, so that the value is a reference.</param>
/// <param name="IsDerived">Whether a <c>*</c> is in its place.</param>
public sealed record AttributeDef(string Name, string Type, bool Optional, int Depth, bool IsEntity, bool IsDerived)
{
    /// <summary>How many members the outer list may have; one or more where the table of bounds does not differs.</summary>
    public ListBounds Bounds { get; init; } = ListBounds.Some;

    /// <summary>How many members each list within the outer list may have.</summary>
    public ListBounds InnerBounds { get; init; } = ListBounds.Some;

    internal static AttributeDef Parse(string text)
    {
        int colon = text.IndexOf(':');
        string name = text[..colon],
            type = text[(colon + 1)..];
        if (type == "*")
            return new AttributeDef(name, "", false, 0, false, true);
        bool optional = type.EndsWith('?');
        if (optional)
            type = type[..^1];
        int depth = 0;
        for (; type.EndsWith("[]", StringComparison.Ordinal); depth++)
            type = type[..^2];
        bool entity = type.StartsWith('@');
        return new AttributeDef(name, entity ? type[1..] : type, optional, depth, entity, false);
    }
}
