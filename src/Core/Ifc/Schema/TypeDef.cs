namespace SteadyLintel.Ifc;

/// <summary>How a value of a defined type, enumeration or select is written.</summary>
public enum TypeKind
{
    /// <summary>A real or an integer.</summary>
    Number,

    /// <summary>A string.</summary>
    String,

    /// <summary>A binary.</summary>
    Binary,

    /// <summary><c>.T.</c>, <c>.F.</c> or <c>.U.</c>.</summary>
    Logical,

    /// <summary>A list.</summary>
    List,

    /// <summary>One of some words.</summary>
    Enumeration,

    /// <summary>A reference or a typed value of one of some entities and types.</summary>
    Select,
}

/// <summary>A defined type, enumeration or select of a schema.</summary>
/// <param name="Name">The name as the standard spells it.</param>
/// <param name="Kind">How it is written.</param>
/// <param name="Members">The words of an enumeration; the names of what a select may hold, other selects resolved.</param>
public sealed record TypeDef(string Name, TypeKind Kind, IReadOnlySet<string> Members);
