using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A property that elements are to have.</summary>
public sealed record PropertyTemplate
{
    /// <summary>Its name.</summary>
    public string Name { get; init; } = "";

    /// <summary>What it means, for whoever fills it in.</summary>
    public string Description { get; init; } = "";

    /// <summary>The type of its value, as the standard spells it: <c>IfcLabel</c>, <c>IfcLengthMeasure</c>; of a table that of its
    /// values.</summary>
    public string Type { get; init; } = "IfcLabel";

    /// <summary>How it holds its value, a word of <see cref="PropertyForms.All"/>.</summary>
    public string Form { get; init; } = "single";

    /// <summary>The unit that numbers without one are in; empty for the project's.</summary>
    public string Unit { get; init; } = "";

    /// <summary>The words it may have; none where any value of the type will do.</summary>
    public IReadOnlyList<string> Words { get; init; } = [];

    /// <summary>Whether several of the words may be chosen.</summary>
    public bool Several { get; init; }

    /// <summary>A regular expression that all of a value has to match; empty for none.</summary>
    public string Pattern { get; init; } = "";

    /// <summary>The value of elements that have none; empty for none.</summary>
    public string Default { get; init; } = "";

    /// <summary>Whether each element must have a value.</summary>
    public bool Required { get; init; }

    /// <summary>Whether its values stay in the job: no order writes them.</summary>
    public bool NotForExchange { get; init; }

    /// <summary>How it holds its value.</summary>
    internal PropertyForm Holds => PropertyForms.Find(Form) ?? PropertyForm.Single;

    /// <summary>Reads a value and holds it against the template.</summary>
    /// <param name="text">As people write it; blank for no value.</param>
    /// <exception cref="FormatException">It is no value that the property may have; the message says why.</exception>
    public TypedValue Read(string text)
    {
        var value = TypedValue.Read(text, Holds, Type);
        return value.ProblemBy(this) is { } problem ? throw new FormatException(problem + ".") : value;
    }

    /// <summary>What is wrong with it, as the end of a sentence that begins with its name; null when nothing is.</summary>
    public string? Problem()
    {
        if (Name.Length == 0)
            return "has no name";
        if (PropertyTypes.Problem(Type) is { } type)
            return $"has a type that is none: {type.TrimEnd('.')}";
        if (PropertyForms.Find(Form) is null)
            return $"has the form '{Form}', which is none of {string.Join(", ", PropertyForms.All.Select(f => f.Word))}";
        if (Unit.Length > 0 && (PropertyUnit.Find(Unit) is not { } unit || unit.Kind != MeasureKinds.UnitKind(Type)))
            return $"has the unit '{Unit}', which is none of {PropertyTypes.Label(Type)}";
        if (Holds == PropertyForm.Enumerated && Words.Count == 0)
            return "is one of a list and has no words";
        if (Pattern.Length > 0 && TypedValue.PatternProblem(Pattern) is { } pattern)
            return $"has a pattern that cannot be used: {pattern}";
        try
        {
            Read(Default);
            return null;
        }
        catch (FormatException e)
        {
            return $"has a default that is no value of it: {e.Message.TrimEnd('.')}";
        }
    }
}

/// <summary>A named set of properties that elements of some classes are to have (ISO 16739-1, IfcPropertySetTemplate).</summary>
public sealed record PropertySetTemplate
{
    /// <summary>Its name, as sets of elements are called.</summary>
    public string Name { get; init; } = "";

    /// <summary>What it is for.</summary>
    public string Description { get; init; } = "";

    /// <summary>The classes it applies to, subtypes included, each with or without a predefined type after a point: <c>IfcDoor</c>,
    /// <c>IfcDoor.GATE</c>; a class of types (<c>IfcDoorType</c>) means the elements of such types.</summary>
    public IReadOnlyList<string> Classes { get; init; } = [];

    /// <summary>Its properties.</summary>
    public IReadOnlyList<PropertyTemplate> Properties { get; init; } = [];

    /// <summary>Whether elements of a class are to have it.</summary>
    /// <param name="schema">The schema of their model, for subtypes.</param>
    /// <param name="type">Their class.</param>
    /// <param name="predefined">Their predefined type; empty for none.</param>
    public bool AppliesTo(IfcSchema schema, string type, string predefined) =>
        Classes.Any(c =>
        {
            string[] parts = c.Split('.', 2);
            string wanted = OfElements(parts[0]);
            return (
                    wanted.Equals(type, StringComparison.OrdinalIgnoreCase)
                    || schema.Find(type.ToUpperInvariant())?.Is(wanted) == true
                ) && (parts.Length == 1 || parts[1].Equals(predefined, StringComparison.OrdinalIgnoreCase));
        });

    /// <summary>The property of a name; null where the set has none.</summary>
    public PropertyTemplate? Find(string property) => Properties.FirstOrDefault(p => p.Name == property);

    // IfcDoorType, and IfcDoorStyle in IFC2X3, are the types of IfcDoor.
    private static string OfElements(string name) =>
        name.EndsWith("Type", StringComparison.Ordinal) ? name[..^4]
        : name.EndsWith("Style", StringComparison.Ordinal) ? name[..^5]
        : name;
}
