namespace SteadyLintel.Step;

/// <summary>The kinds of parameter that ISO 10303-21 clause 12 allows in an instance.</summary>
public enum StepKind
{
    /// <summary>An unset optional attribute, <c>$</c>; also what is read past the last attribute.</summary>
    Null,

    /// <summary>A value redeclared as derived, <c>*</c>.</summary>
    Derived,

    /// <summary>A reference to an instance, <c>#12</c>.</summary>
    Reference,

    /// <summary>An integer or a real.</summary>
    Number,

    /// <summary>A string in apostrophes.</summary>
    String,

    /// <summary>A binary in quotation marks.</summary>
    Binary,

    /// <summary>An enumeration, Boolean or logical between full stops.</summary>
    Enumeration,

    /// <summary>A list in parentheses.</summary>
    List,

    /// <summary>A value with its type named, <c>IFCLABEL('x')</c>.</summary>
    Typed,

    /// <summary>Bytes that are none of these.</summary>
    Invalid,
}
