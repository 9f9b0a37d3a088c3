namespace SteadyLintel.Cad;

/// <summary>A drawing that cannot be read; the message says where and what to do.</summary>
public sealed class CadFormatException(string message) : FormatException(message);
