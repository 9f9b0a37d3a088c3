using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The types that values of properties can have, as the standard spells them (ISO 16739-1, IfcValue), with plain words for the
/// usual ones.</summary>
public static class PropertyTypes
{
    /// <summary>The longest text of a label or an identifier (ISO 16739-1, IfcLabel, IfcIdentifier).</summary>
    public const int MaxLabel = 255;

    private static readonly IReadOnlyList<(string Word, string Type)> Plain =
    [
        ("label", "IfcLabel"),
        ("text", "IfcText"),
        ("identifier", "IfcIdentifier"),
        ("integer", "IfcInteger"),
        ("real", "IfcReal"),
        ("boolean", "IfcBoolean"),
        ("logical", "IfcLogical"),
        ("date", "IfcDate"),
        ("length", "IfcLengthMeasure"),
        ("area", "IfcAreaMeasure"),
        ("volume", "IfcVolumeMeasure"),
        ("weight", "IfcMassMeasure"),
        ("angle", "IfcPlaneAngleMeasure"),
        ("count", "IfcCountMeasure"),
        ("ratio", "IfcRatioMeasure"),
    ];

    private static readonly HashSet<string> Integers = new(StringComparer.OrdinalIgnoreCase)
    {
        "IfcInteger",
        "IfcPositiveInteger",
        "IfcCountMeasure",
        "IfcTimeStamp",
    };

    private static readonly Lazy<SortedDictionary<string, TypeKind>> Known = new(() =>
    {
        var known = new SortedDictionary<string, TypeKind>(StringComparer.OrdinalIgnoreCase);
        foreach (string name in (string[])["IFC4X3", "IFC4", "IFC2X3"])
        {
            var schema = IfcSchema.Named(name);
            foreach (string member in schema.Type("IfcValue")!.Members)
                if (schema.Type(member) is { } type)
                    known.TryAdd(type.Name, type.Kind);
        }

        return known;
    });

    /// <summary>The usual types: a plain word and the standard's name.</summary>
    public static IReadOnlyList<(string Word, string Type)> Usual => Plain;

    /// <summary>Every type, as the standard spells it.</summary>
    public static IEnumerable<string> All => Known.Value.Keys;

    /// <summary>The type that a word means: a plain word, or the standard's name in any case.</summary>
    /// <returns>As the standard spells it; null where there is none.</returns>
    public static string? Find(string word)
    {
        string trimmed = word.Trim();
        if (Plain.FirstOrDefault(p => p.Word.Equals(trimmed, StringComparison.OrdinalIgnoreCase)).Type is { } plain)
            return plain;
        return Known.Value.Keys.FirstOrDefault(k => k.Equals(trimmed, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>What is wrong with a word for a type, a sentence with the nearest ones; null when nothing is.</summary>
    public static string? Problem(string word) =>
        Find(word) is not null
            ? null
            : $"'{word}' is no type of values.{NearestNames.Of(word, Plain.Select(p => p.Word).Concat(All))}";

    /// <summary>What to call a type in a heading: the plain word where it has one.</summary>
    public static string Label(string type) =>
        Plain.FirstOrDefault(p => p.Type.Equals(type, StringComparison.OrdinalIgnoreCase)).Word
        ?? (
            type.StartsWith("Ifc", StringComparison.Ordinal)
                ? Spaced(type[3..].Replace("Measure", "", StringComparison.Ordinal))
                : type
        );

    /// <summary>How values of a type are written.</summary>
    internal static TypeKind KindOf(string type) => Known.Value.GetValueOrDefault(type, TypeKind.String);

    /// <summary>Whether values of a type are whole numbers.</summary>
    internal static bool IsInteger(string type) => Integers.Contains(type);

    /// <summary>The type to write in a schema: the type itself where its IfcValue has it, else the nearest that it has.</summary>
    /// <remarks>IFC2X3 has no IfcDate among its values: a date goes as a label there.</remarks>
    internal static string In(IfcSchema schema, string type) =>
        schema.Type("IfcValue")!.Members.Contains(type) ? schema.Type(type)!.Name
        : KindOf(type) == TypeKind.Number
            ? IsInteger(type) ? "IfcInteger"
                : "IfcReal"
        : KindOf(type) == TypeKind.Logical ? "IfcLogical"
        : "IfcLabel";

    private static string Spaced(string name) =>
        string.Concat(
            name.Select(
                (c, n) =>
                    n > 0 && char.IsUpper(c) ? " " + char.ToLowerInvariant(c) : char.ToLowerInvariant(c).ToString()
            )
        );
}
