namespace SteadyLintel.Exchange;

/// <summary>What each file of a hand-over is of.</summary>
public enum SplitKind
{
    /// <summary>A storey.</summary>
    Storey,

    /// <summary>A party.</summary>
    Party,

    /// <summary>A source.</summary>
    Source,

    /// <summary>A class.</summary>
    Class,

    /// <summary>A type.</summary>
    Type,

    /// <summary>A single element.</summary>
    Element,

    /// <summary>An assembly with its parts; what is in none is by itself.</summary>
    Assembly,

    /// <summary>A system, a zone or another group; what is in several goes with the first.</summary>
    Group,

    /// <summary>A value of a property.</summary>
    Property,
}
