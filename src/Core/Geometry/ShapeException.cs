namespace SteadyLintel.Geometry;

/// <summary>A shape cannot be built; the message says why in one sentence.</summary>
public sealed class ShapeException(string message, Exception? because = null) : Exception(message, because);
