namespace SteadyLintel.Geometry;

/// <summary>The direction that a body runs in, in plan.</summary>
public static class PlanBearing
{
    // A body that reaches less than a tenth further one way than across runs in no direction.
    private const double MinRatio = 1.21;

    /// <summary>The bearing of a body: that of the larger principal axis of its surface in plan.</summary>
    /// <param name="meshes">Its pieces, in one frame.</param>
    /// <returns>Degrees clockwise from the Y axis of that frame, from 0 to below 180; null where it runs in no direction: a square column,
    /// a round one, a body without surface.</returns>
    public static double? Of(IEnumerable<Mesh> meshes)
    {
        double area = 0,
            x = 0,
            y = 0,
            xx = 0,
            yy = 0,
            xy = 0;
        Vec3? origin = null;
        foreach (var mesh in meshes)
        {
            if (mesh.Points.Length == 0)
                continue;
            var zero = origin ??= mesh.Points[0];
            for (int i = 0; i < mesh.Triangles.Length; i += 3)
            {
                Vec3 a = mesh.Points[mesh.Triangles[i]] - zero,
                    b = mesh.Points[mesh.Triangles[i + 1]] - zero,
                    c = mesh.Points[mesh.Triangles[i + 2]] - zero;
                double size = (b - a).Cross(c - a).Length / 2,
                    w = size / 12;
                var m = (a + b + c) * (1.0 / 3);
                (area, x, y) = (area + size, x + (size * m.X), y + (size * m.Y));
                xx += w * ((a.X * a.X) + (b.X * b.X) + (c.X * c.X) + (9 * m.X * m.X));
                yy += w * ((a.Y * a.Y) + (b.Y * b.Y) + (c.Y * c.Y) + (9 * m.Y * m.Y));
                xy += w * ((a.X * a.Y) + (b.X * b.Y) + (c.X * c.Y) + (9 * m.X * m.Y));
            }
        }

        if (!(area > 0) || !double.IsFinite(area))
            return null;
        (x, y) = (x / area, y / area);
        (xx, yy, xy) = ((xx / area) - (x * x), (yy / area) - (y * y), (xy / area) - (x * y));
        double middle = (xx + yy) / 2,
            half = Math.Sqrt((((xx - yy) / 2) * ((xx - yy) / 2)) + (xy * xy));
        if (middle + half < 1e-12 || middle + half < MinRatio * (middle - half))
            return null;
        return Normal(90 - (Math.Atan2(2 * xy, xx - yy) / 2 * 180 / Math.PI));
    }

    /// <summary>The same direction from 0 to below 180 degrees.</summary>
    public static double Normal(double degrees)
    {
        double turned = degrees % 180;
        if (turned < 0)
            turned += 180;
        // What lies within a millionth of a degree of the end is the beginning.
        return turned > 180 - 1e-6 ? 0 : turned;
    }
}
