namespace SteadyLintel.Exchange;

/// <summary>One of several words that can stand in a place of a document.</summary>
/// <param name="Word">As documents and the terminal have it.</param>
/// <param name="Label">As pages show it.</param>
/// <param name="Value">What it means.</param>
public sealed record Choice<T>(string Word, string Label, T Value);
