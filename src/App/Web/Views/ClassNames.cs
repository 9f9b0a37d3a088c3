using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>Classes by plain names: people pick and read <c>Duct segment</c>, orders have the standard's <c>IfcDuctSegment</c>.</summary>
public static class ClassNames
{
    private static readonly Lazy<IReadOnlyDictionary<string, string>> ByPlain = new(() =>
        ClassWords
            .Names.GroupBy(DisplayText.Class, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase)
    );

    /// <summary>The plain name of a class, with its predefined type after a point where it has one; another word as it is.</summary>
    public static string Plain(string word)
    {
        string[] parts = word.Split('.', 2);
        string plain = DisplayText.Class(parts[0]);
        // Only where it leads back to the same class.
        return Standard(plain).Equals(parts[0], StringComparison.OrdinalIgnoreCase)
            ? string.Join('.', parts.Skip(1).Prepend(plain))
            : word;
    }

    /// <summary>The standard's name of a class by its plain name; another word as it is.</summary>
    public static string Standard(string word)
    {
        string[] parts = word.Split('.', 2);
        return ByPlain.Value.TryGetValue(parts[0].Trim(), out string? name)
            ? string.Join('.', parts.Skip(1).Prepend(name))
            : word;
    }
}
