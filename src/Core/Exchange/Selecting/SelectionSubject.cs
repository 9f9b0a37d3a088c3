using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What selection rules look at: an element, or a group of elements that are alike in these.</summary>
/// <param name="Schema">The schema, for subtypes.</param>
/// <param name="Storey">The storey's name, empty for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Layers">Presentation layers.</param>
/// <param name="GlobalId">The GlobalId, empty for a group.</param>
public readonly record struct SelectionSubject(IfcSchema Schema, string Storey, string Class, IReadOnlyList<string> Layers, string GlobalId)
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

    /// <summary>The subject that an element is.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="element">The element.</param>
    /// <param name="needed">What the rules look at; the rest is not read.</param>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="party">The party's code.</param>
    internal static SelectionSubject Of(ModelSnapshot snapshot, ModelElement element, IReadOnlySet<SelectionField> needed,
        int source = 0, string party = "")
    {
        int type = needed.Contains(SelectionField.Type) ? snapshot.Relations.Type.First(element.Index) : -1;
        return new SelectionSubject(snapshot.Model.Schema, snapshot.StoreyName(element.Storey), element.Class,
            needed.Contains(SelectionField.Layer) ? element.Layers : [], element.GlobalId)
        {
            Source = source,
            StoreyNumber = element.Storey,
            Party = party,
            Type = type < 0 ? "" : snapshot.Model.Name(type),
            Materials = needed.Contains(SelectionField.Material)
                ? [.. snapshot.Materials.Of(element.Index).Select(m => m.Name).Distinct()] : [],
            Property = key => Values(snapshot, element, key),
        };
    }

    private static List<string> Values(ModelSnapshot snapshot, ModelElement element, string key)
    {
        var values = new List<string>();
        foreach (var set in snapshot.Properties.Of(element.Index))
            foreach (var property in set.Properties)
                if (key.Length == set.Name.Length + property.Name.Length + 1 && key.StartsWith(set.Name, StringComparison.OrdinalIgnoreCase)
                    && key.EndsWith(property.Name, StringComparison.OrdinalIgnoreCase) && key[set.Name.Length] == '.')
                    values.Add(property.Value);
        return values;
    }
}
