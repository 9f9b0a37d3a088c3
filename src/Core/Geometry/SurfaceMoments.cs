namespace SteadyLintel.Geometry;

/// <summary>Area, centroid and covariance of a surface: what its measures and its direction in plan rest on.</summary>
/// <param name="Area">m².</param>
/// <param name="Centroid">Metres, in the frame it was measured in; the first point where there is no area.</param>
/// <param name="XX">The mean of x · x about the centroid, m²; the others likewise.</param>
/// <param name="YY">Of y · y.</param>
/// <param name="ZZ">Of z · z.</param>
/// <param name="XY">Of x · y.</param>
/// <param name="YZ">Of y · z.</param>
/// <param name="ZX">Of z · x.</param>
public readonly record struct SurfaceMoments(
    double Area,
    Vec3 Centroid,
    double XX,
    double YY,
    double ZZ,
    double XY,
    double YZ,
    double ZX
)
{
    /// <summary>Measures meshes that lie in one frame.</summary>
    /// <param name="meshes">The meshes, metres.</param>
    /// <remarks>Over a triangle the second moment is A/12 · (Σ v·vᵀ + 9 c·cᵀ), exact.</remarks>
    public static SurfaceMoments Of(IReadOnlyList<Mesh> meshes)
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

        if (!(area > 0) || !double.IsFinite(area))
            return new SurfaceMoments(0, origin, 0, 0, 0, 0, 0, 0);
        var m = sum * (1 / area);
        return new SurfaceMoments(
            area,
            origin + m,
            (xx / area) - (m.X * m.X),
            (yy / area) - (m.Y * m.Y),
            (zz / area) - (m.Z * m.Z),
            (xy / area) - (m.X * m.Y),
            (yz / area) - (m.Y * m.Z),
            (zx / area) - (m.Z * m.X)
        );
    }

    /// <summary>The covariance in plan of the surface as it lies in an outer frame.</summary>
    /// <param name="frame">From the surface's frame into the outer one; its axes are unit and square to each other.</param>
    public (double XX, double YY, double XY) InPlan(Frame frame)
    {
        Vec3 x = new(frame.X.X, frame.Y.X, frame.Z.X),
            y = new(frame.X.Y, frame.Y.Y, frame.Z.Y);
        return (Along(x).Dot(x), Along(y).Dot(y), Along(x).Dot(y));
    }

    private Vec3 Along(Vec3 d) =>
        new(
            (XX * d.X) + (XY * d.Y) + (ZX * d.Z),
            (XY * d.X) + (YY * d.Y) + (YZ * d.Z),
            (ZX * d.X) + (YZ * d.Y) + (ZZ * d.Z)
        );
}
