namespace SteadyLintel.Ifc;

/// <summary>A property of a set of the standard.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Type">The type of its value, <c>IfcLabel</c>; of one of a list of words <c>IfcLabel</c>.</param>
/// <param name="Words">The words it may have; none where any value of the type will do.</param>
public sealed record StandardProperty(string Name, string Type, IReadOnlyList<string> Words);

/// <summary>A property set or quantity set that the standard defines.</summary>
/// <param name="Name">Its name, <c>Pset_DoorCommon</c>, <c>Qto_DoorBaseQuantities</c>.</param>
/// <param name="Classes">The classes it applies to, subtypes included; some with a predefined type after a slash.</param>
/// <param name="Properties">Its properties.</param>
public sealed record StandardPropertySet(
    string Name,
    IReadOnlyList<string> Classes,
    IReadOnlyList<StandardProperty> Properties
)
{
    private static readonly Lazy<ILookup<string, StandardPropertySet>> All = new(Load);

    /// <summary>The sets of an edition.</summary>
    /// <param name="schema"><c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>; any other has none.</param>
    /// <remarks>Names, types and classes are read from the npm package @ifc-lite/data 5.0.0, whose tables come from the data of the IDS
    /// audit tool; properties that are complex, tables or references are not in it. <c>scripts/property-sets</c> regenerates the
    /// table.</remarks>
    public static IEnumerable<StandardPropertySet> Of(string schema) => All.Value[schema];

    private static ILookup<string, StandardPropertySet> Load()
    {
        using var stream = typeof(StandardPropertySet).Assembly.GetManifestResourceStream("property-sets.tsv")!;
        using var reader = new StreamReader(stream);
        var all = new List<(string Schema, StandardPropertySet Set)>();
        while (reader.ReadLine() is { } line)
        {
            var fields = line.Split('\t');
            all.Add(
                (
                    fields[0],
                    new StandardPropertySet(
                        fields[1],
                        fields[2].Split(' ', StringSplitOptions.RemoveEmptyEntries),
                        [.. fields.Skip(3).Select(Parse)]
                    )
                )
            );
        }

        return all.ToLookup(a => a.Schema, a => a.Set);
    }

    private static StandardProperty Parse(string text)
    {
        int at = text.IndexOfAny([':', '=']);
        return text[at] == ':'
            ? new StandardProperty(text[..at], text[(at + 1)..], [])
            : new StandardProperty(text[..at], "IfcLabel", text[(at + 1)..].Split('|'));
    }
}
