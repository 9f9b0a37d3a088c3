namespace SteadyLintel.Step;

/// <summary>The bytes are not an exchange structure at all, or exceed a limit.</summary>
public sealed class StepFormatException(string message) : FormatException(message);
