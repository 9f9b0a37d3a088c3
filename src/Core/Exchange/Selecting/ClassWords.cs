using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Whether a word is a class of elements in the standard, whichever of its schemas a model is in.</summary>
/// <remarks>An order outlives a model: it may name a class that only a newer schema has, or that this model has none of. A misspelt word
/// is in
/// no schema.</remarks>
public static class ClassWords
{
    private static readonly Lazy<IReadOnlyDictionary<string, string>> All = new(() =>
    {
        var all = new SortedDictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (string schema in (string[])["IFC4X3", "IFC4", "IFC2X3"])
        foreach (var entity in IfcSchema.Named(schema).Entities.Where(e => e.Is("IfcProduct")))
            all.TryAdd(entity.Name, entity.Name);
        return all;
    });

    /// <summary>Every class of products, as the standard spells it.</summary>
    public static IEnumerable<string> Names => All.Value.Values;

    /// <summary>What is wrong with a word for a class, a sentence with the nearest classes; null when nothing is.</summary>
    /// <param name="word">The class, with or without a predefined type after a point.</param>
    public static string? Problem(string word)
    {
        string name = word.Split('.')[0];
        return All.Value.ContainsKey(name)
            ? null
            : $"'{name}' is no class of elements in any IFC schema.{NearestNames.Of(name, All.Value.Keys)}";
    }

    /// <summary>Whether every element of one class is of another too, in any schema that has both.</summary>
    internal static bool Covers(string wide, string narrow) =>
        wide.Equals(narrow, StringComparison.OrdinalIgnoreCase)
        || ((string[])["IFC4X3", "IFC4", "IFC2X3"])
            .Select(IfcSchema.Named)
            .Any(s =>
                s.Find(wide.ToUpperInvariant()) is { } above
                && s.Find(narrow.ToUpperInvariant())?.Is(above.Name) == true
            );
}
