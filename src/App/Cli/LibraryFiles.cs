using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary>What an order names, given as files at the terminal.</summary>
internal static class LibraryFiles
{
    /// <summary>Reads tables, sets and views, each as NAME=FILE.</summary>
    /// <exception cref="OrderException">One is no NAME=FILE, or cannot be read.</exception>
    public static OrderLibrary Read(string[]? tables, string[]? sets, string[]? views)
    {
        var library = new OrderLibrary
        {
            Sets = Named(sets, "--set").ToDictionary(n => n.Name, n => SetDocument.Read(File.ReadAllText(n.Path))),
            Views = Named(views, "--view").ToDictionary(n => n.Name, n => ViewDocument.Read(File.ReadAllText(n.Path))),
        };
        foreach (var (name, path) in Named(tables, "--table"))
            library = With(library, name, TableFile.Read(File.ReadAllBytes(path)));
        return library;
    }

    // A table is recognised by its headings: class and layer, class and to, kind, set.
    private static OrderLibrary With(OrderLibrary library, string name, TableRows table)
    {
        if (table.Column("layer") >= 0)
            return library with { Layers = Add(library.Layers, name, LayerTable.Read(table)) };
        if (table.Column("kind") >= 0)
            return library with { Names = Add(library.Names, name, NameTable.Read(table)) };
        if (table.Column("set") >= 0)
            return library with { Properties = Add(library.Properties, name, PropertyList.Read(table)) };
        if (table.Column("to") >= 0)
            return library with { Classes = Add(library.Classes, name, ClassTable.Read(table)) };
        throw new OrderException(
            $"Row 1 of {name} has no heading that says which table it is: layer, to, kind or set. It has {string.Join(", ", table.Headings)}."
        );
    }

    private static Dictionary<string, T> Add<T>(IReadOnlyDictionary<string, T> known, string name, T table) =>
        new(known) { [name] = table };

    private static IEnumerable<(string Name, string Path)> Named(string[]? named, string option) =>
        (named ?? [])
            .Select(n => n.Split('=', 2))
            .Select(n =>
                n.Length == 2
                    ? (n[0], n[1])
                    : throw new OrderException($"{option} cannot read '{n[0]}': write NAME=FILE.")
            );
}
