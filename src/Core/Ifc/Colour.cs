namespace SteadyLintel.Ifc;

/// <summary>A surface colour, each part 0 … 255; alpha 255 is opaque.</summary>
/// <param name="R">Red.</param>
/// <param name="G">Green.</param>
/// <param name="B">Blue.</param>
/// <param name="A">Alpha.</param>
public readonly record struct Colour(byte R, byte G, byte B, byte A)
{
    /// <summary>What a shape without style gets: a light warm grey.</summary>
    public static readonly Colour Default = new(200, 196, 188, 255);
}
