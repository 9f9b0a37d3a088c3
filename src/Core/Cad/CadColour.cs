namespace SteadyLintel.Cad;

/// <summary>A colour by number (group code 62), with a true colour (420) and the name of a colour book (430) where given.</summary>
/// <param name="Index">0 by block, 1–255, 256 by layer.</param>
/// <param name="Rgb">0xRRGGBB, or null.</param>
/// <param name="Name">Colour book and colour, <c>BOOK$NAME</c>, or null.</param>
public readonly record struct CadColour(short Index, int? Rgb = null, string? Name = null)
{
    /// <summary>The block's.</summary>
    public static readonly CadColour ByBlock = new(0);

    /// <summary>The layer's.</summary>
    public static readonly CadColour ByLayer = new(256);

    /// <summary>A true colour; readers without true colours see its nearest number.</summary>
    public static CadColour True(int rgb) => new((short)ColourTable.Nearest(rgb), rgb);

    /// <summary>What is seen, 0xRRGGBB; null by layer or by block.</summary>
    public int? Seen => Rgb ?? (Index is > 0 and < 256 ? ColourTable.Rgb(Index) : null);
}
