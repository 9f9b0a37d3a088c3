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
    /// <remarks>Trace and second invariant of the covariance do not change under any turn; over a triangle the second moment is
    /// A/12 · (Σ v·vᵀ + 9 c·cᵀ), exact.</remarks>
    public static ShapeMeasure Of(IReadOnlyList<Mesh> meshes, double volume)
    {
        double area = 0,
            xx = 0,
            yy = 0,
            zz = 0,
            xy = 0,
            yz = 0,
            zx = 0;
        var sum = Vec3.Zero;
        var origin = meshes.FirstOrDefault(m => m.Points.Length > 0)?.Points[0] ?? Vec3.Zero;
        foreach (var mesh in meshes)
        {
            for (int i = 0; i < mesh.Triangles.Length; i += 3)
            {
                Vec3 a = mesh.Points[mesh.Triangles[i]] - origin,
                    b = mesh.Points[mesh.Triangles[i + 1]] - origin,
                    c = mesh.Points[mesh.Triangles[i + 2]] - origin;
                double size = (b - a).Cross(c - a).Length / 2,
                    w = size / 12;
                var centre = (a + b + c) * (1.0 / 3);
                area += size;
                sum += centre * size;
                xx += w * ((a.X * a.X) + (b.X * b.X) + (c.X * c.X) + (9 * centre.X * centre.X));
                yy += w * ((a.Y * a.Y) + (b.Y * b.Y) + (c.Y * c.Y) + (9 * centre.Y * centre.Y));
                zz += w * ((a.Z * a.Z) + (b.Z * b.Z) + (c.Z * c.Z) + (9 * centre.Z * centre.Z));
                xy += w * ((a.X * a.Y) + (b.X * b.Y) + (c.X * c.Y) + (9 * centre.X * centre.Y));
                yz += w * ((a.Y * a.Z) + (b.Y * b.Z) + (c.Y * c.Z) + (9 * centre.Y * centre.Z));
                zx += w * ((a.Z * a.X) + (b.Z * b.X) + (c.Z * c.X) + (9 * centre.Z * centre.X));
            }
        }

        if (area <= 0 || !double.IsFinite(area))
            return new ShapeMeasure(volume, 0, 0, 0, origin);
        var m = sum * (1 / area);
        (xx, yy, zz) = ((xx / area) - (m.X * m.X), (yy / area) - (m.Y * m.Y), (zz / area) - (m.Z * m.Z));
        (xy, yz, zx) = ((xy / area) - (m.X * m.Y), (yz / area) - (m.Y * m.Z), (zx / area) - (m.Z * m.X));
        double trace = xx + yy + zz,
            minors = (xx * yy) - (xy * xy) + (yy * zz) - (yz * yz) + (zz * xx) - (zx * zx);
        return new ShapeMeasure(
            volume,
            area,
            Math.Sqrt(Math.Max(0, trace)),
            Math.Sqrt(Math.Sqrt(Math.Max(0, minors))),
            origin + m
        );
    }

    /// <summary>Whether two shapes are the same, as far as these numbers tell.</summary>
    public bool Like(ShapeMeasure other) =>
        Near(Volume, other.Volume)
        && Near(Area, other.Area)
        && Near(Spread, other.Spread)
        // The fourth root is less exact where a shape reaches in one direction alone.
        && Math.Abs(Bulk - other.Bulk) <= (1e-4 * Spread) + Absolute;

    private static bool Near(double a, double b) =>
        Math.Abs(a - b) <= (Relative * Math.Max(Math.Abs(a), Math.Abs(b))) + Absolute;
}
