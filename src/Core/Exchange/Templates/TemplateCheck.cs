using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Something in a model that is not as a template wants it.</summary>
/// <param name="GlobalId">The element.</param>
/// <param name="Class">Its class.</param>
/// <param name="Set">The property set.</param>
/// <param name="Property">The property.</param>
/// <param name="What">What is wrong, as the end of a sentence that begins with the property: <c>is missing</c>, <c>is blank</c>, or why
/// its value is none.</param>
public sealed record TemplateFault(string GlobalId, string Class, string Set, string Property, string What);

/// <summary>Holds the elements of a model against templates.</summary>
public static class TemplateCheck
{
    /// <summary>The word for a required property that an element does not have.</summary>
    public const string Missing = "is missing";

    /// <summary>The word for a required property that an element has without a value.</summary>
    public const string Blank = "is blank";

    /// <summary>Finds required properties without a value, and values that the template does not allow.</summary>
    public static IEnumerable<TemplateFault> Faults(ModelSnapshot snapshot, TemplateDocument template)
    {
        foreach (var (element, set, property, found) in Wanted(snapshot, template))
            if (Fault(property, found) is { } what)
                yield return new TemplateFault(element.GlobalId, element.Class, set.Name, property.Name, what);
    }

    /// <summary>Each property that an element is to have, with what its model says; null where it says nothing.</summary>
    public static IEnumerable<(
        ModelElement Element,
        PropertySetTemplate Set,
        PropertyTemplate Property,
        Property? Found
    )> Wanted(ModelSnapshot snapshot, TemplateDocument template)
    {
        foreach (var element in snapshot.Elements)
        {
            IReadOnlyList<PropertySet>? sets = null;
            foreach (var set in template.For(snapshot.Schema, element.Class, snapshot.Predefined(element)))
            {
                sets ??= snapshot.PropertySets(element);
                foreach (var property in set.Properties)
                    yield return (
                        element,
                        set,
                        property,
                        sets.Where(s => s.Name == set.Name)
                            .SelectMany(s => s.Properties)
                            .FirstOrDefault(p => p.Name == property.Name)
                    );
            }
        }
    }

    /// <summary>What is wrong with a value by its template; null when nothing is.</summary>
    /// <param name="template">The template.</param>
    /// <param name="found">The property as a model has it; null where it does not.</param>
    public static string? Fault(PropertyTemplate template, Property? found)
    {
        if (found is null || found.Value.Length == 0)
            return !template.Required ? null
                : found is null ? Missing
                : Blank;
        try
        {
            // Texts of lists are read back parted by commas.
            string text = template.Holds is PropertyForm.Enumerated or PropertyForm.List
                ? found.Value.Replace(", ", "; ", StringComparison.Ordinal)
                : found.Value;
            template.Read(text);
            return null;
        }
        catch (FormatException e)
        {
            return $"has a value that the template does not allow: {e.Message.TrimEnd('.')}";
        }
    }
}
