namespace SteadyLintel.Geometry;

/// <summary>What single-precision numbers make of places far from zero, as many programs keep them.</summary>
public static class SinglePrecision
{
    /// <summary>Beyond this they lie 2 mm apart, metres (IEEE 754, 24 bits of significand: 2^14 · 2^-23).</summary>
    public const double Far = 16_384;

    /// <summary>The distance between two of them at a distance from zero, metres: 2^(floor(log2 x) − 23).</summary>
    /// <param name="metres">How far from zero.</param>
    public static double Spacing(double metres) => Math.ScaleB(1, Math.ILogB(metres) - 23);

    /// <summary>A distance from zero in words: beyond a million kilometres its digits say nothing.</summary>
    /// <param name="metres">How far from zero.</param>
    public static string Reach(double metres) =>
        metres < 1e9 ? FormattableString.Invariant($"{metres / 1000:0.0} km") : "more than a million km";

    /// <summary>The spacing there in words.</summary>
    /// <param name="metres">How far from zero.</param>
    public static string SpacingText(double metres) =>
        metres < 1e9 ? FormattableString.Invariant($"{Spacing(metres) * 1000:0.##} mm") : "many metres";
}
