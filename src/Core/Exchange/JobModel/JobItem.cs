namespace SteadyLintel.Exchange;

/// <summary>Something that a job keeps under a name, for its orders to name.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Name">Its name.</param>
/// <param name="Version">Its newest version, from 1.</param>
/// <param name="MadeAt">When that was saved.</param>
public sealed record JobItem(LibraryKind Kind, string Name, int Version, DateTime MadeAt);

/// <summary>What an item of a job's library is. The numbers are stored: new kinds come last.</summary>
public enum LibraryKind
{
    /// <summary>A detail: a part of a drawing, as DXF.</summary>
    Detail,

    /// <summary>A set of elements (<see cref="SetDocument"/>).</summary>
    Set,

    /// <summary>A view of the combined view (<see cref="ViewDocument"/>).</summary>
    View,

    /// <summary>A table from classes to layers, as CSV (<see cref="LayerTable"/>).</summary>
    Layers,

    /// <summary>A table from classes to classes, as CSV (<see cref="ClassTable"/>).</summary>
    Classes,

    /// <summary>A table of names of storeys, materials and types, as CSV (<see cref="NameTable"/>).</summary>
    Names,

    /// <summary>A list of the properties that travel, as CSV (<see cref="PropertyList"/>).</summary>
    Properties,

    /// <summary>Property set templates (<see cref="TemplateDocument"/>).</summary>
    Template,
}

/// <summary>What kinds of the library are called.</summary>
public static class LibraryKinds
{
    /// <summary>The kinds that are tables, with the word for each.</summary>
    public static IReadOnlyDictionary<LibraryKind, string> Tables { get; } =
        new Dictionary<LibraryKind, string>
        {
            [LibraryKind.Layers] = "layer table",
            [LibraryKind.Classes] = "class table",
            [LibraryKind.Names] = "name table",
            [LibraryKind.Properties] = "property list",
        };

    /// <summary>The word for a kind.</summary>
    public static string Word(this LibraryKind kind) =>
        Tables.TryGetValue(kind, out string? word) ? word
        : kind == LibraryKind.Template ? "property set template"
        : kind.ToString().ToLowerInvariant();

    /// <summary>What an order names of a library, by kind and name.</summary>
    public static IEnumerable<(LibraryKind Kind, string Name)> NamedBy(OrderDocument order)
    {
        foreach (var rule in order.Rules.Where(r => RuleField.Find(r.What)?.Kind == RuleFieldKind.Saved))
        foreach (string name in rule.Are)
            yield return (rule.What == RuleField.Set.Word ? LibraryKind.Set : LibraryKind.View, name);
        if (order.Tables?.Layers is { Length: > 0 } layers)
            yield return (LibraryKind.Layers, layers);
        if (order.Tables?.Classes is { Length: > 0 } classes)
            yield return (LibraryKind.Classes, classes);
        if (order.Tables?.Names is { Length: > 0 } names)
            yield return (LibraryKind.Names, names);
        if (order.Properties?.List is { Length: > 0 } list)
            yield return (LibraryKind.Properties, list);
    }
}
