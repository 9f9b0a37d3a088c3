namespace SteadyLintel.Exchange;

/// <summary>How often elements of a class have a value of a property.</summary>
/// <param name="Class">The class.</param>
/// <param name="Set">The property set.</param>
/// <param name="Property">The property.</param>
/// <param name="Type">The type of its values as the standard spells it; empty where none has a value that says so.</param>
/// <param name="Unit">The unit's symbol; empty for none.</param>
/// <param name="Filled">How many elements have a value.</param>
/// <param name="Blank">How many have the property without a value.</param>
/// <param name="Missing">How many do not have it.</param>
public sealed record PropertyUse(
    string Class,
    string Set,
    string Property,
    string Type,
    string Unit,
    int Filled,
    int Blank,
    int Missing
);

/// <summary>Lists the properties of a model by class.</summary>
public static class PropertyListing
{
    /// <summary>Reads every property of every element.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="template">Properties that elements are to have, counted as missing where they do not; null for none.</param>
    public static IReadOnlyList<PropertyUse> Read(ModelSnapshot snapshot, TemplateDocument? template = null)
    {
        var counts = new Dictionary<(string Class, string Set, string Property), Tally>();
        var elements = new Dictionary<string, int>();
        foreach (var element in snapshot.Elements)
        {
            elements[element.Class] = elements.GetValueOrDefault(element.Class) + 1;
            foreach (var set in template?.For(snapshot.Schema, element.Class, snapshot.Predefined(element)) ?? [])
            foreach (var property in set.Properties)
                counts.TryAdd(
                    (element.Class, set.Name, property.Name),
                    new Tally { Type = property.Type, Unit = property.Unit }
                );
            foreach (var set in snapshot.PropertySets(element))
            foreach (var property in set.Properties)
            {
                var key = (element.Class, set.Name, property.Name);
                if (!counts.TryGetValue(key, out var tally))
                    counts[key] = tally = new Tally();
                tally.Add(property);
            }
        }

        return
        [
            .. counts
                .OrderBy(c => c.Key.Class, StringComparer.Ordinal)
                .ThenBy(c => c.Key.Set, StringComparer.Ordinal)
                .ThenBy(c => c.Key.Property, StringComparer.Ordinal)
                .Select(c => new PropertyUse(
                    c.Key.Class,
                    c.Key.Set,
                    c.Key.Property,
                    c.Value.Type,
                    c.Value.Unit,
                    c.Value.Filled,
                    c.Value.Blank,
                    elements[c.Key.Class] - c.Value.Filled - c.Value.Blank
                )),
        ];
    }

    private sealed class Tally
    {
        public string Type { get; set; } = "";

        public string Unit { get; set; } = "";

        public int Filled { get; private set; }

        public int Blank { get; private set; }

        public void Add(Ifc.Property property)
        {
            if (property.Value.Length > 0)
                Filled++;
            else
                Blank++;
            if (Type.Length == 0 && property.Measure.Length > 0)
                Type = PropertyTypes.Find(property.Measure) ?? property.Measure;
            if (Unit.Length == 0)
                Unit = property.Unit;
        }
    }
}
