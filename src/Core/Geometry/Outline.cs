namespace SteadyLintel.Geometry;

/// <summary>Builds closed outlines from corners, each with a radius that rounds it off.</summary>
/// <param name="tolerance">How finely roundings become chords.</param>
public sealed class Outline(Tolerance tolerance)
{
    private readonly List<(Vec2 At, double Radius)> _corners = [];

    /// <summary>Adds a corner; a radius of 0 leaves it sharp.</summary>
    /// <param name="x">Metres.</param>
    /// <param name="y">Metres.</param>
    /// <param name="radius">Of the rounding, metres.</param>
    public Outline Corner(double x, double y, double radius = 0)
    {
        _corners.Add((new Vec2(x, y), radius));
        return this;
    }

    /// <summary>The outline, arcs as chords. A radius too large for its edges is taken as large as fits.</summary>
    public IReadOnlyList<Vec2> Points()
    {
        var points = new List<Vec2>();
        int n = _corners.Count;
        for (int i = 0; i < n; i++)
        {
            var (at, radius) = _corners[i];
            Vec2 before = _corners[(i + n - 1) % n].At - at,
                after = _corners[(i + 1) % n].At - at;
            if (radius <= 0 || before.Length < 1e-12 || after.Length < 1e-12)
                points.Add(at);
            else
                Round(
                    points,
                    at,
                    before * (1 / before.Length),
                    after * (1 / after.Length),
                    Math.Min(before.Length, after.Length),
                    radius
                );
        }

        return points;
    }

    private void Round(List<Vec2> points, Vec2 at, Vec2 u, Vec2 v, double room, double radius)
    {
        double half = Math.Acos(Math.Clamp(u.Dot(v), -1, 1)) / 2;
        double tangent = Math.Min(radius / Math.Tan(half), room);
        radius = tangent * Math.Tan(half);
        var middle = u + v;
        if (middle.Length < 1e-12)
        {
            points.Add(at);
            return;
        }

        var centre = at + (middle * (radius / Math.Sin(half) / middle.Length));
        Vec2 first = at + (u * tangent) - centre,
            last = at + (v * tangent) - centre;
        double from = Math.Atan2(first.Y, first.X);
        double sweep = Math.Atan2(first.Cross(last), first.Dot(last));
        Arc.Add(points, centre, radius, from, sweep, tolerance);
    }
}
