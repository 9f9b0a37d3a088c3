namespace SteadyLintel.Geometry;

/// <summary>Numbers that tell a shape from others, whatever its place, its unit and the order of its triangles: moments of its surface.
/// </summary>
/// <param name="Volume">m³; 0 where nothing encloses any.</param>
/// <param name="Area">m².</param>
/// <param name="Spread">The root of the sum of the principal moments of the surface about its centroid, per area: how far it reaches,
/// metres.
/// </param>
/// <param name="Bulk">The fourth root of the sum of their products by pairs: how much it reaches in two directions, metres.</param>
/// <param name="Centroid">The surface's centroid, metres, in the frame it was measured in.</param>
public readonly record struct ShapeMeasure(double Volume, double Area, double Spread, double Bulk, Vec3 Centroid)
{
    // A thousandth of a millimetre in ten metres: above what writing in another unit changes, below what anybody draws.
    private const double Relative = 1e-6,
        Absolute = 1e-7;

    /// <summary>Measures meshes that lie in one frame.</summary>
    /// <param name="meshes">The meshes, metres.</param>
    /// <param name="volume">What they enclose, m³.</param>
    public static ShapeMeasure Of(IReadOnlyList<Mesh> meshes, double volume) => Of(SurfaceMoments.Of(meshes), volume);

    /// <summary>The measure of a surface.</summary>
    /// <param name="m">Its moments.</param>
    /// <param name="volume">What it encloses, m³.</param>
    /// <remarks>Trace and second invariant of the covariance do not change under any turn.</remarks>
    public static ShapeMeasure Of(SurfaceMoments m, double volume)
    {
        if (m.Area <= 0)
            return new ShapeMeasure(volume, 0, 0, 0, m.Centroid);
        double trace = m.XX + m.YY + m.ZZ,
            minors = (m.XX * m.YY) - (m.XY * m.XY) + (m.YY * m.ZZ) - (m.YZ * m.YZ) + (m.ZZ * m.XX) - (m.ZX * m.ZX);
        return new ShapeMeasure(
            volume,
            m.Area,
            Math.Sqrt(Math.Max(0, trace)),
            Math.Sqrt(Math.Sqrt(Math.Max(0, minors))),
            m.Centroid
        );
    }

    /// <summary>Whether two shapes are the same, as far as these numbers tell.</summary>
    /// <param name="other">Measured in metres too, in any frame.</param>
    public bool Like(ShapeMeasure other) =>
        Near(Volume, other.Volume)
        && Near(Area, other.Area)
        && Near(Spread, other.Spread)
        // The fourth root is less exact where a shape reaches in one direction alone.
        && Math.Abs(Bulk - other.Bulk) <= (1e-4 * Spread) + Absolute;

    private static bool Near(double a, double b) =>
        Math.Abs(a - b) <= (Relative * Math.Max(Math.Abs(a), Math.Abs(b))) + Absolute;
}
