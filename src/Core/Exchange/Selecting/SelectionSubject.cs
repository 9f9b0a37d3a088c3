using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What selection rules look at: an element, an entity, or a group that are alike in these.</summary>
/// <param name="Schema">The schema, for subtypes; null where classes have none.</param>
/// <param name="Storey">The storey's name, empty for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Layers">Presentation layers.</param>
/// <param name="GlobalId">The GlobalId or handle, empty for a group.</param>
public readonly record struct SelectionSubject(IfcSchema? Schema, string Storey, string Class,
    IReadOnlyList<string> Layers, string GlobalId)
{
    /// <summary>The source's place in the order.</summary>
    public int Source { get; init; }

    /// <summary>The storey's number in the source, -1 for none.</summary>
    public int StoreyNumber { get; init; } = -1;

    /// <summary>The party's code.</summary>
    public string Party { get; init; } = "";

    /// <summary>The type's name, empty without one.</summary>
    public string Type { get; init; } = "";

    /// <summary>The names of its materials.</summary>
    public IReadOnlyList<string> Materials { get; init; } = [];

    /// <summary>The values of a property by its key, <c>Set.Property</c>; none when the element has no such property.</summary>
    public Func<string, IReadOnlyList<string>> Property { get; init; } = _ => [];

    /// <summary>The subject that an element or entity is.</summary>
    /// <param name="snapshot">The source.</param>
    /// <param name="item">The element or entity.</param>
    /// <param name="needed">What the rules look at; the rest is not read.</param>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="party">The party's code.</param>
    internal static SelectionSubject Of(
        SourceSnapshot snapshot, SourceItem item, IReadOnlySet<SelectionField> needed, int source = 0, string party = "") =>
        new(snapshot.Schema, snapshot.StoreyName(item.Storey), item.Class, needed.Contains(SelectionField.Layer)
            ? item.Layers : [], item.Id)
        {
            Source = source,
            StoreyNumber = item.Storey,
            Party = party,
            Type = needed.Contains(SelectionField.Type) ? snapshot.TypeName(item) : "",
            Materials = needed.Contains(SelectionField.Material) ? snapshot.MaterialNames(item) : [],
            Property = key => Values(snapshot, item, key),
        };

    private static List<string> Values(SourceSnapshot snapshot, SourceItem item, string key)
    {
        var values = new List<string>();
        foreach (var set in snapshot.PropertySets(item))
            foreach (var property in set.Properties)
                if (key.Length == set.Name.Length + property.Name.Length + 1 && key.StartsWith(set.Name, StringComparison.OrdinalIgnoreCase)
                    && key.EndsWith(property.Name, StringComparison.OrdinalIgnoreCase) && key[set.Name.Length] == '.')
                    values.Add(property.Value);
        return values;
    }
}
