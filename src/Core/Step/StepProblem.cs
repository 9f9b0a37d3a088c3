namespace SteadyLintel.Step;

/// <summary>What kind of damage a <see cref="StepProblem"/> reports.</summary>
public enum StepProblemKind
{
    /// <summary>The file does not begin with <c>ISO-10303-21;</c>.</summary>
    NotAnExchangeStructure,

    /// <summary>The file ends before <c>END-ISO-10303-21;</c>.</summary>
    Truncated,

    /// <summary>An instance that cannot be delimited; the instances around it are still read.</summary>
    DamagedInstance,

    /// <summary>An instance name that is twice; the first is kept.</summary>
    DuplicateId,

    /// <summary>An instance name above 2^31 - 1, or not a number.</summary>
    IdOutOfRange,
}

/// <summary>Damage in an exchange structure, with its place.</summary>
/// <param name="Kind">What is wrong.</param>
/// <param name="Offset">Zero-based byte offset.</param>
/// <param name="Line">One-based line.</param>
/// <param name="Message">One sentence for a person.</param>
public sealed record StepProblem(StepProblemKind Kind, long Offset, int Line, string Message);
