namespace SteadyLintel.Exchange;

/// <summary>What a selection rule looks at.</summary>
public enum SelectionField
{
    /// <summary>The storey: by name, or by the storeys of the job it means; the empty name stands for elements in no storey.</summary>
    Storey,

    /// <summary>The class, subtypes included.</summary>
    Class,

    /// <summary>A presentation layer; the empty name stands for elements on none.</summary>
    Layer,

    /// <summary>The name of the type; the empty name stands for elements without one.</summary>
    Type,

    /// <summary>The name of a material; the empty name stands for elements without one.</summary>
    Material,

    /// <summary>The party's code.</summary>
    Party,

    /// <summary>A property, <c>Set.Property</c>.</summary>
    Property,

    /// <summary>The GlobalId.</summary>
    GlobalId,
}

/// <summary>What a rule does with what it matches.</summary>
public enum SelectionVerb
{
    /// <summary>Whatever does not match is left out.</summary>
    Only,

    /// <summary>Whatever matches is left out.</summary>
    Without,

    /// <summary>Whatever matches goes, though an earlier rule left it out.</summary>
    With,
}
