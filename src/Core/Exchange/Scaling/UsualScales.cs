namespace SteadyLintel.Exchange;

/// <summary>The units that drawings are drawn in and the scales that they are printed at; common practice.</summary>
public static class UsualScales
{
    // Rounded evidence of a true scale lies this near, one part.
    private const double Near = 0.004;

    private static readonly (double Metres, string Name)[] Units =
    [
        (0.001, "millimetres"),
        (0.01, "centimetres"),
        (0.1, "decimetres"),
        (1, "metres"),
        (0.0254, "inches"),
        (0.3048, "feet"),
        (1200.0 / 3937, "survey feet"),
    ];

    private static readonly int[] Metric =
    [
        1,
        2,
        5,
        10,
        15,
        20,
        25,
        33,
        40,
        50,
        75,
        100,
        125,
        150,
        200,
        250,
        300,
        400,
        500,
        750,
        1000,
        1250,
        2000,
        2500,
        5000,
        10_000,
        25_000,
    ];

    // 3" = 1'-0" … 1/32" = 1'-0", and 1" = 10' … 1" = 200'.
    private static readonly int[] Imperial =
    [
        4,
        8,
        12,
        16,
        24,
        32,
        48,
        64,
        96,
        120,
        128,
        192,
        240,
        360,
        384,
        480,
        600,
        720,
        1200,
        2400,
    ];

    /// <summary>What a length of a unit would be: a unit drawn full size, or a millimetre or inch of paper at a usual scale.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="error">The relative error that it is known to, one part.</param>
    /// <returns>In words; null where no usual unit or scale is near.</returns>
    public static string? NameOf(double metres, double error)
    {
        double near = Math.Max(Near, 2 * error);
        foreach (var (unit, name) in Units)
            if (Is(metres, unit, near))
                return name;
        foreach (int n in Metric)
        {
            if (Is(metres, 0.001 * n, near))
                return $"millimetres of paper at 1:{n}";
            if (Is(metres, 0.01 * n, near))
                return $"centimetres of paper at 1:{n}";
        }

        foreach (int n in Imperial)
            if (Is(metres, 0.0254 * n, near))
                return $"inches of paper at 1:{n}";
        return null;
    }

    private static bool Is(double metres, double wanted, double near) => Math.Abs(metres - wanted) <= near * wanted;
}
