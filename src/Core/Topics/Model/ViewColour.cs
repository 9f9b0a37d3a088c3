namespace SteadyLintel.Topics;

/// <summary>Components in a colour.</summary>
/// <param name="Colour">As the file spells it: RRGGBB or AARRGGBB, hexadecimal.</param>
/// <param name="Components">What has it.</param>
public sealed record ViewColour(string? Colour, IReadOnlyList<ViewComponent> Components);
