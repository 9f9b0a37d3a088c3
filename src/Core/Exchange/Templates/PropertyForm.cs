namespace SteadyLintel.Exchange;

/// <summary>How a property holds its value (ISO 16739-1, subtypes of IfcSimpleProperty).</summary>
public enum PropertyForm
{
    /// <summary>One value (IfcPropertySingleValue).</summary>
    Single,

    /// <summary>One or several of a list of words (IfcPropertyEnumeratedValue).</summary>
    Enumerated,

    /// <summary>Several values in order (IfcPropertyListValue).</summary>
    List,

    /// <summary>A lower and an upper bound, either of which may be open (IfcPropertyBoundedValue).</summary>
    Bounded,

    /// <summary>Pairs of values (IfcPropertyTableValue).</summary>
    Table,

    /// <summary>A document somewhere else (IfcPropertyReferenceValue with an IfcDocumentReference).</summary>
    Reference,
}

/// <summary>The words for forms of properties.</summary>
public static class PropertyForms
{
    /// <summary>The forms with their words in documents and their labels on screens.</summary>
    public static IReadOnlyList<Choice<PropertyForm>> All { get; } =
    [
        new("single", "one value", PropertyForm.Single),
        new("choice", "one of a list", PropertyForm.Enumerated),
        new("list", "several values", PropertyForm.List),
        new("range", "range", PropertyForm.Bounded),
        new("table", "table", PropertyForm.Table),
        new("reference", "reference to a document", PropertyForm.Reference),
    ];

    /// <summary>The word of a form.</summary>
    public static string Word(this PropertyForm form) => All.First(f => f.Value == form).Word;

    /// <summary>The form of a word; null where there is none.</summary>
    public static PropertyForm? Find(string word) =>
        All.FirstOrDefault(f => f.Word.Equals(word.Trim(), StringComparison.OrdinalIgnoreCase))?.Value;
}
