using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>How one-sided a section is: third moments of its area about the centroid.</summary>
/// <remarks>Half a turn about the axis changes the sign of every third moment, so a section that it leaves alone has none: I, box and round
/// sections. Channels, angles, tees and girders of unlike flanges have. Green's theorem over the outline, exact for polygons: three-point
/// Gauss quadrature integrates polynomials of the fifth degree, and these are of the fourth.</remarks>
internal static class SectionMoments
{
    private static readonly (double At, double Weight)[] Gauss =
    [
        (0.5 - Math.Sqrt(0.15), 5 / 18.0),
        (0.5, 8 / 18.0),
        (0.5 + Math.Sqrt(0.15), 5 / 18.0),
    ];

    /// <summary>To which side a section is the heavier.</summary>
    /// <param name="outlines">Closed, the first point repeated; the area lies to the left.</param>
    /// <returns>The cube roots of ∫x³ and ∫y³ about the centroid over the area, as a share of the section's size; zero when the outlines
    /// enclose nothing.</returns>
    public static Vec2 Heavy(IReadOnlyList<IReadOnlyList<Vec2>> outlines)
    {
        Vec2 low = new(double.MaxValue, double.MaxValue),
            high = new(double.MinValue, double.MinValue);
        foreach (var p in outlines.SelectMany(o => o))
            (low, high) = (
                new(Math.Min(low.X, p.X), Math.Min(low.Y, p.Y)),
                new(Math.Max(high.X, p.X), Math.Max(high.Y, p.Y))
            );
        double size = Math.Max(high.X - low.X, high.Y - low.Y);
        var middle = (low + high) * 0.5;
        double area = Over(outlines, middle, p => p.X);
        if (!(area > 1e-12) || !(size > 0))
            return default;
        var centroid =
            middle
            + (
                new Vec2(Over(outlines, middle, p => p.X * p.X / 2), Over(outlines, middle, p => p.X * p.Y))
                * (1 / area)
            );
        double x = Over(outlines, centroid, p => p.X * p.X * p.X * p.X / 4),
            y = Over(outlines, centroid, p => p.X * p.Y * p.Y * p.Y);
        return new Vec2(Math.Cbrt(x / area) / size, Math.Cbrt(y / area) / size);
    }

    // The integral of the function along the outlines over dy.
    private static double Over(IReadOnlyList<IReadOnlyList<Vec2>> outlines, Vec2 origin, Func<Vec2, double> function)
    {
        double sum = 0;
        foreach (var outline in outlines)
        {
            for (int i = 1; i < outline.Count; i++)
            {
                Vec2 a = outline[i - 1] - origin,
                    b = outline[i] - origin;
                foreach (var (at, weight) in Gauss)
                    sum += weight * function(a + ((b - a) * at)) * (b.Y - a.Y);
            }
        }

        return sum;
    }
}
