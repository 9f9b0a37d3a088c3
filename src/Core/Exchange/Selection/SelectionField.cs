namespace SteadyLintel.Exchange;

/// <summary>What a selection rule looks at.</summary>
public enum SelectionField
{
    /// <summary>The storey's name; the empty name stands for elements in no storey.</summary>
    Storey,

    /// <summary>The class, subtypes included.</summary>
    Class,

    /// <summary>A presentation layer.</summary>
    Layer,

    /// <summary>The GlobalId.</summary>
    GlobalId,
}
