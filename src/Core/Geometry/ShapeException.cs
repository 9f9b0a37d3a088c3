namespace SteadyLintel.Geometry;

/// <summary>A shape cannot be built; the message says why in one sentence.</summary>
/// <param name="message">Why, in a sentence that people read.</param>
/// <param name="because">What it follows from; null for nothing.</param>
public sealed class ShapeException(string message, Exception? because = null) : Exception(message, because);
