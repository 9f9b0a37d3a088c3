namespace SteadyLintel.Cad;

/// <summary>A line of an MLINESTYLE.</summary>
/// <param name="Offset">From the middle (49).</param>
/// <param name="Colour">Its colour (62).</param>
/// <param name="LineType">Its line type (6).</param>
public readonly record struct MultiLineElement(double Offset, CadColour Colour, Handle LineType);
