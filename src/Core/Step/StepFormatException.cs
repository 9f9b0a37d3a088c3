namespace SteadyLintel.Step;

/// <summary>The bytes are not an exchange structure at all, or exceed a limit.</summary>
/// <param name="message">Why, in a sentence that people read.</param>
public sealed class StepFormatException(string message) : FormatException(message);
