using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Templates to start from: the sets of the standard, and what a source already has.</summary>
public static class TemplateStarters
{
    /// <summary>The sets of the standard that apply to some classes.</summary>
    /// <param name="schema">The edition.</param>
    /// <param name="classes">Classes of elements, as the standard spells them.</param>
    public static TemplateDocument OfStandard(string schema, IEnumerable<string> classes)
    {
        var edition = IfcSchema.Named(schema);
        var wanted = classes.Select(c => edition.Find(c.ToUpperInvariant())).OfType<EntityDef>().ToList();
        return new TemplateDocument
        {
            Sets =
            [
                .. StandardPropertySet
                    .Of(schema)
                    .Select(Template)
                    .Where(t => wanted.Exists(e => t.Classes.Any(c => e.Is(Element(c)))))
                    .OrderBy(t => t.Name, StringComparer.Ordinal),
            ],
        };
    }

    /// <summary>The property sets that elements of a model have, each with the classes that have it.</summary>
    public static TemplateDocument OfModel(ModelSnapshot snapshot)
    {
        var sets = new SortedDictionary<
            string,
            (SortedSet<string> Classes, Dictionary<string, PropertyTemplate> Properties)
        >(StringComparer.Ordinal);
        foreach (var element in snapshot.Elements)
        foreach (var set in snapshot.PropertySets(element).Where(s => !s.IsQuantity && s.Name.Length > 0))
        {
            if (!sets.TryGetValue(set.Name, out var known))
                sets[set.Name] = known = (new(StringComparer.Ordinal), new(StringComparer.Ordinal));
            known.Classes.Add(element.Class);
            foreach (var property in set.Properties)
                known.Properties.TryAdd(
                    property.Name,
                    new PropertyTemplate
                    {
                        Name = property.Name,
                        Type = PropertyTypes.Find(property.Measure) ?? "IfcLabel",
                    }
                );
        }

        return new TemplateDocument
        {
            Sets =
            [
                .. sets.Select(s => new PropertySetTemplate
                {
                    Name = s.Key,
                    Classes = [.. s.Value.Classes],
                    Properties = [.. s.Value.Properties.Values],
                }),
            ],
        };
    }

    private static PropertySetTemplate Template(StandardPropertySet set) =>
        new()
        {
            Name = set.Name,
            Classes = [.. set.Classes.Select(c => c.Replace('/', '.'))],
            Properties =
            [
                .. set.Properties.Select(p => new PropertyTemplate
                {
                    Name = p.Name,
                    Type = PropertyTypes.Find(p.Type) ?? "IfcLabel",
                    // What is no value is a time series, a material or another thing to refer to.
                    Form =
                        p.Words.Count > 0 ? "choice"
                        : PropertyTypes.Find(p.Type) is null ? "reference"
                        : "single",
                    Words = p.Words,
                    Several = p.Words.Count > 0,
                }),
            ],
        };

    private static string Element(string name)
    {
        string plain = name.Split('.')[0];
        return plain.EndsWith("Type", StringComparison.Ordinal) ? plain[..^4] : plain;
    }
}
