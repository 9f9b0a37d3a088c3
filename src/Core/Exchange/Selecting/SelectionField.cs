namespace SteadyLintel.Exchange;

/// <summary>What a selection rule looks at.</summary>
public enum SelectionField
{
    /// <summary>The storey: by name, or by the storeys of the job it means; the empty name means elements in no storey.</summary>
    Storey,

    /// <summary>The class, subtypes included.</summary>
    Class,

    /// <summary>A presentation layer; the empty name means elements on none.</summary>
    Layer,

    /// <summary>The name of the type; the empty name means elements without one.</summary>
    Type,

    /// <summary>The name of a material; the empty name means elements without one.</summary>
    Material,

    /// <summary>The party's code.</summary>
    Party,

    /// <summary>A property, <c>Set.Property</c>.</summary>
    Property,

    /// <summary>The GlobalId.</summary>
    GlobalId,

    /// <summary>The source, by its name or by its party's code and its name.</summary>
    Source,

    /// <summary>A classification, by code or name; the empty name means elements without one.</summary>
    Classification,

    /// <summary>A group it is in, by name: a system, a zone, or any other; the empty name means elements in none.</summary>
    Group,

    /// <summary>The longest side of its box along the axes of its source, metres.</summary>
    Size,

    /// <summary>The direction its body runs in, in plan: degrees clockwise from the job's Y axis, 0 to 180.</summary>
    Bearing,

    /// <summary>The heights its body reaches through, metres in the job's frame.</summary>
    Height,

    /// <summary>A kept set: what its rules choose.</summary>
    Set,

    /// <summary>A kept view: what is visible in it.</summary>
    View,
}

/// <summary>How a rule compares.</summary>
public enum RuleTest
{
    /// <summary>With one of the values; a class also with its subtypes.</summary>
    Equals,

    /// <summary>With one of the values, of classes without their subtypes, of layers with all of an element's, joined by
    /// <c> + </c>.</summary>
    Exactly,

    /// <summary>With a pattern: <c>*</c> for any letters, <c>?</c> for one.</summary>
    Like,

    /// <summary>Whether a number lies between two, both included; an empty bound is open.</summary>
    Between,

    /// <summary>Whether there is no such property.</summary>
    Missing,

    /// <summary>Whether the property is there and has no value.</summary>
    Blank,
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
