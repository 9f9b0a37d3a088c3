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

    /// <summary>The colour that four bytes say, as DWG and multi-leaders have it: the first byte tells what the others are.</summary>
    /// <param name="value">The bytes.</param>
    /// <param name="name">The name of a colour book, or null.</param>
    public static CadColour FromPacked(uint value, string? name) =>
        (value >> 24) switch
        {
            0xC0 => ByLayer,
            0xC1 => ByBlock,
            0xC2 => True((int)(value & 0xFFFFFF)) with { Name = name },
            0xC3 => new CadColour((short)(value & 0xFF)),
            0xC8 => new CadColour(257),
            _ => new CadColour(7),
        };

    /// <summary>The colour in four bytes, see <see cref="FromPacked"/>.</summary>
    public uint Packed() =>
        Rgb is { } rgb
            ? 0xC2000000 | (uint)rgb
            : Index switch
            {
                256 => 0xC0000000,
                0 => 0xC1000000,
                257 => 0xC8000000,
                _ => 0xC3000000 | (uint)(Index & 0xFF),
            };
}
