using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>How strokes of a picture look: those alike are drawn together.</summary>
/// <param name="Layer">The layer that switches them.</param>
/// <param name="Rgb">The colour.</param>
/// <param name="Filled">Whether it is an area rather than a line.</param>
/// <param name="Dashes">Dashes and gaps in drawing units, separated by blanks; empty for a continuous line.</param>
/// <param name="Pattern">The number of the lines an area is filled with, 0 for a fill of its colour.</param>
internal readonly record struct Stroke(Handle Layer, int Rgb, bool Filled, string Dashes, int Pattern = 0);
