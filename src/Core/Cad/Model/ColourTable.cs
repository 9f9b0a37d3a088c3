namespace SteadyLintel.Cad;

/// <summary>What the 255 colour numbers of DXF look like.</summary>
/// <remarks>
/// 1–9 and 250–255 are fixed; 10–249 are 24 hues of 15 degrees, each in five values, the odd numbers at half saturation. Common practice,
/// from memory; checked
/// against an independent reader's table in tests/Outside.
/// </remarks>
public static class ColourTable
{
    private static readonly int[] First =
    [
        0x000000,
        0xFF0000,
        0xFFFF00,
        0x00FF00,
        0x00FFFF,
        0x0000FF,
        0xFF00FF,
        0xFFFFFF,
        0x808080,
        0xC0C0C0,
    ];
    private static readonly int[] Greys = [0x333333, 0x505050, 0x696969, 0x828282, 0xBEBEBE, 0xFFFFFF];
    private static readonly double[] Values = [255, 165, 127, 76, 38];
    private static readonly int[] Table = [.. Enumerable.Range(0, 256).Select(Make)];

    /// <summary>The colour of a number between 1 and 255.</summary>
    public static int Rgb(int index) => Table[index & 255];

    /// <summary>The number whose colour is nearest.</summary>
    public static int Nearest(int rgb)
    {
        int best = 7,
            least = int.MaxValue;
        for (int i = 1; i < 256; i++)
        {
            int r = ((Table[i] >> 16) & 255) - ((rgb >> 16) & 255),
                g = ((Table[i] >> 8) & 255) - ((rgb >> 8) & 255),
                b = (Table[i] & 255) - (rgb & 255);
            int distance = (r * r) + (g * g) + (b * b);
            if (distance < least)
                (best, least) = (i, distance);
        }

        return best;
    }

    private static int Make(int index)
    {
        if (index < 10)
            return First[index];
        if (index >= 250)
            return Greys[index - 250];
        double hue = (index / 10) - 1,
            value = Values[index % 10 / 2],
            low = index % 2 == 0 ? 0 : value / 2;
        return (Channel(hue, 0) << 16) | (Channel(hue, 8) << 8) | Channel(hue, 16);

        // A channel is full within 60 degrees of its own hue, falls over the next 60, and is low beyond.
        int Channel(double h, double own)
        {
            double apart = Math.Abs(h - own);
            apart = Math.Min(apart, 24 - apart);
            double share = Math.Clamp((8 - apart) / 4, 0, 1);
            return (int)(low + ((value - low) * share));
        }
    }
}
