namespace SteadyLintel.Exchange;

/// <summary>How bad a finding is.</summary>
public enum Severity
{
    /// <summary>Good to know.</summary>
    Note,

    /// <summary>Should be asked about.</summary>
    Warning,

    /// <summary>Part of the file cannot be used as it is.</summary>
    Error,
}

/// <summary>What a finding is about.</summary>
/// <param name="GlobalId">Of the element; empty when it has none.</param>
/// <param name="StepId">The instance name, 0 when the finding is about a place in the file.</param>
/// <param name="Class">The class; empty for a place.</param>
/// <param name="Name">The name; empty when unset.</param>
/// <param name="Detail">What is particular to this element, empty when nothing is.</param>
public sealed record FindingElement(string GlobalId, int StepId, string Class, string Name, string Detail);

/// <summary>Something found at intake.</summary>
/// <param name="Code">Stable: never renamed, never reused.</param>
/// <param name="Severity">How bad.</param>
/// <param name="Message">One sentence: what is wrong and what to do.</param>
/// <param name="Count">How many elements or places.</param>
/// <param name="Elements">The first <see cref="MaxElements"/> of them.</param>
public sealed record Finding(
    string Code,
    Severity Severity,
    string Message,
    int Count,
    IReadOnlyList<FindingElement> Elements
)
{
    /// <summary>How many elements a finding names; beyond that it only counts.</summary>
    public const int MaxElements = 1000;
}
