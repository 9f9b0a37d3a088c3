namespace SteadyLintel.Cad;

/// <summary>Line weights: hundredths of a millimetre in DXF (group code 370), numbers of a list in DWG.</summary>
public static class LineWeights
{
    /// <summary>The layer's weight.</summary>
    public const short ByLayer = -1;

    /// <summary>The block's weight.</summary>
    public const short ByBlock = -2;

    /// <summary>The drawing's default weight.</summary>
    public const short Default = -3;

    /// <summary>The weights that a layer or entity can have, hundredths of a millimetre.</summary>
    public static IReadOnlyList<short> All => Weights;

    private static readonly short[] Weights =
    [
        0,
        5,
        9,
        13,
        15,
        18,
        20,
        25,
        30,
        35,
        40,
        50,
        53,
        60,
        70,
        80,
        90,
        100,
        106,
        120,
        140,
        158,
        200,
        211,
    ];

    /// <summary>The number in DWG; a weight that is not of the list becomes the next heavier.</summary>
    public static int ToNumber(short weight)
    {
        if (weight < 0)
            return 28 - weight;
        int at = Array.FindIndex(Weights, w => w >= weight);
        return at < 0 ? Weights.Length - 1 : at;
    }

    /// <summary>The weight of a number of DWG.</summary>
    public static short FromNumber(int number) =>
        (uint)number < Weights.Length ? Weights[number]
        : number is 29 or 30 or 31 ? (short)(28 - number)
        : ByLayer;
}
